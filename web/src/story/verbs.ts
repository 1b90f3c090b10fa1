import {
  crosstabSteps,
  stepKinds,
  takesFor,
  unpivotFor,
  takeWords,
  writeColumn,
  type Schema,
  type StepKindName,
  type NewStep,
  type ParamsOf,
  type Condition,
} from '@fabula/core'
import { builders } from './builders.ts'
import { measuresOf } from './group-builders.ts'
import { fresh } from './builder.ts'

/** What is selected: columns, a cell, a part of its text, several values of a column, or nothing (the table). */
export type Selection =
  | { readonly kind: 'table' }
  | { readonly kind: 'columns'; readonly columns: readonly string[] }
  | { readonly kind: 'cell'; readonly column: string; readonly row: number; readonly value: string | null }
  | {
      readonly kind: 'part'
      readonly column: string
      readonly row: number
      readonly value: string
      readonly from: number
      readonly to: number
    }
  | { readonly kind: 'values'; readonly column: string; readonly values: readonly string[] }

/** A verb begins a sentence, or a builder that writes one. */
export type Verb = {
  readonly name: string
  readonly words: readonly string[]
  readonly key?: string
  /** The sentence that it writes; absent where it draws or asks first. */
  readonly step?: NewStep
  /** What is missing before it can begin. */ readonly needs?: string
  /** Several sentences at once. */ readonly steps?: readonly NewStep[]
  /** Shows the selection as a chart. */ readonly draw?: readonly string[]
  readonly builder?: { readonly id: string; readonly columns: readonly string[] }
}

const valueFor = (text: string, type: Schema[number]['type'] | undefined): string | number | boolean => {
  if (type === 'integer' || type === 'decimal') return Number(text)
  if (type === 'boolean') return text === 'true'
  return text
}

const of = <K extends StepKindName>(kind: K, params: ParamsOf<K>, name?: string, key?: string): Verb => ({
  name: name ?? stepKinds[kind].verb,
  words: [...stepKinds[kind].words, kind],
  // a kind and the params of that kind
  step: { kind, ...(params as object) } as NewStep,
  ...(key ? { key } : {}),
})

const shapeVerbs = (columns: readonly string[], schema: Schema): Verb[] => {
  if (columns.length === 0) return []
  const { kind: _kind, ...params } = unpivotFor(columns, schema)
  const two = crosstabSteps(columns, schema)
  const [first] = two ?? []
  return [
    of('unpivot', params),
    ...(two && first
      ? [
          {
            name: 'Tidy a crosstab with two lines of names',
            words: ['crosstab', 'two headers', 'unpivot', 'year above measure', 'tidy', 'multi level header'],
            step: first as NewStep,
            steps: two as readonly NewStep[],
          },
        ]
      : []),
  ]
}

/** Labels from a column of text, the values of a number. */
const pivotVerbs = (columns: readonly string[], schema: Schema): Verb[] => {
  const typeIn = (name: string) => schema.find((field) => field.name === name)?.type
  const label =
    [...columns].reverse().find((name) => typeIn(name) === 'text') ?? columns.find((name) => typeIn(name) !== 'decimal')
  const value =
    columns.find((name) => name !== label && (typeIn(name) === 'decimal' || typeIn(name) === 'integer')) ??
    schema.find(({ name, type }) => name !== label && (type === 'decimal' || type === 'integer'))?.name ??
    schema.find(({ name }) => name !== label)?.name
  return label === undefined || value === undefined
    ? []
    : [of('pivot', { labels: label, values: [{ column: value, how: 'only' }] })]
}

type TableHere = { readonly id: string; readonly name: string }
export const unionFilesId = 'lay-files'
/** Sentences about another table; without one they say what is needed first. */
const tableVerbs = (columns: readonly string[], schema: Schema, [other]: readonly TableHere[]): Verb[] => {
  const key = columns[0] ?? schema[0]?.name ?? ''
  const join = of('join', { with: other?.id ?? '', how: 'left', on: [{ left: key, right: key }] })
  const union = of('union', { with: [other?.id ?? ''], origin: 'Table' })
  if (other) return columns.length > 0 ? [join] : [join, union]
  const needs =
    'There is no other table in this story yet. Below it, under “Another table”, one comes from a file, from elsewhere, from this one, or is typed in.'
  return [{ ...join, needs }, ...(columns.length > 0 ? [] : [{ ...union, builder: { id: unionFilesId, columns: [] } }])]
}

const builderVerbs = (columns: readonly string[], schema: Schema): Verb[] =>
  builders
    .filter((builder) => builder.fits(columns, schema))
    .map(({ id, verb, words }) => ({ name: verb, words, builder: { id, columns } }))

/** What empty cells are filled with at first; a list has no such value. */
const fillings: Readonly<Partial<Record<Schema[number]['type'], string | number | boolean>>> = {
  text: 'unknown',
  integer: 0,
  decimal: 0,
  boolean: false,
  date: '2031-01-01',
  datetime: '2031-01-01T00:00:00',
  time: '00:00:00',
}
// eslint-disable-next-line complexity, max-lines-per-function -- the list of verbs in the order they are shown
const columnVerbs = (columns: readonly string[], schema: Schema, tables: readonly TableHere[]): Verb[] => {
  const [first = ''] = columns
  const one = columns.length === 1
  const type = schema.find(({ name }) => name === first)?.type
  const typeIn = (name: string) => schema.find((field) => field.name === name)?.type
  const numbers = columns.filter((name) => ['integer', 'decimal'].includes(typeIn(name) ?? ''))
  const texts = columns.filter((name) => typeIn(name) === 'text')
  // one value can only fill columns of one type
  const alike = columns.filter((name) => typeIn(name) === type)
  const filling = type && fillings[type]
  return [
    of('filter', { where: { column: first, op: 'is-filled' } }, undefined, 'F'),
    ...(one ? [of('rename', { names: { [first]: first } }, undefined, 'F2')] : []),
    of(
      'cast',
      { columns, type: texts.length === columns.length ? 'decimal' : 'text' },
      one ? 'Change its type' : 'Change their type',
      'T',
    ),
    ...(columns.length < schema.length ? [of('drop', { columns }, one ? 'Drop it' : 'Drop them', 'Del')] : []),
    of('select', { columns }, one ? 'Keep only this column' : 'Keep only these columns'),
    of('move', { columns, to: 'first' }, 'Move to the front'),
    of('fill', { columns, direction: 'down' }),
    ...(filling === undefined ? [] : [of('fill-empty', { columns: alike, with: filling })]),
    {
      name: one ? 'Draw it…' : 'Draw them…',
      words: [
        'chart',
        'graph',
        'plot',
        'bar',
        'line',
        'pie',
        'picture',
        'diagram',
        'visualise',
        'histogram',
        'scatter',
      ],
      draw: columns,
    },
    ...builderVerbs(columns, schema),
    of('cases', {
      as: fresh(one ? `${first} kind` : 'Kind', schema),
      cases: [{ when: { column: first, op: 'is-filled' }, then: 'yes' }],
      otherwise: 'no',
      after: columns.at(-1) ?? first,
    }),
    ...(one && type === 'text'
      ? [
          of('unify', { column: first, groups: [], judged: 'characters' }),
          of('split', { column: first, by: { delimiter: ';' }, into: { columns: 'found' } }),
          of('extract', { column: first, as: `${first} part`, take: { before: '-' }, after: first }),
        ]
      : []),
    ...(texts.length > 0 ? [of('clean-text', { columns: texts, do: ['trim', 'collapse-spaces'] })] : []),
    ...(one
      ? [of('duplicate', { column: first, as: first, after: first })]
      : [of('combine', { columns, as: columns.join(' '), with: ' ', keep: true })]),
    of(
      'number',
      { as: 'Number', within: columns },
      one ? 'Number the rows of each value' : 'Number the rows of each combination',
    ),
    ...(texts.length > 0 ? [of('replace', { columns: texts, find: ' ', with: '', match: 'part' })] : []),
    ...(type === 'list' && one ? [of('unroll', { column: first })] : []),
    ...pivotVerbs(columns, schema),
    ...tableVerbs(columns, schema, tables),
    of(
      'check',
      { unique: columns, else: 'warn', say: '' },
      one ? 'Check that no value repeats' : 'Check that no combination repeats',
    ),
    ...(one
      ? [
          of(
            'check',
            { every: { column: first, op: 'is-filled' }, else: 'warn', say: '' },
            'Check that it is always filled',
          ),
        ]
      : []),
    ...(numbers[0] !== undefined
      ? [of('check', { total: { column: numbers[0], equals: 0 }, else: 'warn', say: '' }, 'Check its total')]
      : []),
    of('sort', { by: columns.map((column) => ({ column })) }, `Sort by ${one ? 'it' : 'them'}`, 'S'),
    of('distinct', { columns }, one ? 'Keep one row of each value' : 'Keep one row of each combination'),
    ...(one
      ? [
          of(
            'derive',
            { as: fresh(first, schema), formula: writeColumn(first), after: first },
            'Compute a column from it',
          ),
        ]
      : shapeVerbs(columns, schema)),
    of(
      'summarise',
      numbers.length === columns.length
        ? { by: [], measures: numbers.map((column) => ({ how: 'sum' as const, column, as: `Total ${column}` })) }
        : {
            by: columns.filter((name) => !numbers.includes(name)),
            measures: measuresOf(
              numbers,
              columns.filter((name) => !numbers.includes(name)),
            ),
          },
      numbers.length === columns.length ? 'Total' : `Summarise by ${one ? 'it' : 'them'}`,
    ),
  ]
}

const short = (text: string): string => (text.length > 18 ? `${text.slice(0, 16)}…` : text)

/** What can be done with a selected part of a text: the same part taken from every row, or the text split there. */
const partVerbs = ({ column, value, from, to }: Extract<Selection, { kind: 'part' }>): Verb[] => {
  const part = value.slice(from, to)
  const takes = takesFor(value, from, to).map(({ take, occurrence }) =>
    of(
      'extract',
      { column, as: `${column} part`, take, ...(occurrence ? { occurrence } : {}), after: column },
      `Take ${takeWords(take, occurrence ?? 'first')}`,
    ),
  )
  const seen = new Set<string>()
  return [
    ...takes.filter(({ name }) => !seen.has(name) && seen.add(name)),
    of('split', { column, by: { delimiter: part }, into: { columns: 'found' } }, `Split at every “${short(part)}”`),
    of('split', { column, by: { delimiter: part }, into: 'rows' }, `Split at “${short(part)}” into rows`),
    of(
      'split',
      { column, by: { delimiter: part }, at: 'first', into: { columns: [`${column} 1`, `${column} 2`] } },
      'Split here, once',
    ),
    of('replace', { columns: [column], find: part, with: null, match: 'part' }, `Take “${short(part)}” out everywhere`),
    of('replace', { columns: [column], find: part, with: part, match: 'part' }, `Replace “${short(part)}”…`),
    of('filter', { where: { column, op: 'contains', value: part } }, `Keep rows that contain “${short(part)}”`),
    of(
      'filter',
      { where: { column, op: 'contains', value: part }, keep: false },
      `Drop rows that contain “${short(part)}”`,
    ),
  ]
}

/** What can be done with a list: rows are told apart by what their lists hold. */
const itemVerbs = (column: string, list: string): Verb[] =>
  [...new Set(JSON.parse(list) as (string | number | boolean | null)[])]
    .filter((item) => item !== null)
    .slice(0, 3)
    .flatMap((item) => {
      const where = {
        formula: `LISTCONTAINS(${writeColumn(column)}; ${typeof item === 'string' ? `"${item.replaceAll('"', '""')}"` : String(item).toUpperCase()})`,
      }
      return [
        of('filter', { where }, `Keep rows whose list holds “${short(String(item))}”`),
        of('filter', { where, keep: false }, `Drop rows whose list holds “${short(String(item))}”`),
      ]
    })

/** What can be done with several values of a column. */
const valuesVerbs = ({ column, values }: Extract<Selection, { kind: 'values' }>, schema: Schema): Verb[] => {
  const type = schema.find(({ name }) => name === column)?.type
  const typed = values.map((value) => valueFor(value, type))
  const where: Condition = { column, op: 'is-one-of', values: typed }
  return [
    ...(type === 'text'
      ? [
          of(
            'unify',
            { column, groups: [{ into: values[0] ?? '', from: values }], judged: 'hand' },
            'Call all of these…',
          ),
        ]
      : []),
    of('filter', { where, keep: false }, values.length === 1 ? 'Drop the rows with it' : 'Drop these rows'),
    of('filter', { where }, values.length === 1 ? 'Keep only the rows with it' : 'Keep only these rows'),
    of('blank', { columns: [column], values: typed }, 'Make them empty'),
    of(
      'cases',
      { as: fresh(`${column} kind`, schema), cases: [{ when: where, then: true }], otherwise: false, after: column },
      'A yes-or-no column for them',
    ),
  ]
}

/** The verbs for a selection, as drafts of the sentences they begin. */
// eslint-disable-next-line complexity, max-lines-per-function -- the list of verbs in the order they are shown
export const verbsFor = (selection: Selection, schema: Schema, tables: readonly TableHere[] = []): Verb[] => {
  if (schema.length === 0) return []
  if (selection.kind === 'columns') return columnVerbs(selection.columns, schema, tables)
  if (selection.kind === 'part') return partVerbs(selection)
  if (selection.kind === 'values') return valuesVerbs(selection, schema)
  if (selection.kind === 'cell') {
    const { column, value } = selection
    const type = schema.find(({ name }) => name === column)?.type
    if (type === 'list' && value !== null)
      return [...itemVerbs(column, value), ...columnVerbs([column], schema, tables).slice(1)]
    const where: Condition =
      value === null ? { column, op: 'is-empty' } : { column, op: 'is', value: valueFor(value, type) }
    const shown = value === null ? 'it is empty' : `it is “${value.length > 22 ? `${value.slice(0, 20)}…` : value}”`
    return [
      of('filter', { where }, `Keep rows where ${shown}`),
      of('filter', { where, keep: false }, `Drop rows where ${shown}`),
      ...(value !== null && type !== 'text' && type !== 'boolean'
        ? [
            of(
              'filter',
              { where: { column, op: 'at-least', value: valueFor(value, type) } },
              'Keep rows from this value up',
            ),
            of(
              'filter',
              { where: { column, op: 'at-most', value: valueFor(value, type) } },
              'Keep rows up to this value',
            ),
          ]
        : []),
      ...(value === null
        ? []
        : [
            of(
              'replace',
              { columns: [column], find: valueFor(value, type), with: valueFor(value, type) },
              'Replace it…',
            ),
            of('blank', { columns: [column], values: [valueFor(value, type)] }, 'Make it empty'),
            of(
              'check',
              { every: { column, op: 'is-not', value: valueFor(value, type) }, else: 'warn', say: '' },
              'Check that no row holds it',
            ),
          ]),
      ...columnVerbs([column], schema, tables).slice(1),
    ]
  }
  const [first = { name: '' }] = schema
  const all = schema.map(({ name }) => name)
  const numbers = schema.filter(({ type }) => type === 'integer' || type === 'decimal').map(({ name }) => name)
  const keys = all.filter((name) => !numbers.includes(name))
  return [
    of('filter', { where: { column: first.name, op: 'is-filled' } }),
    of('derive', { as: fresh('New column', schema), formula: '1' }),
    of('summarise', { by: keys.slice(0, 1), measures: [{ how: 'count', as: 'Rows' }] }),
    of('sort', { by: [{ column: first.name }] }),
    of('slice', { first: 100 }),
    of('distinct', {}, 'Keep one row of those alike'),
    of('number', { as: 'Number' }),
    of('cases', {
      as: fresh('Kind', schema),
      cases: [{ when: { column: first.name, op: 'is-filled' }, then: 'yes' }],
      otherwise: 'no',
    }),
    of('header', { row: 1 }),
    of('header', { row: 'none' }, 'Put the names into the first row'),
    ...shapeVerbs(numbers.length > 1 ? numbers : all.slice(1), schema),
    ...pivotVerbs(all, schema),
    of('transpose', keys[0] === undefined ? {} : { names: keys[0] }),
    of('window', { by: keys.slice(0, 1), measures: [{ how: 'count', as: 'Rows of it' }] }),
    of('check', { rows: { 'at-least': 1 }, else: 'warn', say: '' }),
    ...tableVerbs([], schema, tables),
    of('drop', { columns: [all.at(-1) ?? ''] }, 'Drop columns'),
    of('select', { columns: all }, 'Keep only some columns'),
    of('rename', { change: { trim: true } }, 'Tidy the names of columns'),
    of('cast', { columns: [first.name], type: 'text' }, 'Change types'),
    of('move', { columns: [all.at(-1) ?? ''], to: 'first' }, 'Move columns'),
  ]
}
