import { alignUnion, type UnionParams } from '../../steps/union/align.ts'
import { cellAt, isNumber, type ColumnType } from '../../table/column.ts'
import type { Table } from '../../table/table.ts'
import { nearest } from '../../messages/words.ts'
import { namesAlike } from '../suggest/keys.ts'

/** A column of a union and what each table puts into it; undefined where a table has none. */
export type AlignedColumn = {
  readonly name: string
  readonly type: ColumnType
  readonly from: readonly ({ readonly column: string; readonly type: ColumnType } | undefined)[]
}
/** A column that stands alone in a table (`at` counts the tables) and the column of the union that it may be. */
export type AlignmentPartner = {
  readonly at: number
  readonly column: string
  readonly into: string
  /** Share of its different values that stand there too. */ readonly share: number
  readonly alike: boolean
}

const most = 2000
const values = (table: Table, name: string): Set<unknown> => {
  const column = table.named(name)
  const found = new Set<unknown>()
  for (let row = 0; row < table.rowCount && found.size < most; row++) {
    const cell = cellAt(column, row)
    if (cell !== null) found.add(cell)
  }
  return found
}

/** Which table has which column of a union: `tables` are this one and those laid underneath, in order. */
export const alignedColumns = (params: UnionParams, own: string, tables: readonly Table[]): AlignedColumn[] => {
  const schemaOf = (id: string) => tables[params.with.indexOf(id) + 1]?.schema ?? []
  const { parts, fields } = alignUnion({ ...params, columns: 'all' }, own, tables[0]?.schema ?? [], schemaOf)
  return fields.map(({ name, type }) => ({
    name,
    type,
    from: parts.map((part) => {
      const field = part.schema[part.names.indexOf(name)]
      return field && { column: field.name, type: field.type }
    }),
  }))
}

/** For each column that few tables have, the column that they lack and that it may be: by its name, or by its values. */
export const alignmentPartners = (columns: readonly AlignedColumn[], tables: readonly Table[]): AlignmentPartner[] => {
  const found: AlignmentPartner[] = []
  for (const lone of columns) {
    const holders = lone.from.flatMap((cell, at) => (cell ? [{ at, ...cell }] : []))
    if (holders.length === tables.length) continue
    const aims = columns.filter(
      (other) =>
        other !== lone &&
        holders.every(({ at }) => !other.from[at]) &&
        (other.from.filter(Boolean).length > holders.length ||
          (other.from.filter(Boolean).length === holders.length && columns.indexOf(other) < columns.indexOf(lone))),
    )
    const names = nearest(
      lone.name,
      aims.map(({ name }) => name),
    )
    for (const { at, column, type } of holders) {
      const mine = values(tables[at] as Table, column)
      const scored = aims.flatMap((aim) => {
        const theirs = new Set(
          aim.from.flatMap((cell, i) =>
            cell && cell.type === type ? [...values(tables[i] as Table, cell.column)] : [],
          ),
        )
        const share = mine.size === 0 ? 0 : [...mine].filter((value) => theirs.has(value)).length / mine.size
        const alike = namesAlike(lone.name, aim.name) > 0 || names.includes(aim.name)
        const sameType = aim.from.some((cell) => cell?.type === type)
        // numbers of different things often coincide
        return share >= (isNumber(type) ? 0.9 : 0.5) || (alike && (sameType || share > 0))
          ? [{ at, column, into: aim.name, share, alike, score: share + (alike ? 0.6 : 0) }]
          : []
      })
      scored.sort((a, b) => b.score - a.score)
      const [best] = scored
      if (best) found.push({ at: best.at, column: best.column, into: best.into, share: best.share, alike: best.alike })
    }
  }
  return found
}
