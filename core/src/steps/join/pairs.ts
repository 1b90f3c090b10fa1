import { kernels } from '../../kernels/kernels.ts'
import { int32s, isSet, uint8s } from '../../kernels/memory.ts'
import type { SharedCodes } from '../../table/codes.ts'
import { markComplete } from '../../table/gather.ts'
import { checkSize } from '../../table/limits.ts'
import { rowsInOrder } from '../../table/rows-in-order.ts'
import type { Meeting } from '../../kernels/table-kernels.ts'
import { Selection } from '../../table/selection.ts'
import type { Table } from '../../table/table.ts'
import { cellWords } from '../shared/columns.ts'
import { bucket, keyCodes } from '../shared/join-keys.ts'
import { DataRefused } from '../shared/step-kind.ts'
import { quoted } from '../../messages/words.ts'
import { keepsRight, onOf, type Join } from './layout.ts'

/** Rows of both tables that stand together: positions in the left and the right, -1 where there is none. */
type Pairs = { readonly left: Int32Array; readonly right: Int32Array }
/** Where rows of the result come from, and what was counted. */
export type RowPairs = {
  readonly left: Int32Array
  readonly right: Selection
  readonly notes: Readonly<Record<string, number>>
}

/** Whether a row may stand with several of the other table. */
const takesSeveral = ({ how, matches }: Join): boolean =>
  matches !== 'first' && how !== 'left-only' && how !== 'right-only'
/** Whether each row of the left table is kept. */
const keepsEach = (how: Join['how']): boolean => how === 'left' || how === 'full'

/** Every row with every row. */
const crossRows = (rows: number, others: number): RowPairs => {
  checkSize('Matching every row with every row', rows * others)
  const left = int32s(rows * others)
  const right = int32s(rows * others)
  for (let l = 0, at = 0; l < rows; l++)
    for (let r = 0; r < others; r++, at++) {
      left[at] = l
      right[at] = r
    }
  const notes = { matched: others > 0 ? rows : 0, multiplied: Math.max(0, rows * (others - 1)) }
  return { left, right: Selection.of(right), notes }
}

// the loops stand alone and call nothing, so that the compiler of the runtime makes the most of them

/** How many codes with a row are met; those without one may be marked too. */
const countMet = (marks: Uint8Array, first: Int32Array): number => {
  const n = marks.length
  let met = 0
  for (let code = 0; code < n; code++) if (first[code]! >= 0) met += marks[code]! >> 1
  return met
}
/** How many rows of the right table no row of the left met, which makes 2 of the mark of a code. */
const countUnmet = (codes: Uint32Array, met: Uint8Array): number => {
  const n = codes.length
  let count = 0
  for (let r = 0; r < n; r++) count += 1 - (met[codes[r]!]! >> 1)
  return count
}
/** Rows of the right table that no row of the left met. */
const unmet = (codes: Uint32Array, met: Uint8Array, count: number): Int32Array => {
  const n = codes.length
  const rows = int32s(count)
  for (let r = 0, at = 0; at < count && r < n; r++) if (met[codes[r]!] !== 2) rows[at++] = r
  return rows
}
/** Rows whose place in `found` is below 0. */
const rowsAlone = (found: Int32Array, left: Int32Array): void => {
  const n = found.length
  let at = 0
  for (let l = 0; l < n; l++) if (found[l]! < 0) left[at++] = l
}
/** Rows whose place in `found` is not below 0, and what is found there. */
const keepFound = (found: Int32Array, { left, right }: Pairs): void => {
  const n = found.length
  let at = 0
  for (let l = 0; l < n; l++) {
    if (found[l]! < 0) continue
    left[at] = l
    right[at++] = found[l]!
  }
}
type MatchCounts = { readonly matches: number; readonly several: number }
/** How many matches rows have together, and the first that has several; -1 where none has. */
const countMatches = (codes: Uint32Array, starts: Int32Array): MatchCounts => {
  const n = codes.length
  let matches = 0
  let several = -1
  for (let l = 0; l < n; l++) {
    const code = codes[l]!
    const count = starts[code + 1]! - starts[code]!
    matches += count
    if (count > 1 && several < 0) several = l
  }
  return { matches, several }
}
/** All pairs from the first place on. A row without a match stands with -1 where it is kept. */
const fillPairs = (
  codes: Uint32Array,
  starts: Int32Array,
  rows: Int32Array,
  keepsAlone: boolean,
  { left, right }: Pairs,
): void => {
  const n = codes.length
  let at = 0
  for (let l = 0; l < n; l++) {
    const from = starts[codes[l]!]!
    const end = starts[codes[l]! + 1]!
    if (from === end && keepsAlone) {
      left[at] = l
      right[at++] = -1
    }
    for (let k = from; k < end; k++) {
      left[at] = l
      right[at++] = rows[k]!
    }
  }
}

/** Pairs with rows of the right table alone behind them. */
const withRowsBehind = ({ left, right }: Pairs, behind: Int32Array): Pairs => {
  if (behind.length === 0) return { left, right }
  const pairs = { left: int32s(left.length + behind.length), right: int32s(right.length + behind.length) }
  pairs.left.set(left)
  pairs.left.fill(-1, left.length)
  pairs.right.set(right)
  pairs.right.set(behind, right.length)
  return pairs
}

/** As `withRowsBehind`, for tables that choose by them. */
const foundPairs = (pairs: Pairs, behind: Int32Array): Omit<RowPairs, 'notes'> => {
  const { left, right } = withRowsBehind(pairs, behind)
  return { left, right: Selection.of(right) }
}

/** The rows of one pair or none for each row of the left table; `found` is its row of the right, -1 for none. */
const pairsOfFound = (how: Join['how'], found: Int32Array, matched: number): Pairs => {
  const n = found.length
  if (how === 'left-only') {
    const left = int32s(n - matched)
    rowsAlone(found, left)
    return { left, right: int32s(n - matched).fill(-1) }
  }
  if (how === 'right-only') return { left: int32s(0), right: int32s(0) }
  if (matched === n) return { left: rowsInOrder(n), right: found }
  const pairs = { left: int32s(matched), right: int32s(matched) }
  keepFound(found, pairs)
  return pairs
}

/** All pairs of rows where those of the right table repeat their keys. */
const pairsOfRepeated = (
  params: Join,
  { left: here, right: there, bound }: SharedCodes,
  matched: number,
  refuse: (row: number, matches: number) => never,
): Pairs & MatchCounts => {
  const { starts, rows } = bucket(there, bound)
  const counts = countMatches(here, starts)
  const { matches, several } = counts
  if (params.matches === 'one' && several >= 0) refuse(several, starts[here[several]! + 1]! - starts[here[several]!]!)
  checkSize('This match', matches)
  const keepsAlone = keepsEach(params.how)
  const total = matches + (keepsAlone ? here.length - matched : 0)
  const pairs = { left: int32s(total), right: int32s(total) }
  fillPairs(here, starts, rows, keepsAlone, pairs)
  return { ...pairs, ...counts }
}

/** Counts what meets, and marks the keys of the right that a row of the left has. */
const meetKeys = (codes: SharedCodes, first: Int32Array): Meeting =>
  codes.numbers
    ? kernels().meetNumbers(codes.numbers, codes.numbers.below, first)
    : kernels().meetCodes(codes.left, first)
/** The rows of the right that those of the left meet, found when somebody needs them all; `missing` of them are none. */
const rowsToFind = (codes: SharedCodes, first: Int32Array, rows: number, missing: number): Selection => {
  const { numbers } = codes
  const at = (row: number): number => {
    if (!numbers) return first[codes.left[row]!]!
    return isSet(numbers.nulls, row) ? -1 : first[numbers.values[row]! - numbers.below]!
  }
  const find = (): Int32Array => {
    const found = int32s(rows)
    findRows(codes, first, uint8s(codes.bound), found)
    return missing === 0 ? markComplete(found) : found
  }
  const held = [first, codes.right, numbers?.values ?? codes.left]
  return Selection.toFind({
    ...{ length: rows, at, find },
    buffers: held.map(({ buffer, byteLength }) => [buffer, byteLength] as const),
  })
}
/** Finds the row of each row of the left; how many have none. */
const findRows = (codes: SharedCodes, first: Int32Array, met: Uint8Array, found: Int32Array): number =>
  codes.numbers
    ? kernels().matchNumbers(codes.numbers, codes.numbers.below, first, met, found)
    : kernels().matchRows(codes.left, first, met, found)

/** Finds the row of each row of the left, and counts what meets. */
const foundKeys = (codes: SharedCodes, first: Int32Array, found: Int32Array): Meeting => {
  const marks = uint8s(codes.bound)
  const missing = findRows(codes, first, marks, found)
  // an empty key meets nothing
  marks[0] = 0
  return { missing, marks, met: countMet(marks, first) }
}

/** Where the rows of a match come from. `names` names the other table. @throws DataRefused where a row has several matches and one is allowed. */
export const pairRows = (params: Join, table: Table, other: Table, names: string): RowPairs => {
  const { how } = params
  if (how === 'cross') return crossRows(table.rowCount, other.rowCount)
  const on = onOf(params)
  const codes = keyCodes(
    on.map((one) => table.named(one.left)),
    on.map((one) => other.named(one.right)),
    params,
  )
  const refuse = (row: number, count: number): never => {
    throw new DataRefused(
      `${on.map((one) => `${quoted(one.left)} ${cellWords(table, one.left, row)}`).join(', ')} matches ${count} rows of ${names}, and only one match is allowed. Take the first, or make the rows there one of each.`,
    )
  }
  const { first, repeated } = kernels().firstOfKeys({ codes: codes.right, bound: codes.bound })
  const several = repeated > 0 && takesSeveral(params)
  // where each row of the left stands once, it is enough to count until rows of the right are needed
  const once = !several && keepsEach(how)
  const found = int32s(several || once ? 0 : table.rowCount)
  const { missing, marks, met } = several || once ? meetKeys(codes, first) : foundKeys(codes, first, found)
  // where no key is repeated, each that is met is that of one row
  const unmatched = repeated === 0 ? other.rowCount - met : countUnmet(codes.right, marks)
  const behind = keepsRight(how) ? unmet(codes.right, marks, unmatched) : int32s(0)
  const counted = (matched: number, pairs: number): RowPairs['notes'] => ({
    matched,
    unmatchedLeft: table.rowCount - matched,
    unmatchedRight: unmatched,
    multiplied: pairs - matched,
  })
  const matched = table.rowCount - missing
  if (several) {
    const pairs = pairsOfRepeated(params, codes, matched, refuse)
    return { ...foundPairs(pairs, behind), notes: counted(matched, pairs.matches) }
  }
  const notes = counted(matched, matched)
  if (!once)
    return { ...foundPairs(pairsOfFound(how, missing === 0 ? markComplete(found) : found, matched), behind), notes }
  const left = rowsInOrder(table.rowCount)
  const right = rowsToFind(codes, first, table.rowCount, missing)
  return { ...(behind.length > 0 ? foundPairs({ left, right: right.rows }, behind) : { left, right }), notes }
}
