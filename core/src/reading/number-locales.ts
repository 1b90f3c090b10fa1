import { ownValue } from '../table/own.ts'
import { numberReader, plainLocale, type NumberLocale } from '../table/number.ts'

/** The ways in which numbers are commonly written, each with an example; the plain one first. */
export const numberLocales: readonly { readonly locale: NumberLocale; readonly example: string }[] = [
  { locale: plainLocale, example: '1,234.50' },
  { locale: { decimal: ',', group: '.' }, example: '1.234,50' },
  { locale: { decimal: ',', group: ' ' }, example: '1 234,50' },
  { locale: { decimal: '.', group: "'" }, example: "1'234.50" },
]

const commonLocales: readonly NumberLocale[] = numberLocales.map(({ locale }) => locale)

const signWords: Readonly<Record<string, string>> = {
  '.': 'a point',
  ',': 'a comma',
  ' ': 'a space',
  "'": 'an apostrophe',
}
const signOf = (sign: string): string => ownValue(signWords, sign) ?? `“${sign}”`

/** Whether numbers are written with a point before decimals and commas between thousands. */
export const isPlain = ({ decimal, group }: NumberLocale): boolean =>
  decimal === plainLocale.decimal && group === plainLocale.group

/** A way of writing numbers in words: “a comma before decimals”, with the sign between thousands where it is another than usual. */
export const localeWords = ({ decimal, group }: NumberLocale): string => {
  const usual = group === '' || (decimal === ',' && group === '.')
  return `${signOf(decimal)} before decimals${usual ? '' : ` and ${signOf(group)} between thousands`}`
}

/** One of the ways, and how many of the texts it reads. */
type LocaleFit = { readonly locale: NumberLocale; readonly count: number }

/**
 * Which of the ways reads the most texts; the first of equals, so that the plain one stands where none reads more.
 * `readerOf` gives the reader of a way, null where a text does not read.
 */
export const bestLocale = (
  texts: readonly string[],
  among: readonly NumberLocale[] = commonLocales,
  readerOf: (locale: NumberLocale) => (text: string) => unknown = numberReader,
): LocaleFit | undefined => {
  let best: LocaleFit | undefined
  for (const locale of among) {
    const read = readerOf(locale)
    const count = texts.filter((text) => read(text) !== null).length
    if (best === undefined || count > best.count) best = { locale, count }
    // none can read more than all
    if (count === texts.length) break
  }
  return best
}
