import { ownValue } from '../table/own.ts'
import type { ColumnType } from '../table/column.ts'
import type { Schema } from '../table/table.ts'
import { listed, quoted } from '../messages/words.ts'
import type { DatabaseOutput, DatabaseType } from './outputs.ts'

/** A column of a database table: the name it has here, and there, and its type there. */
export type DatabaseColumn = { readonly from: string; readonly name: string; readonly type: DatabaseType }

/** What a column of each type can be there without losing what it holds, the usual one first; a value too large is refused by the database. */
export const typesThere: Readonly<Record<ColumnType, readonly DatabaseType[]>> = {
  text: ['text'],
  integer: ['bigint', 'integer', 'smallint', 'numeric', 'text'],
  decimal: ['double precision', 'numeric', 'real', 'text'],
  boolean: ['boolean', 'text'],
  date: ['date', 'timestamp', 'text'],
  datetime: ['timestamp', 'timestamptz', 'text'],
  time: ['time', 'text'],
  list: ['jsonb', 'text'],
}

/** PostgreSQL cuts names at 63 bytes; two that would be the same then are made different before. */
const mostBytes = 63
const cut = (name: string, end = ''): string => {
  let kept = name
  while (new TextEncoder().encode(kept + end).length > mostBytes) kept = kept.slice(0, -1)
  return kept + end
}
const snake = (name: string): string => {
  const plain = name
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .replace(/([\p{Ll}\p{Nd}])(\p{Lu})/gu, '$1_$2')
    .toLowerCase()
    .replace(/[^\p{L}\p{Nd}]+/gu, '_')
    .replace(/^_+|_+$/g, '')
  if (plain === '') return 'column'
  if (/^\p{Nd}/u.test(plain)) return `c_${plain}`
  return plain
}

/** The columns of a table as a database takes them. */
export const databaseColumns = (
  { names = 'as-is', types: given = {} }: Pick<DatabaseOutput, 'names' | 'types'>,
  schema: Schema,
): DatabaseColumn[] => {
  const taken = new Set<string>()
  return schema.map(({ name: from, type }) => {
    const wanted = names === 'snake_case' ? snake(from) : from.replaceAll('\u0000', '')
    let name = cut(wanted)
    for (let n = 2; taken.has(name); n++) name = cut(wanted, `_${n}`)
    taken.add(name)
    return { from, name, type: ownValue(given, from) ?? (typesThere[type][0] as DatabaseType) }
  })
}

const identifier = (name: string): string => `"${name.replaceAll('"', '""')}"`
/** The quoted name of an output’s table, with its schema where one is given. */
export const tableIn = ({ schema, name }: Pick<DatabaseOutput, 'schema' | 'name'>): string =>
  `${schema === undefined ? '' : `${identifier(schema)}.`}${identifier(name)}`
const keyNames = (output: DatabaseOutput, columns: readonly DatabaseColumn[]): string[] =>
  (output.keys ?? []).map((key) => columns.find(({ from }) => from === key)?.name ?? key)

/** The statement that makes the table; rows that are identified by keys get a unique index on them. */
export const createStatement = (output: DatabaseOutput, schema: Schema): string => {
  const columns = databaseColumns(output, schema)
  const lines = columns.map(({ name, type }) => `  ${identifier(name)} ${type}`)
  const unique = output.mode === 'upsert' ? [`  unique (${keyNames(output, columns).map(identifier).join(', ')})`] : []
  return `create table ${tableIn(output)} (\n${[...lines, ...unique].join(',\n')}\n)`
}

/** What an upsert needs of a table that is there already. */
export const uniqueIndexStatement = (output: DatabaseOutput, schema: Schema): string =>
  `create unique index if not exists ${identifier(cut(output.name, '_fabula_keys'))} on ${tableIn(output)} (${keyNames(output, databaseColumns(output, schema)).map(identifier).join(', ')})`

/** One insert of many rows, a list for each column; `$1`… are those lists, of text. */
export const insertStatement = (output: DatabaseOutput, schema: Schema): string => {
  const columns = databaseColumns(output, schema)
  const cells = columns.map(({ type }, i) => `c${i + 1}::${type}`).join(', ')
  const keys = keyNames(output, columns)
  const rest = columns.filter(({ name }) => !keys.includes(name))
  const conflict =
    output.mode !== 'upsert'
      ? ''
      : `\non conflict (${keys.map(identifier).join(', ')}) do ${rest.length === 0 ? 'nothing' : `update set ${rest.map(({ name }) => `${identifier(name)} = excluded.${identifier(name)}`).join(', ')}`}`
  return `insert into ${tableIn(output)} (${columns.map(({ name }) => identifier(name)).join(', ')})\nselect ${cells} from unnest(${columns.map((_, i) => `$${i + 1}::text[]`).join(', ')}) as row(${columns.map((_, i) => `c${i + 1}`).join(', ')})${conflict}`
}

/** Why a table that is there already does not take these columns; undefined where it does. */
export const whyNotInto = (
  output: DatabaseOutput,
  schema: Schema,
  there: readonly { readonly name: string; readonly type: string }[],
): string | undefined => {
  const columns = databaseColumns(output, schema)
  const missing = columns.filter(({ name }) => !there.some((one) => one.name === name))
  if (missing.length > 0)
    return `The table ${output.name} has no column ${listed(missing.map(({ name }) => quoted(name)))}. Add ${missing.length === 1 ? 'it' : 'them'} there, rename or drop ${missing.length === 1 ? 'it' : 'them'} here, or replace the table.`
  return undefined
}
