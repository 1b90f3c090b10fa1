import { z } from 'zod'
import { code, joined, py, sql, sqlHelper, pyHelper } from '../../codegen/tag.ts'
import { columnOf, type Cell } from '../../table/column.ts'
import { concat, sliceRows } from '../../table/gather.ts'
import { int32s } from '../../kernels/memory.ts'
import { convert } from '../../reading/convert.ts'
import { textOfCell } from '../../table/cell-text.ts'
import { Table, type Schema } from '../../table/table.ts'
import { freeName } from '../shared/columns.ts'
import { defineStep, slot } from '../shared/step-kind.ts'

type HeaderParams = { readonly row: number | 'none' }

/** Names from cells: a missing one says its position, one that clashes gets a number. */
const namesFrom = (cells: readonly (string | null)[]): string[] => {
  const taken: string[] = []
  for (const [i, cell] of cells.entries()) taken.push(freeName(cell ?? `Column ${i + 1}`, taken))
  return taken
}
const plainNames = (schema: Schema): string[] => schema.map((_, i) => `Column ${i + 1}`)

/** The names become the first row, and every column text. */
const namesToRow = (table: Table): Table =>
  Table.of(
    plainNames(table.schema),
    table.names.map((name, i) =>
      concat('text', [columnOf('text', [name]), convert(table.column(i), { type: 'text' }).column]),
    ),
    table.rowCount + 1,
  )

const nameRow = (table: Table, row: number): (string | null)[] =>
  table.schema.map(({ type }, c) => {
    const cell: Cell = row < table.rowCount ? table.cell(c, row) : null
    return cell === null ? null : textOfCell(type, cell)
  })

/** Takes names from a row, or puts them into one. */
export const header = defineStep<HeaderParams>({
  reshapes: true,
  kind: 'header',
  verb: 'Take the names from a row',
  words: ['header', 'promote', 'names', 'first row', 'titles', 'demote', 'row as header', 'headings'],
  params: z.strictObject({ row: z.union([z.number().int().min(1), z.literal('none')]) }),
  drafts: {
    table: () => [
      { rank: 90, params: { row: 1 } },
      { rank: 90, verb: 'Put the names into the first row', params: { row: 'none' } },
    ],
  },
  sentence: ({ row }) =>
    row === 'none'
      ? [
          slot(
            'Put the names of the columns into the first row',
            'choice',
            ['row'],
            [
              ['none', 'Put the names of the columns into the first row'],
              ['1', 'Take the first row for the names of the columns'],
            ],
          ),
          '.',
        ]
      : ['Take row ', slot(String(row), 'number', ['row']), ' for the names of the columns.'],
  output: ({ row }, input) => (row === 'none' ? plainNames(input).map((name) => ({ name, type: 'text' })) : []),
  dynamicColumns: ({ row }, input) => {
    if (row === 'none') return undefined
    const types = [...new Set(input.map(({ type }) => type))]
    return () =>
      types.includes('text')
        ? ['text', ...types.filter((type) => type !== 'text')]
        : [types[0] ?? 'text', ...types.slice(1)]
  },
  run: ({ row }, table) => {
    if (row === 'none') {
      const index = int32s(table.rowCount + 1)
      for (let i = 0; i < index.length; i++) index[i] = i - 1
      return { table: namesToRow(table), lineage: { kind: 'index', index } }
    }
    const index = sliceRows(Math.max(0, table.rowCount - row), row)
    return { table: table.rows(index).renamed(namesFrom(nameRow(table, row - 1))), lineage: { kind: 'index', index } }
  },
  trace: {
    left: ({ row }, _step, at) =>
      row !== 'none' && at === row - 1
        ? 'it gave the names of the columns'
        : 'it stands above the names of the columns',
  },
  columnLineage: (_params, input, output) =>
    Object.fromEntries(output.map(({ name }, i) => [name, input[i]?.name ?? name])),
  scripts: {
    sql: ({ row }, { from, input, output, column }) => {
      const pairs = output.map((field, i) => sql`${column(input[i]?.name ?? '')} as ${column(field.name)}`)
      if (row !== 'none')
        return sql`select "¶", ${pairs}\nfrom (select *, row_number() over (order by "¶") as "¶n" from ${from}) rows\nwhere "¶n" > ${row}`
      const first = input.map((field, i) => sql`${field.name}::text as ${column(output[i]?.name ?? '')}`)
      return sql`select coalesce((select min("¶") from ${from}), 1) - 1 as "¶", ${joined(first, ', ')}\nunion all\nselect "¶", ${joined(
        input.map((field) => sql`${sqlHelper('shown')}(${column(field.name)})`),
        ', ',
      )} from ${from}`
    },
    // the row made of the names has a number that a row may have had that left before
    sqlRows: ({ row }, { from }) => (row === 'none' ? [{ rows: sql`select "¶", "¶" as was from ${from}` }] : undefined),
    spark: 'table',
    python: ({ row }, { frame }) =>
      row === 'none'
        ? py`${frame} = ${pyHelper('names_to_row')}(${frame})`
        : py`${frame} = ${pyHelper('names_from_row')}(${frame}, ${code(String(row))})`,
  },
  absorbs: () => true,
})
