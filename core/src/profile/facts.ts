import { asCoded, cellAt, isEmptyAt, isNumber, lengthOf, type Column, type ColumnType } from '../table/column.ts'
import { groupBy } from '../table/group.ts'
import { ints } from '../table/memory.ts'
import { numberReader, plainLocale } from '../table/number.ts'
import { convert, textOfCell, textReader } from '../table/reading.ts'
import { lower, trim } from '../table/text.ts'
import { listed, quoted } from '../words.ts'

export type Bar = { readonly label: string; readonly count: number }
/** A finding in a plain sentence, with the step that mends it. */
export type Finding = { readonly sentence: string; readonly verb: string; readonly step: Readonly<Record<string, unknown>> }
export type Facts = {
  readonly type: ColumnType
  readonly rows: number
  readonly filled: number
  readonly distinct: number
  readonly least?: string | undefined
  readonly greatest?: string | undefined
  readonly mean?: number | undefined
  readonly longest?: number | undefined
  readonly common: readonly Bar[]
  /** The distribution: equal spans of numbers and dates, or the commonest values. */
  readonly bars: readonly Bar[]
  readonly findings: readonly Finding[]
}

const show = (column: Column, row: number): string => {
  const cell = cellAt(column, row)
  return cell === null ? '' : textOfCell(column.type, cell)
}

const spans = (column: Column, low: number, high: number, count = 12): Bar[] => {
  if (column.type === 'text' || column.type === 'boolean') return []
  const counts = ints(count)
  const width = (high - low) / count || 1
  for (let i = 0; i < column.values.length; i++) {
    if (isEmptyAt(column, i)) continue
    const at = Math.min(count - 1, Math.floor(((column.values[i] as number) - low) / width))
    counts[at] = (counts[at] as number) + 1
  }
  return Array.from(counts, (n, i) => {
    const from = low + i * width
    return { label: textOfCell(column.type === 'integer' ? 'decimal' : column.type, column.type === 'date' ? Math.round(from) : from), count: n }
  })
}

const dateForms = ['d/M/yyyy', 'M/d/yyyy', 'd.M.yyyy', 'yyyy-MM-dd', 'd MMM yyyy', 'd-M-yyyy', 'yyyy/M/d', 'd/M/yy']

/** Which date forms the words of a text column are written in; day and month are told apart by the days above 12. */
const datesIn = (words: readonly string[]): readonly string[] | undefined => {
  const american = textReader({ type: 'date', formats: ['M/d/yyyy'] })
  const european = textReader({ type: 'date', formats: ['d/M/yyyy'] })
  const monthFirst = words.some((word) => american(word) !== null && european(word) === null)
  const left = new Set(words)
  const used: string[] = []
  for (const format of dateForms) {
    if (format === (monthFirst ? 'd/M/yyyy' : 'M/d/yyyy')) continue
    const read = textReader({ type: 'date', formats: [format] })
    const fits = [...left].filter((word) => read(word) !== null)
    if (fits.length === 0) continue
    used.push(format)
    for (const word of fits) left.delete(word)
  }
  return used.length > 0 && left.size <= words.length * 0.05 ? used : undefined
}

const textFindings = (name: string, words: readonly string[]): Finding[] => {
  const findings: Finding[] = []
  const sample = words.slice(0, 3000)
  if (sample.length === 0) return findings
  const trimmed = sample.filter((word) => trim(word) !== word)
  if (trimmed.length > 0) findings.push({ sentence: `${trimmed.length} of its values have spaces at the ends, such as ${quoted(trimmed[0] as string)}.`, verb: 'Take the spaces off', step: { kind: 'derive', as: name, formula: `TRIM('${name.replaceAll("'", "''")}')` } })
  const dates = datesIn(sample.map(trim))
  if (dates) findings.push({ sentence: `It holds dates, written ${listed(dates, 'or')}.`, verb: 'Read as a date', step: { kind: 'cast', columns: [name], type: 'date', formats: dates } })
  else {
    const read = numberReader(plainLocale)
    const numbers = sample.filter((word) => read(word) !== null)
    if (numbers.length >= sample.length * 0.9) {
      const odd = sample.find((word) => read(word) === null)
      findings.push({ sentence: `It holds numbers written as text, such as ${quoted(numbers.find((word) => /[^0-9]/.test(word)) ?? (numbers[0] as string))}${odd === undefined ? '' : `, and ${sample.length - numbers.length} that are none, such as ${quoted(odd)}`}.`, verb: 'Read as a number', step: { kind: 'cast', columns: [name], type: 'decimal' } })
    }
  }
  const alike = new Map<string, string[]>()
  for (const word of sample) {
    const key = lower(trim(word)).replace(/[\s\-_.]+/g, '')
    alike.set(key, [...(alike.get(key) ?? []), word])
  }
  const twins = [...alike.values()].filter((group) => new Set(group.map(trim)).size > 1)
  const [first] = twins
  if (first && trimmed.length === 0 && !dates) findings.push({ sentence: `${twins.length === 1 ? 'Some values look' : `${twins.length} groups of values look`} alike: ${listed(first.slice(0, 3).map(quoted))}.`, verb: 'See these rows', step: { kind: 'filter', where: { column: name, op: 'is-one-of', values: first } } })
  return findings
}

/** What a column holds, over all its rows. */
export const factsOf = (name: string, column: Column): Facts => {
  const rows = lengthOf(column)
  const groups = groupBy([column], rows)
  const counts = ints(groups.count)
  for (let i = 0; i < rows; i++) counts[groups.ids[i] as number] = (counts[groups.ids[i] as number] as number) + 1
  const present = Array.from(groups.first, (row, id) => ({ row, count: counts[id] as number })).filter(({ row }) => !isEmptyAt(column, row))
  const filled = present.reduce((sum, { count }) => sum + count, 0)
  const common = [...present].sort((a, b) => b.count - a.count || a.row - b.row).slice(0, 8).map(({ row, count }) => ({ label: show(column, row), count }))
  const base = { type: column.type, rows, filled, distinct: present.length, common }
  if (column.type === 'text') {
    const words = (column.form === 'coded' ? present.map(({ row }) => cellAt(column, row) as string) : present.slice(0, 5000).map(({ row }) => cellAt(column, row) as string))
    return { ...base, longest: words.reduce((most, word) => Math.max(most, word.length), 0), bars: common, findings: textFindings(name, words) }
  }
  if (column.type === 'boolean' || present.length === 0) return { ...base, bars: common, findings: [] }
  let low = Infinity
  let high = -Infinity
  let sum = 0
  for (const { row, count } of present) {
    const value = column.values[row] as number
    if (value < low) low = value
    if (value > high) high = value
    sum += value * count
  }
  return { ...base, least: textOfCell(column.type, low), greatest: textOfCell(column.type, high), mean: isNumber(column.type) ? sum / filled : undefined, bars: spans(column, low, high), findings: [] }
}

/** The commonest values of a column as text, for pickers. */
export const valuesOf = (column: Column, most: number): Bar[] => {
  const text = convert(column, { type: 'text' }).column
  if (text.type !== 'text') return []
  const { codes, words } = asCoded(text)
  const counts = ints(words.length)
  for (let i = 0; i < codes.length; i++) counts[codes[i] as number] = (counts[codes[i] as number] as number) + 1
  return words.map((label, code) => ({ label, count: counts[code] as number })).filter(({ label, count }) => label !== '' && count > 0).sort((a, b) => b.count - a.count).slice(0, most)
}
