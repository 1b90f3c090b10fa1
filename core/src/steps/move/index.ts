import { z } from 'zod'
import { py, pyHelper } from '../../codegen/tag.ts'
import type { Schema } from '../../table/table.ts'
import {
  checkColumn,
  checkSelector,
  columnNoun,
  columnsSlot,
  selectColumns,
  selected,
  selectedNames,
  selectorPython,
  selectorSchema,
  type Selector,
} from '../shared/columns.ts'
import { name } from '../../reading/name-schema.ts'
import { defineStep, slot } from '../shared/step-kind.ts'

type MoveTarget = 'first' | 'last' | { readonly before: string } | { readonly after: string }
type Move = { readonly columns: Selector; readonly to: MoveTarget }

/** The moved columns stand together; beside one of themselves they stand where it stood. */
const moved = ({ columns, to }: Move, schema: Schema): Schema => {
  const going = [...new Set(selected(columns, schema))]
  const staying = schema.filter((field) => !going.includes(field))
  if (to === 'first') return [...going, ...staying]
  if (to === 'last') return [...staying, ...going]
  const beside = 'before' in to ? to.before : to.after
  const at = schema.findIndex((field) => field.name === beside)
  const ahead = schema.slice(0, 'before' in to ? at : at + 1).filter((field) => !going.includes(field)).length
  return [...staying.slice(0, ahead), ...going, ...staying.slice(ahead)]
}

const toWords = (to: MoveTarget): string => {
  if (to === 'first') return 'to the front'
  if (to === 'last') return 'to the end'
  if ('before' in to) return `before ${to.before}`
  return `after ${to.after}`
}

/** Moves columns. */
export const move = defineStep<Move>({
  kind: 'move',
  verb: 'Move to another place',
  words: ['move', 'order', 'reorder', 'front', 'end', 'position', 'columns'],
  params: z.strictObject({
    columns: selectorSchema,
    to: z.union([z.enum(['first', 'last']), z.strictObject({ before: name }), z.strictObject({ after: name })]),
  }),
  drafts: {
    table: ({ schema }) => [
      { rank: 200, verb: 'Move columns', params: { columns: [schema.at(-1)?.name ?? ''], to: 'first' } },
    ],
    columns: ({ columns }) => [{ rank: 60, verb: 'Move to the front', params: { columns, to: 'first' } }],
  },
  sentence: ({ columns, to }) => [
    `Move ${columnNoun(columns)}`,
    columnsSlot(columns, 'columns'),
    ' ',
    slot(
      toWords(to),
      'choice',
      ['to'],
      [
        ['first', 'to the front'],
        ['last', 'to the end'],
      ],
    ),
    '.',
  ],
  output: (params, input, context) => {
    checkSelector(params.columns, input, context, 'columns')
    if (typeof params.to === 'object') {
      const side = 'before' in params.to ? 'before' : 'after'
      if (!checkColumn('before' in params.to ? params.to.before : params.to.after, input, context, 'to', side))
        return input
    }
    return moved(params, input)
  },
  run: (params, table) => ({
    table: table.select(moved(params, table.schema).map((field) => table.positionOf(field.name))),
    lineage: { kind: 'same' },
  }),
  scripts: {
    sql: (_params, context) => selectColumns(context),
    spark: 'table',
    python: ({ columns, to }, { frame }) => {
      const names = selectorPython(columns, frame)
      if (typeof to === 'string') return py`${frame} = ${pyHelper('move_columns')}(${frame}, ${names}, ${to})`
      return 'before' in to
        ? py`${frame} = ${pyHelper('move_columns')}(${frame}, ${names}, before=${to.before})`
        : py`${frame} = ${pyHelper('move_columns')}(${frame}, ${names}, after=${to.after})`
    },
  },
  absorbs: ({ columns }, column, input) => selectedNames(columns, input).includes(column),
})
