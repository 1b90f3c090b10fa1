import type { ByteDictionary, ByteSource, CellTexts, CsvKernel } from '../kernels/csv-kernel.ts'
import type { TextColumn } from '../table/column.ts'
import { kernels } from '../kernels/kernels.ts'
import { uint8s, uint32s } from '../kernels/memory.ts'
import { LazyStrings, plainTextFromBytes, unpacked, type Decoder } from '../table/stored-text.ts'
import { firstRoom, grown, trimmed, type ColumnBlock } from './column-builders.ts'
import { cellTexts, type ColumnSegment } from './segments.ts'

/** A long slice would keep its whole chunk of the file in memory; a word of the dictionary is its own string. */
const own = (text: string): string => (text.length < 13 ? text : Array.from(text).join(''))

/** Texts as they are collected, in one of the forms that a column has. */
interface TextStore {
  readonly length: number
  /** How many different texts there are; undefined where that is not counted. */
  readonly distinct: number | undefined
  add(text: string): void
  segment(bytesOf: ByteSource['bytesOf']): TextSegment
  done(): TextColumn
}
/** Cells of text that another builder read. */
type TextSegment = Exclude<ColumnSegment, { readonly kind: 'blank' | 'numbers' }>

/** Codes of cells, which grow. */
class Codes {
  private codes: Uint32Array
  private readonly room: number
  length = 0
  /** `room`: how many there may be. */
  constructor(room: number) {
    this.room = room
    this.codes = uint32s(Math.min(room, firstRoom))
  }
  /** Room for more; where they begin. */
  extend(rows: number): number {
    const at = this.length
    this.length += rows
    if (this.length > this.codes.length) this.codes = grown(uint32s, this.codes, Math.max(this.length, this.room))
    return at
  }
  get buffer(): Uint32Array {
    return this.codes
  }
  done(): Uint32Array {
    return trimmed(this.codes, this.length)
  }
}

class DictionaryOfStrings implements TextStore {
  readonly words: string[] = ['']
  readonly codes: Codes
  private readonly seen = new Map<string, number>([['', 0]])
  constructor(room: number) {
    this.codes = new Codes(room)
  }
  get length(): number {
    return this.codes.length
  }
  get distinct(): number {
    return this.words.length
  }
  add(text: string): void {
    let code = this.seen.get(text)
    if (code === undefined) {
      code = this.words.length
      const word = own(text)
      this.words.push(word)
      this.seen.set(word, code)
    }
    const at = this.codes.extend(1)
    this.codes.buffer[at] = code
  }
  plain(): PlainStrings {
    const codes = this.codes.done()
    return new PlainStrings(Array.from(codes, (code) => this.words[code] as string))
  }
  segment(bytesOf: ByteSource['bytesOf']): TextSegment {
    return { kind: 'codes', codes: this.codes.done(), texts: cellTexts(this.words, bytesOf) }
  }
  done(): TextColumn {
    return { type: 'text', form: 'dictionary', indices: this.codes.done(), dictionary: this.words }
  }
}

class PlainStrings implements TextStore {
  readonly strings: string[]
  readonly distinct = undefined
  constructor(strings: string[]) {
    this.strings = strings
  }
  get length(): number {
    return this.strings.length
  }
  add(text: string): void {
    this.strings.push(text)
  }
  segment(bytesOf: ByteSource['bytesOf']): TextSegment {
    return { kind: 'texts', texts: cellTexts(this.strings, bytesOf) }
  }
  done(): TextColumn {
    return { type: 'text', form: 'plain', strings: this.strings }
  }
}

const addTo = (to: Uint32Array, from: Uint32Array, more: number): void => {
  const n = to.length
  for (let i = 0; i < n; i++) to[i] = from[i]! + more
}
/** Bytes of texts behind one another, and where each ends. */
class PlainBytes implements TextStore {
  private bytes: Uint8Array
  private offsets: Uint32Array
  length = 0
  readonly distinct = undefined
  private readonly source: ByteSource
  constructor(source: ByteSource, expected: number, bytes: number) {
    this.source = source
    this.bytes = uint8s(Math.max(1024, bytes))
    this.offsets = uint32s(expected + 1)
  }
  add(text: string): void {
    const bytes = this.source.bytesOf(text)
    this.addTexts(bytes, Uint32Array.of(this.size + bytes.length))
  }
  addBlock({ kernel, column }: ColumnBlock): void {
    const { bytes, ends } = kernel.texts(column, this.size)
    this.addTexts(bytes, ends)
  }
  /** The texts with these codes: that of code k ends at `ends[k]`. */
  addCodes(codes: Uint32Array, { bytes, ends }: CellTexts): void {
    const made = uint32s(codes.length)
    const { size } = this
    let length = 0
    for (let i = 0; i < codes.length; i++) {
      const code = codes[i]!
      made[i] = size + (length += code === 0 ? 0 : ends[code]! - ends[code - 1]!)
    }
    const texts = uint8s(length)
    let at = 0
    for (let i = 0; i < codes.length;) {
      const first = codes[i++]!
      if (first === 0) continue
      let last = first
      // texts that lie behind one another are copied in one piece
      for (; codes[i] === last + 1; i++) last++
      texts.set(bytes.subarray(ends[first - 1], ends[last]), at)
      at += ends[last]! - ends[first - 1]!
    }
    this.addTexts(texts, made)
  }
  append(segment: TextSegment): void {
    if (segment.kind === 'codes') return this.addCodes(segment.codes, segment.texts)
    const { bytes, ends } = segment.texts
    const moved = uint32s(ends.length)
    addTo(moved, ends, this.size)
    this.addTexts(bytes, moved)
  }
  segment(): TextSegment {
    const offsets = trimmed(this.offsets, this.length + 1)
    const bytes = trimmed(this.bytes, offsets[this.length]!)
    return { kind: 'texts', texts: { bytes, ends: offsets.subarray(1) } }
  }
  /** How many bytes there are. */
  private get size(): number {
    return this.offsets[this.length]!
  }
  /** Texts behind one another; `ends` are counted on from the bytes that there are. */
  private addTexts(bytes: Uint8Array, ends: Uint32Array): void {
    const { length, size } = this
    if (length + ends.length >= this.offsets.length)
      this.offsets = grown(uint32s, this.offsets, length + ends.length + 1)
    if (size + bytes.length > this.bytes.length) this.bytes = grown(uint8s, this.bytes, size + bytes.length)
    this.bytes.set(bytes, size)
    this.offsets.set(ends, length + 1)
    this.length = length + ends.length
  }
  done(): TextColumn {
    const offsets = trimmed(this.offsets, this.length + 1)
    const bytes = trimmed(this.bytes, offsets[this.length]!)
    return plainTextFromBytes('text', new LazyStrings(unpacked({ offsets, bytes }, this.source.decoder)))
  }
}

const stringsOf = ({ bytes, ends }: CellTexts, decoder: Decoder): readonly string[] => {
  const offsets = uint32s(ends.length + 1)
  offsets.set(ends, 1)
  return new LazyStrings(unpacked({ offsets, bytes }, decoder)).all
}

class DictionaryOfBytes implements TextStore {
  private kernel: CsvKernel
  private dictionary: ByteDictionary
  private readonly source: ByteSource
  private readonly codes: Codes
  /** Of texts that came as strings: `words` with their codes. */
  constructor({ kernel, source }: ColumnBlock, { words, codes }: DictionaryOfStrings) {
    this.kernel = kernel
    this.dictionary = kernel.dictionary()
    this.source = source
    this.codes = codes
    this.dictionary.codesOf(cellTexts(words, (word) => source.bytesOf(word)))
  }
  get length(): number {
    return this.codes.length
  }
  get distinct(): number {
    return this.dictionary.size
  }
  add(text: string): void {
    const code = this.dictionary.codeOf(this.source.bytesOf(text))
    const at = this.codes.extend(1)
    this.codes.buffer[at] = code
  }
  addBlock({ kernel, column, rows }: ColumnBlock): void {
    if (kernel !== this.kernel) this.move(kernel)
    const at = this.codes.extend(rows)
    this.dictionary.codes(column, this.codes.buffer, at)
  }
  /** Rows from a wider one on are cut by another kernel, whose dictionary begins with the texts met so far, by the same codes. */
  private move(kernel: CsvKernel): void {
    const texts = this.dictionary.texts()
    this.kernel = kernel
    this.dictionary = kernel.dictionary()
    this.dictionary.codesOf(texts)
  }
  plain(room: number): PlainBytes {
    const { bytes, ends } = this.dictionary.texts()
    const rows = Math.max(room, this.length)
    const plain = new PlainBytes(this.source, rows, expectedBytes(bytes.length, this.length, rows))
    plain.addCodes(this.codes.done(), { bytes, ends })
    return plain
  }
  /** Codes of another dictionary, whose texts are looked up here once each. */
  append(codes: Uint32Array, texts: CellTexts): void {
    const map = this.dictionary.codesOf(texts)
    const at = this.codes.extend(codes.length)
    kernels().lookUp(codes, map, this.codes.buffer.subarray(at, at + codes.length))
  }
  segment(): TextSegment {
    return { kind: 'codes', codes: this.codes.done(), texts: this.dictionary.texts() }
  }
  done(): TextColumn {
    const dictionary = stringsOf(this.dictionary.texts(), this.source.decoder)
    return { type: 'text', form: 'dictionary', indices: this.codes.done(), dictionary }
  }
}

/** How many bytes so many rows may have, by those of the first; a little more, so that buffers seldom grow. */
const expectedBytes = (bytes: number, of: number, rows: number): number => Math.ceil((bytes / of) * rows * 1.05)

/** After so many rows it is looked whether a dictionary pays: first by what the rows yet to come may hold, then by what there is. */
const looks = [20_000, 160_000] as const
/**
 * Whether a column has so many different texts, or will have, that a dictionary costs more than it saves. Of texts drawn at random the
 * pairs of equal ones tell how many there are (the birthday problem: W. Feller, An Introduction to Probability Theory 1, II.3).
 */
const nearlyAllDiffer = (distinct: number, rows: number, expected: number): boolean => {
  if (distinct <= rows / 2) return false
  return rows >= looks[1] || rows ** 2 / (2 * Math.max(0, rows - distinct)) > expected / 2
}

function* textsIn(segment: TextSegment, { decoder }: ByteSource): Generator<string> {
  const texts = stringsOf(segment.texts, decoder)
  if (segment.kind === 'texts') yield* texts
  else for (const code of segment.codes) yield texts[code] as string
}

/** Builds a text column cell by cell or block by block; a dictionary until nearly all values differ. */
export class TextBuilder {
  private readonly expected: number
  private readonly room: number
  private store: DictionaryOfStrings | PlainStrings | DictionaryOfBytes | PlainBytes
  private looked = 0
  /** `expected`: how many cells the file may have; `room`: how many this builder may get, so that buffers need not grow. */
  constructor(expected = firstRoom, room = expected) {
    this.expected = expected
    this.room = room
    this.store = new DictionaryOfStrings(room)
  }
  add(text: string): void {
    this.store.add(text)
    this.chooseEncoding()
  }
  addBlock(block: ColumnBlock): void {
    const { store } = this
    const bytes = store instanceof DictionaryOfBytes || store instanceof PlainBytes ? store : this.asBytes(block)
    bytes.addBlock(block)
    this.store = bytes
    this.chooseEncoding()
  }
  /** The cells as they stand, for the builder of the rows above. */
  segment(source: ByteSource): ColumnSegment {
    return this.store.segment((text) => source.bytesOf(text))
  }
  /** Cells that another builder read further down the file; `rows` empty ones where they are no texts. */
  append(segment: ColumnSegment, rows: number, source: ByteSource): void {
    if (segment.kind === 'blank' || segment.kind === 'numbers') {
      for (let i = 0; i < rows; i++) this.store.add('')
      return
    }
    // texts of which the rows below have too many for a dictionary have too many in all
    if (this.store instanceof DictionaryOfBytes && segment.kind === 'texts') this.store = this.store.plain(this.room)
    const { store } = this
    if (store instanceof DictionaryOfBytes && segment.kind === 'codes') store.append(segment.codes, segment.texts)
    else if (store instanceof PlainBytes) store.append(segment)
    else for (const text of textsIn(segment, source)) store.add(text)
  }
  private asBytes(block: ColumnBlock): DictionaryOfBytes | PlainBytes {
    const { store } = this
    if (store instanceof DictionaryOfStrings) return new DictionaryOfBytes(block, store)
    const { strings } = store as PlainStrings
    const rows = Math.max(this.room, strings.length)
    const characters = strings.reduce((sum, text) => sum + text.length, 0)
    const plain = new PlainBytes(block.source, rows, expectedBytes(characters, strings.length, rows))
    for (const text of strings) plain.add(text)
    return plain
  }
  /** As a dictionary, or plain where a dictionary would cost more than it saves. */
  private chooseEncoding(): void {
    const { store } = this
    if (store.length < (looks[this.looked] ?? Infinity)) return
    this.looked++
    if (store.distinct === undefined || !nearlyAllDiffer(store.distinct, store.length, this.expected)) return
    if (store instanceof DictionaryOfStrings) this.store = store.plain()
    if (store instanceof DictionaryOfBytes) this.store = store.plain(this.room)
  }
  done(): TextColumn {
    return this.store.done()
  }
}
