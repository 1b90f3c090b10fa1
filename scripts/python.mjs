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
}
const folderOf = (name) => join(root, 'node_modules/.cache', name)

/** A program of an environment. */
export const inEnvironment = (name, program = 'python') => join(folderOf(name), 'bin', program)

/** Makes the environments that are not there. @throws Error with what pip said */
const installPython = () => {
  for (const [name, packages] of Object.entries(environments)) {
    const mark = join(folderOf(name), 'installed')
    if (existsSync(mark)) continue
    rmSync(folderOf(name), { recursive: true, force: true })
    process.stdout.write(`Installing ${packages.join(', ')}…\n`)
    for (const [program, words] of [
      ['/usr/bin/python3', ['-m', 'venv', folderOf(name)]],
      [inEnvironment(name), ['-m', 'pip', 'install', '--quiet', ...packages]],
    ]) {
      const { status, stdout, stderr } = spawnSync(program, words, { encoding: 'utf8' })
      if (status !== 0) throw new Error(`${program} ${words.join(' ')}: ${stdout}${stderr}`)
    }
    writeFileSync(mark, packages.join('\n'))
  }
}

if (process.argv[1] === fileURLToPath(import.meta.url)) installPython()
