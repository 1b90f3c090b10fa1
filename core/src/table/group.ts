import { kernels } from '../kernels/kernels.ts'
import { int32s, uint32s } from '../kernels/memory.ts'
import type { DenseCodes, Groups } from '../kernels/table-kernels.ts'
import { codesOf, product } from './codes.ts'
import type { Column } from './column.ts'

/** Codes to group ids in order of first appearance. */
const densify = ({ codes, bound }: DenseCodes): Groups => {
  const first = int32s(bound)
  const ready = countInOrder(codes, first)
  if (ready >= 0) return { ids: codes, count: ready, first: first.slice(0, ready) }
  const idOf = int32s(bound).fill(-1)
  const ids = uint32s(codes.length)
  const count = numberInOrder(codes, idOf, ids, first)
  return { ids, count, first: first.slice(0, count) }
}

// the loops stand alone and call nothing, so that the compiler of the runtime makes the most of them

/** How many codes there are where they appear as 0, 1, 2 …, each new one after those before it; -1 where they do not. Their first rows into `first`. */
const countInOrder = (codes: Uint32Array, first: Int32Array): number => {
  const n = codes.length
  let count = 0
  for (let i = 0; i < n; i++) {
    const code = codes[i]!
    if (code < count) continue
    if (code > count) return -1
    first[count++] = i
  }
  return count
}
/** Ids of codes in order of first appearance into `ids`, their first rows into `first`; how many there are. `idOf` is -1 for each code. */
const numberInOrder = (codes: Uint32Array, idOf: Int32Array, ids: Uint32Array, first: Int32Array): number => {
  const n = codes.length
  let count = 0
  for (let i = 0; i < n; i++) {
    const code = codes[i]!
    const known = idOf[code]!
    if (known >= 0) {
      ids[i] = known
      continue
    }
    idOf[code] = count
    ids[i] = count
    first[count++] = i
  }
  return count
}

/** Pairs whose codes have a product below this are told apart by it. */
const mostProduct = 1 << 22
/** Groups of rows equal in two codes. */
export const pairCodes = (a: DenseCodes, b: DenseCodes): Groups => {
  if (a.bound * b.bound > mostProduct) return kernels().pairGroups(a.codes, b.codes)
  return densify(product(a, b))
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
