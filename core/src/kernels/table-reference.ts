import { float64s, int32s, IntList, isSet, uint32s, uint8s } from './memory.ts'
import type { Groups, TableKernels } from './table-kernels.ts'

const numberCodes: TableKernels['numberCodes'] = (values, nulls) => {
  const codes = uint32s(values.length)
  const seen = new Map<number, number>()
  for (let i = 0; i < values.length; i++) {
    if (isSet(nulls, i)) continue
    const value = values[i]!
    let code = seen.get(value)
    if (code === undefined) seen.set(value, (code = seen.size + 1))
    codes[i] = code
  }
  return { codes, bound: seen.size + 1 }
}

const pairGroups: TableKernels['pairGroups'] = (a, b): Groups => {
  const ids = uint32s(a.length)
  const seen = new Map<number, number>()
  const first = new IntList()
  for (let i = 0; i < ids.length; i++) {
    // below 2^53, as there are fewer than 2^27 rows
    const key = a[i]! * 0x4000000 + b[i]!
    let id = seen.get(key)
    if (id === undefined) {
      id = first.length
      seen.set(key, id)
      first.push(i)
    }
    ids[i] = id
  }
  return { ids, count: first.length, first: first.done() }
}

const compareFloats: TableKernels['compareFloats'] = (values, constant, outcomes) => {
  const [below, at, above] = [Number(outcomes.below), Number(outcomes.at), Number(outcomes.above)]
  const mask = uint8s(values.length)
  for (let i = 0; i < mask.length; i++) {
    const value = values[i]!
    if (value < constant) mask[i] = below
    else mask[i] = value > constant ? above : at
  }
  return mask
}

const chosenRows: TableKernels['chosenRows'] = (mask, wanted) => {
  const rows = new IntList()
  for (let i = 0; i < mask.length; i++) if (mask[i] === wanted) rows.push(i)
  return rows.done()
}

const digitBits = 11
const digitCount = 1 << digitBits

/** Least significant digit radix sort: Knuth, The Art of Computer Programming 3, 5.2.5. */
const sortRows: TableKernels['sortRows'] = (order, keys, bits) => {
  let rows = order ?? Int32Array.from({ length: keys.length }, (_, i) => i)
  for (let shift = 0; shift < bits; shift += digitBits) {
    const mask = 2 ** Math.min(digitBits, bits - shift) - 1
    const counts = float64s(digitCount + 1)
    for (let i = 0; i < keys.length; i++) counts[((keys[i]! >>> shift) & mask) + 1]!++
    for (let digit = 1; digit <= digitCount; digit++) counts[digit] = counts[digit]! + counts[digit - 1]!
    const sorted = int32s(rows.length)
    for (let i = 0; i < rows.length; i++) {
      const row = rows[i]!
      sorted[counts[(keys[row]! >>> shift) & mask]!++] = row
    }
    rows = sorted
  }
  return rows
}

/** The loops over columns in plain TypeScript. */
export const tableReference: TableKernels = { numberCodes, pairGroups, compareFloats, chosenRows, sortRows }
