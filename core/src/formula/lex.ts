/** Positions in the formula, from inclusive, to exclusive, in UTF-16 units. */
export type Span = { readonly from: number; readonly to: number }
/** What is wrong with a formula, and from where to where, in UTF-16 units. */
export type FormulaProblem = Span & {
  readonly sentence: string
  /** The column that is not there, and the names most like it. */ readonly missing?: {
    readonly column: string
    readonly nearest: readonly string[]
  }
}

/** Thrown where a formula cannot be read. */
export class FormulaError extends Error {
  readonly problem: FormulaProblem
  constructor(problem: FormulaProblem) {
    super(problem.sentence)
    this.problem = problem
  }
}

/** What a token is. */
export type TokenKind = 'number' | 'text' | 'column' | 'parameter' | 'name' | 'sign' | 'end'
/** A token with its value and place. */
export type Token = Span & { readonly kind: TokenKind; readonly value: string }

const fail = (from: number, to: number, sentence: string): never => {
  throw new FormulaError({ from, to, sentence })
}

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

const refuse = (source: string, at: number): never => {
  const sign = source[at] as string
  if (sign === '"') fail(at, source.length, 'This text is not closed: a " is missing.')
  if (sign === "'") fail(at, source.length, "This column name is not closed: a ' is missing.")
  if (source.startsWith('/*', at)) fail(at, source.length, 'This comment is not closed: */ is missing.')
  return fail(at, at + 1, `${sign} has no meaning here.`)
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

/** The tokens of a text that may not be a formula yet, as far as they can be told. */
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
