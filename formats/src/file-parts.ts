import { readSync } from 'node:fs'

/** Bytes of a file, a part at a time. */
export interface FileParts {
  readonly size: number
  /** `length` bytes from a place on, fewer where the file ends before. Valid until the next call. */
  part(from: number, length: number): Buffer
}

/** Fills a view with the bytes of an open file from a place on. @throws where the file ends before. */
export const fillFrom = (descriptor: number, view: Uint8Array, from: number): void => {
  for (let at = 0; at < view.length;) {
    const read = readSync(descriptor, view, at, Math.min(1 << 30, view.length - at), from + at)
    if (read === 0) throw new Error('the file is cut short')
    at += read
  }
}

/** The bytes of an open file, of which no more is held here than was asked for last. */
export const partsOf = (file: {
  readonly size: number
  readonly fill: (view: Uint8Array, from: number) => void
}): FileParts => {
  const { size } = file
  let window: Buffer = Buffer.alloc(0)
  return {
    size,
    part: (from, length) => {
      const wanted = Math.max(0, Math.min(length, size - from))
      if (window.length < wanted) window = Buffer.allocUnsafeSlow(wanted)
      const part = window.subarray(0, wanted)
      file.fill(part, from)
      return part
    },
  }
}

/** So many bytes of a file are looked at together. */
export const windowBytes = 8 << 20

/** How many of the bytes end with a whole character: a character of UTF-8 that goes on behind them is left out. */
export const wholeCharacters = (bytes: Buffer): number => {
  let start = bytes.length - 1
  while (start > 0 && start > bytes.length - 4 && (bytes[start]! & 0xc0) === 0x80) start--
  const lead = bytes[start] ?? 0
  if (lead < 0xc0) return bytes.length
  let needed = 2
  if (lead >= 0xf0) needed = 4
  else if (lead >= 0xe0) needed = 3
  return start + needed > bytes.length ? start : bytes.length
}
