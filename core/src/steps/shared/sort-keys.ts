import { z } from 'zod'
import { code, joined, py, sql, type Code, sqlHelper } from '../../codegen/tag.ts'
import { sortedOrder } from '../../table/order.ts'
import type { Schema, Table } from '../../table/table.ts'
import { listed } from '../../messages/words.ts'
import { checkColumn } from './columns.ts'
import { name } from '../../reading/name-schema.ts'
import type { CheckContext, ParamPath } from './step-kind.ts'

/** Keys to sort by; the first is the major one. */
export type SortKeyParams = {
  readonly column: string
  readonly descending?: boolean | undefined
  readonly natural?: boolean | undefined
}
/** Schema of sort keys. */
export const sortKeysSchema = z
  .array(z.strictObject({ column: name, descending: z.boolean().optional(), natural: z.boolean().optional() }))
  .min(1)

const keyWords = ({ column, descending, natural }: SortKeyParams): string =>
  `${column}${natural ? ' in the order of its numbers' : ''}${descending ? ' from high to low' : ''}`
/** Sort keys as they stand in a sentence. */
export const sortWords = (by: readonly SortKeyParams[]): string => listed(by.map(keyWords), 'then')

/** Reports keys that are not there. */
export const checkSortKeys = (
  by: readonly SortKeyParams[],
  schema: Schema,
  context: CheckContext,
  ...path: ParamPath
): void => by.forEach(({ column }, i) => checkColumn(column, schema, context, ...path, i, 'column'))

/** Row positions in the order of the keys; stable. */
export const orderOf = (by: readonly SortKeyParams[], table: Table): Int32Array =>
  sortedOrder(
    by.map(({ column, descending = false, natural = false }) => ({ column: table.named(column), descending, natural })),
    table.rowCount,
  )

/** Text by lower-cased code points, ties by code points; empty last whichever way. */
const keySql = (
  { column: wanted, descending, natural }: SortKeyParams,
  schema: Schema,
  column: (name: string) => Code,
): Code => {
  const way = code(descending ? ' desc nulls last' : ' asc nulls last')
  const part = column(wanted)
  const type = schema.find((field) => field.name === wanted)?.type
  // a list goes by the text that stands for it
  if (type !== 'text' && type !== 'list') return sql`${part}${way}`
  const natural_ = natural ? sql`${sqlHelper('natural_key')}(${part}) collate "C"${way}, ` : code('')
  return sql`${natural_}${sqlHelper('lower_of')}(${part}) collate "C"${way}, ${part} collate "C"${way}`
}
/** What stands after `order by`, without the order of rows that settles ties. */
export const sortSql = (by: readonly SortKeyParams[], schema: Schema, column: (name: string) => Code): Code =>
  joined(
    by.map((key) => keySql(key, schema, column)),
    ', ',
  )
/** Sort keys as a Python list. */
export const sortPython = (by: readonly SortKeyParams[]): Code =>
  py`[${joined(
    by.map(
      ({ column, descending = false, natural = false }) =>
        py`(${column}, ${code(descending ? '"descending"' : '"ascending"')}${natural ? code(', "natural"') : code('')})`,
    ),
    ', ',
  )}]`
