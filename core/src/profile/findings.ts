import { writeColumn } from '../formula/parse.ts'
import type { Condition } from '../steps/condition.ts'
import { numberReader, plainLocale } from '../table/number.ts'
import { textReader } from '../table/reading.ts'
import { lower, trim } from '../table/text.ts'
import { counted, figure, listed, quoted } from '../words.ts'

/** A finding in a plain sentence, with the step that mends it. */
export type Finding = { readonly sentence: string; readonly verb: string; readonly step: Readonly<Record<string, unknown>> }
/** A distinct text and how many rows hold it. */
export type Word = { readonly text: string; readonly count: number }

const dateForms = ['d/M/yyyy', 'M/d/yyyy', 'd.M.yyyy', 'yyyy-MM-dd', 'd MMM yyyy', 'd-M-yyyy', 'yyyy/M/d', 'd/M/yy']
const looksDated = /^[0-9]{1,4}[-/. ][0-9A-Za-z]{1,9}[-/. ][0-9]{1,4}$/

/** Which date forms the words are written in, and how many rows each; day and month are told apart by the days above 12. */
const datesIn = (words: readonly Word[]): readonly { format: string; rows: number }[] | undefined => {
  const dated = words.filter(({ text }) => looksDated.test(trim(text)))
  if (dated.length === 0 || dated.length < words.length * 0.9) return undefined
  const american = textReader({ type: 'date', formats: ['M/d/yyyy'] })
  const european = textReader({ type: 'date', formats: ['d/M/yyyy'] })
  const monthFirst = dated.some(({ text }) => american(text) !== null && european(text) === null)
  let left = dated
  const used: { format: string; rows: number }[] = []
  for (const format of dateForms) {
    if (format === (monthFirst ? 'd/M/yyyy' : 'M/d/yyyy')) continue
    const read = textReader({ type: 'date', formats: [format] })
    const fits = left.filter(({ text }) => read(text) !== null)
    if (fits.length === 0) continue
    used.push({ format, rows: fits.reduce((sum, { count }) => sum + count, 0) })
    left = left.filter(({ text }) => read(text) === null)
  }
  return used.length > 0 && words.length - dated.length + left.length <= words.length * 0.05 ? used : undefined
}

/** Letters of other alphabets that look like Latin ones, and digits that look like letters. Source: Unicode UTS 39, confusables. */
const lookalikes: Readonly<Record<string, string>> = { а: 'a', е: 'e', о: 'o', р: 'p', с: 'c', х: 'x', у: 'y', і: 'i', к: 'k', в: 'b', н: 'h', м: 'm', т: 't', ο: 'o', α: 'a', ν: 'v', ρ: 'p', ι: 'i', κ: 'k', τ: 't', 'ı': 'i', '’': "'", '‘': "'", '–': '-', '—': '-' }
const skeleton = (text: string): string =>
  Array.from(lower(trim(text)).normalize('NFKC'), (sign) => lookalikes[sign] ?? sign)
    .join('')
    .replace(/[\s\-_.,']+/g, '')

/** Values that differ only by case, spaces, marks or look-alike letters, the commonest of each group first. */
const twinsIn = (words: readonly Word[]): Word[][] => {
  const groups = new Map<string, Word[]>()
  for (const word of words) {
    const key = skeleton(word.text)
    const group = groups.get(key)
    if (group) group.push(word)
    else groups.set(key, [word])
  }
  return [...groups.values()].filter((group) => group.length > 1).map((group) => group.sort((a, b) => b.count - a.count))
}

const most = 200

export const textFindings = (name: string, words: readonly Word[]): Finding[] => {
  const findings: Finding[] = []
  if (words.length === 0) return findings
  const padded = words.filter(({ text }) => trim(text) !== text)
  if (padded.length > 0)
    findings.push({ sentence: `${counted(padded.length, 'value')} ${padded.length === 1 ? 'has' : 'have'} spaces at the ends, in ${counted(padded.reduce((sum, { count }) => sum + count, 0), 'row')}, such as ${quoted(padded[0]?.text ?? '')}.`, verb: 'Take the spaces off', step: { kind: 'derive', as: name, formula: `TRIM(${writeColumn(name)})` } })
  const dates = datesIn(words)
  if (dates) {
    findings.push({ sentence: `It holds dates as text, written ${listed(dates.map(({ format, rows }) => `${format} (${figure(rows)})`), 'and')}.`, verb: 'Read as a date', step: { kind: 'cast', columns: [name], type: 'date', formats: dates.map(({ format }) => format) } })
    return findings
  }
  const read = numberReader(plainLocale)
  const numbers = words.filter(({ text }) => read(text) !== null)
  const codes = numbers.filter(({ text }) => /^0[0-9]/.test(trim(text)))
  if (numbers.length >= words.length * 0.9 && codes.length === 0) {
    const odd = words.find(({ text }) => read(text) === null)
    findings.push({ sentence: `It holds numbers as text, such as ${quoted((numbers.find(({ text }) => /[^0-9]/.test(text)) ?? numbers[0])?.text ?? '')}${odd === undefined ? '' : `, and ${figure(words.length - numbers.length)} that are none, such as ${quoted(odd.text)}`}.`, verb: 'Read as a number', step: { kind: 'cast', columns: [name], type: 'decimal' } })
    return findings
  }
  const twins = twinsIn(words).filter((group) => new Set(group.map(({ text }) => trim(text))).size > 1)
  const [first] = twins
  if (first) {
    const pairs = twins.flatMap(([kept, ...others]) => others.map(({ text }) => ({ find: text, with: kept?.text ?? null }))).slice(0, most)
    findings.push({ sentence: `${twins.length === 1 ? 'Some values differ' : `${figure(twins.length)} groups of values differ`} only by case, spaces or look-alike letters: ${listed(first.slice(0, 3).map(({ text }) => quoted(text)))}.`, verb: 'Give one spelling', step: { kind: 'replace', columns: [name], pairs } })
  }
  return findings
}

/** Values far outside of the middle half: more than three of its widths away. J. W. Tukey, Exploratory Data Analysis (1977), 2E. */
export const outlierFinding = (name: string, sorted: Float64Array, q1: number, q3: number, show: (value: number) => string, value: (value: number) => unknown): Finding[] => {
  const reach = (q3 - q1) * 3
  if (reach <= 0) return []
  const low = sorted.findIndex((one) => one >= q1 - reach)
  let high = sorted.length
  while (high > 0 && (sorted[high - 1] as number) > q3 + reach) high--
  const far = low + sorted.length - high
  if (far === 0 || far > Math.max(3, sorted.length * 0.01)) return []
  const where: Condition[] = [...(low > 0 ? [{ column: name, op: 'less' as const, value: value(sorted[low] as number) as number }] : []), ...(high < sorted.length ? [{ column: name, op: 'greater' as const, value: value(sorted[high - 1] as number) as number }] : [])]
  const odd = high < sorted.length ? (sorted[sorted.length - 1] as number) : (sorted[0] as number)
  return [{ sentence: `${counted(far, 'value')} ${far === 1 ? 'lies' : 'lie'} far from the rest, such as ${show(odd)}; half lie between ${show(q1)} and ${show(q3)}.`, verb: 'See these rows', step: { kind: 'filter', where: where.length === 1 ? where[0] : { any: where } } }]
}

/** A column that looks like a key, and is none for a few repeats. */
export const keyFinding = (name: string, filled: number, distinct: number, repeats: readonly string[], values: readonly unknown[]): Finding[] => {
  const named = /\b(?:id|ref|reference|key|no|nr|number|code)\b/i.test(name)
  if (repeats.length === 0 || filled < 20 || distinct < filled * (named ? 0.9 : 0.98)) return []
  return [{ sentence: `It looks like a key, but ${counted(repeats.length, 'value')}${repeats.length === most ? ' at least' : ''} ${repeats.length === 1 ? 'stands' : 'stand'} more than once, such as ${quoted(repeats[0] ?? '')}.`, verb: 'See these rows', step: { kind: 'filter', where: { column: name, op: 'is-one-of', values: values.slice(0, most) } } }]
}
