import type { WordCount } from '../../reading/date-forms.ts'

/** The class of an ASCII character; itself where it is neither letter nor digit. */
const classes = Array.from({ length: 128 }, (_, code) => {
  const sign = String.fromCharCode(code)
  if (/[A-Z]/.test(sign)) return 'A'
  if (/[a-z]/.test(sign)) return 'a'
  return /[0-9]/.test(sign) ? '9' : sign
})
/** The shape of an ASCII text; undefined of another. */
const plainShape = (text: string): string | undefined => {
  let shape = ''
  let run = 0
  let last = ''
  for (let i = 0; i <= text.length; i++) {
    const code = i < text.length ? text.charCodeAt(i) : -1
    if (code > 127) return undefined
    const sign = code < 0 ? '' : (classes[code] as string)
    if (sign === last && i > 0) {
      run++
      continue
    }
    const isRun = last === 'A' || last === 'a' || last === '9'
    shape += isRun && run > 4 ? `${last.repeat(3)}…` : last.repeat(run)
    last = sign
    run = 1
  }
  return shape
}
/** VAC-1 -> AAA-9; runs of more than four are cut short. */
const shapeOf = (text: string): string =>
  plainShape(text) ??
  text
    .replace(/\p{Lu}/gu, 'A')
    .replace(/\p{Ll}/gu, 'a')
    .replace(/\p{N}/gu, '9')
    .replace(/(A|a|9)\1{4,}/g, '$1$1$1…')

/** The commonest shapes of texts: A a large letter, a a small one, 9 a digit. */
export const shapeCounts = (words: readonly WordCount[]): { label: string; count: number }[] => {
  const counts = new Map<string, number>()
  for (const { text, count } of words) {
    const shape = shapeOf(text)
    counts.set(shape, (counts.get(shape) ?? 0) + count)
  }
  return [...counts]
    .map(([label, count]) => ({ label, count }))
    .sort((a, b) => b.count - a.count)
    .slice(0, 6)
}
