import { lex, type Token } from './lex.ts'
import { FormulaError, type Span } from './problems.ts'

/** The comparison operators. */
export type Comparison = '=' | '<>' | '<' | '<=' | '>' | '>='
/** The binary operators. */
export type Operator = '+' | '-' | '*' | '/' | '^' | '&' | Comparison
/** The AST of a formula, untyped; each node with its place. */
export type FormulaNode = Span &
  (
    | { readonly kind: 'number'; readonly value: number; readonly whole: boolean }
    | { readonly kind: 'text'; readonly value: string }
    | { readonly kind: 'boolean'; readonly value: boolean }
    | { readonly kind: 'empty' }
    | { readonly kind: 'column'; readonly name: string }
    | { readonly kind: 'parameter'; readonly name: string }
    | { readonly kind: 'unary'; readonly op: '-' | '+' | '%'; readonly arg: FormulaNode }
    | { readonly kind: 'binary'; readonly op: Operator; readonly left: FormulaNode; readonly right: FormulaNode }
    | { readonly kind: 'call'; readonly name: string; readonly args: readonly FormulaNode[] }
  )

/** Binary operators from loosest to tightest. */
const levels: readonly (readonly Operator[])[] = [
  ['=', '<>', '<', '<=', '>', '>='],
  ['&'],
  ['+', '-'],
  ['*', '/'],
  ['^'],
]
const maxDepth = 200
const maxTreeDepth = 400
const mostFormulaCharacters = 100_000

class Parser {
  private at = 0
  private depth = 0
  private readonly tokens: readonly Token[]
  constructor(tokens: readonly Token[]) {
    this.tokens = tokens
  }

  private get next(): Token {
    return this.tokens[this.at] as Token
  }
  private take(): Token {
    const token = this.next
    if (token.kind !== 'end') this.at++
    return token
  }
  private maybe(...signs: readonly string[]): Token | undefined {
    return this.next.kind === 'sign' && signs.includes(this.next.value) ? this.take() : undefined
  }
  /** Where a token is marked as wrong; the end of the formula as one character. */
  private placeOf({ from, to }: Span): Span {
    return { from, to: Math.max(to, from + 1) }
  }

  /** Formula := Level0 end */
  formula(): FormulaNode {
    const node = this.level(0)
    if (this.next.kind !== 'end')
      throw new FormulaError({ ...this.placeOf(this.next), code: 'expected-operator', found: this.next.value })
    return node
  }

  /** Level(n) := Level(n + 1) (operator of n, Level(n + 1))* */
  private level(n: number): FormulaNode {
    if (++this.depth > maxDepth * levels.length)
      throw new FormulaError({ ...this.placeOf(this.next), code: 'too-deep' })
    const operators = levels[n]
    if (!operators) {
      const node = this.postfix()
      this.depth--
      return node
    }
    let left = this.level(n + 1)
    for (let sign = this.maybe(...operators); sign; sign = this.maybe(...operators)) {
      const right = this.level(n + 1)
      left = { kind: 'binary', op: sign.value as Operator, left, right, from: left.from, to: right.to }
    }
    this.depth--
    return left
  }

  /** Postfix := Prefix '%'* — the sign before binds tighter than all else */
  private postfix(): FormulaNode {
    let node = this.prefix()
    for (let sign = this.maybe('%'); sign; sign = this.maybe('%'))
      node = { kind: 'unary', op: '%', arg: node, from: node.from, to: sign.to }
    return node
  }

  /** Prefix := ('-' | '+') Prefix | Primary */
  private prefix(): FormulaNode {
    const sign = this.maybe('-', '+')
    if (!sign) return this.primary()
    if (++this.depth > maxDepth * levels.length) throw new FormulaError({ ...this.placeOf(sign), code: 'too-deep' })
    const arg = this.prefix()
    this.depth--
    return { kind: 'unary', op: sign.value as '-' | '+', arg, from: sign.from, to: arg.to }
  }

  /** Primary := number | text | column | parameter | name | name '(' Arguments ')' | '(' Level0 ')' */
  private primary(): FormulaNode {
    const token = this.take()
    const { from, to, value } = token
    if (token.kind === 'number') return this.number(token)
    if (token.kind === 'text') return { kind: 'text', value, from, to }
    if (token.kind === 'column') return { kind: 'column', name: value, from, to }
    if (token.kind === 'parameter') return { kind: 'parameter', name: value, from, to }
    if (token.kind === 'name') return this.named(token)
    if (token.kind === 'sign' && value === '(') {
      const inner = this.level(0)
      this.close(token)
      return inner
    }
    if (token.kind === 'end') throw new FormulaError({ ...this.placeOf(token), code: 'stops-early' })
    throw new FormulaError({ ...this.placeOf(token), code: 'expected-operand', found: value })
  }

  private number(token: Token): FormulaNode {
    const value = Number(token.value)
    if (!Number.isFinite(value)) throw new FormulaError({ ...this.placeOf(token), code: 'number-too-large' })
    return {
      kind: 'number',
      value,
      whole: /^[0-9]+$/.test(token.value) && Number.isSafeInteger(value),
      from: token.from,
      to: token.to,
    }
  }

  private named({ value, from, to }: Token): FormulaNode {
    if (this.maybe('(')) return this.call(value, from, to)
    const word = value.toUpperCase()
    if (word === 'TRUE' || word === 'FALSE') return { kind: 'boolean', value: word === 'TRUE', from, to }
    if (word === 'EMPTY') return { kind: 'empty', from, to }
    return { kind: 'column', name: value, from, to }
  }

  /** Arguments := (Level0 ((';' | ',') Level0)*)? */
  private call(name: string, from: number, to: number): FormulaNode {
    const args: FormulaNode[] = []
    const close = this.maybe(')')
    if (close) return { kind: 'call', name: name.toUpperCase(), args, from, to: close.to }
    do args.push(this.level(0))
    while (this.maybe(';', ','))
    return { kind: 'call', name: name.toUpperCase(), args, from, to: this.close({ from, to }).to }
  }

  private close(opened: Span): Token {
    const bracket = this.maybe(')')
    if (bracket) return bracket
    throw new FormulaError({ ...this.placeOf(this.next.kind === 'end' ? opened : this.next), code: 'unclosed-bracket' })
  }
}

/** Throws a FormulaError with its span where the text is not a formula. */
export const parseFormula = (source: string): FormulaNode => {
  if (source.length > mostFormulaCharacters)
    throw new FormulaError({
      from: mostFormulaCharacters,
      to: source.length,
      code: 'too-long',
      most: mostFormulaCharacters,
    })
  const node = new Parser(lex(source)).formula()
  checkDepth(node)
  return node
}

const partsOf = (node: FormulaNode): readonly FormulaNode[] => {
  if (node.kind === 'unary') return [node.arg]
  if (node.kind === 'binary') return [node.left, node.right]
  if (node.kind === 'call') return node.args
  return []
}

/** a + b + c … nests to the left as deeply as it is long: what walks a formula has a stack of limited depth. */
const checkDepth = (root: FormulaNode): void => {
  let level: readonly FormulaNode[] = [root]
  for (let depth = 1; level.length > 0; depth++) {
    const [first] = level
    if (depth > maxTreeDepth && first)
      throw new FormulaError({
        from: first.from,
        to: first.to,
        code: 'too-many-parts',
        most: maxTreeDepth,
      })
    level = level.flatMap(partsOf)
  }
}

/** How a column is written in a formula: bare where it may be, else in single quotes. */
export const writeColumn = (name: string): string =>
  /^[\p{L}_][\p{L}\p{N}_]*$/u.test(name) && !/^(true|false|empty)$/i.test(name)
    ? name
    : `'${name.replaceAll("'", "''")}'`

/** How a value that is asked at replay is written in a formula. */
export const writeParameter = (name: string): string =>
  /^[\p{L}\p{N}_]+$/u.test(name) ? `$${name}` : `$'${name.replaceAll("'", "''")}'`

/** The same formula with its columns renamed, all else to the letter. */
export const renameInFormula = (source: string, rename: (name: string) => string): string => {
  const spots: (Span & { name: string })[] = []
  const walk = (node: FormulaNode): void => {
    if (node.kind === 'column') spots.push(node)
    else if (node.kind === 'unary') walk(node.arg)
    else if (node.kind === 'binary') [node.left, node.right].forEach(walk)
    else if (node.kind === 'call') node.args.forEach(walk)
  }
  walk(parseFormula(source))
  return spots
    .sort((a, b) => b.from - a.from)
    .reduce(
      (text, { from, to, name }) =>
        rename(name) === name ? text : text.slice(0, from) + writeColumn(rename(name)) + text.slice(to),
      source,
    )
}
