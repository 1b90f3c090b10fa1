import { z } from 'zod'
import { py, sql } from '../../codegen/tag.ts'
import { defineStep, tableSlot } from '../shared/step-kind.ts'

type StartFrom = { readonly table: string }

/** Starts from another table. */
export const startFrom = defineStep<StartFrom>({
  kind: 'start-from',
  verb: 'Continue from here as a new table',
  words: ['branch', 'copy of a table', 'reference', 'continue', 'fork', 'duplicate table'],
  start: true,
  params: z.strictObject({ table: z.string().min(1) }),
  sentence: ({ table }, names) => ['Start from the rows of ', tableSlot(table, 'table', ['table'], names), '.'],
  uses: ({ table }) => [table],
  output: ({ table }, _input, context) => context.tableColumns(table),
  trace: {
    rows: ({ table }, _step, rows) => [{ table, rows }],
    cells: ({ table }, _step, column, rows) => [{ table, column, rows }],
    fromTable: (_params, _step, _table, rows) => rows,
  },
  run: ({ table }, _before, context) => ({ table: context.table(table), lineage: { kind: 'source' } }),
  scripts: {
    sql: ({ table }, { table: other, column }) =>
      sql`select "¶", ${other(table).columns.map((field) => column(field.name))} from ${other(table).rows}`,
    spark: 'table',
    python: ({ table }, { frame, table: other }) => py`${frame} = ${other(table).frame}.copy()`,
  },
  absorbs: () => true,
})
