import { figure, sentenceText, tableNames, type Recipe } from '@fabula/core'
import type { ReconcileReply } from '@fabula/core/api'

/** A table as it stands after one of its steps. */
export type TablePosition = { readonly table: string; readonly step: string }
type ColumnDifference = ReconcileReply['columns'][number]

export const keyOf = ({ table, step }: TablePosition): string => `${table}/${step}`

/** Every table after each of its steps, by the sentence. */
export const momentsOf = (recipe: Recipe): readonly (TablePosition & { readonly words: string })[] =>
  recipe.tables.flatMap((table) =>
    table.steps.map((step, i) => ({
      table: table.id,
      step: step.id,
      words: `${table.name}, after sentence ${i + 1}: ${sentenceText(step, tableNames(recipe))}`,
    })),
  )

const indexOf = ({ tables }: Recipe, { table, step }: TablePosition): number =>
  tables.find(({ id }) => id === table)?.steps.findIndex(({ id }) => id === step) ?? -1

/** What a table is held against at first: itself one step before, else the last state of another table, else itself later. */
export const firstMoment = (recipe: Recipe, there: TablePosition): TablePosition => {
  const table = recipe.tables.find(({ id }) => id === there.table)
  const at = indexOf(recipe, there)
  const own = (index: number): TablePosition | undefined => {
    const step = table?.steps[index]
    return step && { table: there.table, step: step.id }
  }
  if (at > 0) return own(at - 1) ?? there
  const other = recipe.tables.find(({ id }) => id !== there.table)
  if (other) return { table: other.id, step: other.steps.at(-1)?.id ?? '' }
  return own(at + 1) ?? there
}

/** The short names of both moments: the number of the sentence within one table, else the names of the tables. */
export const momentNames = (recipe: Recipe, here: TablePosition, there: TablePosition): readonly [string, string] => {
  const nameOf = (moment: TablePosition): string =>
    here.table === there.table
      ? `after ${indexOf(recipe, moment) + 1}`
      : (recipe.tables.find(({ id }) => id === moment.table)?.name ?? '')
  return [nameOf(here), nameOf(there)]
}

/** Whether two totals are the same but for the rounding of floating-point sums. */
export const sameTotal = (a: number | undefined, b: number | undefined): boolean => {
  if (a === undefined || b === undefined) return a === b
  return Math.abs(b - a) <= Math.max(Math.abs(a), Math.abs(b)) * 1e-12
}

/** The signed difference of two totals. */
export const totalDifference = (a: number, b: number): string => {
  if (sameTotal(a, b)) return 'the same'
  return `${b > a ? '+' : '−'}${figure(Number(Math.abs(b - a).toPrecision(10)))}`
}

/** Columns that differ stand first: those of one table only, those with changes, other numbers, the rest. */
export const columnWeight = ({ here, there, changed, totalHere, totalThere }: ColumnDifference): number => {
  if (here !== there) return 3
  if (changed > 0 || !sameTotal(totalHere, totalThere)) return 2
  return totalHere === undefined ? 0 : 1
}

/** How rows are paired, in words; `chosen`: the keys were chosen by hand. */
export const pairingText = ({ byLineage, keys, shared }: ReconcileReply, chosen: boolean): string => {
  if (byLineage) return 'Rows are followed from one sentence to the other'
  if (keys.length === shared.length && !chosen) return 'Rows are the same where all that both have is'
  return `Rows belong together where ${keys.join(' and ')} ${keys.length === 1 ? 'is' : 'are'} the same`
}

/** The keys with one put in or taken out; the first chosen one replaces those that were not chosen. */
export const keysWith = ({ byLineage, keys, shared }: ReconcileReply, chosen: boolean, name: string): string[] => {
  if (keys.includes(name)) return keys.filter((one) => one !== name)
  return byLineage || (!chosen && keys.length === shared.length) ? [name] : [...keys, name]
}

/** Whether a column is one of a few keys, and not one of all columns by which rows are the same. */
export const isShownKey = ({ byLineage, keys, shared }: ReconcileReply, { key }: ColumnDifference): boolean =>
  key && !byLineage && keys.length < shared.length
