// Virtual environments of Python that the tests run generated scripts in: pandas 2 and 3 beside the one that Debian has, and ruff.
import { spawn, spawnSync } from 'node:child_process'
import { existsSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { root } from './install.mjs'

/** What is installed for the tests, by environment. */
const environments = {
  'pandas-2': ['pandas>=2,<3'],
  'pandas-3': ['pandas>=3,<4', 'ruff'],
  'spark-3': ['pyspark>=3.5,<4', 'pandas>=2,<3', 'pyarrow'],
}
/** The same for what is measured against. */
const onDemand = { bench: ['pandas', 'pyarrow', 'openpyxl'] }
const folderOf = (name) => join(root, 'node_modules/.cache', name)

/** A program of an environment. */
export const inEnvironment = (name, program = 'python') => join(folderOf(name), 'bin', program)

/** Whether the environment of Spark is there. */
export const hasSpark = () => existsSync(join(folderOf('spark-3'), 'installed'))

/** Makes an environment that is not there, with the newest of its packages that PyPI has. @throws Error with what pip said */
export const makeEnvironment = (name) => {
  const packages = { ...environments, ...onDemand }[name]
  const mark = join(folderOf(name), 'installed')
  if (existsSync(mark)) return
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

/** Makes one environment of the tests. Spark's may be missing where PyPI does not answer. */
const installOne = (name) => {
  try {
    makeEnvironment(name)
  } catch (error) {
    if (name !== 'spark-3') throw error
    process.stdout.write(`Spark is left out: ${error.message}\n`)
  }
}
/** Makes all of them, each in a process of its own, as each waits for PyPI most of the time. */
const installAll = () =>
  Object.keys(environments).forEach((name) =>
    spawn(process.execPath, [fileURLToPath(import.meta.url), name], { stdio: 'inherit' }).on('close', (status) => {
      process.exitCode ||= status ?? 1
    }),
  )

if (process.argv[1] === fileURLToPath(import.meta.url)) {
  const [name] = process.argv.slice(2)
  if (name === undefined) installAll()
  else installOne(name)
}
