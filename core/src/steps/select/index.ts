import { z } from 'zod'
import { code, py, pyHelper } from '../../codegen/tag.ts'
import type { Schema } from '../../table/table.ts'
import {
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
import { defineStep, slot } from '../shared/step-kind.ts'

type Select = { readonly columns: Selector; readonly rest?: 'drop' | 'after' | undefined }

const kept = ({ columns, rest }: Select, schema: Schema): Schema => {
  const first = [...new Set(selected(columns, schema))]
  return rest === 'after' ? [...first, ...schema.filter((field) => !first.includes(field))] : first
}

/** Keeps columns. */
export const select = defineStep<Select>({
  dropsUnnamed: true,
  kind: 'select',
  verb: 'Keep only these columns',
  words: ['select', 'keep', 'columns', 'order', 'choose', 'reorder', 'projection'],
  params: z.strictObject({ columns: selectorSchema, rest: z.enum(['drop', 'after']).optional() }),
  drafts: {
    table: ({ schema }) => [
      { rank: 170, verb: 'Keep only some columns', params: { columns: schema.map(({ name }) => name) } },
    ],
    columns: ({ columns }) => [
      {
        rank: 50,
        verb: columns.length === 1 ? 'Keep only this column' : 'Keep only these columns',
        params: { columns },
      },
    ],
  },
  sentence: ({ columns, rest }) =>
    rest === 'after'
      ? [`Put ${columnNoun(columns)}`, columnsSlot(columns, 'columns'), ' first, ', restSlot('after'), '.']
      : [`Keep ${columnNoun(columns)}`, columnsSlot(columns, 'columns'), ' in this order, and ', restSlot('drop'), '.'],
  output: (params, input, context) => {
    checkSelector(params.columns, input, context, 'columns')
    const left = kept(params, input)
    if (left.length === 0) context.report({ code: 'no-columns-left' }, 'columns')
    return left
  },
  run: (params, table) => {
    const positions = kept(params, table.schema).map((field) => table.positionOf(field.name))
    return { table: table.select(positions), lineage: { kind: 'same' } }
  },
  scripts: {
    sql: (_params, context) => selectColumns(context),
    spark: 'table',
    python: ({ columns, rest }, { frame }) => {
      const names = selectorPython(columns, frame)
      return rest === 'after'
        ? py`${frame} = ${pyHelper('columns_first')}(${frame}, ${names})`
        : py`${frame} = ${frame}[${names}]${code('')}`
    },
  },
  absorbs: ({ columns, rest }, column, input) => rest === 'after' || selectedNames(columns, input).includes(column),
})

const restSlot = (rest: 'drop' | 'after') =>
  slot(
    rest === 'after' ? 'the others after them' : 'drop the others',
    'choice',
    ['rest'],
    [
      ['drop', 'drop the others'],
      ['after', 'the others after them'],
    ],
  )
