import { decimalSource, integerSource } from '../table/detect.ts'
import type { Column, TextColumn } from '../table/column.ts'
import { bits, bytes as byteBuffer, floats, ints, setBit, words32 } from '../table/memory.ts'
import type { NumberLocale } from '../table/number.ts'

/** UTF-8 bytes of a file, with what makes text of a span of them and bytes of a text. */
export type Bytes = { readonly bytes: Uint8Array; readonly text: (start: number, end: number) => string; readonly bytesOf: (text: string) => Uint8Array }

const powers = Array.from({ length: 16 }, (_, i) => 10 ** i)

const grow = <T extends Float64Array | Uint32Array | Int32Array | Uint8Array>(make: (length: number) => T, old: T, length: number): T => {
  const wider = make(Math.max(length, old.length * 2, 1024))
  wider.set(old as never)
  return wider
}

/** Digits only, up to 15, no leading zero: the number, or NaN. The inner loop of reading numbers. */
const quickInteger = (text: string): number => {
  const n = text.length
  let i = text.charCodeAt(0) === 45 ? 1 : 0
  const digits = n - i
  if (digits < 1 || digits > 15 || (digits > 1 && text.charCodeAt(i) === 48)) return NaN
  const negative = i === 1
  let value = 0
  for (; i < n; i++) {
    const digit = text.charCodeAt(i) - 48
    if (digit < 0 || digit > 9) return NaN
    value = value * 10 + digit
  }
  return negative && value !== 0 ? -value : value
}

/** A long slice would keep its whole chunk of the file in memory; a word of the dictionary is its own string. */
const own = (text: string): string => (text.length < 13 ? text : Array.from(text).join(''))

/** Numbers as they are read; `surprised` where a cell is none. */
export class NumberBuilder {
  private values = floats(1024)
  private emptyRows: number[] = []
  private length = 0
  type: 'integer' | 'decimal' = 'integer'
  surprised = false
  private readonly decimal: RegExp
  private readonly integer = new RegExp(integerSource)
  private readonly mark: string
  constructor(locale: NumberLocale) {
    this.decimal = new RegExp(decimalSource(locale.decimal))
    this.mark = locale.decimal
  }
  add(text: string): void {
    if (this.length === this.values.length) this.values = grow(floats, this.values, this.length + 1)
    const at = this.length++
    if (text === '') {
      this.emptyRows.push(at)
      return
    }
    const quick = quickInteger(text)
    this.values[at] = quick === quick ? quick : this.slow(text)
  }
  /** Up to 15 digits and a point are exact as whole number over a power of ten; all else goes by its text. */
  addBytes(source: Bytes, start: number, end: number): void {
    if (this.length === this.values.length) this.values = grow(floats, this.values, this.length + 1)
    if (start === end) {
      this.emptyRows.push(this.length++)
      return
    }
    const { bytes } = source
    const negative = bytes[start] === 45
    const first = negative ? start + 1 : start
    let value = 0
    let point = -1
    for (let i = first; i < end; i++) {
      const digit = (bytes[i] as number) - 48
      if (digit >= 0 && digit <= 9) value = value * 10 + digit
      else if (digit === -2 && point < 0 && this.mark === '.') point = i
      else return this.add(source.text(start, end))
    }
    const digits = end - first - (point < 0 ? 0 : 1)
    const ahead = (point < 0 ? end : point) - first
    if (digits < 1 || digits > 15 || (ahead > 1 && bytes[first] === 48) || point === end - 1) return this.add(source.text(start, end))
    if (point >= 0) {
      value /= powers[end - point - 1] as number
      this.type = 'decimal'
    }
    this.values[this.length++] = negative && value !== 0 ? -value : value
  }
  private slow(raw: string): number {
    const text = raw.trim()
    if (this.integer.test(text)) return Number(text)
    if (this.decimal.test(text)) {
      const value = Number(this.mark === '.' ? text : text.replace(this.mark, '.'))
      if (Number.isFinite(value)) {
        this.type = 'decimal'
        return value === 0 ? 0 : value
      }
    }
    this.surprised = true
    return 0
  }
  done(): Column {
    const empty = this.emptyRows.length > 0 ? bits(this.length) : undefined
    for (const row of this.emptyRows) if (empty) setBit(empty, row)
    return { type: this.type, values: this.values.slice(0, this.length), empty }
  }
}

/** Words by their bytes: open addressing over a power of two, the bytes themselves in one arena. */
class WordIndex {
  private table = ints(1024).fill(-1)
  private hashes = ints(1024)
  private offsets = ints(1024)
  private arena = byteBuffer(1 << 14)
  private readonly bytesOf: (text: string) => Uint8Array
  size = 0
  constructor(words: readonly string[], bytesOf: (text: string) => Uint8Array) {
    this.bytesOf = bytesOf
    this.size = 1
    for (let code = 1; code < words.length; code++) this.add(words[code] as string)
  }
  /** The next code in turn. */
  add(word: string): void {
    const bytes = this.bytesOf(word)
    let hash = 0
    for (let i = 0; i < bytes.length; i++) hash = (Math.imul(hash, 31) + (bytes[i] as number)) | 0
    this.put(this.size, hash, bytes)
  }
  find(hash: number, bytes: Uint8Array, start: number, end: number): number {
    const mask = this.table.length - 1
    for (let slot = hash & mask; ; slot = (slot + 1) & mask) {
      const code = this.table[slot] as number
      if (code < 0) return -1
      if (this.hashes[code] === hash && this.same(code, bytes, start, end)) return code
    }
  }
  same(code: number, bytes: Uint8Array, start: number, end: number): boolean {
    const from = this.offsets[code] as number
    if ((this.offsets[code + 1] as number) - from !== end - start) return false
    for (let i = start, k = from; i < end; i++, k++) if (bytes[i] !== this.arena[k]) return false
    return true
  }
  private put(code: number, hash: number, bytes: Uint8Array): void {
    if (code + 2 > this.offsets.length) {
      this.offsets = grow(ints, this.offsets, code + 2)
      this.hashes = grow(ints, this.hashes, code + 2)
    }
    const from = this.offsets[code] as number
    const end = from + bytes.length
    if (end > this.arena.length) this.arena = grow(byteBuffer, this.arena, end)
    this.arena.set(bytes, from)
    this.offsets[code + 1] = end
    this.hashes[code] = hash
    this.size = code + 1
    if (this.size * 2 > this.table.length) this.rehash()
    else this.seat(code)
  }
  private seat(code: number): void {
    const mask = this.table.length - 1
    let slot = (this.hashes[code] as number) & mask
    while ((this.table[slot] as number) >= 0) slot = (slot + 1) & mask
    this.table[slot] = code
  }
  private rehash(): void {
    this.table = ints(this.table.length * 4).fill(-1)
    for (let code = 1; code < this.size; code++) this.seat(code)
  }
}

const sampleSize = 20_000

export class TextBuilder {
  private codes = words32(1024)
  private words: string[] = ['']
  private seen = new Map<string, number>([['', 0]])
  private strings: string[] | undefined
  private index: WordIndex | undefined
  private length = 0
  add(text: string): void {
    if (this.strings) {
      this.strings.push(text)
      this.length++
      return
    }
    let code = this.seen.get(text)
    if (code === undefined) {
      code = this.words.length
      const word = own(text)
      this.words.push(word)
      this.seen.set(word, code)
      this.index?.add(word)
    }
    this.push(code)
  }
  /** A word met before is found by its bytes alone. */
  addBytes(source: Bytes, start: number, end: number): void {
    if (this.strings || start === end) return this.add(start === end ? '' : source.text(start, end))
    const { bytes } = source
    if (this.index && this.length > 0 && this.index.same(this.codes[this.length - 1] as number, bytes, start, end)) return this.push(this.codes[this.length - 1] as number)
    let hash = 0
    for (let i = start; i < end; i++) hash = (Math.imul(hash, 31) + (bytes[i] as number)) | 0
    this.index ??= new WordIndex(this.words, source.bytesOf)
    const code = this.index.find(hash, bytes, start, end)
    if (code < 0) return this.add(source.text(start, end))
    this.push(code)
  }
  private push(code: number): void {
    if (this.length === this.codes.length) this.codes = grow(words32, this.codes, this.length + 1)
    this.codes[this.length++] = code
    if (this.length === sampleSize && this.words.length > sampleSize / 2) this.goPlain()
  }
  /** Where nearly every value differs a dictionary costs more than it saves. */
  private goPlain(): void {
    this.strings = Array.from({ length: this.length }, (_, i) => this.words[this.codes[i] as number] as string)
    this.words = ['']
    this.seen = new Map()
  }
  done(): TextColumn {
    return this.strings ? { type: 'text', form: 'plain', strings: this.strings } : { type: 'text', form: 'coded', codes: this.codes.slice(0, this.length), words: this.words }
  }
}
