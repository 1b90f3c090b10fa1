import { cellAt } from '../../table/column.ts'
import type { Table } from '../../table/table.ts'

/** A part of a stacked table (a file or sheet), its rows one after the other, and what it lacks. */
export type StackedPart = {
  readonly file: string
  readonly sheet?: string | undefined
  readonly rows: number
  readonly lacks: readonly string[]
}
/** A column that only this part has and that may be the one it lacks: `agree` of its `values` different values stand there too. */
export type Partner = {
  readonly file: string
  readonly sheet?: string | undefined
  readonly lacks: string
  readonly has: string
  readonly values: number
  readonly agree: number
}

const most = 2000

const valuesBetween = (table: Table, name: string, from: number, to: number, outside: boolean): Set<unknown> => {
  const column = table.named(name)
  const values = new Set<unknown>()
  for (let row = outside ? 0 : from; row < (outside ? table.rowCount : to) && values.size < most; row++) {
    if (outside && row >= from && row < to) continue
    const cell = cellAt(column, row)
    if (cell !== null) values.add(cell)
  }
  return values
}

/** For each column that a part lacks, the column of its own whose values stand in it elsewhere. At least half must. */
export const partnersOf = (table: Table, parts: readonly StackedPart[]): Partner[] => {
  const types = new Map(table.schema.map(({ name, type }) => [name, type]))
  const found: Partner[] = []
  let from = 0
  for (const part of parts) {
    const to = from + part.rows
    const own = table.names.filter(
      (name) =>
        !part.lacks.includes(name) &&
        parts.length > 1 &&
        parts.every((other) => other === part || other.lacks.includes(name)),
    )
    for (const lacks of part.lacks) {
      const elsewhere = valuesBetween(table, lacks, from, to, true)
      for (const has of own) {
        // of two names for one thing the one met first stays
        // eslint-disable-next-line max-depth -- pairs of parts, of columns, of values
        if (types.get(has) !== types.get(lacks) || table.positionOf(lacks) > table.positionOf(has)) continue
        const values = valuesBetween(table, has, from, to, false)
        const agree = [...values].filter((value) => elsewhere.has(value)).length
        // eslint-disable-next-line max-depth -- pairs of parts, of columns, of values
        if (values.size > 0 && agree * 2 >= values.size)
          found.push({ file: part.file, sheet: part.sheet, lacks, has, values: values.size, agree })
      }
    }
    from = to
  }
  return found.sort((a, b) => b.agree / b.values - a.agree / a.values)
}
