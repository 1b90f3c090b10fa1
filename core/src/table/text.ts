/** Unicode simple lower-casing, free of locale and of context: İ gives i, every Σ gives σ. */
export const lower = (text: string): string =>
  (/[İΣ]/.test(text) ? text.replaceAll('İ', 'i').replaceAll('Σ', 'σ') : text).toLowerCase()

/** Upper case by Unicode, without the locale of the machine. */
export const upper = (text: string): string => text.toUpperCase()

/** Unicode white space, as the property White_Space has it. */
export const space = '\\t-\\r \\u0085\\u00a0\\u1680\\u2000-\\u200a\\u2028\\u2029\\u202f\\u205f\\u3000'
const ends = new RegExp(`^[${space}]+|[${space}]+$`, 'g')
const isSpaceCode = (code: number): boolean =>
  code <= 32
    ? code === 32 || (code >= 9 && code <= 13)
    : code > 127 && new RegExp(`[${space}]`).test(String.fromCharCode(code))
/** Without white space (Unicode property White_Space) at both ends. */
export const trim = (text: string): string =>
  text !== '' && (isSpaceCode(text.charCodeAt(0)) || isSpaceCode(text.charCodeAt(text.length - 1)))
    ? text.replace(ends, '')
    : text

const surrogate = /[\ud800-\udfff]/

/** By code point; UTF-16 units order alike unless a surrogate is met. */
export const compareCodePoints = (a: string, b: string): number => {
  if (a === b) return 0
  if (!surrogate.test(a) && !surrogate.test(b)) return a < b ? -1 : 1
  const left = Array.from(a)
  const right = Array.from(b)
  for (let i = 0; i < Math.min(left.length, right.length); i++) {
    const difference = (left[i]?.codePointAt(0) ?? 0) - (right[i]?.codePointAt(0) ?? 0)
    if (difference !== 0) return difference
  }
  return left.length - right.length
}

/** Digit runs weighed as numbers: “bed 12” gives “bed 000212”, so that comparing code points does the rest. Scripts build the same key. */
export const naturalKey = (lowered: string): string =>
  lowered.replace(/[0-9]+/g, (digits) => {
    const plain = digits.replace(/^0+(?=[0-9])/, '')
    return `0${String(plain.length).padStart(4, '0')}${plain}`
  })

/** `*` any run, `?` one character, case ignored: the pattern of selectors and file names. */
export const wildcard = (pattern: string): RegExp =>
  new RegExp(
    `^${pattern
      .replace(/[.+^${}()|[\]\\/]/g, '\\$&')
      .replaceAll('*', '[\\s\\S]*')
      .replaceAll('?', '[\\s\\S]')}$`,
    'iu',
  )

/** Each word's first letter large, the rest small; a word is letters, digits and apostrophes. */
export const titleCase = (text: string): string =>
  text.replace(/[\p{L}\p{M}\p{N}'’]+/gu, (word) => {
    const at = Array.from(word).findIndex((sign) => /\p{L}/u.test(sign))
    const signs = Array.from(word)
    return at < 0 ? word : signs.map((sign, i) => (i === at ? upper(sign) : lower(sign))).join('')
  })
