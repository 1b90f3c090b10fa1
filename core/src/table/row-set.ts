import { int32s, uint32s } from '../kernels/memory.ts'

/** Rows of a table, ascending and each once. `times`: how often each counts; absent where each counts once. */
export type RowSet = { readonly rows: Int32Array; readonly times?: Uint32Array | undefined }

/** No rows. */
export const noRows: RowSet = { rows: int32s(0) }
/** One row. */
export const oneRow = (row: number): RowSet => ({ rows: Int32Array.of(row) })
/** How often the i-th row of a set counts. */
export const timesAt = ({ times }: RowSet, i: number): number => times?.[i] ?? 1

/** Below this share of a table, rows are counted in a map instead of a buffer for all rows. */
const sparseShare = 32

/** Counts rows of a table in any order and gives them as a set. O(rows added), or O(rows of the table) where many are added. */
export class RowCounter {
  private readonly size: number
  private sparse: Map<number, number> | undefined = new Map()
  private dense: Uint32Array | undefined
  private distinct = 0
  private repeated = false
  constructor(size: number) {
    this.size = size
  }
  add(row: number, times: number): void {
    if (row < 0) return
    const { dense } = this
    if (dense) {
      const known = dense[row]!
      if (known === 0) this.distinct++
      this.repeated ||= known > 0 || times > 1
      dense[row] = known + times
      return
    }
    const sparse = this.sparse as Map<number, number>
    const known = sparse.get(row) ?? 0
    this.repeated ||= known > 0 || times > 1
    sparse.set(row, known + times)
    if (sparse.size > 1024 && sparse.size * sparseShare > this.size) this.widen(sparse)
  }
  private widen(sparse: ReadonlyMap<number, number>): void {
    this.dense = uint32s(this.size)
    for (const [row, times] of sparse) this.dense[row] = times
    this.distinct = sparse.size
    this.sparse = undefined
  }
  done(): RowSet {
    const { sparse, dense } = this
    if (!dense) {
      const rows = Int32Array.from(sparse?.keys() ?? []).sort()
      return this.repeated ? { rows, times: Uint32Array.from(rows, (row) => sparse?.get(row) ?? 1) } : { rows }
    }
    const rows = int32s(this.distinct)
    for (let row = 0, i = 0; i < rows.length; row++) if (dense[row]! > 0) rows[i++] = row
    if (!this.repeated) return { rows }
    const times = uint32s(rows.length)
    for (let i = 0; i < rows.length; i++) times[i] = dense[rows[i]!]!
    return { rows, times }
  }
}

/** The rows that an index names for rows of a set; -1 names none. `size`: rows of the table that it points into. */
export const throughIndex = (set: RowSet, index: Int32Array, size: number): RowSet => {
  const counter = new RowCounter(size)
  for (let i = 0; i < set.rows.length; i++) counter.add(index[set.rows[i]!]!, timesAt(set, i))
  return counter.done()
}

/** How often each row of a table counts in a set: 0 where it is not in it. */
export const timesOfRows = (set: RowSet, size: number): Uint32Array => {
  const times = uint32s(size)
  for (let i = 0; i < set.rows.length; i++) times[set.rows[i]!] = timesAt(set, i)
  return times
}

/** The rows whose group is in a set of groups, as often as the group is. */
export const rowsOfGroups = (set: RowSet, ids: Uint32Array): RowSet => {
  const { rows } = set
  const last = rows.at(-1)
  if (last === undefined) return noRows
  const wanted = timesOfRows(set, last + 1)
  const counter = new RowCounter(ids.length)
  for (let row = 0; row < ids.length; row++) {
    const times = wanted[ids[row]!] ?? 0
    if (times > 0) counter.add(row, times)
  }
  return counter.done()
}

/** The rows of a set for which a test holds. */
export const rowsWhere = (set: RowSet, holds: (row: number) => boolean): RowSet => {
  const counter: number[] = []
  for (let i = 0; i < set.rows.length; i++) if (holds(set.rows[i]!)) counter.push(i)
  const rows = Int32Array.from(counter, (i) => set.rows[i]!)
  return set.times ? { rows, times: Uint32Array.from(counter, (i) => set.times?.[i] ?? 1) } : { rows }
}

/** Both sets together; a row of both counts as often as in both. */
export const sumOfSets = (a: RowSet, b: RowSet): RowSet => {
  if (a.rows.length === 0) return b
  if (b.rows.length === 0) return a
  const counter = new RowCounter(Math.max(a.rows.at(-1) ?? 0, b.rows.at(-1) ?? 0) + 1)
  for (const set of [a, b]) for (let i = 0; i < set.rows.length; i++) counter.add(set.rows[i]!, timesAt(set, i))
  return counter.done()
}

/** All rows of a table. */
export const allRows = (count: number): RowSet => ({ rows: Int32Array.from({ length: count }, (_, i) => i) })
