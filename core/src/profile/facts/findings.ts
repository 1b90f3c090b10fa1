import type { NewStep } from '../../recipe/recipe.ts'
import { writeColumn } from '../../formula/parse.ts'
import { counted, figure, listed, quoted } from '../../messages/words.ts'
import type { Condition } from '../../steps/shared/condition.ts'
import { suggestGroups } from '../../steps/shared/similar-values.ts'
import { numberReader, plainLocale } from '../../table/number.ts'
import { bestLocale, isPlain, localeWords, numberLocales } from '../../reading/number-locales.ts'
import { trim } from '../../table/text.ts'
import type { ValueRuns } from './value-runs.ts'
import { likelyForms, yearOf, type DateForms, type WordCount } from '../../reading/date-forms.ts'

/** A finding in a plain sentence, with the step that mends it. */
export type ColumnFinding = {
  /** The column holds values of another type as text. */
  readonly topic?: 'type' | undefined
  readonly sentence: string
  readonly verb: string
  readonly step: NewStep
}

const most = 200
/** More different values than this are no spellings of a few things. */
const mostCompared = 5000

/** Whether at least nine in ten words are such; looks at no more than it takes to see that they are not. */
const nearlyAll = (words: readonly WordCount[], such: (text: string) => boolean): boolean => {
  let others = 0
  for (const { text } of words) if (!such(text) && ++others > words.length * 0.1) return false
  return true
}
const readers = numberLocales.map(({ locale }) => numberReader(locale))
/** Whether a text is a number in one of the ways in which numbers are commonly written. */
const isWrittenNumber = (text: string): boolean => readers.some((read) => read(text) !== null)

const rowsIn = (words: readonly WordCount[]): number => words.reduce((sum, { count }) => sum + count, 0)

/** The sign between several values in a cell: the pieces it makes are, for the most part, values or pieces of other cells too. */
const separatorIn = (words: readonly WordCount[]): string | undefined =>
  [';', '|', '/', ','].find((sign) => {
    const parted = words.filter(({ text }) => text.includes(sign))
    if (parted.length < 3 || rowsIn(parted) < rowsIn(words) * 0.1) return false
    const pieces = new Map<string, number>()
    for (const { text } of words.slice(0, 2000))
      for (const piece of new Set(text.split(sign).map(trim))) pieces.set(piece, (pieces.get(piece) ?? 0) + 1)
    const made = parted.slice(0, 2000).flatMap(({ text }) => text.split(sign).map(trim))
    return made.filter((piece) => (pieces.get(piece) ?? 0) > 1).length >= made.length * 0.7
  })

/** The one word that stands behind nearly all numbers (kg, days), and the formula that reads the numbers. */
const unitIn = (
  name: string,
  words: readonly WordCount[],
): { readonly unit: string; readonly formula: string } | undefined => {
  const form = /^\s*([-+]?\d[\d.,]*)\s*([\p{L}°µ/²³]{1,12})?\s*$/u
  if (!nearlyAll(words, (text) => form.test(text))) return undefined
  const measured = words.map(({ text }) => form.exec(text))
  const units = new Map<string, number>()
  for (const m of measured) if (m?.[2] !== undefined) units.set(m[2], (units.get(m[2]) ?? 0) + 1)
  const [unit] = units.keys()
  if (unit === undefined || units.size > 1) return undefined
  const locale = bestLocale(measured.flatMap((m) => (m?.[1] === undefined ? [] : [m[1]])))?.locale ?? plainLocale
  const digits = `REGEXEXTRACT(${writeColumn(name)}; "^\\s*([-+]?[0-9.,]+)"; 1)`
  return {
    unit,
    formula: isPlain(locale) ? `VALUE(${digits})` : `NUMBERVALUE(${digits}; "${locale.decimal}"; "${locale.group}")`,
  }
}

/** What is remarkable about the texts of a column, each with a step that deals with it. */
export const textFindings = (
  name: string,
  words: readonly WordCount[],
  dates: DateForms | undefined,
  // eslint-disable-next-line complexity, max-lines-per-function -- one branch for each finding, in the order of their weight
): ColumnFinding[] => {
  const findings: ColumnFinding[] = []
  if (words.length === 0) return findings
  const padded = words.filter(({ text }) => trim(text) !== text)
  addPaddingFinding(padded, findings, name)
  if (dates) {
    const forms = likelyForms(dates).filter(({ noYear }) => !noYear || dates.year !== undefined)
    const verb = () => {
      if (dates.type === 'date') return 'Read as a date'
      if (dates.type === 'time') return 'Read as a time'
      return 'Read as a date and time'
    }
    if (forms.length > 0 && dates.leftRows <= rowsIn(words) * 0.1)
      findings.push({
        sentence: `It holds ${dates.type === 'time' ? 'times' : 'dates'} as text, written ${listed(
          forms.map(({ pattern, rows }) => `${pattern} (${figure(rows)})`),
          'and',
        )}.`,
        verb: verb(),
        topic: 'type',
        step: {
          kind: 'cast',
          columns: [name],
          type: dates.type,
          formats: forms.map(({ pattern }) => pattern),
          ...yearOf(forms, dates.year),
        },
      })
    return findings
  }
  const long = words.filter(({ text }) => /^-?\d{16,}$/.test(trim(text)))
  if (long[0] && long.length >= words.length * 0.5) {
    findings.push({
      sentence: `It holds numbers of more than 15 digits, such as ${quoted(long[0].text)}; as numbers their last digits would be lost, so they stay text.`,
      verb: 'Check that no two are alike',
      step: { kind: 'check', unique: [name], else: 'warn', say: `${name} stands once` },
    })
    return findings
  }
  // most columns of texts hold no numbers, which a few of the words tell
  const written = nearlyAll(words, isWrittenNumber) ? words : []
  const locale = bestLocale(written.map(({ text }) => text))?.locale ?? plainLocale
  const read = numberReader(locale)
  const numbers = written.filter(({ text }) => read(text) !== null)
  const codes = numbers.filter(({ text }) => /^0[0-9]/.test(trim(text)))
  if (numbers.length >= words.length * 0.9 && codes.length === 0) {
    const odd = words.find(({ text }) => read(text) === null)
    findings.push({
      sentence: `It holds numbers as text, such as ${quoted((numbers.find(({ text }) => /[^0-9]/.test(text)) ?? numbers[0])?.text ?? '')}${odd === undefined ? '' : `, and ${figure(words.length - numbers.length)} that are none, such as ${quoted(odd.text)}`}${isPlain(locale) ? '' : `, with ${localeWords(locale)}`}.`,
      verb: 'Read as a number',
      topic: 'type',
      step: { kind: 'cast', columns: [name], type: 'decimal', ...(isPlain(locale) ? {} : { locale }) },
    })
    return findings
  }
  const measured = unitIn(name, words)
  if (measured !== undefined) {
    findings.push({
      sentence: `It holds numbers with “${measured.unit}” behind them.`,
      verb: 'Read the numbers',
      step: { kind: 'derive', as: name, formula: measured.formula },
    })
    return findings
  }
  const separator = separatorIn(words)
  if (separator !== undefined) {
    const parted = words.filter(({ text }) => text.includes(separator))
    findings.push({
      sentence: `${counted(rowsIn(parted), 'cell')} ${rowsIn(parted) === 1 ? 'holds' : 'hold'} several values, separated by ${quoted(separator)}, such as ${quoted(parted[0]?.text ?? '')}.`,
      verb: 'A row for each',
      step: {
        kind: 'split',
        column: name,
        by: { pattern: `\\s*${separator === '|' ? '\\|' : separator}\\s*` },
        into: 'rows',
      },
    })
    return findings
  }
  const twins =
    words.length > mostCompared
      ? []
      : suggestGroups(words, 'characters').filter(
          ({ members }) => new Set(members.map(({ text }) => trim(text))).size > 1,
        )
  const [first] = twins
  if (first)
    findings.push({
      sentence: `${twins.length === 1 ? 'Some values differ' : `${figure(twins.length)} groups of values differ`} only by case, spaces, marks or order: ${listed(first.members.slice(0, 3).map(({ text }) => quoted(text)))}.`,
      verb: 'Give one spelling',
      step: {
        kind: 'unify',
        column: name,
        groups: twins.map(({ into, members }) => ({ into, from: members.map(({ text }) => text) })),
        judged: 'characters',
      },
    })
  return findings
}

/** Values far outside of the middle half: more than three of its widths away. J. W. Tukey, Exploratory Data Analysis (1977), 2E. */
export const outlierFinding = (
  name: string,
  runs: ValueRuns,
  q1: number,
  q3: number,
  show: (value: number) => string,
  value: (value: number) => unknown,
): ColumnFinding[] => {
  const reach = (q3 - q1) * 3
  if (reach <= 0) return []
  const { filled } = runs
  const low = runs.below(q1 - reach)
  const high = runs.upTo(q3 + reach)
  const far = low + filled - high
  if (far === 0 || far > Math.max(3, filled * 0.01)) return []
  const where: Condition[] = [
    ...(low > 0 ? [{ column: name, op: 'less' as const, value: value(runs.at(low)) as number }] : []),
    ...(high < filled ? [{ column: name, op: 'greater' as const, value: value(runs.at(high - 1)) as number }] : []),
  ]
  const odd = high < filled ? runs.at(filled - 1) : runs.at(0)
  return [
    {
      sentence: `${counted(far, 'value')} ${far === 1 ? 'lies' : 'lie'} far from the rest, such as ${show(odd)}; half lie between ${show(q1)} and ${show(q3)}.`,
      verb: 'See these rows',
      step: { kind: 'filter', where: where.length === 1 && where[0] ? where[0] : { any: where } },
    },
  ]
}

/** A column that looks like a key, and is none for a few repeats. */
export const keyFinding = (
  name: string,
  filled: number,
  distinct: number,
  repeats: readonly string[],
  values: readonly (string | number | boolean)[],
): ColumnFinding[] => {
  const named = /\b(?:id|ref|reference|key|no|nr|number|code)\b/i.test(name)
  if (repeats.length === 0 || filled < 20 || distinct < filled * (named ? 0.9 : 0.98)) return []
  return [
    {
      sentence: `It looks like a key, but ${counted(repeats.length, 'value')}${repeats.length === most ? ' at least' : ''} ${repeats.length === 1 ? 'stands' : 'stand'} more than once, such as ${quoted(repeats[0] ?? '')}.`,
      verb: 'See these rows',
      step: { kind: 'filter', where: { column: name, op: 'is-one-of', values: values.slice(0, most) } },
    },
  ]
}

function addPaddingFinding(padded: WordCount[], findings: ColumnFinding[], name: string) {
  if (padded.length > 0)
    findings.push({
      sentence: `${counted(padded.length, 'value')} ${padded.length === 1 ? 'has' : 'have'} spaces at the ends, in ${counted(
        padded.reduce((sum, { count }) => sum + count, 0),
        'row',
      )}, such as ${quoted(padded[0]?.text ?? '')}.`,
      verb: 'Take the spaces off',
      step: { kind: 'derive', as: name, formula: `TRIM(${writeColumn(name)})` },
    })
}
