import { FormulaError, type Span } from './problems.ts'

/** What a token is. */
export type TokenKind = 'number' | 'text' | 'column' | 'parameter' | 'name' | 'sign' | 'end'
/** A token with its value and place. */
export type Token = Span & { readonly kind: TokenKind; readonly value: string }

const patterns: readonly (readonly [TokenKind | 'blank', RegExp])[] = [
  ['blank', /(?:\s|\/\*[\s\S]*?\*\/)+/uy],
  ['number', /(?:[0-9]+(?:\.[0-9]*)?|\.[0-9]+)(?:[eE][-+]?[0-9]+)?/uy],
  ['text', /"(?:[^"]|"")*"/uy],
  ['parameter', /\$(?:'(?:[^']|'')*'|[\p{L}\p{N}_]+)/uy],
  ['column', /'(?:[^']|'')*'/uy],
  ['name', /[\p{L}_][\p{L}\p{M}\p{N}_]*/uy],
  ['sign', /<=|>=|<>|[-+*/^&=<>%(),;]/uy],
]

const unquote = (raw: string, mark: string): string => raw.slice(1, -1).replaceAll(mark + mark, mark)

const valueOf = (kind: TokenKind, raw: string): string => {
  if (kind === 'text') return unquote(raw, '"')
  if (kind === 'column') return unquote(raw, "'")
  if (kind === 'parameter') return raw[1] === "'" ? unquote(raw.slice(1), "'") : raw.slice(1)
  return raw
}

/** @throws FormulaError for a sign that begins no token. */
const refuse = (source: string, at: number): never => {
  const sign = source[at] ?? ''
  const rest = { from: at, to: source.length }
  if (sign === '"') throw new FormulaError({ ...rest, code: 'unclosed-text' })
  if (sign === "'") throw new FormulaError({ ...rest, code: 'unclosed-column' })
  if (source.startsWith('/*', at)) throw new FormulaError({ ...rest, code: 'unclosed-comment' })
  throw new FormulaError({ from: at, to: at + 1, code: 'unknown-sign', sign })
}

/** The tokens of a formula. @throws FormulaError at a sign that begins none. */
export const lex = (source: string): Token[] => {
  const tokens: Token[] = []
  let at = 0
  scan: while (at < source.length) {
    for (const [kind, pattern] of patterns) {
      pattern.lastIndex = at
      const raw = pattern.exec(source)?.[0]
      if (!raw || (kind === 'sign' && source.startsWith('/*', at))) continue
      if (kind !== 'blank') tokens.push({ kind, value: valueOf(kind, raw), from: at, to: at + raw.length })
      at += raw.length
      continue scan
    }
    refuse(source, at)
  }
  tokens.push({ kind: 'end', value: '', from: source.length, to: source.length })
  return tokens
}

/** The tokens of a text that may not be a formula yet, as far as they can be recognised. */
export const maybeTokens = (source: string): Token[] => {
  try {
    return lex(source)
  } catch (error) {
    if (!(error instanceof FormulaError)) throw error
    const { from, to } = error.problem
    return [
      ...(from > 0 ? maybeTokens(source.slice(0, from)).filter(({ kind }) => kind !== 'end') : []),
      { kind: 'end', value: '', from, to },
    ]
  }
}
