import { z } from 'zod'
import { code, py, sql, pyHelper, sparkHelper } from '../../codegen/tag.ts'
import { float64s, int32s } from '../../kernels/memory.ts'
import { groupRows } from '../../table/group.ts'
import type { Schema } from '../../table/table.ts'
import {
  checkPlace,
  checkSelector,
  freeName,
  placePython,
  placeSchema,
  positionFor,
  selectColumns,
  selected,
  selectedNames,
  selectorPython,
  selectorSchema,
  selectorWords,
  withField,
  type ColumnPlacement,
  type Selector,
} from '../shared/columns.ts'
import { name } from '../../reading/name-schema.ts'
import { defineStep, slot } from '../shared/step-kind.ts'

type NumberRows = ColumnPlacement & {
  readonly as: string
  readonly start?: number | undefined
  readonly within?: Selector | undefined
}

const nameOf = ({ as }: NumberRows, schema: Schema): string =>
  freeName(
    as,
    schema.map((field) => field.name),
  )

/** Numbers rows. */
export const number = defineStep<NumberRows>({
  kind: 'number',
  verb: 'Number the rows',
  words: ['number', 'row number', 'index', 'id', 'count up', 'sequence', 'rank'],
  params: z.strictObject({
    as: name,
    start: z.number().int().optional(),
    within: selectorSchema.optional(),
    ...placeSchema,
  }),
  drafts: {
    table: () => [{ rank: 70, params: { as: 'Number' } }],
    columns: ({ columns }) => [
      {
        rank: 170,
        verb: columns.length === 1 ? 'Number the rows of each value' : 'Number the rows of each combination',
        params: { as: 'Number', within: columns },
      },
    ],
  },
  sentence: ({ as, start = 1, within }) => [
    'Number the rows from ',
    slot(String(start), 'number', ['start']),
    ' as ',
    slot(as, 'name', ['as']),
    ...(within ? [', anew for each ', slot(selectorWords(within), 'columns', ['within'])] : []),
    '.',
  ],
  output: (params, input, context) => {
    if (params.within) checkSelector(params.within, input, context, 'within')
    checkPlace(params, input, context)
    return withField(input, { name: nameOf(params, input), type: 'integer' }, params)
  },
  run: (params, table) => {
    const { ids, count } = groupRows(table, params.within ? selectedNames(params.within, table.schema) : [])
    const next = int32s(Math.max(1, count)).fill(params.start ?? 1)
    const values = float64s(table.rowCount)
    for (let i = 0; i < values.length; i++) {
      const group = ids[i]!
      values[i] = next[group]!
      next[group] = next[group]! + 1
    }
    return {
      table: table.with(positionFor(params, table.names), nameOf(params, table.schema), {
        type: 'integer',
        values,
        nulls: undefined,
      }),
      lineage: { kind: 'same' },
    }
  },
  scripts: {
    sql: (params, context) => {
      const keys = (params.within ? selected(params.within, context.input) : []).map((field) =>
        context.column(field.name),
      )
      return selectColumns(context, {
        [nameOf(params, context.input)]:
          sql`row_number() over (${keys.length > 0 ? sql`partition by ${keys} ` : code('')}order by "¶") + ${(params.start ?? 1) - 1}`,
      })
    },
    spark: (params, { frame, input }) =>
      py`${frame} = ${sparkHelper('numbered')}(${frame}, ${nameOf(params, input)}, ${params.start ?? 1}${params.within ? py`, within=${selectorPython(params.within, frame)}` : code('')}${placePython(params)})`,
    python: (params, { frame, input }) =>
      py`${frame} = ${pyHelper('put')}(${frame}, ${nameOf(params, input)}, ${pyHelper('numbered')}(${frame}, ${params.start ?? 1}${params.within ? py`, within=${selectorPython(params.within, frame)}` : code('')}), "integer"${placePython(params)})`,
  },
})
