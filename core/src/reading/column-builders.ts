import { decimalSource, integerSource } from './type-detection.ts'
import type { Column, TextColumn } from '../table/column.ts'
import { bitmap, uint8s as byteBuffer, float64s, int32s, set, uint32s } from '../table/memory.ts'
import type { NumberLocale } from '../table/number.ts'

/** UTF-8 bytes of a file, with what makes text of a span of them and bytes of a text. */
export type ByteSource = {
  readonly bytes: Uint8Array
  readonly text: (start: number, end: number) => string
  readonly bytesOf: (text: string) => Uint8Array
}

const powers = Array.from({ length: 16 }, (_, i) => 10 ** i)

const grow = <T extends Float64Array | Uint32Array | Int32Array | Uint8Array>(
  make: (length: number) => T,
  old: T,
  length: number,
): T => {
  const wider = make(Math.max(length, old.length * 2, 1024))
  wider.set(old as never)
  return wider
}

/** The part of a buffer that is used; copied only where much is not. */
const trimmed = <T extends Float64Array | Uint32Array>(buffer: T, length: number): T =>
  length > buffer.length * 0.8 ? (buffer.subarray(0, length) as T) : (buffer.slice(0, length) as T)

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

/** Whether the number parsed last had a decimal point: a second result, so that none is allocated. */
let quickHadPoint = false
/** Digits with at most one point, up to 15, no leading zero: the number, or NaN. */
// eslint-disable-next-line complexity -- a number scanned in place, byte by byte; a call a byte would cost half the speed of reading
const quickNumber = (bytes: Uint8Array, start: number, end: number, mark: number): number => {
  const negative = bytes[start] === 45
  const first = negative ? start + 1 : start
  let value = 0
  let point = -1
  for (let i = first; i < end; i++) {
    const byte = bytes[i]!
    const digit = byte - 48
    if (digit >= 0 && digit <= 9) value = value * 10 + digit
    else if (byte === mark && point < 0) point = i
    else return NaN
  }
  const digits = end - first - (point < 0 ? 0 : 1)
  const ahead = (point < 0 ? end : point) - first
  if (digits < 1 || digits > 15 || (ahead > 1 && bytes[first] === 48) || point === end - 1) return NaN
  quickHadPoint = point >= 0
  if (quickHadPoint) value /= powers[end - point - 1]!
  return negative && value !== 0 ? -value : value
}

/** A long slice would keep its whole chunk of the file in memory; a word of the dictionary is its own string. */
const own = (text: string): string => (text.length < 13 ? text : Array.from(text).join(''))

/** Numbers as they are read; `surprised` where a cell is none. */
export class NumberBuilder {
  private values: Float64Array
  private emptyRows: number[] = []
  private length = 0
  type: 'integer' | 'decimal' = 'integer'
  surprised = false
  private readonly decimal: RegExp
  private readonly integer = new RegExp(integerSource)
  private readonly mark: number
  private readonly sign: string
  /** `expected`: how many cells there may be, so that the buffer need not grow. */
  constructor(locale: NumberLocale, expected = 1024) {
    this.values = float64s(expected)
    this.decimal = new RegExp(decimalSource(locale.decimal))
    this.sign = locale.decimal
    this.mark = locale.decimal === '.' ? 46 : -1
  }
  add(text: string): void {
    if (this.length === this.values.length) this.values = grow(float64s, this.values, this.length + 1)
    const at = this.length++
    if (text === '') {
      this.emptyRows.push(at)
      return
    }
    const quick = quickInteger(text)
    this.values[at] = quick === quick ? quick : this.slow(text)
  }
  /** Cells of one column of a block, by start and end. Up to 15 digits and a point are exact as whole number over a power of ten; all else goes by its text. */
  addSpans(source: ByteSource, cuts: Int32Array, column: number, width: number, rows: number): void {
    if (this.length + rows > this.values.length) this.values = grow(float64s, this.values, this.length + rows)
    for (let i = 0, k = column * 2; i < rows; i++, k += width * 2) {
      const start = cuts[k]!
      const end = cuts[k + 1]!
      if (start === end) {
        this.emptyRows.push(this.length++)
        continue
      }
      const value = quickNumber(source.bytes, start, end, this.mark)
      if (value !== value) {
        this.add(source.text(start, end))
        continue
      }
      if (quickHadPoint) this.type = 'decimal'
      this.values[this.length++] = value
    }
  }
  private slow(raw: string): number {
    const text = raw.trim()
    if (this.integer.test(text)) return Number(text)
    if (this.decimal.test(text)) {
      const value = Number(this.sign === '.' ? text : text.replace(this.sign, '.'))
      if (Number.isFinite(value)) {
        this.type = 'decimal'
        return value === 0 ? 0 : value
      }
    }
    this.surprised = true
    return 0
  }
  done(): Column {
    const empty = this.emptyRows.length > 0 ? bitmap(this.length) : undefined
    for (const row of this.emptyRows) if (empty) set(empty, row)
    return { type: this.type, values: trimmed(this.values, this.length), nulls: empty }
  }
}

/** Four bytes at a time; multiplied by 2^32 over the golden ratio. Knuth, The Art of Computer Programming 3, 6.4. */
const hashOf = (bytes: Uint8Array, start: number, end: number): number => {
  let hash = end - start
  let i = start
  for (; i + 4 <= end; i += 4)
    hash = Math.imul(
      hash ^ (bytes[i]! | (bytes[i + 1]! << 8) | (bytes[i + 2]! << 16) | (bytes[i + 3]! << 24)),
      0x9e3779b1,
    )
  for (; i < end; i++) hash = Math.imul(hash ^ bytes[i]!, 0x9e3779b1)
  return hash ^ (hash >>> 15)
}

const sameBytes = (a: Uint8Array, start: number, end: number, b: Uint8Array, from: number, to: number): boolean => {
  if (end - start !== to - from) return false
  for (let i = start, k = from; i < end; i++, k++) if (a[i] !== b[k]) return false
  return true
}

/** Words by their bytes: open addressing over a power of two, the bytes themselves in one arena. */
class DictionaryIndex {
  private table = int32s(1024).fill(-1)
  private hashes = int32s(1024)
  private offsets = int32s(1024)
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
    this.put(this.size, hashOf(bytes, 0, bytes.length), bytes)
  }
  /**
   * Codes of the words of cells `from` to `to` of one column of a block, into `codes` at `at`; stops at a word not met
   * before, and says how many cells were done. The word found last is tried first, as equal values often stand together.
   */
  find(
    bytes: Uint8Array,
    cuts: Int32Array,
    column: number,
    width: number,
    from: number,
    to: number,
    codes: Uint32Array,
    at: number,
  ): number {
    const { table, hashes, offsets, arena } = this
    const mask = table.length - 1
    let last = 0
    for (let i = from, k = (from * width + column) * 2; i < to; i++, k += width * 2) {
      const start = cuts[k]!
      const end = cuts[k + 1]!
      if (start === end) {
        codes[at++] = 0
        continue
      }
      if (last === 0 || !sameBytes(bytes, start, end, arena, offsets[last]!, offsets[last + 1]!)) {
        const hash = hashOf(bytes, start, end)
        let slot = hash & mask
        for (; (last = table[slot]!) >= 0; slot = (slot + 1) & mask)
          // eslint-disable-next-line max-depth -- a number scanned in place, byte by byte; a call a byte would cost half the speed of reading
          if (hashes[last] === hash && sameBytes(bytes, start, end, arena, offsets[last]!, offsets[last + 1]!)) break
        if (last < 0) return i - from
      }
      codes[at++] = last
    }
    return to - from
  }
  private put(code: number, hash: number, bytes: Uint8Array): void {
    if (code + 2 > this.offsets.length) {
      this.offsets = grow(int32s, this.offsets, code + 2)
      this.hashes = grow(int32s, this.hashes, code + 2)
    }
    const from = this.offsets[code]!
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
    let slot = this.hashes[code]! & mask
    while (this.table[slot]! >= 0) slot = (slot + 1) & mask
    this.table[slot] = code
  }
  private rehash(): void {
    this.table = int32s(this.table.length * 4).fill(-1)
    for (let code = 1; code < this.size; code++) this.seat(code)
  }
}

const sampleSize = 20_000

/** Builds a text column cell by cell; a dictionary until nearly all values differ. */
export class TextBuilder {
  private codes: Uint32Array
  private words: string[] = ['']
  private seen = new Map<string, number>([['', 0]])
  private strings: string[] | undefined
  private index: DictionaryIndex | undefined
  private length = 0
  private encodingChosen = false
  constructor(expected = 1024) {
    this.codes = uint32s(expected)
  }
  add(text: string): void {
    if (this.strings) {
      this.strings.push(text)
      this.length++
      return
    }
    this.reserve(1)
    this.codes[this.length++] = this.codeOf(text)
    this.chooseEncoding()
  }
  /** Cells of one column of a block, by start and end; a word met before is found by its bytes alone. */
  addSpans(source: ByteSource, cuts: Int32Array, column: number, width: number, rows: number): void {
    if (this.strings) {
      for (let i = 0, k = column * 2; i < rows; i++, k += width * 2)
        this.add(cuts[k] === cuts[k + 1] ? '' : source.text(cuts[k]!, cuts[k + 1]!))
      return
    }
    this.index ??= new DictionaryIndex(this.words, source.bytesOf)
    this.reserve(rows)
    for (let done = 0; done < rows;) {
      const found = this.index.find(source.bytes, cuts, column, width, done, rows, this.codes, this.length)
      this.length += found
      done += found
      if (done === rows) break
      const k = (done++ * width + column) * 2
      this.codes[this.length++] = this.codeOf(source.text(cuts[k]!, cuts[k + 1]!))
    }
    this.chooseEncoding()
  }
  private codeOf(text: string): number {
    let code = this.seen.get(text)
    if (code === undefined) {
      code = this.words.length
      const word = own(text)
      this.words.push(word)
      this.seen.set(word, code)
      this.index?.add(word)
    }
    return code
  }
  private reserve(more: number): void {
    if (this.length + more > this.codes.length) this.codes = grow(uint32s, this.codes, this.length + more)
  }
  /** Once, when a sample is in: as a dictionary or plain. */
  private chooseEncoding(): void {
    if (this.encodingChosen || this.length < sampleSize) return
    this.encodingChosen = true
    if (this.words.length > this.length / 2) this.goPlain()
  }
  /** Where nearly every value differs a dictionary costs more than it saves. */
  private goPlain(): void {
    this.strings = Array.from({ length: this.length }, (_, i) => this.words[this.codes[i]!] as string)
    this.words = ['']
    this.seen = new Map()
    this.codes = uint32s(0)
  }
  done(): TextColumn {
    return this.strings
      ? { type: 'text', form: 'plain', strings: this.strings }
      : { type: 'text', form: 'dictionary', indices: trimmed(this.codes, this.length), dictionary: this.words }
  }
}
