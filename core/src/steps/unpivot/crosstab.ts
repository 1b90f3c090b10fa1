import { monthNames } from '../../reading/date-pattern.ts'
import type { Schema } from '../../table/table.ts'
import { lower, wildcard } from '../../table/text.ts'
import type { Selector } from '../shared/columns.ts'

/** What the names of columns seem to be: spans of time, or something else that they have in common. */
type LabelKind = 'Year' | 'Quarter' | 'Month' | 'Week' | 'Day'
const months = new Set(monthNames.flatMap((month) => [month, month.slice(0, 3)]).concat('sept'))
const sortOf = (word: string): LabelKind | undefined => {
  const text = lower(word).replace(/\.$/, '')
  if (/^(?:19|20)\d\d$/.test(text) || /^fy ?\d\d(?:\d\d)?$/.test(text)) return 'Year'
  if (/^(?:q[1-4]|[1-4]q)(?: ?(?:19|20)\d\d)?$/.test(text) || /^(?:19|20)\d\d[ -]?q[1-4]$/.test(text)) return 'Quarter'
  if (
    months.has(text) ||
    /^(?:19|20)\d\d-(?:0[1-9]|1[0-2])$/.test(text) ||
    [...months].some(
      (month) => text.startsWith(`${month} `) && /^(?:\d\d|(?:19|20)\d\d)$/.test(text.slice(month.length + 1)),
    )
  )
    return 'Month'
  if (/^(?:w|week ?|kw ?)\d{1,2}$/.test(text)) return 'Week'
  return /^(?:19|20)\d\d-\d\d-\d\d$/.test(text) ? 'Day' : undefined
}

/** A name as what is measured and the span it is of: “Sales Jan”, “2031 Visits”, “Jan”. */
type LabelReading = { readonly measure: string; readonly label: string; readonly sort: LabelKind }
const parts = /^(.*?)([\s_\-./:]+)(.*)$/
const read = (name: string): LabelReading | undefined => {
  const whole = sortOf(name)
  if (whole) return { measure: '', label: name, sort: whole }
  for (let at = 0; at < name.length; at++) {
    if (!/[\s_\-./:]/.test(name[at] as string)) continue
    const [head, tail] = [name.slice(0, at), name.slice(at + 1)]
    const behind = sortOf(tail)
    if (behind && head !== '') return { measure: head.trim(), label: tail, sort: behind }
    const before = sortOf(head)
    if (before && tail !== '') return { measure: tail.trim(), label: head, sort: before }
  }
  return undefined
}

/** A rule that means just these columns here, so that one more like them is taken in; else their names. */
const ruleFor = (columns: readonly string[], schema: Schema): Selector => {
  const all = schema.map((field) => field.name)
  const means = (pattern: string): boolean =>
    all.filter((name) => wildcard(pattern).test(name)).join('\0') ===
    all.filter((name) => columns.includes(name)).join('\0')
  const [first = ''] = columns
  let prefix = first
  let suffix = first
  for (const name of columns) {
    while (!name.startsWith(prefix)) prefix = prefix.slice(0, -1)
    while (!name.endsWith(suffix)) suffix = suffix.slice(1)
  }
  // a rule ends between words, never within one
  prefix = prefix.replace(/[\p{L}\p{N}]+$/u, '')
  suffix = suffix.replace(/^[\p{L}\p{N}]+/u, '')
  if (columns.every((name) => /^(?:19|20)\d\d$/.test(name)) && means('20??')) return { like: '20??' }
  if (columns.length > 1 && prefix.length >= 3 && means(`${prefix}*`)) return { like: `${prefix}*` }
  if (columns.length > 1 && suffix.length >= 3 && means(`*${suffix}`)) return { like: `*${suffix}` }
  const others = all.filter((name) => !columns.includes(name))
  return columns.length > 1 && others.length <= Math.max(4, columns.length) ? { except: others } : [...columns]
}

const escaped = (text: string): string => text.replace(/[.*+?^${}()|[\]\\/]/g, '\\$&')
/** Takes the measure and the sign beside it off a name. */
const removing = (measures: readonly string[]): { pattern: string } => {
  const any = [...measures]
    .sort((a, b) => b.length - a.length)
    .map(escaped)
    .join('|')
  return { pattern: `^(?:${any})[\\s_./:-]+|[\\s_./:-]+(?:${any})$` }
}

/** The params of an unpivot that fits a table’s column names. */
export type Unpivoting = {
  readonly kind: 'unpivot'
  readonly name: string
  readonly groups: readonly { readonly columns: Selector; readonly value: string }[]
  readonly labels?: { readonly remove: string | { readonly pattern: string } }
}

/** How columns of a crosstab become rows, guessed from their names: years, months, a common word, several measures side by side. */
export const unpivotFor = (columns: readonly string[], schema: Schema): Unpivoting => {
  const reads = columns.map(read)
  const known = reads.filter((one) => one !== undefined)
  const [first] = known
  if (first && known.length === columns.length && new Set(known.map(({ sort }) => sort)).size === 1) {
    const measures = [...new Set(known.map(({ measure }) => measure))]
    const groups = measures.map((measure) => ({
      columns: ruleFor(
        columns.filter((_, i) => known[i]?.measure === measure),
        schema,
      ),
      value: measure === '' ? 'Value' : measure,
    }))
    const named = measures.filter((measure) => measure !== '')
    return {
      kind: 'unpivot',
      name: first.sort,
      groups,
      ...(named.length > 0 ? { labels: { remove: removing(named) } } : {}),
    }
  }
  const heads = columns.map((name) => parts.exec(name)?.[1])
  const [head] = heads
  if (columns.length > 1 && head !== undefined && head !== '' && heads.every((one) => one === head))
    return {
      kind: 'unpivot',
      name: 'Name',
      groups: [{ columns: ruleFor(columns, schema), value: head }],
      labels: { remove: removing([head]) },
    }
  const tails = columns.map((name) => /^.*?[\s_\-./:]+([^\s_\-./:]+)$/.exec(name)?.[1])
  const [tail] = tails
  if (columns.length > 1 && tail !== undefined && tails.every((one) => one === tail))
    return {
      kind: 'unpivot',
      name: 'Name',
      groups: [{ columns: ruleFor(columns, schema), value: tail }],
      labels: { remove: removing([tail]) },
    }
  return { kind: 'unpivot', name: 'Name', groups: [{ columns: ruleFor(columns, schema), value: 'Value' }] }
}

/** The params of an unpivot, and the steps after it. */
type Crosstab = {
  readonly unpivot: Omit<Unpivoting, 'kind'>
  readonly then: readonly Readonly<Record<string, unknown> & { readonly kind: string }>[]
}

/**
 * A crosstab with two lines of names in one, “2031 Visits” or “Sales Jan”: rows, the two names parted, and a column of each
 * measure. Whatever year, month or measure comes later is taken in. Undefined where the names are not of two parts.
 */
export const crosstabSteps = (columns: readonly string[], schema: Schema): Crosstab | undefined => {
  const reads = columns.map(read)
  if (columns.length < 4 || reads.some((one) => one === undefined || one.measure === '')) return undefined
  const known = reads as LabelReading[]
  const measures = new Set(known.map(({ measure }) => measure))
  const [first] = known
  if (!first || measures.size < 2) return undefined
  const ahead = columns.every((name, i) => name.startsWith(known[i]?.measure ?? ''))
  const sign = parts.exec(columns[0] ?? '')?.[2] ?? ' '
  const names = ahead ? ['Measure', first.sort] : [first.sort, 'Measure']
  // a measure of several words stays whole: the span of time is cut off at its own end
  return {
    unpivot: { name: 'What', groups: [{ columns: ruleFor(columns, schema), value: 'Value' }] },
    then: [
      {
        kind: 'split',
        column: 'What',
        by: { delimiter: sign },
        at: ahead ? 'last' : 'first',
        into: { columns: names },
      },
      { kind: 'pivot', labels: 'Measure', values: [{ column: 'Value', how: 'only' }] },
    ],
  }
}
