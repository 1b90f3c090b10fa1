import type { NewStep } from '@fabula/core'
import { columnsOf, ofKind, withColumn, writes, type NamedVerb } from './named-verb.ts'

const largest = (column: string, descending: boolean): readonly NewStep[] => [
  { kind: 'sort', by: [{ column, ...(descending ? { descending } : {}) }] },
  { kind: 'slice', first: 10 },
]

/** Verbs that choose, order and number rows. */
export const rowVerbs: readonly NamedVerb[] = [
  {
    name: 'Keep rows where…',
    words: [
      'keep rows',
      'filter',
      'filter rows',
      'where',
      'only rows',
      'rows that',
      'select rows',
      'condition',
      'subset',
    ],
    act: (context) => ofKind(context, 'filter', (step) => ({ ...step, keep: true }) as NewStep),
  },
  {
    name: 'Drop rows where…',
    words: [
      'drop rows',
      'remove rows',
      'delete rows',
      'exclude rows',
      'filter out',
      'leave out rows',
      'exclude',
      'without',
    ],
    act: (context) => {
      const { selection } = context
      if (selection.kind === 'cell' && selection.value !== null)
        return ofKind(context, 'filter', (step) => ({ ...step, keep: false }) as NewStep)
      return withColumn(context, 'any', (column) =>
        writes({ kind: 'filter', where: { column, op: 'is-empty' }, keep: false }),
      )
    },
  },
  {
    name: 'Drop rows that are empty there',
    words: ['drop empty rows', 'remove blank rows', 'drop nulls', 'drop na', 'remove missing', 'remove empty rows'],
    act: (context) =>
      withColumn(context, 'any', (column) => writes({ kind: 'filter', where: { column, op: 'is-filled' } })),
  },
  {
    name: 'Sort the rows',
    words: [
      'sort',
      'order',
      'order by',
      'arrange',
      'ascending',
      'a to z',
      'smallest first',
      'oldest first',
      'alphabetical',
    ],
    act: (context) => ofKind(context, 'sort'),
  },
  {
    name: 'Sort the rows, largest first',
    words: [
      'descending',
      'z to a',
      'largest first',
      'newest first',
      'sort descending',
      'latest first',
      'reverse order',
    ],
    act: (context) => {
      const [number] = columnsOf(context, 'number')
      return withColumn(context, 'any', (column) =>
        writes({ kind: 'sort', by: [{ column: number ?? column, descending: true }] }),
      )
    },
  },
  {
    name: 'Keep the ten largest',
    words: ['top 10', 'top ten', 'top n', 'largest 10', 'best', 'highest'],
    act: (context) => withColumn(context, 'number', (column) => writes(...largest(column, true))),
  },
  {
    name: 'Keep the ten smallest',
    words: ['bottom 10', 'bottom ten', 'smallest 10', 'lowest', 'worst'],
    act: (context) => withColumn(context, 'number', (column) => writes(...largest(column, false))),
  },
  {
    name: 'Keep the first rows',
    words: ['first rows', 'head', 'limit', 'first n', 'slice'],
    act: () => writes({ kind: 'slice', first: 100 }),
  },
  {
    name: 'Keep the last rows',
    words: ['last rows', 'tail', 'last n'],
    act: () => writes({ kind: 'slice', last: 100 }),
  },
  {
    name: 'Skip the first rows',
    words: ['skip rows', 'skip', 'remove top rows', 'ignore first rows', 'offset'],
    act: () => writes({ kind: 'slice', skip: 1 }),
  },
  {
    name: 'Keep every n-th row',
    words: ['sample', 'every nth row', 'alternate rows', 'every second row', 'remove alternate rows'],
    act: () => writes({ kind: 'slice', every: 2 }),
  },
  {
    name: 'Keep one row of those alike',
    words: [
      'remove duplicates',
      'duplicates',
      'distinct',
      'unique',
      'deduplicate',
      'dedupe',
      'distinct rows',
      'unique rows',
    ],
    act: (context) => ofKind(context, 'distinct'),
  },
  {
    name: 'Number the rows',
    words: ['row number', 'number rows', 'index', 'id column', 'sequence', 'auto number', 'count up', 'serial number'],
    act: (context) => ofKind(context, 'number'),
  },
]
