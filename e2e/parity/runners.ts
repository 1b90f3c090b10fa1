import { spawn } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createInterface } from 'node:readline'
import { PGlite } from '@electric-sql/pglite'
import { dialects, type Plan as RecipePlan, type Recipe } from '@fabula/core'
import { runPsql } from '@fabula/server/proof'

type Plan = RecipePlan | undefined
export type Runners = {
  /** The table `result` as the SQL script writes it, in the embedded database. `inputs` are the texts of its files. */
  readonly sql: (recipe: Recipe, plan: Plan, inputs: Readonly<Record<string, string>>) => Promise<string>
  /** The same by the Python script; what it says where it fails. */
  readonly python: (recipe: Recipe, inputs: Readonly<Record<string, string>>, plan?: Plan) => Promise<string>
  /** Which rows of the files each row of the outputs was made of, as each script writes it; a file is named by its input. */
  readonly traces: {
    readonly [D in 'sql' | 'python']: (
      recipe: Recipe,
      plan: Plan,
      inputs: Readonly<Record<string, string>>,
    ) => Promise<string>
  }
  readonly close: () => Promise<void>
}

/** A process of Python that runs generated scripts one after the other; `words` are options of the interpreter, `env` what its environment has more. */
export const startPython = (
  interpreter = '/usr/bin/python3',
  words: readonly string[] = [],
  env: Readonly<Record<string, string>> = {},
) => {
  const child = spawn(interpreter, [...words, join(import.meta.dirname, 'python-runner.py')], {
    stdio: ['pipe', 'pipe', 'ignore'],
    env: { ...process.env, ...env },
  })
  const answers = createInterface({ input: child.stdout })
  return {
    /** @throws Error with the traceback where the script ends with another code than 0 */
    run: async (script: string, args: readonly string[]): Promise<void> => {
      const answer = new Promise<string>((resolve) => answers.once('line', resolve))
      child.stdin.write(`${JSON.stringify({ script, args })}\n`)
      const { exit, error } = JSON.parse(await answer) as { exit: number; error?: string }
      if (exit !== 0) throw new Error(`the Python script ended with ${exit}: ${error ?? ''}`)
    },
    close: () => child.kill(),
  }
}

/** Words for an interpreter by which what pandas is about to change is an error. */
export const warningsAsErrors = ['-W', 'error::FutureWarning', '-W', 'error::DeprecationWarning']

type Inputs = Readonly<Record<string, string>>
/** A folder for files that scripts read and write. */
const newFolder = () => {
  const folder = mkdtempSync(join(tmpdir(), 'fabula-parity-'))
  let count = 0
  const path = (name: string): string => {
    const [stem, ending] = name.split('.')
    return join(folder, `${stem}-${++count}.${ending}`)
  }
  const write = (name: string, text: string): string => {
    const at = path(name)
    writeFileSync(at, text)
    return at
  }
  return {
    path,
    write,
    /** The texts of inputs as files. */
    inputs: (texts: Inputs): Record<string, string> =>
      Object.fromEntries(Object.entries(texts).map(([id, text]) => [id, write(`${id}.csv`, text)])),
  }
}

/** A Python process that runs the scripts of recipes; words are as of `startPython`. */
export const startPythonScripts = (interpreter?: string, words?: readonly string[]) => {
  const folder = newFolder()
  const python = startPython(interpreter, words)
  const run = async (recipe: Recipe, plan: Plan, inputs: Inputs, out: string, traceOut?: string): Promise<void> => {
    const { text } = dialects.python.assemble(recipe, plan, { trace: traceOut !== undefined })
    await python.run(folder.write('flow.py', text), [
      ...Object.entries(folder.inputs(inputs)).flatMap(([id, path]) => ['--input', `${id}=${path}`]),
      '--output',
      `result=${out}`,
      ...(traceOut === undefined ? [] : ['--trace-out', traceOut]),
    ])
  }
  return {
    run,
    /** The table `result` as the script writes it. */
    table: async (recipe: Recipe, inputs: Inputs, plan?: Plan): Promise<string> => {
      const out = folder.path('out.csv')
      await run(recipe, plan, inputs, out)
      return readFileSync(out, 'utf8')
    },
    close: () => python.close(),
  }
}

/** A database and a Python process that run one script after the other. */
export const startRunners = async (): Promise<Runners> => {
  const folder = newFolder()
  let db = await PGlite.create()
  let runs = 0
  /** What scripts leave behind although they are rolled back (dead rows of the catalogue) slows a database down; it is renewed now and then. */
  const freshDb = async (): Promise<PGlite> => {
    if (runs++ % 60 === 59) {
      await db.close()
      db = await PGlite.create()
    }
    return db
  }
  const python = startPythonScripts(undefined, warningsAsErrors)
  const runSql = async (recipe: Recipe, plan: Plan, inputs: Inputs, out: string, traceOut?: string): Promise<void> => {
    const { commands } = dialects.sql.assemble(recipe, plan, { trace: traceOut !== undefined })
    const files = {
      ...folder.inputs(inputs),
      out_result: out,
      ...(traceOut === undefined ? {} : { trace_out: traceOut }),
    }
    try {
      await runPsql(await freshDb(), commands, { ...files, quiet: '1' })
    } catch (error) {
      await db.exec('rollback')
      throw error
    }
  }
  const traced = async (run: typeof runSql, recipe: Recipe, plan: Plan, inputs: Inputs): Promise<string> => {
    const trace = folder.path('out.csv')
    await run(recipe, plan, inputs, folder.path('out.csv'), trace)
    return readFileSync(trace, 'utf8').replace(/,(\w+)-\d+\.csv,/g, ',$1.csv,')
  }
  return {
    sql: async (recipe, plan, inputs) => {
      const out = folder.path('out.csv')
      await runSql(recipe, plan, inputs, out)
      return readFileSync(out, 'utf8')
    },
    python: python.table,
    traces: {
      sql: (recipe, plan, inputs) => traced(runSql, recipe, plan, inputs),
      python: (recipe, plan, inputs) => traced(python.run, recipe, plan, inputs),
    },
    close: async () => {
      python.close()
      await db.close()
    },
  }
}
