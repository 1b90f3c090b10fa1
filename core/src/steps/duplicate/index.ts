import { z } from 'zod'
import { py, sql, pyHelper } from '../../codegen/tag.ts'
import type { Field, Schema } from '../../table/table.ts'
import {
  checkColumn,
  checkPlace,
  freeName,
  placePython,
  placeSchema,
  positionFor,
  selectColumns,
  withField,
  type ColumnPlacement,
} from '../shared/columns.ts'
import { name } from '../../reading/name-schema.ts'
import { defineStep, slot } from '../shared/step-kind.ts'

type Duplicate = ColumnPlacement & { readonly column: string; readonly as: string }

const made = ({ column, as }: Duplicate, schema: Schema): Field => ({
  name: freeName(
    as,
    schema.map((field) => field.name),
  ),
  type: schema.find((field) => field.name === column)?.type ?? 'text',
})

/** A column a second time. */
export const duplicate = defineStep<Duplicate>({
  kind: 'duplicate',
  verb: 'Copy the column',
  words: ['duplicate', 'copy', 'clone', 'repeat', 'column'],
  params: z.strictObject({ column: name, as: name, ...placeSchema }),
  drafts: {
    columns: ({ columns: [column = '', ...more] }) =>
      more.length === 0 ? [{ rank: 160, params: { column, as: column, after: column } }] : [],
  },
  sentence: ({ column, as }) => [
    'Copy the column ',
    slot(column, 'oneColumn', ['column']),
    ' as ',
    slot(as, 'name', ['as']),
    '.',
  ],
  output: (params, input, context) => {
    checkColumn(params.column, input, context, 'column')
    checkPlace(params, input, context)
    return withField(input, made(params, input), params)
  },
  run: (params, table) => ({
    table: table.with(positionFor(params, table.names), made(params, table.schema).name, table.named(params.column)),
    lineage: { kind: 'same' },
  }),
  trace: {
    cells: (params, { before }, column, rows) =>
      column === made(params, before.schema).name ? [{ column: params.column, rows }] : undefined,
  },
  scripts: {
    sql: (params, context) =>
      selectColumns(context, { [made(params, context.input).name]: sql`${context.column(params.column)}` }),
    python: (params, { frame, input }) =>
      py`${frame} = ${pyHelper('put')}(${frame}, ${made(params, input).name}, ${frame}[${params.column}], ${made(params, input).type}${placePython(params)})`,
  },
})
