const money = /^[£$€¥]\s*|\s*[£$€¥]$/g
/** Groups of three digits separated by commas, dots, blanks or apostrophes. */
const grouped = (sign: string): RegExp => new RegExp(`^\\d{1,3}(?:${sign}\\d{3})+$`)

/** Digits with signs between them as digits with a decimal point; undefined where they are no number. */
const plainDigits = (text: string): string | undefined => {
  const lastComma = text.lastIndexOf(',')
  const lastPoint = text.lastIndexOf('.')
  const blanks = text.replace(/[\s\u00a0\u202f'’]/g, '')
  if (lastComma >= 0 && lastPoint >= 0) {
    const decimal = lastComma > lastPoint ? ',' : '.'
    const [whole = '', ...rest] = blanks.split(decimal)
    const other = decimal === ',' ? '\\.' : ','
    if (rest.length !== 1 || !grouped(other).test(whole)) return undefined
    return `${whole.replace(/[.,]/g, '')}.${rest[0] ?? ''}`
  }
  if (lastComma >= 0) return grouped(',').test(blanks) ? blanks.replaceAll(',', '') : blanks.replace(',', '.')
  return grouped('\\.').test(blanks) && blanks.split('.').length > 2 ? blanks.replaceAll('.', '') : blanks
}

/**
 * A number as people type it: “1,200.50”, “1.200,50”, “1,2”, “£5”, “20%” (0.2), “(45)” (−45). Undefined where it is none. One comma
 * before just three digits parts thousands.
 */
export const typedNumber = (text: string): number | undefined => {
  const trimmed = text.trim().replace('−', '-')
  const inBrackets = /^\((.*)\)$/.exec(trimmed)?.[1]
  const isPercent = /%$/.test(trimmed)
  const body = (inBrackets ?? trimmed).replace(/\s*%$/, '').replace(money, '').trim()
  const [, sign = '', rest = ''] = /^([-+]?)\s*(.*)$/.exec(body) ?? []
  const digits = plainDigits(rest.replace(money, ''))
  if (digits === undefined || !/^(?:\d+\.?\d*|\.\d+)(?:e[-+]?\d+)?$/i.test(digits)) return undefined
  const value = Number(digits) * (sign === '-' ? -1 : 1) * (inBrackets === undefined ? 1 : -1)
  // 12 digits, so that 1.1 % is 0.011 and not its neighbour
  return isPercent ? Number((value / 100).toPrecision(12)) : value
}
