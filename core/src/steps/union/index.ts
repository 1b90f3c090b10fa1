import { z } from 'zod'
import { checkSize } from '../../table/limits.ts'
import { sqlTypeName } from '../../formula/to-code.ts'
import { code, joined, py, sql, type Code, sqlHelper, pyHelper } from '../../codegen/tag.ts'
import type { ColumnType } from '../../table/column.ts'
import { rowsAndOthers } from '../../table/rows-in-order.ts'
import { Table, type Schema } from '../../table/table.ts'
import { counted } from '../../messages/words.ts'
import { checkColumn, inTable, kindsPython, untoldFields } from '../shared/columns.ts'
import { name } from '../../reading/name-schema.ts'
import { defineStep, slot, tableSlot, type TableNames } from '../shared/step-kind.ts'
import { alignUnion, type UnionLayout, type UnionParams } from './align.ts'
import { plainUnion } from './plain-python.ts'
import { labelsOfParts, stacked, type Part } from './stacked.ts'
import { unionTrace } from './trace.ts'

const notesOf = (
  { parts, fields }: UnionLayout,
  names: TableNames,
  rows: readonly number[],
): Record<string, number> => {
  const notes: Record<string, number> = { tables: parts.length }
  parts.forEach((part, i) => {
    for (const field of fields)
      if (!part.names.includes(field.name))
        notes[`lacks ${names(i === 0 ? '' : part.table)}: ${field.name}`] = rows[i] ?? 0
  })
  const widened = fields.filter((field) =>
    parts.some((part) => part.schema.some((one, i) => part.names[i] === field.name && one.type !== field.type)),
  )
  return widened.length > 0 ? { ...notes, columnsOfSeveralTypes: widened.length } : notes
}

const widenSql = (part: Code, from: ColumnType, to: ColumnType): Code => {
  if (from === to) return part
  if (to === 'text') return sql`${sqlHelper('shown')}(${part})`
  return sql`${part}::${sqlTypeName(to)}`
}

const partOf = (table: Table, at: number): Part => ({
  rowCount: table.rowCount,
  table: at < 0 ? undefined : table.select([at]),
})

/** Stacks tables by column name. */
export const union = defineStep<UnionParams>({
  workbench: 'tables',
  kind: 'union',
  verb: 'Lay other tables underneath…',
  words: ['union', 'append', 'stack', 'concatenate', 'add rows', 'combine tables', 'under one another', 'merge files'],
  params: z.strictObject({
    with: z.array(z.string().min(1)).min(1),
    columns: z.enum(['all', 'shared']).optional(),
    pairs: z
      .array(
        z.strictObject({
          into: name,
          from: z.array(z.strictObject({ table: z.string().min(1), column: name })).min(1),
        }),
      )
      .optional(),
    apart: z.array(z.strictObject({ column: name, table: z.string().min(1), as: name })).optional(),
    origin: name.optional(),
  }),
  drafts: {
    table: ({ tables: [other] }) => [
      { rank: 155, ...(other ? {} : { needs: 'files' }), params: { with: [other?.id ?? ''], origin: 'Table' } },
    ],
  },
  sentence: ({ with: tables, columns = 'all', pairs = [], apart = [], origin }, names) => [
    'Lay ',
    ...tables.flatMap((table, i) => [
      ...(i === 0 ? [] : [i === tables.length - 1 ? ' and ' : ', ']),
      tableSlot(table, 'union', ['with', i], names),
    ]),
    ' underneath, by name, with ',
    slot(
      columns === 'all' ? 'all columns' : 'only the columns that all have',
      'choice',
      ['columns'],
      [
        ['all', 'all columns'],
        ['shared', 'only the columns that all have'],
      ],
    ),
    ...(pairs.length > 0 ? ['; ', slot(`${counted(pairs.length, 'column')} laid together`, 'union', ['pairs'])] : []),
    ...(apart.length > 0 ? ['; ', slot(`${counted(apart.length, 'column')} kept apart`, 'union', ['apart'])] : []),
    ...(origin === undefined ? ['.'] : [', and the table’s name as ', slot(origin, 'name', ['origin']), '.']),
  ],
  uses: ({ with: tables }) => [...new Set(tables)],
  output: (params, input, context) => {
    const { own } = context
    const columnsOf = (table: string): Schema => (table === own ? input : context.tableColumns(table))
    const check = (table: string, column: string, ...path: (string | number)[]): void => {
      if (table !== own && !params.with.includes(table))
        context.report({ code: 'not-in-union', table: context.names(table) }, ...path, 'table')
      else checkColumn(column, columnsOf(table), table === own ? context : inTable(context, table), ...path, 'column')
    }
    params.pairs?.forEach(({ from }, i) =>
      from.forEach((one, k) => check(one.table, one.column, 'pairs', i, 'from', k)),
    )
    params.apart?.forEach((one, i) => check(one.table, one.column, 'apart', i))
    const { fields, origin } = alignUnion(params, own, input, context.tableColumns)
    if (fields.length === 0) context.report({ code: 'no-columns-left' }, 'columns')
    return origin === undefined ? fields : [...fields, { name: origin, type: 'text' }]
  },
  run: (params, table, context) => {
    const aligned = alignUnion(params, context.own, table.schema, (id) => context.table(id).schema)
    const tables = [table, ...params.with.map((id) => context.table(id))]
    const total = tables.reduce((sum, one) => sum + one.rowCount, 0)
    checkSize('Laying these tables under one another', total, aligned.fields.length)
    const columns = aligned.fields.map(({ name: one, type }) =>
      stacked(
        type,
        aligned.parts.map((part, i) => partOf(tables[i] as Table, part.names.indexOf(one))),
      ),
    )
    const index = rowsAndOthers(table.rowCount, total - table.rowCount)
    const labels = aligned.parts.map((part, i) => context.names(i === 0 ? '' : part.table))
    const lengths = tables.map(({ rowCount }) => rowCount)
    const origin = aligned.origin === undefined ? [] : [labelsOfParts(labels, lengths)]
    return {
      table: Table.of(
        [...aligned.fields.map((field) => field.name), ...(aligned.origin === undefined ? [] : [aligned.origin])],
        [...columns, ...origin],
        total,
      ),
      lineage: { kind: 'index', index },
      notes: notesOf(aligned, context.names, lengths),
    }
  },
  trace: unionTrace,
  columnLineage: (params, input, output) =>
    Object.fromEntries(
      input.flatMap((field) => {
        const into =
          params.pairs?.find(({ from }) =>
            from.some((one) => one.column === field.name && !params.with.includes(one.table)),
          )?.into ?? field.name
        return output.some((one) => one.name === into) ? [[into, field.name]] : []
      }),
    ),
  scripts: {
    sql: (params, { from, input, column, table, names, own }) => {
      const { parts, fields, origin } = alignUnion(params, own, input, (id) => table(id).columns)
      const rows = parts.map((part, i) => {
        const cells = fields.map((field) => {
          const at = part.names.indexOf(field.name)
          const own = part.schema[at]
          return sql`${own ? widenSql(column(own.name), own.type, field.type) : sql`null::${sqlTypeName(field.type)}`} as ${column(field.name)}`
        })
        return sql`select ${i} as "¶p", "¶" as "¶r", ${[...cells, ...(origin === undefined ? [] : [sql`${names(i === 0 ? '' : part.table)}::text as ${column(origin)}`])]} from ${i === 0 ? from : table(part.table).rows}`
      })
      const all = [...fields.map((field) => column(field.name)), ...(origin === undefined ? [] : [column(origin)])]
      return sql`select row_number() over (order by "¶p", "¶r") as "¶", ${all}\nfrom (${joined(rows, '\nunion all\n')}) parts`
    },
    sqlRows: (params, { from, input, table, own }) => {
      const { parts } = alignUnion(params, own, input, (id) => table(id).columns)
      const all = joined(
        parts.map((part, i) => sql`select ${i} as "¶p", "¶" as "¶r" from ${i === 0 ? from : table(part.table).rows}`),
        ' union all ',
      )
      const numbered = sql`select row_number() over (order by "¶p", "¶r") as "¶", * from (${all}) parts`
      return parts.map((part, i) => ({
        ...(i === 0 ? {} : { table: part.table }),
        rows: sql`select "¶", "¶r" as was from (${numbered}) numbered where "¶p" = ${i}`,
      }))
    },
    spark: 'table',
    python: (params, context) => {
      const plain = plainUnion(params, context)
      if (plain) return plain
      const { frame, table, names, own, input } = context
      const part = (id: string, rows: Code, columns: Schema): Code => {
        const renames = new Map([
          ...(params.pairs ?? []).flatMap(({ into, from }) =>
            from.filter((one) => one.table === id).map((one) => [one.column, into] as const),
          ),
          ...(params.apart ?? []).filter((one) => one.table === id).map((one) => [one.column, one.as] as const),
        ])
        const pairs = [...renames].map(([column, into]) => py`${column}: ${into}`)
        const told = untoldFields(columns).map(({ name, type }) => ({ name: renames.get(name) ?? name, type }))
        return py`(${rows}, ${names(id === own ? '' : id)}, {${joined(pairs, ', ')}}${told.length > 0 ? py`, ${kindsPython(told)}` : code('')})`
      }
      const parts = [part(own, frame, input), ...params.with.map((id) => part(id, table(id).frame, table(id).columns))]
      return py`${frame} = ${pyHelper('union_tables')}([${joined(parts, ', ')}]${params.columns === 'shared' ? code(', shared=True') : code('')}${params.origin === undefined ? code('') : py`, origin=${params.origin}`})`
    },
  },
  absorbs: () => true,
})
