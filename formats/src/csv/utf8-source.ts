import { isUtf8 } from 'node:buffer'
import type { ByteSource } from '@fabula/core'
import { wholeCharacters, windowBytes, type FileParts } from '../file-parts.ts'
import { spanDecoder } from '../spans.ts'

/** Thrown where a file is not plain text in UTF-8. */
export class NotPlain extends Error {}

/** A file read a window at a time from its first byte to its last; each window is checked to be UTF-8 without NULs. */
export class Utf8Source implements ByteSource {
  readonly size: number
  readonly decoder = spanDecoder
  private readonly content: FileParts
  private window: Buffer = Buffer.alloc(0)
  private start = 0
  private checked = 0
  private readonly ahead: number
  /** `end`: where the bytes end for this source, within those of the file; `ahead`: how many are read at once. */
  constructor(content: FileParts, end = content.size, ahead = windowBytes) {
    this.content = content
    this.ahead = ahead
    this.size = end
  }
  bytesOf(text: string): Uint8Array {
    return Buffer.from(text)
  }
  /** @throws NotPlain where the bytes are not UTF-8, or hold a NUL. */
  block(from: number, length: number): Buffer {
    const end = Math.min(this.size, from + length)
    if (from < this.start || end > this.start + this.window.length) this.load(from, length)
    return this.window.subarray(from - this.start, end - this.start)
  }
  private load(from: number, length: number): void {
    this.start = from
    this.window = this.content.part(from, Math.min(this.size - from, Math.max(this.ahead, length)))
    const fresh = this.window.subarray(Math.max(0, this.checked - from))
    const whole = from + this.window.length === this.size ? fresh.length : wholeCharacters(fresh)
    const text = fresh.subarray(0, whole)
    if (!isUtf8(text) || text.includes(0)) throw new NotPlain()
    this.checked = from + this.window.length - fresh.length + whole
  }
}
