import { kernels } from '../kernels/kernels.ts'
import { IntList, uint32s } from '../kernels/memory.ts'
import type { DenseCodes, Groups } from '../kernels/table-kernels.ts'
import { codesOf } from './codes.ts'
import type { Column } from './column.ts'

/** Ids of codes that appear in order, which are the codes themselves; undefined where they do not. */
const asTheyAre = ({ codes }: DenseCodes): Groups | undefined => {
  // empty cells have code 0, so that a column with none begins with 1
  const from = codes[0] ?? 0
  if (from > 1) return undefined
  const first = new IntList()
  for (let i = 0; i < codes.length; i++) {
    const id = codes[i]! - from
    if (id < first.length && id >= 0) continue
    if (id !== first.length) return undefined
    first.push(i)
  }
  if (from === 0) return { ids: codes, count: first.length, first: first.done() }
  const ids = uint32s(codes.length)
  for (let i = 0; i < ids.length; i++) ids[i] = codes[i]! - 1
  return { ids, count: first.length, first: first.done() }
}

/** Codes to group ids in order of first appearance. */
const densify = (coded: DenseCodes): Groups => {
  const { codes, bound } = coded
  const ready = asTheyAre(coded)
  if (ready) return ready
  const ids = uint32s(codes.length)
  const idOf = new Int32Array(bound).fill(-1)
  const first = new IntList()
  for (let i = 0; i < codes.length; i++) {
    const code = codes[i]!
    let id = idOf[code]!
    if (id < 0) {
      id = first.length
      idOf[code] = id
      first.push(i)
    }
    ids[i] = id
  }
  return { ids, count: first.length, first: first.done() }
}

/** Pairs whose codes have a product below this are told apart by it. */
const mostProduct = 1 << 22
/** Groups of rows equal in two codes. */
export const pairCodes = (a: DenseCodes, b: DenseCodes): Groups => {
  if (a.bound * b.bound > mostProduct) return kernels().pairGroups(a.codes, b.codes)
  const codes = uint32s(a.codes.length)
  const { bound } = b
  for (let i = 0; i < codes.length; i++) codes[i] = a.codes[i]! * bound + b.codes[i]!
  return densify({ codes, bound: a.bound * bound })
}

/** Groups of rows equal in all these columns. No columns: one group of all rows, none where there are no rows. */
export const groupBy = (columns: readonly Column[], rowCount: number): Groups => {
  const [first, second, ...rest] = columns
  if (!first)
    return { ids: uint32s(rowCount), count: rowCount > 0 ? 1 : 0, first: new Int32Array(rowCount > 0 ? 1 : 0) }
  if (!second) return densify(codesOf(first))
  return rest.reduce(
    (groups, column) => pairCodes({ codes: groups.ids, bound: groups.count }, codesOf(column)),
    pairCodes(codesOf(first), codesOf(second)),
  )
}
