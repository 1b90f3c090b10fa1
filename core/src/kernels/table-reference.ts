import { ReferenceDictionary } from './dictionary-reference.ts'
import { fillSet, float64s, int32s, IntList, isSet, uint32s, uint8s } from './memory.ts'
import {
  noGroup,
  type FilledNumbers,
  type Groups,
  type NumberFormula,
  type Numbers,
  type Ranks,
  type TableKernels,
} from './table-kernels.ts'
import { groupTotals, totalsOf } from './totals-reference.ts'

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

/** Rows computed and checked before the next, so that they stay in the cache of the processor. */
export const rowsABlock = 4096

const block = (numbers: Numbers, from: number, end: number): Float64Array =>
  typeof numbers === 'number' ? new Float64Array(end - from).fill(numbers) : numbers.subarray(from, end)

// the loops stand alone and call nothing, so that the compiler of the runtime makes the most of them

const addBlocks = (to: Float64Array, a: Float64Array, b: Float64Array): void => {
  const n = to.length
  for (let i = 0; i < n; i++) to[i] = a[i]! + b[i]! + 0
}
const subtractBlocks = (to: Float64Array, a: Float64Array, b: Float64Array): void => {
  const n = to.length
  for (let i = 0; i < n; i++) to[i] = a[i]! - b[i]! + 0
}
const multiplyBlocks = (to: Float64Array, a: Float64Array, b: Float64Array): void => {
  const n = to.length
  for (let i = 0; i < n; i++) to[i] = a[i]! * b[i]! + 0
}
const divideBlocks = (to: Float64Array, a: Float64Array, b: Float64Array): void => {
  const n = to.length
  for (let i = 0; i < n; i++) to[i] = a[i]! / b[i]! + 0
}
const blocks = { '+': addBlocks, '-': subtractBlocks, '*': multiplyBlocks, '/': divideBlocks }

const listOutside = (values: Float64Array, from: number, end: number, limit: number, rows: Int32Array): number => {
  let at = 0
  for (let i = from; i < end; i++) if (!(Math.abs(values[i]!) <= limit)) rows[at++] = i
  return at
}

/** Lists of rows behind one another. */
export const stacked = (lists: readonly Int32Array[]): Int32Array => {
  const all = int32s(lists.reduce((sum, { length }) => sum + length, 0))
  let at = 0
  for (const rows of lists) {
    all.set(rows, at)
    at += rows.length
  }
  return all
}

const arithmetic: TableKernels['arithmetic'] = (operation, a, b, to, limit) => {
  const rows = int32s(rowsABlock)
  const outside: Int32Array[] = []
  for (let from = 0; from < to.length; from += rowsABlock) {
    const end = Math.min(to.length, from + rowsABlock)
    blocks[operation](to.subarray(from, end), block(a, from, end), block(b, from, end))
    outside.push(rows.slice(0, listOutside(to, from, end, limit, rows)))
  }
  return stacked(outside)
}

const calculate: TableKernels['calculate'] = (formula, to) => {
  const partOf = (part: NumberFormula): Numbers => {
    if (typeof part === 'number' || part instanceof Float64Array) return part
    const made = float64s(to.length)
    calculate(part, made)
    return made
  }
  if (typeof formula === 'number') to.fill(formula)
  else if (formula instanceof Float64Array) to.set(formula)
  else arithmetic(formula.operation, partOf(formula.left), partOf(formula.right), to, Infinity)
}

const countCodes: TableKernels['countCodes'] = (codes, bound) => {
  const counts = int32s(bound)
  const n = codes.length
  for (let i = 0; i < n; i++) counts[codes[i]!]!++
  return counts
}

const firstRows: TableKernels['firstRows'] = ({ codes, bound }) => {
  const first = int32s(bound).fill(-1)
  for (let i = codes.length - 1; i >= 0; i--) first[codes[i]!] = i
  return first
}

const groupCodes: TableKernels['groupCodes'] = ({ codes, bound }, rows) => {
  const idOf = int32s(bound).fill(-1)
  const ids = rows ? uint32s(codes.length).fill(noGroup) : uint32s(codes.length)
  const first = int32s(Math.min(bound, codes.length))
  const count = numberInOrder(codes, rows, idOf, ids, first)
  return { ids, count, first: first.slice(0, count) }
}
const numberInOrder = (
  codes: Uint32Array,
  rows: Int32Array | undefined,
  idOf: Int32Array,
  ids: Uint32Array,
  first: Int32Array,
): number => {
  const n = rows ? rows.length : codes.length
  let count = 0
  for (let i = 0; i < n; i++) {
    const row = rows ? rows[i]! : i
    const code = codes[row]!
    if (idOf[code]! < 0) {
      first[count] = i
      idOf[code] = count++
    }
    ids[row] = idOf[code]!
  }
  return count
}

const groupPairs: TableKernels['groupPairs'] = (a, b, rows) => {
  const codes = uint32s(a.codes.length)
  for (let i = 0; i < codes.length; i++) codes[i] = a.codes[i]! * b.bound + b.codes[i]!
  return groupCodes({ codes, bound: a.bound * b.bound }, rows)
}

const totalsByCode: TableKernels['totalsByCode'] = ({ a, b, rows }, columns) => {
  const { ids, count, first } = b ? groupPairs(a, b, rows) : groupCodes(a, rows)
  const sizes = int32s(count)
  for (const id of ids) if (id !== noGroup) sizes[id]!++
  const codes = Uint32Array.from(first, (place) => {
    const row = rows ? rows[place]! : place
    return b ? a.codes[row]! * b.bound + b.codes[row]! : a.codes[row]!
  })
  const totals = columns.map(({ numbers, nulls }) => {
    const values = float64s(a.codes.length)
    calculate(numbers, values)
    return totalsOf({ values, nulls }, ids, count)
  })
  return { codes, first, sizes, totals }
}

const rowsOfCodes: TableKernels['rowsOfCodes'] = (codes, keep, wanted) => {
  const rows = new IntList()
  for (let i = 0; i < codes.length; i++) if (keep[codes[i]!] === wanted) rows.push(i)
  return rows.done()
}

const matchRows: TableKernels['matchRows'] = (codes, rows, met, to) => {
  const n = codes.length
  let missing = 0
  for (let i = 0; i < n; i++) {
    const code = codes[i]!
    const row = rows[code]!
    met[code] = 2
    to[i] = row
    missing += row >>> 31
  }
  return missing
}

const firstOfKeys: TableKernels['firstOfKeys'] = ({ codes, bound }) => {
  const first = int32s(bound).fill(-1)
  const n = codes.length
  let repeated = 0
  for (let r = 0; r < n; r++) {
    const code = codes[r]!
    if (code === 0) continue
    if (first[code]! < 0) first[code] = r
    else repeated++
  }
  return { first, repeated }
}

const meetCodes: TableKernels['meetCodes'] = (codes, rows) => {
  const marks = Uint8Array.from(rows, (row) => (row < 0 ? 0 : 1))
  const n = codes.length
  let missing = 0
  let met = 0
  for (let i = 0; i < n; i++) {
    const mark = marks[codes[i]!]!
    if (mark === 0) missing++
    else if (mark === 1) {
      marks[codes[i]!] = 2
      met++
    }
  }
  return { missing, marks, met }
}
const floatCodes: TableKernels['floatCodes'] = (values, below) => {
  const n = values.length
  const codes = uint32s(n)
  for (let i = 0; i < n; i++) codes[i] = values[i]! - below
  return codes
}

const codesOfFilled = ({ values, nulls }: FilledNumbers, below: number): Uint32Array => {
  const codes = floatCodes(values, below)
  if (nulls) fillSet(codes, nulls, 0)
  return codes
}
const matchNumbers: TableKernels['matchNumbers'] = (numbers, below, rows, met, to) =>
  matchRows(codesOfFilled(numbers, below), rows, met, to)
const meetNumbers: TableKernels['meetNumbers'] = (numbers, below, rows) =>
  meetCodes(codesOfFilled(numbers, below), rows)

const lookUp: TableKernels['lookUp'] = (codes, table, to) => {
  const n = codes.length
  for (let i = 0; i < n; i++) to[i] = table[codes[i]!]!
}

const pairGroups: TableKernels['pairGroups'] = (a, b): Groups => {
  const ids = uint32s(a.length)
  const seen = new Map<number, number>()
  const first = new IntList()
  let factor = 1
  for (let i = 0; i < b.length; i++) factor = Math.max(factor, b[i]! + 1)
  for (let i = 0; i < ids.length; i++) {
    const key = a[i]! * factor + b[i]!
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

const scaledRanks: TableKernels['scaledRanks'] = ({ values, nulls }, { scale, low, high, descending }, to) => {
  const n = values.length
  for (let i = 0; i < n; i++) {
    if (nulls !== undefined && (nulls[i >> 3]! & (1 << (i & 7))) !== 0) continue
    const value = values[i]!
    const whole = Math.floor(value * scale + 0.5)
    if (whole / scale !== value) return false
    to[i] = descending ? high - whole : whole - low
  }
  if (nulls) fillSet(to, nulls, high - low + 1)
  return true
}

const digitBits = 11
const digitCount = 1 << digitBits

/** Least significant digit radix sort: Knuth, The Art of Computer Programming 3, 5.2.5. */
const sortRows: TableKernels['sortRows'] = (order, words) =>
  words.reduce<Int32Array | undefined>((rows, word) => sortedBy(rows, word), order) ?? int32s(0)

const sortedBy = (order: Int32Array | undefined, { ranks: keys, bits }: Ranks): Int32Array => {
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

const textCodes: TableKernels['textCodes'] = ({ starts, ends, bytes }) => {
  const dictionary = new ReferenceDictionary()
  const codes = uint32s(starts.length)
  let last = 0
  for (let i = 0; i < codes.length; i++) {
    const code = dictionary.codeOf(bytes, starts[i]!, ends[i]!, last)
    codes[i] = code
    if (code > 0) last = code
  }
  return { codes, bound: dictionary.size }
}

/** The loops over columns in plain TypeScript. */
export const tableReference: TableKernels = {
  arithmetic,
  calculate,
  groupTotals,
  countCodes,
  firstOfKeys,
  firstRows,
  totalsByCode,
  groupCodes,
  groupPairs,
  rowsOfCodes,
  lookUp,
  matchRows,
  matchNumbers,
  meetCodes,
  meetNumbers,
  floatCodes,
  numberCodes,
  textCodes,
  pairGroups,
  compareFloats,
  chosenRows,
  scaledRanks,
  sortRows,
}
