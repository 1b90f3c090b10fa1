import { z } from 'zod'
import { code, joined, py, sql, pyHelper, sparkHelper, type Code } from '../../codegen/tag.ts'
import { columnOf, columnTypes, type ColumnType } from '../../table/column.ts'
import { listText } from '../../table/list.ts'
import { Table } from '../../table/table.ts'
import { sqlTypeName } from '../../formula/to-code.ts'
import { counted } from '../../messages/words.ts'
import { name } from '../../reading/name-schema.ts'
import { defineStep, slot } from '../shared/step-kind.ts'
import { cellFor, literalPython, literalSql } from '../shared/value.ts'

type PlainCell = string | number | boolean | null
/** A cell of an entered table; one of a `list` column is a JSON array. */
export type EnteredCell = PlainCell | readonly PlainCell[]
type Enter = {
  readonly columns: readonly { readonly name: string; readonly type: ColumnType }[]
  readonly rows: readonly (readonly EnteredCell[])[]
}

const plainCell = z.union([z.string(), z.number(), z.boolean(), z.null()])

/** A cell of a column of this type as a text, number or boolean; a list is the JSON text that stands for it elsewhere. */
const plainOf = (cell: EnteredCell, type: ColumnType): PlainCell => {
  if (typeof cell !== 'object' || cell === null) return cell
  return type === 'list' ? listText(cell) : JSON.stringify(cell)
}
const cellsOf = ({ columns, rows }: Enter, c: number): PlainCell[] =>
  rows.map((row) => plainOf(row[c] ?? null, columns[c]?.type ?? 'text'))

/** The typed table as a frame of pandas. */
const framePython = (params: Enter): Code =>
  py`pd.DataFrame({${joined(
    params.columns.map(
      (field, c) =>
        py`${field.name}: ${pyHelper('column')}([${joined(
          cellsOf(params, c).map((value) => literalPython(value, field.type)),
          ', ',
        )}], ${field.type})`,
    ),
    ', ',
  )}}, index=range(${params.rows.length}))`

/** A table that is typed in. */
export const enter = defineStep<Enter>({
  kind: 'enter',
  verb: 'Type a small table',
  words: ['enter', 'type', 'table', 'paste', 'constants', 'manual', 'lookup', 'by hand'],
  start: true,
  params: z.strictObject({
    columns: z.array(z.strictObject({ name, type: z.enum(columnTypes) })).min(1),
    rows: z.array(z.array(z.union([plainCell, z.array(plainCell)]))),
  }),
  sentence: ({ columns, rows }) => [
    'Take the typed table of ',
    slot(`${counted(rows.length, 'row')} and ${counted(columns.length, 'column')}`, 'grid', []),
    '.',
  ],
  output: ({ columns, rows }, _input, context) => {
    columns.forEach((field, c) => {
      if (columns.findIndex((other) => other.name === field.name) !== c)
        context.report({ code: 'twice-named', column: field.name }, 'columns', c, 'name')
      cellsOf({ columns, rows }, c).forEach((value, r) => {
        if (cellFor(value, field.type) === undefined || (Array.isArray(rows[r]?.[c]) && field.type !== 'list'))
          context.report(
            { code: 'wrong-value', value: String(value), column: field.name, type: field.type },
            'rows',
            r,
            c,
          )
      })
    })
    rows.forEach((row, r) => {
      if (row.length > columns.length)
        context.report({ code: 'too-many-cells', row: r + 1, cells: row.length, columns: columns.length }, 'rows', r)
    })
    return columns
  },
  run: (params) => ({
    table: Table.of(
      params.columns.map((field) => field.name),
      params.columns.map(({ type }, c) =>
        columnOf(
          type,
          cellsOf(params, c).map((value) => cellFor(value, type) ?? null),
        ),
      ),
      params.rows.length,
    ),
    lineage: { kind: 'source' },
  }),
  scripts: {
    sql: (params, { column }) => {
      const { columns, rows } = params
      const typed = columns.map((field, c) => sql`column${c + 2}::${sqlTypeName(field.type)} as ${column(field.name)}`)
      const values = rows.map(
        (_, r) =>
          sql`(${r + 1}, ${joined(
            columns.map(({ type }, c) => literalSql(cellsOf(params, c)[r] ?? null, type)),
            ', ',
          )})`,
      )
      const none = sql`(0, ${joined(
        columns.map(() => code('null')),
        ', ',
      )})`
      return sql`select column1::bigint as "¶", ${joined(typed, ', ')}\nfrom (values ${joined(rows.length > 0 ? values : [none], ',\n  ')}) typed${rows.length > 0 ? code('') : code(' where false')}`
    },
    spark: (params, { frame }) =>
      py`${frame} = ${sparkHelper('entered')}(${framePython(params)}, ${params.columns.map(({ type }) => type)})`,
    python: (params, { frame }) => py`${frame} = ${framePython(params)}`,
  },
})
