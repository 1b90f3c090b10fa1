import { stepKinds, writeColumn, type Schema, type Step, type StepKindName } from '@fabula/core'

/** What is selected: columns, a cell, or nothing (the table). */
export type Selection = { readonly kind: 'table' } | { readonly kind: 'columns'; readonly columns: readonly string[] } | { readonly kind: 'cell'; readonly column: string; readonly row: number; readonly value: string | null }

export type Verb = { readonly name: string; readonly words: readonly string[]; readonly key?: string; readonly step: Omit<Step, 'id'> }

const monthLike = /^(jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)/i
/** A name for what the gathered columns' names are. */
const labelFor = (columns: readonly string[]): string => (columns.every((name) => monthLike.test(name)) ? 'Month' : columns.every((name) => /^(19|20)\d\d$/.test(name)) ? 'Year' : 'Name')

const valueFor = (text: string | null, type: Schema[number]['type'] | undefined): unknown =>
  text === null ? null : type === 'integer' || type === 'decimal' ? Number(text) : type === 'boolean' ? text === 'true' : text

const of = (kind: StepKindName, params: Record<string, unknown>, name?: string, key?: string): Verb => ({
  name: name ?? stepKinds[kind].verb,
  words: [...stepKinds[kind].words, kind],
  step: { kind, ...params },
  ...(key ? { key } : {}),
})

const columnVerbs = (columns: readonly string[], schema: Schema): Verb[] => {
  const [first = ''] = columns
  const one = columns.length === 1
  const type = schema.find(({ name }) => name === first)?.type
  const numbers = columns.filter((name) => ['integer', 'decimal'].includes(schema.find((field) => field.name === name)?.type ?? ''))
  return [
    of('filter', { where: { column: first, op: 'is-filled' } }, undefined, 'F'),
    ...(one ? [of('rename', { names: { [first]: first } }, undefined, 'F2')] : []),
    of('cast', { columns, type: type === 'text' ? 'decimal' : 'text' }, one ? 'Change its type' : 'Change their type', 'T'),
    of('drop', { columns }, one ? 'Drop it' : 'Drop them', 'Del'),
    of('select', { columns }, one ? 'Keep only this column' : 'Keep only these columns'),
    of('move', { columns, to: 'first' }, 'Move to the front'),
    of('fill', { columns, direction: 'down' }),
    of('fill-empty', { columns, with: type === 'integer' || type === 'decimal' ? 0 : type === 'boolean' ? false : type === 'text' ? 'unknown' : '2031-01-01' }),
    ...(type === 'text' ? [of('clean-text', { columns, do: ['trim', 'collapse-spaces'] })] : []),
    ...(one ? [of('duplicate', { column: first, as: first, after: first })] : [of('combine', { columns, as: columns.join(' '), with: ' ', keep: true })]),
    of('number', { as: 'Number', within: columns }, one ? 'Number the rows of each value' : 'Number the rows of each combination'),
    ...(type === 'text' ? [of('replace', { columns, find: ' ', with: '', match: 'part' })] : []),
    of('sort', { by: columns.map((column) => ({ column })) }, `Sort by ${one ? 'it' : 'them'}`, 'S'),
    of('distinct', { columns }, one ? 'Keep one row of each value' : 'Keep one row of each combination'),
    ...(one ? [of('derive', { as: `${first} 2`, formula: writeColumn(first), after: first }, 'Compute a column from it')] : [of('unpivot', { name: labelFor(columns), groups: [{ columns, value: 'Value' }] })]),
    of('summarise', numbers.length === columns.length ? { by: [], measures: numbers.map((column) => ({ how: 'sum', column, as: `Total ${column}` })) } : { by: columns.filter((name) => !numbers.includes(name)), measures: [{ how: 'count', as: 'Rows' }, ...numbers.map((column) => ({ how: 'sum', column, as: `Total ${column}` }))] }, numbers.length === columns.length ? 'Total' : `Summarise by ${one ? 'it' : 'them'}`),
  ]
}

/** The verbs for a selection, as drafts of the sentences they begin. */
export const verbsFor = (selection: Selection, schema: Schema): Verb[] => {
  if (schema.length === 0) return []
  if (selection.kind === 'columns') return columnVerbs(selection.columns, schema)
  if (selection.kind === 'cell') {
    const { column, value } = selection
    const type = schema.find(({ name }) => name === column)?.type
    const where = value === null ? { column, op: 'is-empty' } : { column, op: 'is', value: valueFor(value, type) }
    const shown = value === null ? 'it is empty' : `it is “${value.length > 22 ? `${value.slice(0, 20)}…` : value}”`
    return [
      of('filter', { where }, `Keep rows where ${shown}`),
      of('filter', { where, keep: false }, `Drop rows where ${shown}`),
      ...(value !== null && type !== 'text' && type !== 'boolean' ? [of('filter', { where: { column, op: 'at-least', value: valueFor(value, type) } }, 'Keep rows from this value up'), of('filter', { where: { column, op: 'at-most', value: valueFor(value, type) } }, 'Keep rows up to this value')] : []),
      ...(value === null ? [] : [of('replace', { columns: [column], find: valueFor(value, type), with: valueFor(value, type) }, 'Replace it…'), of('blank', { columns: [column], values: [valueFor(value, type)] }, 'Make it empty')]),
      ...columnVerbs([column], schema).slice(1),
    ]
  }
  const [first = { name: '' }] = schema
  const all = schema.map(({ name }) => name)
  const numbers = schema.filter(({ type }) => type === 'integer' || type === 'decimal').map(({ name }) => name)
  const keys = all.filter((name) => !numbers.includes(name))
  return [
    of('filter', { where: { column: first.name, op: 'is-filled' } }),
    of('derive', { as: 'New column', formula: '1' }),
    of('summarise', { by: keys.slice(0, 1), measures: [{ how: 'count', as: 'Rows' }] }),
    of('sort', { by: [{ column: first.name }] }),
    of('slice', { first: 100 }),
    of('distinct', {}, 'Keep one row of those alike'),
    of('number', { as: 'Number' }),
    of('unpivot', { name: labelFor(numbers.length > 1 ? numbers : all.slice(1)), groups: [{ columns: numbers.length > 1 ? numbers : all.slice(-1), value: 'Value' }] }),
    of('drop', { columns: [all.at(-1) ?? ''] }, 'Drop columns'),
    of('select', { columns: all }, 'Keep only some columns'),
    of('rename', { change: { trim: true } }, 'Tidy the names of columns'),
    of('cast', { columns: [first.name], type: 'text' }, 'Change types'),
    of('move', { columns: [all.at(-1) ?? ''], to: 'first' }, 'Move columns'),
  ]
}
