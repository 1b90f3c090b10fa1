import { markComplete } from '../../table/gather.ts'
import { z } from 'zod'
import { code, py, sql, pyHelper } from '../../codegen/tag.ts'
import {
  checkSortKeys,
  orderOf,
  sortKeysSchema,
  sortPython,
  sortSql,
  sortWords,
  type SortKeyParams,
} from '../shared/sort-keys.ts'
import { sortedByValues, sortsAlike } from '../shared/pandas.ts'
import { defineStep, slot } from '../shared/step-kind.ts'

type SortParams = { readonly by: readonly SortKeyParams[] }

/** Sorts rows, stably. */
export const sort = defineStep<SortParams>({
  kind: 'sort',
  verb: 'Sort the rows',
  words: ['sort', 'order', 'arrange', 'ascending', 'descending', 'a to z', 'largest', 'newest'],
  params: z.strictObject({ by: sortKeysSchema }),
  drafts: {
    table: ({ schema }) => [{ rank: 40, params: { by: [{ column: schema[0]?.name ?? '' }] } }],
    columns: ({ columns }) => [
      {
        rank: 250,
        key: 'S',
        verb: `Sort by ${columns.length === 1 ? 'it' : 'them'}`,
        params: { by: columns.map((column) => ({ column })) },
      },
    ],
  },
  sentence: ({ by }) => ['Sort the rows by ', slot(sortWords(by), 'sortKeys', ['by']), '.'],
  output: ({ by }, input, context) => {
    checkSortKeys(by, input, context, 'by')
    return input
  },
  run: ({ by }, table) => {
    const index = orderOf(by, table)
    return { table: table.rows(markComplete(index)), lineage: { kind: 'index', index, kept: index.length } }
  },
  scripts: {
    sql: ({ by }, { from, input, output, column }) =>
      sql`select row_number() over (order by ${sortSql(by, input, column)}, "¶") as "¶", ${output.map((field) => column(field.name))}\nfrom ${from}`,
    sqlRows: ({ by }, { from, input, column }) => [
      {
        rows: sql`select row_number() over (order by ${sortSql(by, input, column)}, "¶") as "¶", "¶" as was from ${from}`,
      },
    ],
    spark: 'table',
    python: ({ by }, { frame, plain }) =>
      plain && sortsAlike(by)
        ? py`${frame} = ${sortedByValues(frame, by, code(', ignore_index=True'))}`
        : py`${frame} = ${pyHelper('sort_rows')}(${frame}, ${sortPython(by)})`,
  },
})
