import { cellWords } from './columns.ts'
import { evaluateCondition } from './condition-run.ts'
import { checkedFormula } from './condition-code.ts'
import {
  columnsOfValue,
  conditionWords,
  isTest,
  partsOf,
  valuesOfTest,
  type Condition,
  type Test,
} from './condition.ts'
import type { RunContext } from './step-kind.ts'
import type { Table } from '../../table/table.ts'

/** The columns that a condition names, each once. */
export const columnsOfCondition = (condition: Condition, table: Table, context: RunContext): readonly string[] => {
  if (isTest(condition)) return [...new Set([condition.column, ...valuesOfTest(condition).flatMap(columnsOfValue)])]
  if ('formula' in condition) return checkedFormula(condition.formula, table.schema, context.parameterTypes).columns
  return [...new Set(partsOf(condition).flatMap((one) => columnsOfCondition(one, table, context)))]
}

/** Whether one row meets a condition. */
const meets = (condition: Condition, table: Table, context: RunContext, row: number): boolean =>
  evaluateCondition(condition, table.rows(Int32Array.of(row)), context)[0] === 1

/** The part of a condition that decides that a row meets it, or does not: the first that fails, or the first that holds. */
const deciding = (
  condition: Condition,
  table: Table,
  context: RunContext,
  row: number,
): Test | { readonly formula: string } => {
  if (isTest(condition) || 'formula' in condition) return condition
  if ('not' in condition) return deciding(condition.not, table, context, row)
  const parts = 'all' in condition ? condition.all : condition.any
  const wanted = 'any' in condition
  const found = parts.find((part) => meets(part, table, context, row) === wanted) ?? parts[0]
  return found ? deciding(found, table, context, row) : { formula: conditionWords(condition) }
}

/** Why a row met a condition or did not, in words of its own values: “Status is Cancelled”, “Fee is 3, not more than 10”. */
export const conditionReason = (condition: Condition, table: Table, context: RunContext, row: number): string => {
  const part = deciding(condition, table, context, row)
  if ('formula' in part) {
    const columns = columnsOfCondition(part, table, context)
    const values = columns.map((column) => `${column} is ${cellWords(table, column, row)}`).join(', ')
    return `${values === '' ? '' : `${values}: `}${part.formula} is ${meets(part, table, context, row) ? 'so' : 'not so'}`
  }
  const said = `${part.column} is ${cellWords(table, part.column, row)}`
  const byValue = ['is', 'is-not', 'is-one-of', 'is-none-of', 'is-empty', 'is-filled'].includes(part.op)
  if (byValue) return said
  const words = conditionWords(part)
  return meets(part, table, context, row) ? `${said}: ${words}` : `${said}, so not ${words}`
}
