import type { NewStep } from '@fabula/core'
import { asks, columnsOf, ofKind, selectedColumns, withColumn, writes, type NamedVerb } from './named-verb.ts'

const matched = (name: string, words: readonly string[], how: string): NamedVerb => ({
  name,
  words,
  act: (context) => ofKind(context, 'join', (step) => ({ ...step, how }) as NewStep),
})
const commanded = (
  name: string,
  words: readonly string[],
  command: 'undo' | 'redo' | 'download' | 'replay' | 'hand over' | 'keys' | 'find' | 'map' | 'reconcile',
): NamedVerb => ({ name, words, act: () => ({ command }) })

/** Verbs with other tables, checks, formulas and pictures. */
export const tableVerbs: readonly NamedVerb[] = [
  matched(
    'Match with another table…',
    ['join', 'lookup', 'vlookup', 'xlookup', 'merge', 'left join', 'bring columns', 'look up', 'match', 'merge tables'],
    'left',
  ),
  matched(
    'Keep only rows that match another table',
    ['inner join', 'rows in both', 'semi join', 'matching rows'],
    'inner',
  ),
  matched(
    'Keep only rows that match no row of another table',
    ['anti join', 'rows not in', 'unmatched rows', 'missing in other table'],
    'left-only',
  ),
  matched('Match and keep all rows of both', ['full join', 'outer join', 'full outer join'], 'full'),
  {
    name: 'Lay other tables underneath…',
    words: [
      'union',
      'append',
      'stack',
      'stack tables',
      'append rows',
      'add rows',
      'combine files',
      'merge files',
      'under one another',
    ],
    act: (context) => ofKind(context, 'union'),
  },
  {
    name: 'Check that…',
    words: ['check', 'validate', 'test', 'assert', 'data quality', 'rule', 'must be'],
    act: (context) => ofKind(context, 'check'),
  },
  {
    name: 'Check that no value repeats',
    words: ['check unique', 'check duplicates', 'find duplicates', 'unique key'],
    act: (context) =>
      withColumn(context, 'any', (column) => {
        const selected = selectedColumns(context)
        return writes({
          kind: 'check',
          unique: selected.length > 0 ? [...selected] : [column],
          else: 'warn',
          say: '',
        } as NewStep)
      }),
  },
  {
    name: 'Check that it is always filled',
    words: ['check filled', 'not null', 'required', 'no empty cells'],
    act: (context) =>
      withColumn(context, 'any', (column) =>
        writes({ kind: 'check', every: { column, op: 'is-filled' }, else: 'warn', say: '' } as NewStep),
      ),
  },
  {
    name: 'Compute a column',
    words: [
      'formula',
      'calculate',
      'compute',
      'calculated column',
      'new column',
      'add column',
      'custom column',
      'expression',
      'derive',
    ],
    act: (context) => ofKind(context, 'derive'),
  },
  {
    name: 'Write a value by cases…',
    words: ['if', 'if then else', 'case when', 'conditional column', 'if else', 'cases', 'flag', 'categorise'],
    act: (context) => ofKind(context, 'cases'),
  },
  {
    name: 'Write the same in every row…',
    words: ['constant', 'same value', 'tag', 'constant column', 'literal'],
    act: (context) => withColumn(context, 'any', (column) => asks('tag', [column])),
  },
  {
    name: 'Make yes-or-no columns of its values…',
    words: ['dummy', 'one hot', 'indicator', 'dummy variables', 'yes no columns', 'tick boxes'],
    act: (context) => withColumn(context, 'text', (column) => asks('indicators', [column])),
  },
  {
    name: 'Draw it…',
    words: ['chart', 'graph', 'plot', 'bar chart', 'line chart', 'picture', 'visualise', 'draw', 'pie', 'scatter'],
    act: (context) => ({
      draw: selectedColumns(context).length > 0 ? selectedColumns(context) : columnsOf(context, 'any').slice(0, 2),
    }),
  },
]

/** What is done with the story as a whole. */
export const commandVerbs: readonly NamedVerb[] = [
  commanded('Undo', ['undo', 'go back', 'revert', 'oops'], 'undo'),
  commanded('Redo', ['redo', 'again'], 'redo'),
  commanded('Download this table', ['download', 'export', 'save as csv', 'save', 'to excel', 'export csv'], 'download'),
  commanded('Replay on new exports', ['replay', 'refresh', 'rerun', 'run again', 'new files', 'next month'], 'replay'),
  commanded(
    'Hand over',
    ['share the story', 'hand over', 'script', 'python', 'sql', 'send to colleague', 'code'],
    'hand over',
  ),
  commanded('Find a column or a value', ['find', 'search', 'find value', 'search value', 'find column'], 'find'),
  commanded('See how the tables hang together', ['map', 'lineage', 'diagram of tables', 'dependencies'], 'map'),
  commanded(
    'Reconcile two tables',
    ['compare tables', 'reconcile', 'difference between tables', 'compare', 'what changed'],
    'reconcile',
  ),
  commanded('See all keys', ['keys', 'shortcuts', 'keyboard', 'help', 'hotkeys'], 'keys'),
]
