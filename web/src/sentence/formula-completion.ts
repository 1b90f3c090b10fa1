import {
  everyFunction,
  maybeTokens,
  writeColumn,
  writeParameter,
  type Parameter,
  type Schema,
  type Token,
} from '@fabula/core'

/** Something to put in at the caret. */
export type Offer = {
  readonly label: string
  readonly put: string
  readonly about: string
  readonly kind: 'function' | 'column' | 'parameter'
}

const functionNames = new Set(everyFunction.map(({ name }) => name))
const tone: Readonly<Record<Token['kind'], string>> = {
  number: 'text-changed',
  text: 'text-added',
  column: 'text-token',
  parameter: 'text-rubric',
  name: '',
  sign: 'text-ink-2',
  end: '',
}

const lookOf = ({ kind, value }: Token, columns: ReadonlySet<string>): string => {
  if (kind !== 'name') return tone[kind]
  if (functionNames.has(value.toUpperCase())) return 'font-semibold text-ink'
  return columns.has(value) ? 'text-token' : 'text-ink'
}

/** The formula's text in pieces, each with its colour; what lies between tokens (spaces, comments) is faint. */
export const pieces = (
  text: string,
  schema: Schema,
  problem: { from: number; to: number } | undefined,
): { text: string; look: string }[] => {
  const names = new Set(schema.map(({ name }) => name))
  const found: { text: string; look: string }[] = []
  let at = 0
  const push = (from: number, to: number, look: string): void => {
    const wrong = problem && from < problem.to && to > problem.from
    if (to > from)
      found.push({
        text: text.slice(from, to),
        look: wrong ? `${look} underline decoration-removed decoration-wavy underline-offset-3` : look,
      })
  }
  for (const token of maybeTokens(text)) {
    push(at, token.from, 'text-ink-3')
    push(token.from, token.to, lookOf(token, names))
    at = token.to
  }
  push(at, text.length, 'text-ink-3')
  return found
}

/** The word that is being typed at the caret: a name, a quoted column, or a parameter. */
export const wordAt = (text: string, caret: number): string =>
  /(?:\$?'[^']*|\$?[\p{L}_][\p{L}\p{N}_]*|\$)$/u.exec(text.slice(0, caret))?.[0] ?? ''

/** What the caret stands in: the innermost function whose brackets are open, and which of its arguments. */
export const callAt = (text: string, caret: number): { name: string; at: number } | undefined => {
  const open: { name: string; at: number }[] = []
  let last: Token | undefined
  for (const token of maybeTokens(text.slice(0, caret))) {
    if (token.value === '(' && token.kind === 'sign')
      open.push({ name: last?.kind === 'name' ? last.value.toUpperCase() : '', at: 0 })
    else if (token.value === ')' && token.kind === 'sign') open.pop()
    else if (token.kind === 'sign' && (token.value === ';' || token.value === ',')) {
      const inner = open.at(-1)
      if (inner) inner.at++
    }
    last = token
  }
  return open.at(-1)
}

/** What may stand where a word is being typed: columns, functions and values asked at replay, at most eight. */
export const offersFor = (word: string, schema: Schema, parameters: readonly Parameter[]): Offer[] => {
  const sought = word.replace(/^\$?'?/, '').toLowerCase()
  const asked = parameters
    .filter(({ name }) => name.toLowerCase().includes(sought))
    .map(({ name, type }): Offer => ({
      label: `$${name}`,
      put: writeParameter(name),
      about: `asked at replay, ${type}`,
      kind: 'parameter',
    }))
  if (word.startsWith('$')) return asked
  const columns = schema
    .filter(({ name }) => name.toLowerCase().includes(sought))
    .map(({ name, type }): Offer => ({ label: name, put: writeColumn(name), about: type, kind: 'column' }))
  if (word.startsWith("'")) return columns.slice(0, 8)
  const functions = everyFunction
    .filter(({ name }) => name.startsWith(sought.toUpperCase()))
    .map(({ name, about, args }): Offer => ({
      label: `${name}(${args.map((arg) => arg.name).join('; ')})`,
      put: `${name}(`,
      about,
      kind: 'function',
    }))
  return [...columns.slice(0, 4), ...functions.slice(0, 5), ...asked.slice(0, 2)].slice(0, 8)
}
