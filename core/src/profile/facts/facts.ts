import { convert } from '../../reading/convert.ts'
import type { Condition } from '../../steps/shared/condition.ts'
import { civilFromDays, dayMs, daysFromCivil, formatDate } from '../../table/calendar.ts'
import { textOfCell } from '../../table/cell-text.ts'
import {
  asDictionary,
  isTextColumn,
  isNumber,
  textAt,
  type Column,
  type ColumnType,
  type TextColumn,
  type ValueColumn,
} from '../../table/column.ts'
import { kernels } from '../../kernels/kernels.ts'
import { int32s } from '../../kernels/memory.ts'
import type { DenseCodes } from '../../kernels/table-kernels.ts'
import { codesOf } from '../../table/codes.ts'
import { dateFormsIn, type DateForms, type WordCount } from '../../reading/date-forms.ts'
import { shapeCounts } from './shapes.ts'
import { valueRuns, type ValueRuns } from './value-runs.ts'
import { keyFinding, outlierFinding, textFindings, type ColumnFinding } from './findings.ts'

/** A value or span with how many rows hold it; `where` selects those rows. */
export type Bar = { readonly label: string; readonly count: number; readonly where?: Condition | undefined }
/** What a column holds, over all its rows. */
export type ColumnFacts = {
  readonly type: ColumnType
  readonly rows: number
  readonly filled: number
  readonly distinct: number
  readonly least?: string | undefined
  readonly greatest?: string | undefined
  readonly mean?: number | undefined
  readonly median?: string | undefined
  /** Sample deviation. */
  readonly deviation?: number | undefined
  /** The lower and upper quarter: half the values lie between. */
  readonly quarters?: readonly [string, string] | undefined
  readonly shortest?: number | undefined
  readonly longest?: number | undefined
  readonly common: readonly Bar[]
  readonly rare: readonly Bar[]
  /** Shapes of the text: A a large letter, a a small one, 9 a digit. */
  readonly patterns: readonly Bar[]
  /** The distribution: equal spans of numbers, days to years of dates, or the commonest values. */
  readonly bars: readonly Bar[]
  readonly findings: readonly ColumnFinding[]
  /** The forms of dates in a column of text. */
  readonly dates?: DateForms | undefined
  /** Of numbers: the value below which 0, 1, 2 … 100 in a hundred lie. */
  readonly percentiles?: readonly number[] | undefined
}

const mostSpans = 14

/** The least of 1, 2, 2.5 and 5 times a power of ten (of whole numbers at least 1) that parts a range into few enough spans. */
const roundWidth = (low: number, high: number, whole: boolean): number => {
  const rough = (high - low) / mostSpans
  const power = 10 ** Math.floor(Math.log10(rough || 1))
  const width =
    [1, 2, 2.5, 5, 10, 20]
      .map((n) => n * power)
      .find((one) => Math.floor(high / one) - Math.floor(low / one) < mostSpans) ?? power * 20
  return whole ? Math.max(1, Math.ceil(width)) : width
}
const minute = 60_000
const timeWidth = (low: number, high: number): number =>
  [1, 5, 15, 30, 60, 120]
    .map((n) => n * minute)
    .find((one) => Math.floor(high / one) - Math.floor(low / one) < mostSpans) ?? 120 * minute

/** Spans between round numbers, or round times of day; the lower end is in, the upper out. */
const numberSpans = (name: string, type: ColumnType, { values, counts: rows }: ValueRuns): Bar[] => {
  const low = values[0]!
  const high = values[values.length - 1]!
  const chooseWidth = () => {
    if (type === 'time') return timeWidth(low, high)
    if (low === high) return 1
    return roundWidth(low, high, type === 'integer')
  }
  const width = chooseWidth()
  const first = Math.floor(low / width)
  const counts = int32s(Math.floor(high / width) - first + 1)
  for (let i = 0; i < values.length; i++) counts[Math.floor(values[i]! / width) - first]! += rows[i]!
  const valueOf = (n: number): string | number =>
    type === 'time' ? textOfCell('time', Math.min(86_399_999, n * width)) : Number((n * width).toPrecision(12))
  const shown = (n: number): string =>
    type === 'time' ? String(valueOf(n)) : textOfCell('decimal', valueOf(n) as number)
  return Array.from(counts, (count, i) => {
    const n = first + i
    if (type === 'integer' && width === 1)
      return { label: shown(n), count, where: { column: name, op: 'is', value: valueOf(n) } }
    const upper: Condition =
      type === 'time' && (n + 1) * width > 86_399_999
        ? { column: name, op: 'at-most', value: '23:59:59.999' }
        : { column: name, op: 'less', value: valueOf(n + 1) }
    return {
      label: `${shown(n)} to ${shown(n + 1)}`,
      count,
      where: { all: [{ column: name, op: 'at-least', value: valueOf(n) }, upper] },
    }
  })
}

type Unit = 'day' | 'week' | 'month' | 'quarter' | 'year' | 'decade'
const unitFor = (days: number): Unit => {
  if (days <= 31) return 'day'
  if (days <= 200) return 'week'
  if (days <= 1200) return 'month'
  if (days <= 4000) return 'quarter'
  if (days <= 20_000) return 'year'
  return 'decade'
}
const monthNames = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']

/** The first day of the unit that a day is in, and the first of the next. */
const unitOf = (unit: Unit, day: number): { from: number; to: number; label: string } => {
  if (unit === 'day') return { from: day, to: day + 1, label: formatDate(day) }
  if (unit === 'week') {
    const monday = day - ((((day + 3) % 7) + 7) % 7)
    return { from: monday, to: monday + 7, label: `week of ${formatDate(monday)}` }
  }
  const { year, month } = civilFromDays(day)
  if (unit === 'month')
    return {
      from: daysFromCivil(year, month, 1),
      to: month === 12 ? daysFromCivil(year + 1, 1, 1) : daysFromCivil(year, month + 1, 1),
      label: `${monthNames[month - 1] ?? ''} ${year}`,
    }
  if (unit === 'quarter') {
    const first = month - ((month - 1) % 3)
    return {
      from: daysFromCivil(year, first, 1),
      to: first === 10 ? daysFromCivil(year + 1, 1, 1) : daysFromCivil(year, first + 3, 1),
      label: `${year} Q${(first + 2) / 3}`,
    }
  }
  const start = unit === 'year' ? year : year - (year % 10)
  return {
    from: daysFromCivil(start, 1, 1),
    to: daysFromCivil(start + (unit === 'year' ? 1 : 10), 1, 1),
    label: unit === 'year' ? String(year) : `${start}s`,
  }
}

const dateSpans = (name: string, type: 'date' | 'datetime', runs: ValueRuns): Bar[] => {
  const { values } = runs
  const dayOf = (value: number): number => (type === 'date' ? value : Math.floor(value / dayMs))
  const first = dayOf(values[0]!)
  const last = dayOf(values[values.length - 1]!)
  const unit = unitFor(last - first)
  const bars: Bar[] = []
  let counted = 0
  for (let span = unitOf(unit, first); span.from <= last; span = unitOf(unit, span.to)) {
    const before = counted
    counted = runs.below(type === 'date' ? span.to : span.to * dayMs)
    bars.push({
      label: span.label,
      count: counted - before,
      where: {
        all: [
          { column: name, op: 'at-least', value: formatDate(span.from) },
          { column: name, op: 'less', value: formatDate(span.to) },
        ],
      },
    })
  }
  return bars
}

/** A distinct value, as text and as a step writes it, with how many rows hold it. */
type CountedValue = { readonly label: string; readonly value: string | number | boolean; readonly count: number }

const keptRepeats = 200

/** Distinct values ranked while they go by: the commonest, the rarest, and those that stand more than once. */
class Ranking {
  distinct = 0
  readonly common: CountedValue[] = []
  readonly rare: CountedValue[] = []
  readonly repeats: CountedValue[] = []
  private readonly make: (key: number, count: number) => CountedValue
  constructor(make: (key: number, count: number) => CountedValue) {
    this.make = make
  }
  add(key: number, count: number): void {
    this.distinct++
    this.place(this.common, key, count, 8, (a, b) => a > b)
    this.place(this.rare, key, count, 4, (a, b) => a < b)
    if (count > 1 && this.repeats.length < keptRepeats) this.repeats.push(this.make(key, count))
  }
  /** Into a short sorted list, behind those of equal count. */
  private place(
    list: CountedValue[],
    key: number,
    count: number,
    most: number,
    before: (a: number, b: number) => boolean,
  ): void {
    const last = list[list.length - 1]
    if (list.length === most && last && !before(count, last.count)) return
    const at = list.findIndex((one) => before(count, one.count))
    list.splice(at < 0 ? list.length : at, 0, this.make(key, count))
    if (list.length > most) list.pop()
  }
}

/** No condition names a list, so a list's bar selects nothing. */
const barOf =
  (name: string, selects: boolean) =>
  ({ label, value, count }: CountedValue): Bar => ({
    label,
    count,
    ...(selects ? { where: { column: name, op: 'is', value } } : {}),
  })

const quantile = (runs: ValueRuns, share: number): number => {
  const at = (runs.filled - 1) * share
  const low = Math.floor(at)
  const value = runs.at(low)
  return value + (runs.at(Math.min(runs.filled - 1, low + 1)) - value) * (at - low)
}

type FactsOptions = Pick<ColumnFacts, 'rows' | 'filled' | 'distinct' | 'type' | 'common' | 'rare'> & {
  readonly key: readonly ColumnFinding[]
}

const reported = (
  name: string,
  type: ColumnType,
  rows: number,
  filled: number,
  ranking: Ranking,
  deep: boolean,
): FactsOptions => ({
  type,
  rows,
  filled,
  distinct: ranking.distinct,
  common: ranking.common.map(barOf(name, type !== 'list')),
  rare: deep && ranking.distinct > 8 ? ranking.rare.map(barOf(name, type !== 'list')) : [],
  key:
    deep && type !== 'decimal' && type !== 'list'
      ? keyFinding(
          name,
          filled,
          ranking.distinct,
          ranking.repeats.map(({ label }) => label),
          ranking.repeats.map(({ value }) => value),
        )
      : [],
})

/** The text of each code of a column; of texts that are bytes only those that are asked for are made. */
const textsOfCodes = (column: TextColumn, coded: DenseCodes): ((code: number) => string) => {
  if (column.form === 'dictionary') return (code) => column.dictionary[code] as string
  let firsts: Int32Array | undefined
  return (code) => textAt(column, (firsts ??= kernels().firstRows(coded))[code]!)
}

const textFacts = (name: string, column: TextColumn, deep: boolean): ColumnFacts => {
  const coded = codesOf(column)
  const rows = coded.codes.length
  const counts = kernels().countCodes(coded.codes, coded.bound)
  const textOf = textsOfCodes(column, coded)
  const ranking = new Ranking((code, count) => ({ label: textOf(code), value: textOf(code), count }))
  for (let code = 1; code < coded.bound; code++) if (counts[code]! > 0) ranking.add(code, counts[code]!)
  const { key, ...base } = reported(name, column.type, rows, rows - (counts[0] ?? 0), ranking, deep)
  if (!deep || column.type === 'list') return { ...base, bars: base.common, patterns: [], findings: [] }
  const held: WordCount[] = []
  asDictionary(column).dictionary.forEach(
    (text, code) => code > 0 && counts[code]! > 0 && held.push({ text, count: counts[code]! }),
  )
  const [shortest, longest] = held.reduce<[number, number]>(
    ([least, most], { text }) => [Math.min(least, text.length), Math.max(most, text.length)],
    [Infinity, 0],
  )
  const dates = dateFormsIn(held)
  return {
    ...base,
    ...(held.length > 0 ? { shortest, longest } : {}),
    bars: base.common,
    patterns: shapeCounts(held),
    findings: [...textFindings(name, held, dates), ...key],
    ...(dates ? { dates } : {}),
  }
}

/** The sum of values that stand so many times each. */
const sumOf = (values: Float64Array, counts: Int32Array): number => {
  let sum = 0
  for (let i = 0; i < values.length; i++) sum += values[i]! * counts[i]!
  return sum
}

/** Numbers and moments by their different values in order, from which the quarters can be read off. */
const valueFacts = (name: string, column: ValueColumn, deep: boolean): ColumnFacts => {
  const { type } = column
  const rows = column.values.length
  const runs = valueRuns(column)
  const { values, counts, filled } = runs
  const shown = (value: number): string => textOfCell(type, type === 'boolean' ? value === 1 : value)
  const ranking = new Ranking((value, count) => {
    const ofBar = () => {
      if (type === 'boolean') return value === 1
      if (isNumber(type)) return value
      return shown(value)
    }
    return {
      label: shown(value),
      value: ofBar(),
      count,
    }
  })
  for (let i = 0; i < values.length; i++) ranking.add(values[i]!, counts[i]!)
  const { key, ...base } = reported(name, type, rows, filled, ranking, deep)
  const plain = { ...base, patterns: [], findings: key }
  if (type === 'boolean' || filled === 0) return { ...plain, bars: base.common }
  const bars = type === 'date' || type === 'datetime' ? dateSpans(name, type, runs) : numberSpans(name, type, runs)
  const show = (value: number): string =>
    textOfCell(
      type === 'integer' ? 'decimal' : type,
      isNumber(type) ? Number(value.toPrecision(12)) : Math.round(value),
    )
  const ends = { least: show(values[0]!), greatest: show(values[values.length - 1]!), bars }
  if (!deep) return { ...plain, ...ends }
  const [q1, q2, q3] = [0.25, 0.5, 0.75].map((share) => quantile(runs, share)) as [number, number, number]
  const mean = sumOf(values, counts) / filled
  const squares = sumOf(
    values.map((value) => (value - mean) ** 2),
    counts,
  )
  const outliers = outlierFinding(name, runs, q1, q3, show, (value) => (isNumber(type) ? value : show(value)))
  return {
    ...plain,
    ...ends,
    median: show(q2),
    quarters: [show(q1), show(q3)],
    ...(isNumber(type)
      ? {
          mean,
          percentiles: Array.from({ length: 101 }, (_, i) => quantile(runs, i / 100)),
          ...(filled > 1 ? { deviation: Math.sqrt(squares / (filled - 1)) } : {}),
        }
      : {}),
    findings: [...outliers, ...key],
  }
}

/** Facts by their columns, which stay as they are, then by what was asked: one sentence leaves most columns to the next. */
const remembered = new WeakMap<Column, Map<string, ColumnFacts>>()
/** What a column holds, over all its rows; remembered with it. `deep` tells all; without it only what the head of a column shows. */
export const factsOf = (name: string, column: Column, deep = true): ColumnFacts => {
  const asked = `${deep ? 'deep' : 'head'} ${name}`
  const facts = remembered.get(column) ?? new Map<string, ColumnFacts>()
  const found =
    facts.get(asked) ?? (isTextColumn(column) ? textFacts(name, column, deep) : valueFacts(name, column, deep))
  remembered.set(column, facts.set(asked, found))
  return found
}

/** The commonest values of a column as text, for pickers. */
export const valuesOf = (column: Column, most: number): Bar[] => {
  const text = convert(column, { type: 'text' }).column
  if (text.type !== 'text') return []
  const { indices, dictionary } = asDictionary(text)
  const counts = kernels().countCodes(indices, dictionary.length)
  return dictionary
    .map((label, code) => ({ label, count: counts[code]! }))
    .filter(({ label, count }) => label !== '' && count > 0)
    .sort((a, b) => b.count - a.count)
    .slice(0, most)
}
