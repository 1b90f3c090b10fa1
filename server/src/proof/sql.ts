import { join } from 'node:path'
import { PGlite } from '@electric-sql/pglite'
import { dialects, scriptVariables } from '@fabula/core'
import { ScriptFailed, type Prover } from './prover.ts'
import { runPsql } from './psql.ts'

/** Runs the SQL script in an embedded database of its own. */
export const proveSql: Prover = async ({ recipe, plan, inputs, tables, folder, now, progress }) => {
  const out = (table: string): string => join(folder, `sql-${table}.csv`)
  progress(0, 'Starting the embedded database')
  const db = await PGlite.create()
  try {
    const names = scriptVariables(recipe)
    const variables = Object.fromEntries([
      ...inputs.flatMap(({ id, paths }) => paths.map((path, i) => [names.input(id, i + 1), path])),
      ...tables.map(({ id }) => [names.output(id), out(id)]),
      ['now', now],
      ['quiet', '1'],
    ]) as Record<string, string>
    const { commands } = dialects.sql.assemble(recipe, plan)
    let stopped: unknown
    const report = (share: number): void => {
      try {
        progress(0.1 + share * 0.9, 'Running the SQL script in the embedded database')
      } catch (error) {
        stopped = error
        throw error
      }
    }
    await runPsql(db, commands, variables, report).catch((error: unknown) => {
      throw error === stopped ? error : new ScriptFailed((error as Error).message)
    })
    return out
  } finally {
    await db.close()
  }
}
