import { cellAt, isNullAt, isNumber, type ColumnType } from '../../table/column.ts'
import { groupBy } from '../../table/group.ts'
import { textOfCell } from '../../table/cell-text.ts'
import type { Table } from '../../table/table.ts'
import { lower } from '../../table/text.ts'
import { keyCodes } from '../../steps/shared/join-keys.ts'

type NamePair = { readonly left: string; readonly right: string }
/** Keys that may match two tables. `share` of the filled rows looked at meet a row there; `repeats` says whether the keys repeat there. */
export type KeySuggestion = { readonly on: readonly NamePair[]; readonly share: number; readonly repeats: boolean }

const mostLooked = 4000
const mostThere = 200_000
const mostColumns = 60

const plain = (name: string): string => lower(name).replace(/[^\p{L}\p{Nd}]+/gu, '')
/** 1 where the names are the same but for case and marks, less where one holds the other, 0 where they have nothing in common. */
export const namesAlike = (a: string, b: string): number => {
  const [x, y] = [plain(a), plain(b)]
  if (x === y) return 1
  return x.length > 2 && y.length > 2 && (x.includes(y) || y.includes(x)) ? 0.5 : 0
}

const kindOf = (type: ColumnType): string | undefined => {
  if (isNumber(type)) return 'number'
  if (type === 'list' || type === 'boolean') return undefined
  return type
}

/** Different values of a column as text, of rows evenly spread over it. */
const sample = (table: Table, column: string, most: number): string[] => {
  const values = table.named(column)
  const stride = Math.max(1, Math.floor(table.rowCount / most))
  const seen: string[] = []
  for (let row = 0; row < table.rowCount; row += stride) {
    const cell = cellAt(values, row)
    if (cell !== null) seen.push(textOfCell(values.type, cell))
  }
  return seen
}

const repeats = (table: Table, columns: readonly string[]): boolean => {
  const all = columns.map((name) => table.named(name))
  let filled = 0
  for (let row = 0; row < table.rowCount; row++) if (all.every((column) => !isNullAt(column, row))) filled++
  const { ids, count } = groupBy(all, table.rowCount)
  if (filled === table.rowCount) return count < table.rowCount
  const seen = new Uint8Array(count)
  for (let row = 0; row < table.rowCount; row++) {
    if (!all.every((column) => !isNullAt(column, row))) continue
    if (seen[ids[row]!]) return true
    seen[ids[row]!] = 1
  }
  return false
}

const shareOf = (left: Table, right: Table, on: readonly NamePair[]): number => {
  const {
    left: here,
    right: there,
    bound,
  } = keyCodes(
    on.map((one) => left.named(one.left)),
    on.map((one) => right.named(one.right)),
    {},
  )
  const met = new Uint8Array(bound)
  for (const code of there) if (code > 0) met[code] = 1
  let filled = 0
  let found = 0
  for (const code of here) {
    if (code === 0) continue
    filled++
    found += met[code]!
  }
  return filled === 0 ? 0 : found / filled
}

/**
 * Keys for two tables from names, types and shared values, best first. A column that is no key there by itself is joined
 * by others of the same name until no key repeats.
 */
export const suggestKeys = (left: Table, right: Table, most = 4): KeySuggestion[] => {
  const there = right.schema
    .slice(0, mostColumns)
    .flatMap(({ name, type }) =>
      kindOf(type) ? [{ name, kind: kindOf(type), values: new Set(sample(right, name, mostThere)), unique: 0 }] : [],
    )
  for (const one of there) one.unique = right.rowCount === 0 ? 0 : one.values.size / Math.min(right.rowCount, mostThere)
  const scored = left.schema.slice(0, mostColumns).flatMap(({ name, type }) => {
    const kind = kindOf(type)
    if (!kind) return []
    const values = sample(left, name, mostLooked)
    return there.flatMap((other) => {
      const alike = namesAlike(name, other.name)
      if (kind !== other.kind || (type === 'decimal' && alike < 1)) return []
      const share = values.length === 0 ? 0 : values.filter((value) => other.values.has(value)).length / values.length
      // numbers and dates of different things often coincide: their names must speak for them, or the key be one
      if (share < 0.2 && alike < 1) return []
      if (kind !== 'text' && alike === 0 && other.unique < 0.99) return []
      return [{ left: name, right: other.name, share, score: share * (0.3 + 0.7 * other.unique) + alike * 0.5 }]
    })
  })
  scored.sort((a, b) => b.score - a.score)
  const found: KeySuggestion[] = []
  for (const { left: l, right: r, share } of scored.slice(0, most)) {
    let on: NamePair[] = [{ left: l, right: r }]
    const single = { on, share, repeats: repeats(right, [r]) }
    const further = single.repeats
      ? scored.filter(
          (pair) => pair.left !== l && pair.right !== r && namesAlike(pair.left, pair.right) === 1 && pair.share > 0.2,
        )
      : []
    for (const more of further.slice(0, 4)) {
      const next = [...on, { left: more.left, right: more.right }]
      if (shareOf(left, right, next) < 0.5 * share) continue
      on = next
      if (
        !repeats(
          right,
          next.map((one) => one.right),
        )
      )
        break
    }
    if (
      on.length > 1 &&
      !repeats(
        right,
        on.map((one) => one.right),
      )
    ) {
      const key = JSON.stringify([...on].sort((a, b) => (a.left < b.left ? -1 : 1)))
      if (!found.some((one) => JSON.stringify([...one.on].sort((a, b) => (a.left < b.left ? -1 : 1))) === key))
        found.push({ on, share: shareOf(left, right, on), repeats: false })
    }
    found.push(single)
  }
  return found.slice(0, most)
}
