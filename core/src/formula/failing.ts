import { code, joined, py, sql, type Code, pyHelper } from '../codegen/tag.ts'
import type { Cell } from '../table/column.ts'
import type { TypedNode } from './check.ts'

/** How a part of a formula is written in a language. */
export type WriteNode = (node: TypedNode) => Code
type CallNode = TypedNode & { readonly kind: 'call' }

/** Arguments that are constants, undefined for the others. */
export const constantsOf = (node: CallNode): (Cell | undefined)[] =>
  node.args.map((arg) => (arg.kind === 'constant' ? arg.value : undefined))

const no = code('false')
const pythonNo = code('False')
const some = (parts: readonly Code[], none: Code): Code[] => parts.filter((part) => part.text !== none.text)

/** Whether a filled result is wanting where every argument is filled. */
const ownSql = (node: CallNode, args: readonly Code[]): Code => {
  const { fails, seesEmpty } = node.fn
  if (fails === 'never' || seesEmpty) return no
  const filled = args.map((arg) => sql`${arg} is not null`)
  return joined([...filled, ...(fails ? [sql`(${fails.sql(args, constantsOf(node))})`] : [])], ' and ')
}

/**
 * A condition that holds in the rows where a part could not be computed, as against being merely empty: its result is
 * empty, and one of its arguments failed or it did itself. Scripts have no other trace of a failure.
 */
export const failingSql = (node: TypedNode, write: WriteNode): Code => {
  if (node.kind !== 'call') return no
  const inner = node.args.map((arg) => failingSql(arg, write))
  const name = node.fn.name
  if (name === 'IFERROR') return some(inner, no).length === 2 ? sql`(${joined(inner, ' and ')})` : no
  const causes =
    name === 'IF'
      ? [
          ...some([inner[0] ?? no], no),
          ...(some(inner.slice(1), no).length > 0
            ? [sql`case when ${write(node.args[0] as TypedNode)} then ${inner[1] ?? no} else ${inner[2] ?? no} end`]
            : []),
        ]
      : some([...inner, ownSql(node, node.args.map(write))], no)
  return causes.length === 0 ? no : sql`(${write(node)} is null and (${joined(causes, ' or ')}))`
}

/** As `failingSql`, in Python. */
export const failingPython = (node: TypedNode, write: WriteNode): Code => {
  if (node.kind !== 'call') return pythonNo
  const inner = node.args.map((arg) => failingPython(arg, write))
  const { name, fails, seesEmpty } = node.fn
  if (name === 'IFERROR')
    return some(inner, pythonNo).length === 2 ? py`${pyHelper('both_fail')}(${joined(inner, ', ')})` : pythonNo
  const known = some(inner, pythonNo)
  if (name === 'IF')
    return known.length === 0
      ? pythonNo
      : py`${pyHelper('failing_branch')}(${write(node)}, ${write(node.args[0] as TypedNode)}, ${inner[0] ?? pythonNo}, ${inner[1] ?? pythonNo}, ${inner[2] ?? pythonNo})`
  const never = fails === 'never' || seesEmpty === true
  if (never && known.length === 0) return pythonNo
  const chooseOwn = () => {
    if (never) return code('None')
    if (fails) return fails.python(constantsOf(node))
    return code('True')
  }
  const own = chooseOwn()
  return py`${pyHelper('failing')}(${write(node)}, [${joined(known, ', ')}], [${joined(never ? [] : node.args.map(write), ', ')}], ${own})`
}
