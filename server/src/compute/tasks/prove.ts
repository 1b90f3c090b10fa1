import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { PGlite } from '@electric-sql/pglite'
import {
  ownValue,
  inputFormat,
  parameterCells,
  pythonScript,
  runRecipe,
  scriptOutputs,
  ScriptError,
  sqlScript,
  writeCsv,
  type Recipe,
} from '@fabula/core'
import type { ProofReply } from '@fabula/core/api'
import { openAll, stored, TaskProblem, type WorkerContext, type InputFiles } from '../worker-context.ts'
import { firstDifference } from '../../proof/difference.ts'
import { PythonFailed, pythonWithPandas, runPython } from '../../proof/python.ts'
import { runPsql } from '../../proof/psql.ts'

type DialectProof = ProofReply['tables'][number]['sql']
type ProofRequest = {
  readonly recipe: Recipe
  readonly files: InputFiles
  readonly now: number
  readonly folder: string
}
const failed = (language: string, error: unknown): DialectProof => ({
  state: 'failed',
  sentence: `The ${language} script stopped: ${(error as Error).message}`,
})

/** The inputs as the scripts take them: files as they came, or as the CSV that the command line makes of them. */
const placeInputs = (
  folder: string,
  { recipe, files }: ProofRequest,
  tables: Awaited<ReturnType<typeof openAll>>['inputs'],
  context: WorkerContext,
) => {
  const whole = (input: string): string[] =>
    (ownValue(files, input) ?? []).map((file, i) => {
      const place = join(folder, `${input}-${i}`)
      mkdirSync(place, { recursive: true })
      const path = join(place, file.name)
      writeFileSync(path, stored(file, context).bytes)
      return path
    })
  const csv = (input: string): string[] => {
    const path = join(folder, `${input}.csv`)
    const table = ownValue(tables, input)?.table
    if (table) writeFileSync(path, writeCsv(table))
    return [path]
  }
  const given = (asCsv: readonly string[]) =>
    recipe.inputs.map(({ id }) => ({ id, paths: asCsv.includes(inputFormat(recipe, id)) ? csv(id) : whole(id) }))
  return { sql: given(['xlsx', 'ods', 'json', 'parquet']), python: given(['parquet']) }
}

/** Both scripts run on the flow's own inputs, the SQL in an embedded database, and held against the engine cell for cell. */
export const prove = async (asked: ProofRequest, context: WorkerContext): Promise<ProofReply> => {
  const { recipe, files, now, folder } = asked
  const say = (done: number, doing: string): void => context.progress({ done: Math.round(done), of: 100, doing })
  const stopHere = (): void => {
    if (context.shouldStop()) throw new TaskProblem('The proof was stopped.')
  }
  say(0, 'Telling the story as Fabula does')
  const { inputs, sources } = await openAll(recipe, files, {}, context)
  const ran = runRecipe(recipe, {
    sources,
    parameters: parameterCells(recipe, {}).cells,
    now,
    cache: context.inputs.steps,
    shouldStop: context.shouldStop,
  })
  const clock = new Date(now).toISOString().slice(0, 19)
  const given = placeInputs(folder, asked, inputs, context)
  const wanted = scriptOutputs(recipe).map(({ table }) => ({
    table,
    made: ran.tables.find(({ id }) => id === table)?.table,
  }))
  const missing = wanted.find(({ made }) => !made)
  if (missing) throw new TaskProblem('The story is not finished: one of its sentences needs a mend first.')
  const held = (language: string, path: (table: string) => string): Record<string, DialectProof> =>
    Object.fromEntries(
      wanted.map(({ table, made }) => {
        const difference = firstDifference(made ? writeCsv(made) : '', readFileSync(path(table), 'utf8'))
        return [
          table,
          difference
            ? {
                state: 'different',
                sentence: `${language} gives another table. ${difference.sentence} (The first is Fabula’s.)`,
              }
            : { state: 'same', sentence: 'every cell the same' },
        ]
      }),
    )
  const all = (reported: DialectProof): Record<string, DialectProof> =>
    Object.fromEntries(wanted.map(({ table }) => [table, reported]))
  stopHere()
  const sql = await (async () => {
    const out = (table: string): string => join(folder, `sql-${table}.csv`)
    say(15, 'Starting the embedded database')
    const db = await PGlite.create()
    try {
      const variables = Object.fromEntries([
        ...given.sql.flatMap(({ id, paths }) =>
          paths.map((path, i) => [i === 0 ? id.replaceAll('-', '_') : `${id.replaceAll('-', '_')}_${i + 1}`, path]),
        ),
        ...wanted.map(({ table }) => [`out_${table.replaceAll('-', '_')}`, out(table)]),
        ['now', clock],
        ['quiet', '1'],
      ]) as Record<string, string>
      await runPsql(db, sqlScript(recipe, ran.plan).commands, variables, (share) => {
        stopHere()
        say(20 + share * 45, 'Running the SQL script in the embedded database')
      })
      return held('SQL', out)
    } catch (error) {
      if (error instanceof TaskProblem) throw error
      return all(error instanceof ScriptError ? { state: 'failed', sentence: error.message } : failed('SQL', error))
    } finally {
      await db.close()
    }
  })()
  stopHere()
  say(65, 'Running the Python script')
  const python = await (async () => {
    const program = await pythonWithPandas()
    if (program === undefined)
      return all({ state: 'absent', sentence: 'not run: this machine has no Python with pandas' })
    const out = (table: string): string => join(folder, `python-${table}.csv`)
    try {
      const script = join(folder, 'flow.py')
      writeFileSync(script, pythonScript(recipe, ran.plan).text)
      await runPython(
        program,
        script,
        [
          ...given.python.flatMap(({ id, paths }) => paths.flatMap((path) => ['--input', `${id}=${path}`])),
          ...wanted.flatMap(({ table }) => ['--output', `${table}=${out(table)}`]),
          '--now',
          clock,
        ],
        context.shouldStop,
      )
      return held('Python', out)
    } catch (error) {
      if (error instanceof ScriptError || error instanceof PythonFailed)
        return all(
          error instanceof ScriptError ? { state: 'failed', sentence: error.message } : failed('Python', error),
        )
      throw error
    }
  })()
  stopHere()
  return {
    tables: wanted.map(({ table, made }) => ({
      table,
      rows: made?.rowCount ?? 0,
      columns: made?.names.length ?? 0,
      sql: ownValue(sql, table) as DialectProof,
      python: ownValue(python, table) as DialectProof,
    })),
  }
}
