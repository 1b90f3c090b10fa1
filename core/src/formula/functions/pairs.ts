import type { Span } from '../problems.ts'
import type { FormulaNode } from '../parse.ts'

/** A function that is written as others: what it stands for is put in its place before types are checked. */
export type Shorthand = {
  readonly name: string
  readonly group: 'logic'
  readonly about: string
  readonly args: readonly { readonly name: string }[]
  /** Undefined where the number of arguments is not right; `needs` says what would be. */
  readonly expand: (args: readonly FormulaNode[], at: Span) => FormulaNode | undefined
  readonly needs: string
  readonly examples: readonly (readonly [formula: string, gives: string])[]
}

const choice = (
  condition: FormulaNode,
  then: FormulaNode,
  otherwise: FormulaNode | undefined,
  { from, to }: Span,
): FormulaNode => ({
  kind: 'call',
  name: 'IF',
  args: otherwise ? [condition, then, otherwise] : [condition, then],
  from,
  to,
})

/** c1 v1 c2 v2 -> IF(c1; v1; IF(c2; v2)) */
const nested = (
  pairs: readonly (readonly [FormulaNode, FormulaNode])[],
  last: FormulaNode | undefined,
  at: Span,
): FormulaNode | undefined =>
  pairs.reduceRight<FormulaNode | undefined>((rest, [condition, value]) => choice(condition, value, rest, at), last)

const inPairs = (nodes: readonly FormulaNode[]): [FormulaNode, FormulaNode][] =>
  Array.from({ length: Math.floor(nodes.length / 2) }, (_, i) => [
    nodes[i * 2] as FormulaNode,
    nodes[i * 2 + 1] as FormulaNode,
  ])

/** Functions of pairs, which are rewritten as nested `IF`s before they are checked. */
export const shorthands: readonly Shorthand[] = [
  {
    name: 'IFS',
    group: 'logic',
    about: 'The value of the first condition that holds; empty where none does.',
    args: [{ name: 'condition' }, { name: 'value' }, { name: '…' }],
    needs: 'pairs of a condition and a value',
    expand: (nodes, at) =>
      nodes.length < 2 || nodes.length % 2 === 1 ? undefined : nested(inPairs(nodes), undefined, at),
    examples: [
      ['IFS(1 > 2; "a"; 2 > 1; "b")', 'b'],
      ['IFS(EMPTY; 1; TRUE; 2.5)', '2.5'],
      ['IFS(FALSE; 1)', ''],
    ],
  },
  {
    name: 'SWITCH',
    group: 'logic',
    about: 'The result beside the first value that x is; else the default, or empty.',
    args: [{ name: 'x' }, { name: 'value' }, { name: 'result' }, { name: '…' }, { name: 'default' }],
    needs: 'a value, pairs of a value and a result, and a default if wanted',
    expand: ([x, ...rest], at) => {
      if (!x || rest.length < 2) return undefined
      const last = rest.length % 2 === 1 ? rest.at(-1) : undefined
      return nested(
        inPairs(rest).map(([value, result]) => [
          { kind: 'binary', op: '=', left: x, right: value, from: value.from, to: value.to },
          result,
        ]),
        last,
        at,
      )
    },
    examples: [
      ['SWITCH(2; 1; "one"; 2; "two"; "more")', 'two'],
      ['SWITCH("z"; "a"; 1; "b"; 2; 9)', '9'],
      ['SWITCH("z"; "a"; 1)', ''],
    ],
  },
]
