import { LazyStrings, plainTextFromBytes, unpacked, type PlainText } from '../table/stored-text.ts'

const decoder = (bytes: Uint8Array) => (start: number, end: number) =>
  new TextDecoder('utf-8', { ignoreBOM: true }).decode(bytes.subarray(start, end))

/** A column of texts that are bytes, as a file's are that nearly all differ. */
export const bytesColumn = (texts: readonly string[]): PlainText => {
  const all = texts.map((text) => new TextEncoder().encode(text))
  const offsets = new Uint32Array(texts.length + 1)
  all.forEach(({ length }, i) => (offsets[i + 1] = offsets[i]! + length))
  const bytes = Uint8Array.from(all.flatMap((one) => [...one]))
  return plainTextFromBytes('text', new LazyStrings(unpacked({ offsets, bytes }, decoder)))
}
