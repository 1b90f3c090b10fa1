import type { NewStep } from '@fabula/core'
import { anyOr, ofKind, selectedColumns, withColumn, writes, type NamedVerb } from './named-verb.ts'

const readAs = (name: string, words: readonly string[], type: 'decimal' | 'date' | 'text' | 'boolean'): NamedVerb => ({
  name,
  words,
  act: (context) =>
    withColumn(context, anyOr(type === 'text' ? 'number' : 'text', context), (column) => {
      const selected = selectedColumns(context)
      return writes({ kind: 'cast', columns: selected.length > 0 ? [...selected] : [column], type })
    }),
})

/** Verbs that keep, drop, name, move and retype columns. */
export const columnVerbs: readonly NamedVerb[] = [
  {
    name: 'Rename a column',
    words: ['rename', 'rename column', 'change name', 'header name', 'call it', 'relabel', 'label'],
    act: (context) =>
      withColumn(context, 'any', (column) => ({
        key: 'F2',
        ...writes({ kind: 'rename', names: { [column]: column } }),
      })),
  },
  {
    name: 'Drop columns',
    words: [
      'drop column',
      'drop columns',
      'remove column',
      'remove columns',
      'delete column',
      'delete columns',
      'hide column',
    ],
    act: (context) => ofKind(context, 'drop'),
  },
  {
    name: 'Keep only these columns',
    words: ['keep columns', 'select columns', 'choose columns', 'select', 'remove other columns', 'only these columns'],
    act: (context) => ofKind(context, 'select'),
  },
  {
    name: 'Move columns',
    words: ['move', 'move column', 'reorder columns', 'reorder', 'move to front', 'column order', 'rearrange columns'],
    act: (context) => ofKind(context, 'move'),
  },
  {
    name: 'Copy a column',
    words: ['copy column', 'duplicate column', 'clone column', 'duplicate'],
    act: (context) =>
      withColumn(context, 'any', (column) =>
        writes({ kind: 'duplicate', column, as: `${column} copy`, after: column }),
      ),
  },
  {
    name: 'Change its type',
    words: ['change type', 'type', 'cast', 'convert', 'data type', 'parse', 'format'],
    act: (context) => ofKind(context, 'cast'),
  },
  readAs(
    'Read it as a number',
    ['text to number', 'to number', 'as number', 'parse number', 'convert to number'],
    'decimal',
  ),
  readAs('Read it as a date', ['text to date', 'to date', 'as date', 'parse date', 'convert to date'], 'date'),
  readAs('Read it as text', ['number to text', 'to text', 'as text', 'convert to text', 'to string'], 'text'),
  readAs('Read it as yes or no', ['true false', 'to boolean', 'boolean', 'yes or no'], 'boolean'),
  {
    name: 'Tidy the names of columns',
    words: ['clean column names', 'tidy names', 'clean headers', 'rename all', 'trim names'],
    act: () => writes({ kind: 'rename', change: { trim: true } }),
  },
  {
    name: 'Take the names from a row',
    words: ['first row as header', 'promote headers', 'header row', 'header', 'names from row', 'use first row'],
    act: (context) => ofKind(context, 'header'),
  },
  {
    name: 'Put the names into the first row',
    words: ['demote headers', 'names to row', 'header to row', 'headers as first row'],
    act: () => writes({ kind: 'header', row: 'none' } as NewStep),
  },
]
