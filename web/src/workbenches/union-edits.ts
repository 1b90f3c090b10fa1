import type { StepOf } from '@fabula/core'
import { without } from '../story/without.ts'

export type ColumnSource = { readonly table: string; readonly column: string }
export type UnionPair = { readonly into: string; readonly from: readonly ColumnSource[] }
export type SeparateColumn = { readonly column: string; readonly table: string; readonly as: string }

const pairsOf = (step: StepOf<'union'>): readonly UnionPair[] => step.pairs ?? []
const apartOf = (step: StepOf<'union'>): readonly SeparateColumn[] => step.apart ?? []
const isOf =
  ({ table, column }: ColumnSource) =>
  (one: ColumnSource): boolean =>
    one.table === table && one.column === column

const put = (step: StepOf<'union'>, pairs: readonly UnionPair[], apart: readonly SeparateColumn[]): StepOf<'union'> => {
  const kept = pairs.filter(({ into, from }) => from.some((one) => one.column !== into))
  return {
    ...without(step, 'pairs', 'apart'),
    ...(kept.length > 0 ? { pairs: kept } : {}),
    ...(apart.length > 0 ? { apart } : {}),
  } as StepOf<'union'>
}

/** A column of a table, on its own name again. */
export const onItsOwn = (step: StepOf<'union'>, cell: ColumnSource): StepOf<'union'> =>
  put(
    step,
    pairsOf(step)
      .map((pair) => ({ ...pair, from: pair.from.filter((one) => !isOf(cell)(one)) }))
      .filter(({ from }) => from.length > 0),
    apartOf(step).filter((one) => !isOf(cell)(one)),
  )

/** A column laid into the column `into` of the union; `there` are those that stand in it already. */
export const alignedInto = (
  step: StepOf<'union'>,
  cell: ColumnSource,
  into: string,
  there: readonly ColumnSource[],
): StepOf<'union'> => {
  const free = onItsOwn(step, cell)
  if (cell.column === into) return free
  const pairs = pairsOf(free)
  const known = pairs.find((pair) => pair.into === into)
  const from = [...(known?.from ?? there.filter(({ column }) => column === into)), cell]
  return put(free, [...pairs.filter((pair) => pair !== known), { into, from }], apartOf(free))
}

/** A column taken out of those of its name, as another. */
export const takenApart = (step: StepOf<'union'>, cell: ColumnSource, as: string): StepOf<'union'> => {
  const free = onItsOwn(step, cell)
  return put(free, pairsOf(free), [...apartOf(free), { ...cell, as }])
}
export const isMoved = (step: StepOf<'union'>, cell: ColumnSource): boolean =>
  pairsOf(step).some(({ into, from }) => into !== cell.column && from.some(isOf(cell))) ||
  apartOf(step).some(isOf(cell))

/** A table more or less; what was decided on its columns goes with it, unless it lies there twice. */
export const withTables = (step: StepOf<'union'>, tables: readonly string[]): StepOf<'union'> => {
  const gone = (step.with as readonly string[]).filter((id) => !tables.includes(id))
  return put(
    { ...step, with: tables } as StepOf<'union'>,
    pairsOf(step)
      .map((pair) => ({ ...pair, from: pair.from.filter(({ table }) => !gone.includes(table)) }))
      .filter(({ from }) => from.length > 0),
    apartOf(step).filter(({ table }) => !gone.includes(table)),
  )
}
