import { uint8s } from '../kernels/memory.ts'
import type { Column } from './column.ts'
import { plainBytes, type EncodedStrings } from './stored-text.ts'

/** How a text is looked for in others. */
export type TextSearch = 'is' | 'contains' | 'starts-with' | 'ends-with'

// the loops stand alone and call nothing, so that the compiler of the runtime makes the most of them

const findAnywhere = ({ starts, ends, bytes }: EncodedStrings, wanted: Uint8Array, mask: Uint8Array): void => {
  const n = mask.length
  const length = wanted.length
  const first = wanted[0]!
  for (let i = 0; i < n; i++) {
    const last = ends[i]! - length
    for (let at = starts[i]!; at <= last; at++) {
      if (bytes[at] !== first) continue
      let k = 1
      while (k < length && bytes[at + k] === wanted[k]) k++
      if (k < length) continue
      mask[i] = 1
      break
    }
  }
}
/** Marks texts that begin, or end, with the bytes that are wanted; `whole`: and have no others. */
const findAt = (
  { starts, ends, bytes }: EncodedStrings,
  wanted: Uint8Array,
  mask: Uint8Array,
  fromEnd: boolean,
  whole: boolean,
): void => {
  const n = mask.length
  const length = wanted.length
  for (let i = 0; i < n; i++) {
    const size = ends[i]! - starts[i]!
    if (size < length || (whole && size !== length)) continue
    const from = fromEnd ? ends[i]! - length : starts[i]!
    let k = 0
    while (k < length && bytes[from + k] === wanted[k]) k++
    if (k === length) mask[i] = 1
  }
}

const encoder = new TextEncoder()

/** A byte a row: whether its text is, contains, begins or ends with another. Undefined where the texts of a column are no bytes, or the other is empty or has no UTF-8. */
export const searchBytes = (column: Column, search: TextSearch, text: string): Uint8Array | undefined => {
  const stored = column.type === 'text' && column.form === 'plain' ? column.stored?.encoded : undefined
  if (!stored || text === '' || /\p{Surrogate}/u.test(text)) return undefined
  const encoded = { ...stored, bytes: plainBytes(stored.bytes) }
  const mask = uint8s(encoded.starts.length)
  const wanted = encoder.encode(text)
  if (search === 'contains') findAnywhere(encoded, wanted, mask)
  else findAt(encoded, wanted, mask, search === 'ends-with', search === 'is')
  return mask
}
