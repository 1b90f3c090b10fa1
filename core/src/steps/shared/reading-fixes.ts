import { textReader } from '../../reading/convert.ts'
import { dateFormsIn, likelyForms } from '../../reading/date-forms.ts'
import { plainLocale, type NumberLocale } from '../../table/number.ts'
import { bestLocale, numberLocales } from '../../reading/number-locales.ts'
import type { ColumnType } from '../../table/column.ts'

const isoPatterns: Readonly<Partial<Record<ColumnType, string>>> = {
  date: 'yyyy-MM-dd',
  datetime: "yyyy-MM-dd'T'HH:mm:ss",
  time: 'HH:mm:ss',
}

const readBy = (texts: readonly string[], read: (text: string) => unknown): number =>
  texts.filter((text) => read(text) !== null).length

/** Date patterns by which more of the texts read, behind those that are there; undefined where none does. */
export const moreDatePatterns = (
  {
    type,
    formats,
    year,
  }: {
    readonly type: ColumnType
    readonly formats?: readonly string[] | undefined
    readonly year?: number | undefined
  },
  texts: readonly string[],
): { readonly formats: readonly string[]; readonly added: readonly string[]; readonly reads: number } | undefined => {
  const iso = isoPatterns[type]
  if (iso === undefined) return undefined
  const forms = dateFormsIn([...new Set(texts)].map((text) => ({ text, count: 1 })))
  const there = formats && formats.length > 0 ? formats : [iso]
  const added = (forms ? likelyForms(forms) : [])
    .filter(({ noYear, pattern }) => (!noYear || year !== undefined) && !there.includes(pattern))
    .map(({ pattern }) => pattern)
  const all = [...there, ...added]
  const reads = readBy(texts, textReader({ type, formats: all, year }))
  return added.length > 0 && reads > 0 ? { formats: all, added, reads } : undefined
}

/** The signs of numbers by which the most of the texts read; undefined where the given ones are the best. */
export const otherNumberSigns = (
  type: ColumnType,
  locale: NumberLocale | undefined,
  texts: readonly string[],
): { readonly locale: NumberLocale; readonly reads: number } | undefined => {
  if (type !== 'integer' && type !== 'decimal') return undefined
  const others = numberLocales.flatMap(({ locale: one }) =>
    one.decimal === (locale ?? plainLocale).decimal ? [] : [one],
  )
  const best = bestLocale(texts, others, (one) => textReader({ type, locale: one }))
  return best && best.count > 0 ? { locale: best.locale, reads: best.count } : undefined
}
