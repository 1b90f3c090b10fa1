import { textsOf, type CsvOutput, type OutputColumn } from './csv-output.ts'
import type { CellTexts } from './csv-kernel.ts'
import { isSet, uint8s } from './memory.ts'

/** The texts of some rows of a column; each is that of its row. */
const textsOfRows = (column: OutputColumn, from: number, to: number): CellTexts => {
  if (column.form === 'texts') return column.texts(from, to)
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
