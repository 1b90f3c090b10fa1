import {
  createStatement,
  databaseColumns,
  figure,
  insertStatement,
  listed,
  quoted,
  tableIn,
  uniqueIndexStatement,
  whyNotInto,
  type DatabaseOutput,
  type Table,
} from '@fabula/core'
import { textAt, UnwritableTable } from './cells.ts'

/** Runs one statement in an open connection; values come back as text. */
export type Query = (
  text: string,
  values?: readonly unknown[],
) => Promise<{ readonly rows: readonly Record<string, unknown>[] }>

const aBatch = 5000

/** Keys that are empty or stand twice: an upsert could not tell such rows apart. */
const checkKeys = (table: Table, keys: readonly string[]): void => {
  const at = keys.map((key) => table.positionOf(key))
  if (at.includes(-1))
    throw new UnwritableTable(`The keys ${listed(keys.map(quoted))} are not all columns of the table.`)
  const seen = new Set<string>()
  for (let row = 0; row < table.rowCount; row++) {
    const cells = at.map((column) => textAt(table, column, row))
    if (cells.includes(null))
      throw new UnwritableTable(
        `Row ${figure(row + 1)} has an empty key (${listed(keys.map(quoted))}); by keys only rows with all of them can be written.`,
      )
    const key = JSON.stringify(cells)
    if (seen.has(key))
      throw new UnwritableTable(
        `${cells.map((cell) => quoted(cell ?? '')).join(', ')} stands more than once in ${listed(keys.map(quoted))}; by keys each may stand once.`,
      )
    seen.add(key)
  }
}

/** A table with where it goes. */
export type DatabaseWrite = { readonly output: DatabaseOutput; readonly table: Table }
/** Runs work in an open connection that is in no transaction, by the connection's name. */
export type OpenConnection = (name: string, work: (query: Query) => Promise<void>) => Promise<void>

/**
 * Tables into tables of PostgreSQL, all of them or none: each connection stays open inside the one before, and nothing is
 * committed before everything is written.
 */
export const writeToDatabases = async (writes: readonly DatabaseWrite[], open: OpenConnection): Promise<void> => {
  const names = [...new Set(writes.map(({ output }) => output.connection))]
  const within = async (at: number, queries: readonly Query[]): Promise<void> => {
    const name = names[at]
    if (name === undefined) {
      for (const query of queries) await query('commit')
      return
    }
    await open(name, async (query) => {
      await query('begin')
      try {
        // one's own table under two connections, or a table that somebody holds, must not wait for ever
        await query("set local lock_timeout = '60s'")
        for (const write of writes) if (write.output.connection === name) await writeTable(query, write)
        await within(at + 1, [...queries, query])
      } catch (error) {
        await query('rollback').catch(() => undefined)
        throw error
      }
    })
  }
  await within(0, [])
}

/** Replacing keeps a table whose columns are the same, so that what was granted on it and built on it stays. */
const writeTable = async (query: Query, { output, table }: DatabaseWrite): Promise<void> => {
  if (output.mode === 'upsert') checkKeys(table, output.keys ?? [])
  const { schema } = table
  const target = tableIn(output)
  try {
    const { rows } = await query(
      'select a.attname as name, format_type(a.atttypid, a.atttypmod) as type from pg_attribute a where a.attrelid = to_regclass($1) and a.attnum > 0 and not a.attisdropped order by a.attnum',
      [target],
    )
    const there = rows.map(({ name, type }) => ({
      name: String(name),
      type: String(type).replace('timestamp with time zone', 'timestamptz').replace(' without time zone', ''),
    }))
    const columns = databaseColumns(output, schema)
    const same =
      there.length === columns.length &&
      there.every(({ name, type }, i) => name === columns[i]?.name && type === columns[i].type)
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
      await query(
        insert,
        columns.map((_, column) => Array.from({ length: to - from }, (__, i) => textAt(table, column, from + i))),
      )
    }
  } catch (error) {
    if (error instanceof UnwritableTable) throw error
    throw new UnwritableTable(
      `The database did not take ${output.name}: ${(error as Error).message}. Nothing was written there.`,
    )
  }
}
