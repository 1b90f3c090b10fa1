import { ownValue } from '../table/own.ts'
import { numberReader, plainLocale, type NumberLocale } from '../table/number.ts'

/** The ways in which numbers are commonly written, each with an example; the plain one first. */
export const numberLocales: readonly { readonly locale: NumberLocale; readonly example: string }[] = [
  { locale: plainLocale, example: '1,234.50' },
  { locale: { decimal: ',', group: '.' }, example: '1.234,50' },
  { locale: { decimal: ',', group: ' ' }, example: '1 234,50' },
  { locale: { decimal: '.', group: "'" }, example: "1'234.50" },
]

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

/** Which of the common ways reads the most texts (`count` of them); the plain one where none reads more. */
export const bestLocale = (texts: readonly string[]): { readonly locale: NumberLocale; readonly count: number } =>
  numberLocales
    .map(({ locale }) => {
      const read = numberReader(locale)
      return { locale, count: texts.filter((text) => read(text) !== null).length }
    })
    .reduce((best, one) => (one.count > best.count ? one : best))
