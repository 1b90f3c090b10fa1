import { spawn } from 'node:child_process'
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { dialects } from '@fabula/core'
import { ScriptFailed, type Prover } from './prover.ts'

const run = (program: string, words: readonly string[], shouldStop: () => boolean): Promise<void> =>
  new Promise((resolve, reject) => {
    const child = spawn(program, words, {
      stdio: ['ignore', 'ignore', 'pipe'],
      env: { PATH: process.env.PATH, PYTHONIOENCODING: 'utf-8', PYTHONUTF8: '1' },
    })
    let message = ''
    const watch = setInterval(() => shouldStop() && child.kill('SIGKILL'), 200)
    child.stderr.setEncoding('utf8').on('data', (text: string) => (message = (message + text).slice(-4000)))
    child.on('error', (error) => (clearInterval(watch), reject(error)))
    child.on('close', (exit) => {
      clearInterval(watch)
      if (exit === 0) resolve()
      else reject(new ScriptFailed(message.trim().split('\n').at(-1) ?? `it ended with ${exit ?? 'a signal'}`))
    })
  })

/** The first Python here that has pandas; undefined where none has. */
const pythonWithPandas = async (): Promise<string | undefined> => {
  for (const program of ['python3', '/usr/bin/python3', 'python']) {
    const found = await run(program, ['-c', 'import pandas'], () => false).then(
      () => true,
      () => false,
    )
    if (found) return program
  }
  return undefined
}

/** Runs the Python script by the first interpreter that has pandas. */
export const provePython: Prover = async ({ recipe, plan, inputs, tables, folder, now, progress, shouldStop }) => {
  progress(0, 'Running the Python script')
  const program = await pythonWithPandas()
  if (program === undefined) return { state: 'absent', sentence: 'not run: this machine has no Python with pandas' }
  const out = (table: string): string => join(folder, `python-${table}.csv`)
  const script = join(folder, 'flow.py')
  writeFileSync(script, dialects.python.assemble(recipe, plan).text)
  const words = [
    ...inputs.flatMap(({ id, paths }) => paths.flatMap((path) => ['--input', `${id}=${path}`])),
    ...tables.flatMap(({ id }) => ['--output', `${id}=${out(id)}`]),
    '--now',
    now,
  ]
  await run(program, [script, ...words], shouldStop)
  return out
}
