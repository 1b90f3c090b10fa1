import { inModule, rowsACopy } from './in-module.ts'
import { uint32s } from './memory.ts'
import type { ByteTexts, TableKernels } from './table-kernels.ts'

/** Bytes of texts that are copied into the module at a time, unless one alone is longer. */
const bytesACopy = 1 << 20
/** Where the rows end whose texts, from a row on, are copied together, and how many bytes they are. */
const textsACopy = ({ starts, ends }: ByteTexts, from: number): { readonly end: number; readonly size: number } => {
  const most = Math.min(starts.length, from + rowsACopy)
  let end = from
  let size = 0
  for (; end < most; end++) {
    const length = ends[end]! - starts[end]!
    if (end > from && size + length > bytesACopy) break
    size += length
  }
  return { end, size }
}
/** Copies texts behind one another, with where each starts and ends. */
const copyTexts = (
  { starts, ends, bytes }: ByteTexts,
  from: number,
  end: number,
  to: Uint8Array,
  cuts: Uint32Array,
): void => {
  let at = 0
  // texts that lie behind one another are copied in one piece
  for (let row = from; row < end;) {
    const first = starts[row]!
    let last = first
    for (; row < end && starts[row] === last; row++) {
      cuts[2 * (row - from)] = at + last - first
      last = ends[row]!
      cuts[2 * (row - from) + 1] = at + last - first
    }
    to.set(bytes.subarray(first, last), at)
    at += last - first
  }
}

export const textCodes: TableKernels['textCodes'] = (texts) =>
  inModule((instance) => {
    const { run } = instance
    const rows = texts.starts.length
    const codes = uint32s(rows)
    const dictionary = run.makeDictionary()
    const [cuts, made] = [8, 4].map((bytes) => run.allocate(rowsACopy * bytes)) as [number, number]
    let room = bytesACopy
    let block = run.allocate(room)
    for (let from = 0; from < rows;) {
      const { end, size } = textsACopy(texts, from)
      if (size > room) block = run.allocate((room = size))
      // views end where the dictionary grows
      const to = instance.bytes.subarray(block, block + size)
      copyTexts(texts, from, end, to, instance.uint32s(cuts, 2 * (end - from)))
      run.codesOf(dictionary, block, cuts, 8, end - from, made)
      codes.set(instance.uint32s(made, end - from), from)
      from = end
    }
    return { codes, bound: run.dictionarySize(dictionary) }
  })
