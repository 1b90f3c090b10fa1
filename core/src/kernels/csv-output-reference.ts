import { textsOf, type CsvOutput, type OutputColumn } from './csv-output.ts'
import type { CellTexts } from './csv-kernel.ts'
import { isSet, uint8s } from './memory.ts'

/** Bytes that make quotes needed, or that a cell begins or ends with where they are. */
const [quoteMark, commaSign, carriageReturn, lineFeed, blank] = [34, 44, 13, 10, 32]
/** Whether one of some cells may need quotes, or a guard: of that the first byte decides, which is neither letter nor digit. */
const needCare = ({ bytes, ends }: CellTexts, guard: boolean): boolean => {
  for (let i = 0; i < bytes.length; i++) {
    const byte = bytes[i]!
    if (byte <= commaSign && (byte === quoteMark || byte === commaSign || byte === lineFeed || byte === carriageReturn))
      return true
  }
  for (let i = 0; i < ends.length; i++) {
    const from = i === 0 ? 0 : ends[i - 1]!
    const end = ends[i]!
    if (from === end) continue
    if (bytes[from] === blank || bytes[end - 1] === blank) return true
    if (guard && !isWordByte(bytes[from]!)) return true
  }
  return false
}
const isWordByte = (byte: number): boolean =>
  (byte >= 48 && byte <= 57) || (byte >= 65 && byte <= 90) || (byte >= 97 && byte <= 122)

/** The texts of some rows of a column; each is that of its row. */
const textsOfRows = (column: OutputColumn, from: number, to: number): CellTexts => {
  if (column.form === 'texts') {
    const stored = column.stored(from, to)
    return stored && !needCare(stored, column.guard) ? stored : column.written(from, to)
  }
  if (column.form === 'numbers')
    return textsOf(
      Array.from(column.values.subarray(from, to), (value, i) =>
        isSet(column.nulls, from + i) ? '' : column.write(value),
      ),
    )
  const { bytes, ends } = column.words
  const codes = column.codes.subarray(from, to)
  const made = new Uint32Array(codes.length)
  let length = 0
  codes.forEach((code, i) => (made[i] = length += ends[code]! - (ends[code - 1] ?? 0)))
  const all = uint8s(length)
  codes.forEach((code, i) => all.set(bytes.subarray(ends[code - 1] ?? 0, ends[code]), made[i - 1] ?? 0))
  return { bytes: all, ends: made }
}

/** Rows of CSV in plain TypeScript. */
export const csvOutputReference =
  (columns: readonly OutputColumn[]): CsvOutput =>
  (from, to) => {
    const cells = columns.map((column) => textsOfRows(column, from, to))
    const out = uint8s(
      cells.reduce((sum, { bytes, ends }) => sum + Math.min(bytes.length, ends.at(-1) ?? 0) + to - from, 0),
    )
    let at = 0
    for (let i = 0; i < to - from; i++)
      cells.forEach(({ bytes, ends }, c) => {
        const cell = bytes.subarray(ends[i - 1] ?? 0, ends[i])
        out.set(cell, at)
        at += cell.length
        out[at++] = c === cells.length - 1 ? 10 : 44
      })
    return out
  }
