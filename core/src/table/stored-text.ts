/** Bytes that V8 takes for a string, on average. */
export const bytesAString = 40

/** Text of many cells in one buffer: cell i is the UTF-8 of `bytes` from `offsets[i]` up to `offsets[i + 1]`. */
export type EncodedStrings = {
  readonly offsets: Uint32Array
  readonly bytes: Uint8Array
  readonly decode: (start: number, end: number) => string
}

/** Strings that stay bytes until somebody needs all of them; a single one is decoded alone. */
export class LazyStrings {
  private made: readonly string[] | undefined
  private stored: EncodedStrings | undefined
  readonly length: number
  constructor(stored: EncodedStrings) {
    this.stored = stored
    this.length = stored.offsets.length - 1
  }
  at(i: number): string {
    if (!this.stored) return this.made?.[i] ?? ''
    return this.stored.decode(this.stored.offsets[i] ?? 0, this.stored.offsets[i + 1] ?? 0)
  }
  get all(): readonly string[] {
    const { stored } = this
    if (stored) {
      const { offsets, decode } = stored
      this.made = Array.from({ length: this.length }, (_, i) => decode(offsets[i] ?? 0, offsets[i + 1] ?? 0))
      this.stored = undefined
    }
    return this.made ?? []
  }
  /** The buffers held now, for accounting; after `all` the strings themselves. */
  get buffers(): readonly (readonly [object, number])[] {
    const { stored, made = [] } = this
    return stored
      ? [
          [stored.offsets.buffer, stored.offsets.byteLength],
          [stored.bytes.buffer, stored.bytes.byteLength],
        ]
      : [[made, made.length * bytesAString]]
  }
}

/** A plain text column that is read from stored bytes on use. An own getter, so that a copy by spread has its strings too. */
export const plainTextFromBytes = (type: 'text' | 'list', stored: LazyStrings): PlainText => ({
  type,
  form: 'plain',
  stored,
  get strings() {
    return stored.all
  },
})

/** Text whose values nearly all differ: one string a row, made from bytes on first use. */
export type PlainText = {
  readonly type: 'text' | 'list'
  readonly form: 'plain'
  readonly strings: readonly string[]
  /** Where the strings are still bytes: single cells are read from here. */ readonly stored?: LazyStrings
}
