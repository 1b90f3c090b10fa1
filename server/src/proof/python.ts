import { spawn } from 'node:child_process'

/** What a Python program said when it ended badly. */
export class PythonFailed extends Error {}

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
      else reject(new PythonFailed(message.trim().split('\n').at(-1) ?? `it ended with ${exit ?? 'a signal'}`))
    })
  })

/** The first Python here that has pandas; undefined where none has. */
export const pythonWithPandas = async (): Promise<string | undefined> => {
  for (const program of ['python3', '/usr/bin/python3', 'python']) {
    const found = await run(program, ['-c', 'import pandas'], () => false).then(
      () => true,
      () => false,
    )
    if (found) return program
  }
  return undefined
}

export const runPython = (
  program: string,
  script: string,
  words: readonly string[],
  shouldStop: () => boolean,
): Promise<void> => run(program, [script, ...words], shouldStop)
