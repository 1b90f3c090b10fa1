import { roundTo } from '../table/number.ts'

/**
 * Number patterns as Unicode Technical Standard 35, part 3 (CLDR) writes them: `#,##0.00`, `0.##`, `00`, `0 %`,
 * quoted text, a second pattern after `;` for what is less than 0. No exponents, no padding, no currency names.
 */
export type NumberPattern = {
  readonly before: string
  readonly after: string
  readonly beforeMinus: string
  readonly afterMinus: string
  readonly leastDigits: number
  readonly leastPlaces: number
  readonly mostPlaces: number
  /** Digits in a group of thousands; 0 where there are none. */
  readonly group: number
  /** 100 for %, 1000 for ‰. */
  readonly factor: number
}
type Affixes = { readonly before: string; readonly body: string; readonly after: string; readonly factor: number }

/** Affix body affix, quotes taken off. */
const parted = (pattern: string): Affixes | string => {
  const tokens = pattern.match(/'(?:[^']|'')*'|[#0.,]+|[\s\S]/g) ?? []
  let before = ''
  let body = ''
  let after = ''
  let factor = 1
  for (const token of tokens) {
    if (/^[#0.,]+$/.test(token)) {
      if (body !== '') return `“${pattern}” has digits in two places`
      body = token
      continue
    }
    if (token === "'") return `the quote in “${pattern}” is not closed`
    if (token === '%' || token === '‰') factor = token === '%' ? 100 : 1000
    const choosePlain = () => {
      if (token === "''") return "'"
      if (token.startsWith("'") && token.length > 1) return token.slice(1, -1).replaceAll("''", "'")
      return token
    }
    const plain = choosePlain()
    if (/^[A-Za-z]$/.test(token))
      return `“${token}” means nothing in a pattern for numbers; write text in single quotes`
    if (body === '') before += plain
    else after += plain
  }
  return { before, body, after, factor }
}

const halves = (pattern: string): string[] => pattern.match(/(?:'(?:[^']|'')*'|[^;])+/g) ?? []

/** A number pattern such as `#,##0.00`; a sentence where it cannot be read. */
// eslint-disable-next-line complexity -- one branch for each part of a number pattern
export const compileNumberPattern = (pattern: string): NumberPattern | { readonly problem: string } => {
  const [first = '', second, third] = halves(pattern)
  const plus = parted(first)
  const minus = second === undefined ? undefined : parted(second)
  if (typeof plus === 'string') return { problem: plus }
  if (typeof minus === 'string') return { problem: minus }
  if (third !== undefined) return { problem: `“${pattern}” has more than two parts` }
  const shape = /^(#?[#,]*)([0,]*)(?:\.(0*)(#*))?$/.exec(plus.body)
  if (!shape || !/[#0]/.test(plus.body) || /,$|,\./.test(plus.body))
    return { problem: `“${pattern}” has no digits such as 0 or #,##0.00 in it` }
  const whole = `${shape[1] ?? ''}${shape[2] ?? ''}`
  const comma = whole.lastIndexOf(',')
  return {
    before: plus.before,
    after: plus.after,
    beforeMinus: minus ? minus.before : `-${plus.before}`,
    afterMinus: minus ? minus.after : plus.after,
    leastDigits: (whole.match(/0/g) ?? []).length,
    leastPlaces: shape[3]?.length ?? 0,
    mostPlaces: (shape[3]?.length ?? 0) + (shape[4]?.length ?? 0),
    group: comma < 0 ? 0 : whole.length - comma - 1,
    factor: plus.factor,
  }
}

/** 1.2e-7 -> 0.00000012, 1e21 -> 1000000000000000000000 */
const plain = (value: number): string => {
  const [mantissa = '', exponent = '0'] = String(value).split('e')
  const [whole = '', fraction = ''] = mantissa.split('.')
  const n = Number(exponent)
  const digits = whole + fraction
  const point = whole.length + n
  if (point <= 0) return `0.${'0'.repeat(-point)}${digits}`
  return point >= digits.length
    ? digits + '0'.repeat(point - digits.length)
    : `${digits.slice(0, point)}.${digits.slice(point)}`
}

/** The number as the pattern writes it, rounded half away from zero on the digits a person sees; all digits of a `whole` one. */
export const writeNumber = (value: number, whole: boolean, pattern: NumberPattern): string => {
  const exact = value * pattern.factor
  const scaled = whole && Number.isSafeInteger(exact) ? exact : Number(exact.toPrecision(15))
  const size = roundTo(Math.abs(scaled), pattern.mostPlaces)
  const [integral = '0', fraction = ''] = plain(size).split('.')
  const digits = (integral === '0' ? '' : integral).padStart(pattern.leastDigits, '0')
  const grouped =
    pattern.group === 0 ? digits : digits.replace(new RegExp(`\\B(?=(?:.{${pattern.group}})+$)`, 'g'), ',')
  const places = fraction.padEnd(pattern.leastPlaces, '0')
  const body = `${grouped === '' && places === '' ? '0' : grouped}${places === '' ? '' : `.${places}`}`
  return scaled < 0 && size !== 0
    ? `${pattern.beforeMinus}${body}${pattern.afterMinus}`
    : `${pattern.before}${body}${pattern.after}`
}
