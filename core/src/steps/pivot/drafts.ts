import type { Aggregate } from '../../table/aggregate.ts'
import type { ColumnType } from '../../table/column.ts'
import type { Schema } from '../../table/table.ts'
import { typeIn } from '../shared/columns.ts'
import type { StepDraft } from '../shared/draft.ts'
import { numbersOf } from '../shared/draft-values.ts'
import type { Pivot } from './layout.ts'

type WayToOneValue = readonly [how: Aggregate, words: string]
/** How several values of a cell become one, by what they are. */
export const waysToOneValue = (type: ColumnType | undefined): readonly WayToOneValue[] => [
  ...(type === 'integer' || type === 'decimal'
    ? ([
        ['sum', 'Take their sum'],
        ['mean', 'Take their mean'],
        ['max', 'Take the largest'],
      ] as const)
    : []),
  ...(type === 'date' || type === 'datetime' || type === 'time'
    ? ([
        ['max', 'Take the latest'],
        ['min', 'Take the earliest'],
      ] as const)
    : []),
  ['first', 'Take the first'],
  ['last', 'Take the last'],
  ['join', 'Join them as text'],
]

/** Further selected columns are what makes a row; without any all others do. */
const byOf = (selected: readonly string[], column: string): Pick<Pivot, 'by'> => {
  const by = selected.filter((name) => name !== column)
  return by.length > 0 && selected.includes(column) ? { by } : {}
}

/** Labels from a column of text, values of a number. */
export const pivotDrafts = (columns: readonly string[], schema: Schema, rank: number): StepDraft<Pivot>[] => {
  const labels =
    [...columns].reverse().find((name) => typeIn(schema, name) === 'text') ??
    columns.find((name) => typeIn(schema, name) !== 'decimal')
  const others = schema.map(({ name }) => name).filter((name) => name !== labels)
  // what is selected beside the labels is what stands in the cells
  const selected = columns.length > 1 && columns.length < schema.length ? columns.filter((name) => name !== labels) : []
  const column = numbersOf(selected, schema)[0] ?? selected[0] ?? numbersOf(others, schema)[0] ?? others[0]
  return labels === undefined || column === undefined
    ? []
    : [{ rank, params: { labels, values: [{ column, how: 'only' }], ...byOf(selected, column) } }]
}
