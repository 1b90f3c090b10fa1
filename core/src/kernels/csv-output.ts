import type { CellTexts } from './csv-kernel.ts'
import { uint8s, type Bitmap } from './memory.ts'

/** A column to write as CSV: codes of texts that are ready to be written, numbers, or texts. */
export type OutputColumn =
  | { readonly form: 'coded'; readonly codes: Uint32Array; readonly words: CellTexts }
  | {
      readonly form: 'numbers'
      readonly values: Float64Array
      readonly nulls: Bitmap | undefined
      /** How a number is written that is not short. */ readonly write: (value: number) => string
    }
  | {
      readonly form: 'texts'
      /** The texts of some rows as they are, where their bytes lie behind one another. */
      readonly stored: (from: number, to: number) => CellTexts | undefined
      /** Whether a text must not begin as a formula does. */ readonly guard: boolean
      /** The texts of some rows as they are written, for rows one of whose texts may need quotes or a guard. */
      readonly written: (from: number, to: number) => CellTexts
    }

/** Rows of CSV from `from` up to `to`, which are at most `rowsAnOutput`; `from` is a multiple of 8. Valid until the next call. */
export type CsvOutput = (from: number, to: number) => Uint8Array
/** Rows that are written at once. */
export const rowsAnOutput = 4096

/** Texts of more characters together are encoded one by one: a string has a bound. */
const mostTogether = 1 << 24

/** UTF-8 of texts behind one another. */
export const textsOf = (texts: readonly string[]): CellTexts => {
  const encoder = new TextEncoder()
  const ends = new Uint32Array(texts.length)
  let length = 0
  texts.forEach((text, i) => (ends[i] = length += text.length))
  const together = length > mostTogether ? undefined : encoder.encode(texts.join(''))
  // of ASCII a character is a byte; other texts are encoded alone, as halves of two characters must not become one
  if (together?.length === length) return { bytes: together, ends }
  const parts = texts.map((text) => encoder.encode(text))
  const bytes = uint8s(parts.reduce((sum, part) => sum + part.length, 0))
  let at = 0
  parts.forEach((part, i) => {
    bytes.set(part, at)
    at += part.length
    ends[i] = at
  })
  return { bytes, ends }
}
