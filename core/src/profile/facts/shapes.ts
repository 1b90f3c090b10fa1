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

const signs = 128
/** Texts that need more states are shaped one by one. */
const mostStates = 4096

/**
 * Finds the shapes of ASCII texts by an automaton: a state for each shape that a beginning of a text has, and from it one
 * step for each character, worked out when it is first taken.
 */
class ShapeFinder {
  /** The shape of each state. */
  readonly shapes = ['']
  private readonly states = new Map<string, number>([['', 0]])
  /** The state behind each state and character, plus one; 0 where no text went there yet. */
  private next = new Uint16Array(16 * signs)

  /** The state of a text; undefined where it has none. */
  stateOf(text: string): number | undefined {
    let state = 0
    for (let i = 0; i < text.length; i++) {
      const code = text.charCodeAt(i)
      if (code >= signs) return undefined
      const known = this.next[state * signs + code]!
      const to = known > 0 ? known - 1 : this.step(state, code, text.slice(0, i + 1))
      if (to === undefined) return undefined
      state = to
    }
    return state
  }
  /** The state of a beginning that is one character longer than that of a state; undefined where there is no room for it. */
  private step(state: number, code: number, beginning: string): number | undefined {
    const shape = plainShape(beginning) as string
    const to = this.states.get(shape) ?? this.shapes.length
    if (to === mostStates) return undefined
    if (to === this.shapes.length) {
      this.shapes.push(shape)
      this.states.set(shape, to)
      if (this.shapes.length * signs > this.next.length) this.next = wider(this.next)
    }
    this.next[state * signs + code] = to + 1
    return to
  }
}
const wider = (next: Uint16Array) => {
  const twice = new Uint16Array(2 * next.length)
  twice.set(next)
  return twice
}

/** The commonest shapes of texts: A a large letter, a a small one, 9 a digit. */
export const shapeCounts = (words: readonly WordCount[]): { label: string; count: number }[] => {
  const finder = new ShapeFinder()
  const ofStates = new Float64Array(mostStates)
  const counts = new Map<string, number>()
  for (const { text, count } of words) {
    const state = finder.stateOf(text)
    const shape = state === undefined ? shapeOf(text) : (finder.shapes[state] as string)
    // a shape takes its place when it is first met
    if (state === undefined || ofStates[state] === 0)
      counts.set(shape, (counts.get(shape) ?? 0) + (state === undefined ? count : 0))
    if (state !== undefined) ofStates[state]! += count
  }
  finder.shapes.forEach((shape, state) => {
    if (ofStates[state]! > 0) counts.set(shape, (counts.get(shape) ?? 0) + ofStates[state]!)
  })
  return [...counts]
    .map(([label, count]) => ({ label, count }))
    .sort((a, b) => b.count - a.count)
    .slice(0, 6)
}
