import { PGlite } from '@electric-sql/pglite'
import type { Recipe } from '@fabula/core'
import type { FileRef } from '@fabula/core/api'
import { migrations } from '../store/migrations.ts'
import { runStatements, type StatementRunner } from '../store/statements.ts'

/** A database in memory with every migration, for tests of the stores. */
export const memoryDatabase = async (): Promise<StatementRunner & { readonly close: () => Promise<void> }> => {
  const db = await PGlite.create()
  for (const sql of migrations) await db.exec(sql)
  return {
    transaction: (statements) => runStatements(db, statements),
    query: (sql, ...params) => runStatements(db, [{ sql, params }]),
    close: () => db.close(),
  }
}

/** A recipe of one table that opens one input. */
export const recipeOf = (name: string, more: Partial<Recipe> = {}): Recipe => ({
  fabula: 1,
  name,
  inputs: [{ id: 'visits', name: 'Visits', columns: [{ name: 'Fee', type: 'decimal' }] }],
  tables: [{ id: 'visits', name: 'Visits', steps: [{ id: 's1', kind: 'open', input: 'visits' }] }],
  ...more,
})

/** A file that the database knows, by a made-up hash of one repeated letter. */
export const knownFile = async (database: StatementRunner, name: string, letter: string): Promise<FileRef> => {
  const hash = letter.repeat(64)
  await database.query('insert into files (hash, size) values ($1, $2) on conflict do nothing', hash, 120)
  return { name, hash, size: 120 }
}
