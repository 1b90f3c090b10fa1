// Virtual environments of Python that the tests run generated scripts in: pandas 2 and 3 beside the one that Debian has, and ruff.
import { spawnSync } from 'node:child_process'
import { existsSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { root } from './install.mjs'

/** What is installed, by environment; the newest of each that PyPI has when it is made. */
const environments = {
  'pandas-2': ['pandas>=2,<3'],
  'pandas-3': ['pandas>=3,<4', 'ruff'],
  'spark-3': ['pyspark>=3.5,<4', 'pandas>=2,<3', 'pyarrow'],
}
const folderOf = (name) => join(root, 'node_modules/.cache', name)

/** A program of an environment. */
export const inEnvironment = (name, program = 'python') => join(folderOf(name), 'bin', program)

/** Whether the environment of Spark is there. */
export const hasSpark = () => existsSync(join(folderOf('spark-3'), 'installed'))

/** Makes the environments that are not there. Spark's may be missing where PyPI does not answer. @throws Error with what pip said of another */
const installPython = () => {
  for (const [name, packages] of Object.entries(environments)) {
    const mark = join(folderOf(name), 'installed')
    if (existsSync(mark)) continue
    rmSync(folderOf(name), { recursive: true, force: true })
    process.stdout.write(`Installing ${packages.join(', ')}…\n`)
    let failed = ''
    for (const [program, words] of [
      ['/usr/bin/python3', ['-m', 'venv', folderOf(name)]],
      [inEnvironment(name), ['-m', 'pip', 'install', '--quiet', ...packages]],
    ]) {
      const { status, stdout, stderr } = spawnSync(program, words, { encoding: 'utf8' })
      failed = status === 0 ? '' : `${program} ${words.join(' ')}: ${stdout}${stderr}`
      if (failed) break
    }
    if (failed && name === 'spark-3') {
      process.stdout.write(`Spark is left out: ${failed}\n`)
      continue
    }
    if (failed) throw new Error(failed)
    writeFileSync(mark, packages.join('\n'))
  }
}

if (process.argv[1] === fileURLToPath(import.meta.url)) installPython()
