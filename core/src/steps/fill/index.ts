import { throughIndex } from '../../table/row-set.ts'
import { z } from 'zod'
import { code, joined, py, sql, type Code, pyHelper } from '../../codegen/tag.ts'
import { isNullAt, lengthOf, type Column } from '../../table/column.ts'
import { gather, sliceRows } from '../../table/gather.ts'
import { groupRows } from '../../table/group.ts'
import type { Groups } from '../../kernels/table-kernels.ts'
import { int32s } from '../../kernels/memory.ts'
import {
  checkSelector,
  columnsSlot,
  selected,
  selectedNames,
  selectorPython,
  selectorSchema,
  selectorWords,
  type Selector,
} from '../shared/columns.ts'
import { defineStep, slot } from '../shared/step-kind.ts'

type Fill = { readonly columns: Selector; readonly direction: 'down' | 'up'; readonly within?: Selector | undefined }

/** a empty b, down -> the rows a a b: of each row the nearest filled one, itself or before it; -1 where there is none. */
const nearestFilled = (column: Column, { ids, count }: Groups, up: boolean): Int32Array => {
  const n = lengthOf(column)
  const last = int32s(count).fill(-1)
  const index = int32s(n)
  for (let k = 0; k < n; k++) {
    const i = up ? n - 1 - k : k
    const group = ids[i]!
    if (!isNullAt(column, i)) last[group] = i
    index[i] = last[group]!
  }
  return index
}

/** Fills empty cells from the row above or below. */
export const fill = defineStep<Fill>({
  kind: 'fill',
  verb: 'Fill the gaps from the cell above',
  words: ['fill', 'fill down', 'fill up', 'repeat', 'merged', 'gaps', 'carry forward', 'missing', 'blank'],
  params: z.strictObject({
    columns: selectorSchema,
    direction: z.enum(['down', 'up']),
    within: selectorSchema.optional(),
  }),
  drafts: { columns: ({ columns }) => [{ rank: 70, params: { columns, direction: 'down' } }] },
  sentence: ({ columns, direction, within }) => [
    'Fill the gaps in ',
    columnsSlot(columns, 'columns'),
    ' from the cell ',
    slot(
      direction === 'down' ? 'above' : 'below',
      'choice',
      ['direction'],
      [
        ['down', 'above'],
        ['up', 'below'],
      ],
    ),
    ...(within ? [', within the rows alike in ', slot(selectorWords(within), 'columns', ['within'])] : []),
    '.',
  ],
  output: ({ columns, within }, input, context) => {
    checkSelector(columns, input, context, 'columns')
    if (within) checkSelector(within, input, context, 'within')
    return input
  },
  run: ({ columns, direction, within }, table) => {
    const groups = groupRows(table, within ? selectedNames(within, table.schema) : [])
    let result = table
    let cellsChanged = 0
    for (const name of selectedNames(columns, table.schema)) {
      const at = table.positionOf(name)
      const column = table.column(at)
      const index = nearestFilled(column, groups, direction === 'up')
      for (let i = 0; i < index.length; i++) if (index[i] !== i && index[i]! >= 0) cellsChanged++
      result = result.with(at, name, gather(column, index), true)
    }
    return { table: result, lineage: { kind: 'index', index: sliceRows(table.rowCount) }, cellsChanged }
  },
  trace: {
    cells: ({ columns, direction, within }, { before }, column, rows) => {
      if (!selectedNames(columns, before.schema).includes(column)) return undefined
      const groups = groupRows(before, within ? selectedNames(within, before.schema) : [])
      const index = nearestFilled(before.named(column), groups, direction === 'up')
      // a gap that stays has nothing to be taken from
      return [{ column, rows: throughIndex(rows, index, before.rowCount) }]
    },
  },
  scripts: {
    sql: ({ columns, direction, within }, { from, input, output, column }) => {
      const filled = new Set(selectedNames(columns, input))
      const keys = (within ? selected(within, input) : []).map((field) => column(field.name))
      const order = code(direction === 'up' ? '"¶" desc' : '"¶"')
      const part = (more: readonly Code[]): Code =>
        [...keys, ...more].length > 0 ? sql`partition by ${joined([...keys, ...more], ', ')} ` : code('')
      const runOf = (n: number): Code => code(`"¶${n}"`)
      const names = output.map((field) => field.name).filter((name) => filled.has(name))
      const counts = names.map(
        (name, n) => sql`count(${column(name)}) over (${part([])}order by ${order}) as ${runOf(n)}`,
      )
      const cells = output.map((field) =>
        filled.has(field.name)
          ? sql`first_value(${column(field.name)}) over (${part([runOf(names.indexOf(field.name))])}order by ${order}) as ${column(field.name)}`
          : column(field.name),
      )
      return sql`select "¶", ${joined(cells, ', ')}\nfrom (select *${joined(
        counts.map((count) => sql`, ${count}`),
        '',
      )} from ${from}) runs`
    },
    spark: 'table',
    python: ({ columns, direction, within }, { frame }) =>
      py`${frame} = ${pyHelper('fill')}(${frame}, ${selectorPython(columns, frame)}, ${direction}${within ? py`, within=${selectorPython(within, frame)}` : code('')})`,
  },
  absorbs: ({ columns }, column, input) => selectedNames(columns, input).includes(column),
})
