import { kindOf, paramsOf } from '../recipe/step-access.ts'
import { cellWords } from '../steps/shared/columns.ts'
import type { Leaving } from './forward.ts'
import type { PlacedStep } from './traced-run.ts'

/** Why a row left at a step, in words of its own values. `rowName` names another row of the table before it. */
export const leftWords = ({ placed, row, table }: Leaving, rowName: (row: number) => string): string =>
  kindOf(placed.step).trace?.left?.(paramsOf(placed.step), { ...placed.traced, rowName }, row, table) ??
  'it has no place in the result'

/** Why rows left at a step; rows that are alike in what the step decides by are asked about once. */
export const reasonsAt = (
  placed: PlacedStep,
): ((leaving: { readonly row: number; readonly table: string | undefined }) => string) => {
  const { step, traced } = placed
  const known = new Map<string, string>()
  const decidedBy = new Map<string | undefined, readonly string[] | undefined>()
  const columnsFor = (table: string | undefined): readonly string[] | undefined => {
    if (!decidedBy.has(table)) decidedBy.set(table, kindOf(step).trace?.leftBy?.(paramsOf(step), traced, table))
    return decidedBy.get(table)
  }
  return ({ row, table }) => {
    const columns = columnsFor(table)
    const say = () => leftWords({ placed, row, table }, () => 'another row')
    if (!columns) return say()
    const source = table === undefined ? traced.before : traced.context.table(table)
    const key = JSON.stringify([table, ...columns.map((column) => cellWords(source, column, row))])
    const words = known.get(key) ?? say()
    known.set(key, words)
    return words
  }
}
