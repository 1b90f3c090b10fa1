import { createStatement, databaseColumns, figure, insertStatement, listed, quoted, tableIn, uniqueIndexStatement, whyNotInto, type DatabaseOutput, type Table } from '@fabula/core'
import { textAt, UnwritableTable } from './cells.ts'

/** Runs one statement in an open connection; values come back as text. */
export type Query = (text: string, values?: readonly unknown[]) => Promise<{ readonly rows: readonly Record<string, unknown>[] }>

const aBatch = 5000

/** Keys that are empty or stand twice: an upsert could not tell such rows apart. */
const checkKeys = (table: Table, keys: readonly string[]): void => {
  const at = keys.map((key) => table.indexOf(key))
  if (at.includes(-1)) throw new UnwritableTable(`The keys ${listed(keys.map(quoted))} are not all columns of the table.`)
  const seen = new Set<string>()
  for (let row = 0; row < table.rowCount; row++) {
    const cells = at.map((column) => textAt(table, column, row))
    if (cells.includes(null)) throw new UnwritableTable(`Row ${figure(row + 1)} has an empty key (${listed(keys.map(quoted))}); by keys only rows with all of them can be written.`)
    const key = JSON.stringify(cells)
    if (seen.has(key)) throw new UnwritableTable(`${cells.map((cell) => quoted(cell ?? '')).join(', ')} stands more than once in ${listed(keys.map(quoted))}; by keys each may stand once.`)
    seen.add(key)
  }
}

/**
 * A table into a table of PostgreSQL, all of it or nothing: the caller's connection is in no transaction before, and is in none after.
 * Replacing keeps a table whose columns are the same, so that what was granted on it and built on it stays.
 */
export const writeToDatabase = async (query: Query, output: DatabaseOutput, table: Table): Promise<void> => {
  if (output.mode === 'upsert') checkKeys(table, output.keys ?? [])
  const { schema } = table
  const target = tableIn(output)
  await query('begin')
  try {
    const { rows } = await query("select a.attname as name, format_type(a.atttypid, a.atttypmod) as type from pg_attribute a where a.attrelid = to_regclass($1) and a.attnum > 0 and not a.attisdropped order by a.attnum", [target])
    const there = rows.map(({ name, type }) => ({ name: String(name), type: String(type).replace('timestamp with time zone', 'timestamptz').replace(' without time zone', '') }))
    const columns = databaseColumns(output, schema)
    const same = there.length === columns.length && there.every(({ name, type }, i) => name === columns[i]?.name && type === columns[i].type)
    if (there.length === 0) await query(createStatement(output, schema))
    else if (output.mode === 'replace' && same) await query(`delete from ${target}`)
    else if (output.mode === 'replace') {
      await query(`drop table ${target}`)
      await query(createStatement(output, schema))
    } else {
      const why = whyNotInto(output, schema, there)
      if (why !== undefined) throw new UnwritableTable(why)
      if (output.mode === 'upsert') await query(uniqueIndexStatement(output, schema))
    }
    const insert = insertStatement(output, schema)
    for (let from = 0; from < table.rowCount; from += aBatch) {
      const to = Math.min(table.rowCount, from + aBatch)
      await query(insert, columns.map((_, column) => Array.from({ length: to - from }, (__, i) => textAt(table, column, from + i))))
    }
    await query('commit')
  } catch (error) {
    await query('rollback').catch(() => undefined)
    if (error instanceof UnwritableTable) throw error
    throw new UnwritableTable(`The database did not take ${output.name}: ${(error as Error).message}. Nothing was written there.`)
  }
}
