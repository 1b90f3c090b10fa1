import { trim } from './text.ts'

/** The value rounded to the 15 significant digits that a person is shown. */
export const normalized = (value: number): number => Number(value.toPrecision(15))

/** 0.00000012, where the language would write 1.2e-7. */
const plainSmall = (text: string): string => {
  const [mantissa = '', exponent = '0'] = text.split('e')
  const digits = mantissa.replace(/[-.]/g, '')
  return `${text.startsWith('-') ? '-' : ''}0.${'0'.repeat(-Number(exponent) - 1)}${digits}`
}

/** The shortest form at 15 significant digits; an exponent below 1e-7 and from 1e21 up; never -0. */
export const formatDecimal = (value: number): string => {
  // what has few places is written at once: up to 15 digits a decimal comes back from its nearest value unchanged
  if (Number.isInteger(value * 1e4)) {
    const short = String(value)
    if (short.length <= 15 && !short.includes('e')) return short
  }
  const digits = value.toPrecision(15)
  if (!digits.includes('e') && Math.abs(value) >= 1e-6)
    return digits.endsWith('0') && digits.includes('.') ? digits.replace(/\.?0+$/, '') : digits
  const rounded = Number(digits)
  if (rounded === 0) return '0'
  // the largest doubles, rounded, are beyond what a double holds
  const text = Number.isFinite(rounded) ? String(rounded) : digits
  return Math.abs(rounded) < 1e-6 && Math.abs(rounded) >= 1e-7 ? plainSmall(text) : text.replace('e+', 'e')
}

/** The sum by Neumaier's compensation, so that ten times 0.1 is 1: A. Neumaier, ZAMM 54 (1974), 39–51. */
export const compensatedSum = (values: Iterable<number>): number => {
  let sum = 0
  let lost = 0
  for (const x of values) {
    const next = sum + x
    lost += Math.abs(sum) >= Math.abs(x) ? sum - next + x : x - next + sum
    sum = next
  }
  return sum + lost
}

/** What is left of x after dividing by d, exact; it has the sign of d. */
export const modulo = (x: number, d: number): number => {
  const left = x % d
  return left !== 0 && left < 0 !== d < 0 ? left + d : left
}

/** The largest whole number that a double holds exactly, 2^53 − 1. */
export const maxInteger = Number.MAX_SAFE_INTEGER

/** Half away from zero on the decimal digits a person sees: 1.005 to two places is 1.01. `places` may be negative. */
export const roundTo = (value: number, places: number): number => shift(value, places, (x) => Math.floor(x + 0.5))
/** Rounds away from zero to `places` decimals, by the 15 digits a reader sees. */
export const roundUp = (value: number, places: number): number => shift(value, places, Math.ceil)
/** Rounds towards zero to `places` decimals, by the 15 digits a reader sees. */
export const roundDown = (value: number, places: number): number => shift(value, places, Math.floor)

const shift = (value: number, places: number, round: (x: number) => number): number => {
  if (places >= 0 && Number.isInteger(value)) return value
  const [mantissa, exponent = '0'] = String(normalized(Math.abs(value))).split('e')
  const shifted = Number(`${mantissa}e${Number(exponent) + places}`)
  // so many places to keep that all are kept, or so few that nothing but its being there is left
  if (!Number.isFinite(shifted)) return normalized(value)
  const scaled = round(shifted === 0 && value !== 0 ? Number.MIN_VALUE : shifted)
  const [digits, tens = '0'] = String(scaled).split('e')
  const result = Number(`${digits}e${Number(tens) - places}`)
  return value < 0 && result !== 0 ? -result : result
}

/** The decimal sign and the sign between groups of three digits. */
export type NumberLocale = { readonly decimal: string; readonly group: string }
/** A point for decimals, a comma between thousands. */
export const plainLocale: NumberLocale = { decimal: '.', group: ',' }

const quote = (sign: string): string => sign.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')

/** Signs of currency: the category Sc of Unicode, spelled out because PostgreSQL has no categories. */
export const currencySigns = '$¢£¤¥֏؋߾߿৲৳৻૱௹฿៛₠₡₢₣₤₥₦₧₨₩₪₫€₭₮₯₰₱₲₳₴₵₶₷₸₹₺₻₼₽₾₿⃀'

/**
 * What reads as a number: spaces at the ends, one currency sign before or after, well-formed
 * groups of thousands, (brackets) for minus, a trailing %. The same expression serves the scripts.
 * Groups: bracket, sign, currency, sign, digits, fraction, exponent, currency, percent, bracket.
 */
export const numberSource = ({ decimal, group }: NumberLocale): string => {
  const d = quote(decimal)
  const digits = group === '' ? '[0-9]+' : `[0-9]{1,3}(?:${quote(group)}[0-9]{3})+|[0-9]+`
  return `^(\\()?([-+−])? ?([${currencySigns}])? ?([-+−])?(?:(${digits})(?:${d}([0-9]+))?|${d}([0-9]+))([eE][-+]?[0-9]+)? ?([${currencySigns}])? ?(%)?(\\))?$`
}

/** Whether so many digits may stand before a sign, or at the end: three in a group, up to three in the first, any number where there are no groups. */
const areWhole = (digits: number, grouped: boolean, first: boolean): boolean =>
  digits > 0 && (grouped ? digits === 3 : !first || digits <= 3)
/** The number that a text is from a place on: digits with whole groups of thousands and at most one decimal sign; NaN for anything else. `decimal` and `group` are codes of the signs. */
const digitsFrom = (text: string, start: number, decimal: number, group: number): number => {
  const n = text.length
  let value = 0
  let digits = 0
  // digits since the last sign, and where the signs are
  let run = 0
  let grouped = false
  let point = -1
  for (let i = start; i < n; i++) {
    const code = text.charCodeAt(i)
    const digit = code - 48
    if (digit >= 0 && digit <= 9) {
      value = value * 10 + digit
      digits++
      run++
      continue
    }
    if (point >= 0 || (code !== decimal && code !== group) || !areWhole(run, grouped, code === group)) return NaN
    if (code === decimal) point = i
    else grouped = true
    run = 0
  }
  if (digits > 15 || !areWhole(run, grouped && point < 0, false)) return NaN
  return point < 0 ? value : value / 10 ** (n - point - 1)
}
const codeOfSign = (sign: string): number => (sign.length === 1 ? sign.charCodeAt(0) : -1)
/**
 * A reader of the numbers that are met most: up to 15 digits, which are exact as a whole number over a power of ten, with groups of
 * thousands, behind a minus or a sign of currency; NaN for all other texts.
 */
const commonReader = ({ decimal, group }: NumberLocale): ((text: string) => number) => {
  const [point, parting] = [codeOfSign(decimal), codeOfSign(group)]
  return (text) => {
    const first = text.charCodeAt(0)
    const negative = first === 45
    let start = negative ? 1 : 0
    if (first > 57 || first === 36) {
      if (!currencySigns.includes(text.charAt(0))) return NaN
      start = text.charCodeAt(1) === 32 ? 2 : 1
    }
    const value = digitsFrom(text, start, point, parting)
    return negative && value !== 0 ? -value : value
  }
}

/** A reader of text as a number, null where it does not read as one. */
export const numberReader = (locale: NumberLocale = plainLocale): ((text: string) => number | null) => {
  const readCommon = commonReader(locale)
  const readByExpression = expressionReader(locale)
  return (text) => {
    const value = readCommon(text)
    return Number.isNaN(value) ? readByExpression(text) : value
  }
}
const expressionReader = (locale: NumberLocale): ((text: string) => number | null) => {
  const expression = new RegExp(numberSource(locale))
  // eslint-disable-next-line complexity -- a number read in one pass over its signs
  return (text) => {
    const m = expression.exec(trim(text))
    if (!m) return null
    const [, open, before, cash, after, whole, fraction, bare, exponent, tail, percent, close] = m
    if (
      (open === undefined) !== (close === undefined) ||
      (cash && tail) ||
      (before && after) ||
      (open && (before ?? after))
    )
      return null
    const digits = (whole ?? '0').split(locale.group || '\0').join('')
    const size = Number(`${digits}.${fraction ?? bare ?? '0'}${exponent ?? ''}`)
    if (!Number.isFinite(size)) return null
    const value = percent ? size / 100 : size
    if ((open ?? (before ?? after) === '-') || (before ?? after) === '−') {
      if (value === 0) return 0
      return -value
    }
    return value
  }
}
