import { allRows, oneRow } from '../../table/row-set.ts'
import { plainFigure } from '../shared/statistics.ts'
import { z } from 'zod'
import { maxColumns } from '../../table/limits.ts'
import { sqlTypeName } from '../../formula/to-code.ts'
import { code, joined, py, sql, sqlHelper, pyHelper } from '../../codegen/tag.ts'
import { cellAt, columnOf, columnWriter, typeTogether, type ColumnType } from '../../table/column.ts'
import { convert } from '../../reading/convert.ts'
import { textOfCell } from '../../table/cell-text.ts'
import { Table, type Schema } from '../../table/table.ts'
import { figure, counted } from '../../messages/words.ts'
import { checkColumn, freeName } from '../shared/columns.ts'
import { name } from '../../reading/name-schema.ts'
import { DataRefused, defineStep, slot } from '../shared/step-kind.ts'

type Transpose = { readonly names?: string | undefined }

const restOf = ({ names }: Transpose, schema: Schema): Schema => schema.filter((field) => field.name !== names)
const typeOf = (params: Transpose, schema: Schema): ColumnType =>
  typeTogether(restOf(params, schema).map(({ type }) => type))

/** Names of the new columns: from a column of text, else Column 1, Column 2 … */
const newNames = (table: Table, { names }: Transpose): string[] => {
  const at = names === undefined ? -1 : table.positionOf(names)
  const type = table.schema[at]?.type ?? 'text'
  const taken = ['Name']
  for (let row = 0; row < table.rowCount; row++) {
    const cell = at < 0 ? null : table.cell(at, row)
    taken.push(freeName(cell === null ? `Column ${row + 1}` : textOfCell(type, cell), taken))
  }
  return taken.slice(1)
}

/** Swaps rows and columns. */
export const transpose = defineStep<Transpose>({
  reshapes: true,
  shownAfter: true,
  figures: ({ notes }) => [
    plainFigure(`${counted(notes.columnsBecameRows ?? 0, 'column')} became rows`),
    plainFigure(`${counted(notes.rowsBecameColumns ?? 0, 'row')} became columns`),
  ],
  kind: 'transpose',
  verb: 'Swap rows and columns',
  words: ['transpose', 'swap', 'flip', 'rotate', 'turn round', 'rows and columns'],
  params: z.strictObject({ names: name.optional() }),
  drafts: {
    table: ({ schema }) => {
      const key = schema.find(({ type }) => type !== 'integer' && type !== 'decimal')
      return [{ rank: 120, params: key ? { names: key.name } : {} }]
    },
  },
  sentence: ({ names }) => [
    'Swap rows and columns',
    ...(names === undefined
      ? [', naming the new columns by their number.']
      : [', naming the new columns after ', slot(names, 'oneColumn', ['names']), '.']),
  ],
  output: ({ names }, input, context) => {
    if (names !== undefined) checkColumn(names, input, context, 'names')
    return [{ name: 'Name', type: 'text' }]
  },
  dynamicColumns: (params, input) => () => [typeOf(params, input)],
  run: (params, table) => {
    if (table.rowCount > maxColumns)
      throw new DataRefused(
        `${figure(table.rowCount)} rows would become as many columns; ${figure(maxColumns)} is the most. Keep fewer rows first.`,
      )
    const type = typeOf(params, table.schema)
    const rest = restOf(params, table.schema)
    const columns = rest.map((field) => convert(table.named(field.name), { type }).column)
    const made = Array.from({ length: table.rowCount }, (_, row) => {
      const writer = columnWriter(type, rest.length)
      columns.forEach((column, i) => writer.set(i, cellAt(column, row)))
      return writer.done()
    })
    return {
      table: Table.of(
        ['Name', ...newNames(table, params)],
        [
          columnOf(
            'text',
            rest.map((field) => field.name),
          ),
          ...made,
        ],
        rest.length,
      ),
      lineage: { kind: 'source' },
      notes: { columnsBecameRows: rest.length, rowsBecameColumns: table.rowCount },
    }
  },
  columnLineage: () => ({}),
  trace: {
    rows: (_params, { before }, rows) => (rows.rows.length > 0 ? [{ rows: allRows(before.rowCount) }] : []),
    // the names of columns come from no row; a cell is the one that stood on the other side of the diagonal
    cells: (params, { before, after }, column, { rows }) => {
      const at = after.positionOf(column) - 1
      const rest = restOf(params, before.schema)
      if (at < 0) return []
      return [...rows].flatMap((row) => {
        const name = rest[row]?.name
        return name === undefined ? [] : [{ column: name, rows: oneRow(at) }]
      })
    },
  },
  scripts: {
    sql: (params, { from, input, output, column }) => {
      const type = typeOf(params, input)
      const rows = restOf(params, input).map((field, i) => {
        const part = column(field.name)
        const chooseCell = () => {
          if (field.type === type) return part
          if (type === 'text') return sql`${sqlHelper('shown')}(${part})`
          return sql`${part}::${code(type === 'decimal' ? 'float8' : 'timestamp')}`
        }
        const cell = chooseCell()
        return sql`select ${i + 1} as "¶", ${field.name}::text as ${column('Name')}${joined(
          output.slice(1).map((made, n) => sql`, a[${n + 1}] as ${column(made.name)}`),
          '',
        )} from (select array_agg(${cell} order by "¶") a from ${from}) s`
      })
      if (rows.length === 0)
        return sql`select 0 as "¶", ${joined(
          output.map((made, i) => sql`null::${i === 0 ? code('text') : sqlTypeName(type)} as ${column(made.name)}`),
          ', ',
        )} where false`
      return joined(rows, '\nunion all\n')
    },
    sqlRows: (params, { from, input }) => [
      { rows: sql`select n as "¶", "¶" as was from ${from}, generate_series(1, ${restOf(params, input).length}) n` },
    ],
    spark: 'table',
    python: ({ names }, { frame }) =>
      py`${frame} = ${pyHelper('transpose')}(${frame}${names === undefined ? code('') : py`, ${names}`})`,
  },
  absorbs: () => true,
})
