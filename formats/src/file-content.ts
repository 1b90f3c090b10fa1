import { constants, isUtf8 } from 'node:buffer'
import { figure } from '@fabula/core'
import { HeldFile } from './held-file.ts'
import { FileProblem } from './problem.ts'

/** The bytes of a file, some or all of them. */
export interface FileContent {
  readonly size: number
  /** `length` bytes from a place on, fewer where the file ends before. Valid until the next call. */
  part(from: number, length: number): Buffer
  /** All bytes. @throws FileProblem where they are more than a buffer can hold. */
  all(): Buffer
}

/** The content of a file held in memory. */
export const contentOf = (bytes: Buffer): FileContent => ({
  size: bytes.length,
  part: (from, length) => bytes.subarray(from, from + length),
  all: () => bytes,
})

/** The content of a file on disk, of which no more is held than was asked for last. @throws what Node throws where it cannot be opened. */
export const contentAt = (path: string, name: string): FileContent => {
  const file = new HeldFile(path)
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
    all: () => {
      if (size > constants.MAX_LENGTH)
        throw new FileProblem(
          `${name} has ${figure(size)} bytes, more than can be read of a file of its kind. Text in UTF-8 can be of any size: export it as CSV in UTF-8, or in several files.`,
        )
      const bytes = Buffer.allocUnsafeSlow(size)
      file.fill(bytes, 0)
      return bytes
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

/** Whether a file is UTF-8 from its first byte to its last. */
export const isUtf8Content = (content: FileContent): boolean => {
  for (let at = 0; at < content.size;) {
    const part = content.part(at, windowBytes)
    const last = at + part.length === content.size
    const whole = last ? part.length : wholeCharacters(part)
    if (whole === 0 || !isUtf8(part.subarray(0, whole))) return false
    at += whole
  }
  return true
}
