import type { Step } from '@fabula/core'
import { without } from './cursor-before.ts'

export type From = { readonly table: string; readonly column: string }
export type Pair = { readonly into: string; readonly from: readonly From[] }
export type Apart = { readonly column: string; readonly table: string; readonly as: string }

const pairsOf = (step: Step): readonly Pair[] => (step.pairs as readonly Pair[] | undefined) ?? []
const apartOf = (step: Step): readonly Apart[] => (step.apart as readonly Apart[] | undefined) ?? []
const isOf =
  ({ table, column }: From) =>
  (one: From): boolean =>
    one.table === table && one.column === column

const put = (step: Step, pairs: readonly Pair[], apart: readonly Apart[]): Step => {
  const kept = pairs.filter(({ into, from }) => from.some((one) => one.column !== into))
  return {
    ...without(step, 'pairs', 'apart'),
    ...(kept.length > 0 ? { pairs: kept } : {}),
    ...(apart.length > 0 ? { apart } : {}),
  } as Step
}

/** A column of a table, on its own name again. */
export const onItsOwn = (step: Step, cell: From): Step =>
  put(
    step,
    pairsOf(step)
      .map((pair) => ({ ...pair, from: pair.from.filter((one) => !isOf(cell)(one)) }))
      .filter(({ from }) => from.length > 0),
    apartOf(step).filter((one) => !isOf(cell)(one)),
  )

/** A column laid into the column `into` of the union; `there` are those that stand in it already. */
export const laidInto = (step: Step, cell: From, into: string, there: readonly From[]): Step => {
  const free = onItsOwn(step, cell)
  if (cell.column === into) return free
  const pairs = pairsOf(free)
  const known = pairs.find((pair) => pair.into === into)
  const from = [...(known?.from ?? there.filter(({ column }) => column === into)), cell]
  return put(free, [...pairs.filter((pair) => pair !== known), { into, from }], apartOf(free))
}

/** A column taken out of those of its name, as another. */
export const takenApart = (step: Step, cell: From, as: string): Step => {
  const free = onItsOwn(step, cell)
  return put(free, pairsOf(free), [...apartOf(free), { ...cell, as }])
}
export const isMoved = (step: Step, cell: From): boolean =>
  pairsOf(step).some(({ into, from }) => into !== cell.column && from.some(isOf(cell))) ||
  apartOf(step).some(isOf(cell))

/** A table more or less; what was decided on its columns goes with it, unless it lies there twice. */
export const withTables = (step: Step, tables: readonly string[]): Step => {
  const gone = (step.with as readonly string[]).filter((id) => !tables.includes(id))
  return put(
    { ...step, with: tables } as Step,
    pairsOf(step)
      .map((pair) => ({ ...pair, from: pair.from.filter(({ table }) => !gone.includes(table)) }))
      .filter(({ from }) => from.length > 0),
    apartOf(step).filter(({ table }) => !gone.includes(table)),
  )
}
