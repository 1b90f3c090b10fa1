import { z } from 'zod'
import { code, joined, py, sql, type Code } from '../generate/tag.ts'
import type { ColumnType } from '../table/column.ts'
import { sortedOrder } from '../table/order.ts'
import { listed } from '../words.ts'
import { checkColumn } from './check-columns.ts'
import { name } from './names.ts'
import { defineStep, slot } from './step-kind.ts'

export type SortBy = { readonly column: string; readonly descending?: boolean | undefined; readonly natural?: boolean | undefined }
type Sort = { readonly by: readonly SortBy[] }

const keyWords = ({ column, descending, natural }: SortBy): string => `${column}${natural ? ', numbers inside counted,' : ''}${descending ? ' from high to low' : ''}`

/** Text by lower-cased code points, ties by code points; empty last whichever way. */
const keySql = ({ descending, natural }: SortBy, type: ColumnType, column: Code): Code => {
  const way = code(descending ? ' desc nulls last' : ' asc nulls last')
  if (type !== 'text') return sql`${column}${way}`
  const natural_ = natural ? sql`natural_key(${column}) collate "C"${way}, ` : code('')
  return sql`${natural_}lower_of(${column}) collate "C"${way}, ${column} collate "C"${way}`
}

export const sort = defineStep<Sort>({
  kind: 'sort',
  verb: 'Sort the rows',
  words: ['sort', 'order', 'arrange', 'ascending', 'descending', 'a to z', 'largest', 'newest'],
  acts: ['columns', 'table'],
  params: z.strictObject({ by: z.array(z.strictObject({ column: name, descending: z.boolean().optional(), natural: z.boolean().optional() })).min(1) }),
  sentence: ({ by }) => ['Sort the rows by ', slot(listed(by.map(keyWords), 'then'), 'sortKeys', ['by']), '.'],
  output: ({ by }, input, context) => {
    by.forEach(({ column }, i) => checkColumn(column, input, context, 'by', i, 'column'))
    return input
  },
  run: ({ by }, table) => {
    const index = sortedOrder(by.map(({ column, descending = false, natural = false }) => ({ column: table.named(column), descending, natural })), table.rowCount)
    return { table: table.rows(index), origin: { kind: 'index', index } }
  },
  sql: ({ by }, context) => {
    const keys = by.map((key) => keySql(key, context.input.find((field) => field.name === key.column)?.type ?? 'text', context.column(key.column)))
    const { from, output, column } = context
    return sql`select row_number() over (order by ${joined(keys, ', ')}, "¶") as "¶", ${output.map((field) => column(field.name))}\nfrom ${from}`
  },
  python: ({ by }, { frame }) => py`${frame} = sort_rows(${frame}, [${joined(by.map(({ column, descending = false, natural = false }) => py`(${column}, ${code(descending ? '"descending"' : '"ascending"')}${natural ? code(', "natural"') : code('')})`), ', ')}])`,
})
