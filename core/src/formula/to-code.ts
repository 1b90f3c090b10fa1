import { code, py, sql, type Code } from '../codegen/tag.ts'
import { pythonCell, sqlCell } from '../codegen/literals.ts'
import type { TypedNode } from './check.ts'
import { constantsOf, failingPython, failingSql } from './failing.ts'
import type { ArgumentType, FormulaType } from './function-kind.ts'

/** How a language writes the leaves of a formula; calls are written by the functions themselves. */
type LeafWriters = {
  readonly column: (name: string) => Code
  readonly parameter: (name: string) => Code
}

/** PostgreSQL wants to know the type of a bare null wherever a function is overloaded. */
const sqlNull: Readonly<Record<ArgumentType, Code>> = {
  number: code('null::bigint'),
  text: code('null::text'),
  boolean: code('null::boolean'),
  moment: code('null::timestamp'),
  clock: code('null::timestamp'),
  list: code('null::text'),
  written: code('null::float8'),
  any: code('null'),
}

/** A typed AST as an SQL expression. */
export const formulaSql = (node: TypedNode, leaves: LeafWriters): Code => {
  if (node.kind === 'constant')
    return node.value === null ? code('null') : sqlCell(node.type as Exclude<FormulaType, 'empty'>, node.value)
  if (node.kind === 'column') return leaves.column(node.name)
  if (node.kind === 'parameter') return leaves.parameter(node.name)
  const args = node.args.map((arg, i) => {
    if (arg.type === 'empty')
      return (node.fn.result === 'same' && i >= (node.fn.sameFrom ?? 0)) || node.fn.group === 'operator'
        ? emptyOperand(node)
        : sqlNull[(node.fn.args[i] ?? node.fn.args.at(-1))?.need ?? 'any']
    return formulaSql(arg, leaves)
  })
  if (node.fn.name === 'IFERROR') args.push(failingSql(node.args[0] as TypedNode, (part) => formulaSql(part, leaves)))
  return node.fn.scripts.sql(
    args,
    node.args.map((arg) => arg.type),
    constantsOf(node),
  )
}

const sqlTypes: Readonly<Record<FormulaType, string>> = {
  text: 'text',
  integer: 'bigint',
  decimal: 'float8',
  boolean: 'boolean',
  date: 'date',
  datetime: 'timestamp',
  time: 'time',
  list: 'text',
  empty: 'text',
}
/** The PostgreSQL type that holds a column type in scripts. */
export const sqlTypeName = (type: FormulaType): Code => code(sqlTypes[type])

/** An EMPTY beside others takes their type. */
const emptyOperand = (node: TypedNode & { kind: 'call' }): Code => {
  const other = node.args.find(
    (arg) => arg.type !== 'empty' && (node.fn.group === 'operator' || arg.type === node.type),
  )
  return sql`null::${sqlTypeName(other?.type ?? node.type)}`
}

const isOperation = (node: TypedNode): boolean => node.kind === 'call' && node.fn.group === 'operator'

/** A typed AST as what pandas has for whole columns, whose types are those it says; undefined where that would not give the same. */
export const formulaPandas = (node: TypedNode, column: (name: string) => Code): Code | undefined => {
  if (node.kind === 'column') return column(node.name)
  if (node.kind === 'constant')
    return node.value === null ? undefined : pythonCell(node.type as Exclude<FormulaType, 'empty'>, node.value)
  if (node.kind === 'parameter' || node.args.every(({ kind }) => kind === 'constant')) return undefined
  const args = node.args.flatMap((arg) => {
    const written = formulaPandas(arg, column)
    if (!written) return []
    return [isOperation(arg) ? py`(${written})` : written]
  })
  if (args.length < node.args.length) return undefined
  return node.fn.scripts.pandas?.(
    args,
    node.args.map((arg) => arg.type),
    constantsOf(node),
  )
}

/** A typed AST as a Python expression over pandas series. */
export const formulaPython = (node: TypedNode, leaves: LeafWriters): Code => {
  if (node.kind === 'constant')
    return node.value === null ? code('None') : pythonCell(node.type as Exclude<FormulaType, 'empty'>, node.value)
  if (node.kind === 'column') return leaves.column(node.name)
  if (node.kind === 'parameter') return leaves.parameter(node.name)
  const args = node.args.map((arg) => formulaPython(arg, leaves))
  if (node.fn.name === 'IFERROR')
    args.push(failingPython(node.args[0] as TypedNode, (part) => formulaPython(part, leaves)))
  return node.fn.scripts.python(
    args,
    node.args.map((arg) => arg.type),
    constantsOf(node),
  )
}
