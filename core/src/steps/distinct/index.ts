import { markComplete } from '../../table/gather.ts'
import { listed } from '../../messages/words.ts'
import type { Schema } from '../../table/table.ts'
import { z } from 'zod'
import { code, py, sql } from '../../codegen/tag.ts'
import { groupRows } from '../../table/group.ts'
import { int32s } from '../../kernels/memory.ts'
import {
  checkSelector,
  columnNoun,
  columnsSlot,
  selectedNames,
  selectorPython,
  selectorSchema,
  type Selector,
} from '../shared/columns.ts'
import { defineStep, slot } from '../shared/step-kind.ts'

type Distinct = { readonly columns?: Selector | undefined; readonly keep?: 'first' | 'last' | undefined }
const whole: Selector = { all: true }

/** The columns that rows are alike in, as words. */
const alikeWords = ({ columns }: Distinct, schema: Schema): string =>
  columns === undefined ? 'values' : listed(selectedNames(columns, schema))

/** Keeps one row of each combination. */
export const distinct = defineStep<Distinct>({
  dropsRows: true,
  kind: 'distinct',
  verb: 'Keep one row of each',
  words: ['distinct', 'unique', 'duplicates', 'deduplicate', 'repeat', 'remove duplicates'],
  params: z.strictObject({ columns: selectorSchema.optional(), keep: z.enum(['first', 'last']).optional() }),
  drafts: {
    table: () => [{ rank: 60, verb: 'Keep one row of those alike', params: {} }],
    columns: ({ columns }) => [
      {
        rank: 260,
        verb: columns.length === 1 ? 'Keep one row of each value' : 'Keep one row of each combination',
        params: { columns },
      },
    ],
  },
  sentence: ({ columns = whole, keep = 'first' }) => [
    'Keep the ',
    slot(
      keep,
      'choice',
      ['keep'],
      [
        ['first', 'first'],
        ['last', 'last'],
      ],
    ),
    ` row of those alike in ${columnNoun(columns)}`,
    columnsSlot(columns, 'columns'),
    '.',
  ],
  output: ({ columns = whole }, input, context) => {
    checkSelector(columns, input, context, 'columns')
    return input
  },
  run: ({ columns = whole, keep = 'first' }, table) => {
    const { ids, count, first } = groupRows(table, selectedNames(columns, table.schema))
    const index = keep === 'first' ? first : lastOf(ids, count)
    return { table: table.rows(markComplete(index)), lineage: { kind: 'index', index, kept: index.length } }
  },
  trace: {
    leftBy: () => [],
    left: (params, { before, lineage, rowName }, row) => {
      if (lineage.kind !== 'index') return undefined
      const names = selectedNames(params.columns ?? whole, before.schema)
      const { ids } = groupRows(before, names)
      const kept = lineage.index.find((one) => ids[one] === ids[row])
      return kept === undefined
        ? undefined
        : `the same ${alikeWords(params, before.schema)} as ${rowName(kept)}, which stays`
    },
    did: (params, { before }) => `kept, the ${params.keep ?? 'first'} with its ${alikeWords(params, before.schema)}`,
  },
  scripts: {
    sql: ({ columns = whole, keep = 'first' }, { from, input, output, column }) => {
      const keys = selectedNames(columns, input).map((name) => column(name))
      const names = output.map((field) => column(field.name))
      return sql`select "¶", ${names}\nfrom (select *, row_number() over (${keys.length > 0 ? sql`partition by ${keys} ` : code('')}order by "¶"${code(keep === 'last' ? ' desc' : '')}) as "¶n" from ${from}) ranked\nwhere "¶n" = 1`
    },
    spark: 'table',
    python: ({ columns = whole, keep = 'first' }, { frame, renumbered }) =>
      py`${frame} = ${renumbered(py`${frame}.drop_duplicates(subset=${selectorPython(columns, frame)}, keep=${keep})`)}`,
  },
})

/** The last row of each group, in the order of the rows. */
const lastOf = (ids: Uint32Array, count: number): Int32Array => {
  const last = int32s(count)
  for (let i = 0; i < ids.length; i++) last[ids[i]!] = i
  return last.sort()
}
