import { nearest, quoted } from '../messages/words.ts'
import { valueCounts } from '../table/value-counts.ts'
import type { Column } from '../table/column.ts'
import type { ColumnType } from '../table/column.ts'
import type { CompatibilityOffer } from './finding.ts'

type RenameOffer = Extract<CompatibilityOffer, { do: 'rename' }>

/** A new column that may be the missing one. */
export type RenameCandidate = { readonly name: string; readonly type: ColumnType; readonly column: Column }
/** Which new columns may be a missing one, best first. `likely`: a near name, or 30 % of its values shared. */
export type RenameOffers = { readonly offers: readonly RenameOffer[]; readonly likely: boolean }

const enoughShared = 0.3
const mostOffers = 3

/** How many of the different values of a column are among the known ones, 0 to 1. */
const sharedValues = (known: ReadonlySet<string>, column: Column): number => {
  const found = [...(valueCounts(column, 5000)?.keys() ?? [])]
  return found.length === 0 ? 0 : found.filter((text) => known.has(text)).length / found.length
}

/** New columns held against a missing one by name, by the values it has elsewhere, and as the only one of its type. */
export const renameOffers = (
  missing: { readonly name: string; readonly type: ColumnType | undefined },
  candidates: readonly RenameCandidate[],
  known: readonly (Column | undefined)[],
): RenameOffers => {
  const names = candidates.map(({ name }) => name)
  const near = nearest(missing.name, names)
  const values = new Set(known.flatMap((column) => (column ? [...(valueCounts(column, 5000)?.keys() ?? [])] : [])))
  const scored = candidates
    .map(({ name, type, column }) => ({
      name,
      share: values.size === 0 ? 0 : sharedValues(values, column),
      near: near.includes(name) ? near.length - near.indexOf(name) : 0,
      only: candidates.length === 1 && type === missing.type,
    }))
    .sort((a, b) => b.share - a.share || b.near - a.near)
  const likely = scored.filter(({ share, near: close }) => share >= enoughShared || close > 0)
  const offered = likely.length > 0 ? likely : scored.filter(({ only }) => only)
  return {
    likely: likely.length > 0,
    offers: offered.slice(0, mostOffers).map(({ name, share, near: close }) => ({
      do: 'rename',
      column: name,
      why:
        [
          ...(share >= enoughShared
            ? [`${Math.round(share * 100)} % of its values are those of ${quoted(missing.name)}`]
            : []),
          ...(close > 0 ? ['the names are alike'] : []),
        ].join(', and ') || 'it is the only new column, and of the same type',
    })),
  }
}
