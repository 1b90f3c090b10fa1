import { plainFigure, figureIf } from '../shared/statistics.ts'
import { z } from 'zod'
import { pivotTrace } from './trace.ts'
import { maxColumns } from '../../table/limits.ts'
import { code, joined, psql, py, sql, type Code, sqlHelper, pyHelper } from '../../codegen/tag.ts'
import { aggregates, type AggregateResult, type Aggregate } from '../../table/aggregate.ts'
import { cellAt, columnWriter, isTextColumn, type Column } from '../../table/column.ts'
import { groupRows } from '../../table/group.ts'
import type { Groups } from '../../kernels/table-kernels.ts'
import { IntList, int32s, uint32s } from '../../kernels/memory.ts'
import { LazyColumn } from '../../table/lazy-column.ts'
import { Table, type Field, type Schema } from '../../table/table.ts'
import { figure, listed, quoted, counted } from '../../messages/words.ts'
import {
  cellWords,
  typeIn,
  bySchema,
  checkBy,
  checkColumn,
  checkPlace,
  placePython,
  placeSchema,
  selectedNames,
  selectorWords,
} from '../shared/columns.ts'
import { checkMeasure, howWords, measurePython, groupRowsSql, measureSql, runMeasure } from '../shared/measures.ts'
import { name } from '../../reading/name-schema.ts'
import { DataRefused, defineStep, slot, type CheckContext } from '../shared/step-kind.ts'
import { cellFor, literalPython, literalSql } from '../shared/value.ts'
import {
  type PivotValue,
  type Pivot,
  valueName,
  valueType,
  dynamicTypesOf,
  keysFor,
  labelText,
  type PivotColumn,
  layout,
  labelsOf,
} from './layout.ts'
import { areInPlace, cellIds, cellIdsOf, hasRows, placeAll, placeFilled } from './cells.ts'
import { pivotDrafts, waysToOneValue } from './drafts.ts'
import { keysPython, plainPivot } from './plain-python.ts'

/** Rows whose label makes a column. */
const takenRows = (ofRow: Int32Array): Int32Array => {
  const rows = new IntList()
  for (let i = 0; i < ofRow.length; i++) if (ofRow[i] !== -1) rows.push(i)
  return rows.done()
}

const mostCells = 60_000_000

/** The row of the one filled value of each cell; a second is refused. */
const onlyRows = (column: Column, cells: Groups, refuse: (row: number, first: number) => never): Int32Array => {
  const rows = int32s(cells.count).fill(-1)
  const { ids } = cells
  const mayBeEmpty = isTextColumn(column) || column.nulls !== undefined
  const twice = mayBeEmpty ? placeFilled(rows, ids, column) : placeAll(rows, ids)
  if (twice >= 0) refuse(twice, rows[ids[twice]!]!)
  return rows
}

/** The sum of each cell over that of the whole table, labels that are left out included. */
const shareOf = (table: Table, seen: Table, column: string, cells: Groups): AggregateResult => {
  const totals = runMeasure({ how: 'sum', column }, seen, cells, 'decimal').column
  const grand = Number(
    cellAt(
      runMeasure({ how: 'sum', column }, table, { ids: uint32s(table.rowCount), count: 1, first: int32s(0) }, 'decimal')
        .column,
      0,
    ) ?? 0,
  )
  const writer = columnWriter('decimal', cells.count)
  const failures = new IntList()
  for (let i = 0; i < cells.count; i++) {
    const total = cellAt(totals, i)
    if (total === null) continue
    if (grand === 0) failures.push(i)
    else writer.set(i, Number(total) / grand)
  }
  return { column: writer.done(), failures: failures.done() }
}

/** A cell without rows is empty, or what fills gaps. */
const withGaps = (column: Column, held: Uint8Array, gap: ReturnType<typeof cellFor>): Column => {
  if (!held.includes(0)) return column
  const writer = columnWriter(column.type, held.length)
  for (let i = 0; i < held.length; i++) writer.set(i, held[i] ? cellAt(column, i) : (gap ?? null))
  return writer.done()
}

/** The cells of a column in these rows, which may be its own. */
const rowsAt = (table: Table, name: string, rows: Int32Array): Column =>
  table
    .select([table.positionOf(name)])
    .rows(rows)
    .column(0)

/** Of cells row by row those of one label. */
const ofLabel = (whole: Table, at: number, label: number, width: number): LazyColumn =>
  new LazyColumn({
    type: whole.schema[at]!.type,
    length: whole.rowCount / width,
    holds: () => whole.select([at]).buffers,
    cell: (row) => whole.cell(at, row * width + label),
    make: () => whole.everyOf(at, width, label),
  })

const checkValues = (params: Pivot, input: Schema, context: CheckContext): void =>
  params.values.forEach((value, i) => {
    if (value.how === 'only') checkColumn(value.column, input, context, 'values', i, 'column')
    else checkMeasure({ how: value.how, column: value.column }, input, context, 'values', i)
    const type = valueType(value, input)
    if (params.gaps !== undefined && cellFor(params.gaps, type) === undefined)
      context.report({ code: 'wrong-value', value: String(params.gaps), column: valueName(value), type }, 'gaps')
  })

const valueWords = ({ how, column, as }: PivotValue): string =>
  `${how === 'only' ? 'the value of' : howWords[how]}${how === 'count' ? '' : ` ${column}`}${as === undefined || as === column ? '' : ` as ${as}`}`
const written = z.union([z.string(), z.number(), z.boolean(), z.null()])

const groupsText = (by: Pivot['by']): string => {
  if (by === undefined) return 'combination of the other columns'
  return Array.isArray(by) && by.length === 0 ? 'table' : selectorWords(by)
}

/** Makes columns of the labels in a column. */
export const pivot = defineStep<Pivot>({
  reshapes: true,
  shownAfter: true,
  figures: ({ rowsIn, rowsOut, notes }) => [
    plainFigure(`${counted(notes.labels ?? 0, 'label')} became columns`),
    plainFigure(`${figure(rowsIn)} → ${counted(rowsOut, 'row')}`),
    ...figureIf(notes.leftOut, (n) => ({ text: `${figure(n)} left out`, tone: 'removed', only: 'all' })),
  ],
  groupsByNone: true,
  refusalFixes: ({ values }, input) =>
    waysToOneValue(typeIn(input, values.find(({ how }) => how === 'only')?.column ?? '')).map(([how, words]) => ({
      name: how,
      words,
      params: { values: values.map((value) => (value.how === 'only' ? { ...value, how } : value)) },
    })),
  kind: 'pivot',
  verb: 'Turn rows into columns…',
  words: [
    'pivot',
    'rows to columns',
    'crosstab',
    'cross table',
    'spread',
    'wider',
    'wide',
    'cast wide',
    'matrix',
    'contingency',
  ],
  params: z.strictObject({
    labels: name,
    values: z.array(z.strictObject({ column: name, how: z.enum([...aggregates, 'only']), as: name.optional() })).min(1),
    by: bySchema.optional(),
    found: z.array(written).min(1).optional(),
    gaps: written.optional(),
    ...placeSchema,
  }),
  drafts: {
    table: ({ schema }) =>
      pivotDrafts(
        schema.map(({ name }) => name),
        schema,
        110,
      ),
    columns: ({ columns, schema }) => pivotDrafts(columns, schema, 200),
  },
  decides: ({ labels, found }) =>
    found
      ? [
          {
            column: labels,
            unnamed: 'no-column',
            named: found.flatMap((label) => labelText(label) ?? []),
            naming: (more) => ({ found: [...found, ...more] }),
          },
        ]
      : [],
  sentence: ({ labels, values, by, found, gaps }) => {
    const labelsShown = () => {
      if (found) {
        if (found.length > 4)
          return `${found
            .slice(0, 3)
            .map((one) => labelText(one) ?? 'Empty')
            .join(', ')} and ${found.length - 3} more`
        return listed(found.map((one) => labelText(one) ?? 'Empty'))
      }
      return 'whatever comes'
    }
    return [
      'Make a column of each ',
      slot(labels, 'oneColumn', ['labels']),
      ' (',
      slot(labelsShown(), 'labelsFound', ['found']),
      ') with ',
      slot(listed(values.map(valueWords)), 'pivotValues', ['values']),
      ', a row for each ',
      slot(groupsText(by), 'columns', ['by']),
      ', gaps ',
      slot(gaps === undefined || gaps === null ? 'left empty' : `filled with ${String(gaps)}`, 'value', ['gaps']),
      '.',
    ]
  },
  output: (params, input, context) => {
    checkColumn(params.labels, input, context, 'labels')
    checkValues(params, input, context)
    if (params.by !== undefined) checkBy(params.by, input, context, 'by')
    const { keys, schema } = layout(params, input, params.found?.map(labelText) ?? [])
    checkPlace(params, keys, context)
    return schema
  },
  dynamicColumns: (params, input) => (params.found ? undefined : (name) => dynamicTypesOf(params, input, name)),
  run: (params, table) => {
    const { labels, ofRow, some } = labelsOf(params, table.named(params.labels))
    const { keys, made, at } = layout(params, table.schema, labels)
    const groups = groupRows(
      table,
      keys.map(({ name }) => name),
    )
    const rowCount = keys.length === 0 ? Math.max(1, groups.count) : groups.count
    if (rowCount * labels.length * params.values.length > mostCells || labels.length > maxColumns)
      throw new DataRefused(
        `${quoted(params.labels)} has ${figure(labels.length)} different values; a column of each would make ${figure(rowCount * labels.length)} cells. Choose another column, or the labels that are wanted.`,
      )
    const taken = some ? takenRows(ofRow) : undefined
    const seen = taken ? table.rows(taken) : table
    const count = rowCount * labels.length
    const asItIs =
      !some &&
      count === table.rowCount &&
      params.values.every(({ how }) => how === 'only') &&
      areInPlace(groups.ids, ofRow, labels.length)
    const keyWords = (row: number): string =>
      listed([
        ...keys.map((field) => `${field.name} ${cellWords(seen, field.name, row)}`),
        `${params.labels} ${cellWords(seen, params.labels, row)}`,
      ])
    const failures: { column: string; rows: Int32Array }[] = []
    const figures = (): Table => {
      const ids = uint32s(seen.rowCount)
      if (taken) cellIdsOf(ids, taken, groups.ids, ofRow, labels.length)
      else cellIds(ids, groups.ids, ofRow, labels.length)
      const cells: Groups = { ids, count, first: int32s(0) }
      const columns = wholeColumns(params, keyWords, seen, table, cells, hasRows(cells), failures, made, labels)
      return Table.of(params.values.map(valueName), columns, count)
    }
    const whole = asItIs ? table.select(params.values.map(({ column }) => table.positionOf(column))) : figures()
    const columns = made.map(({ label, value }) =>
      ofLabel(whole, params.values.indexOf(value), labels.indexOf(label), labels.length),
    )
    const keyTable = table.select(keys.map((field) => table.positionOf(field.name))).rows(groups.first)
    const cellsMade = Table.of(
      made.map(({ field }) => field.name),
      columns,
      rowCount,
    )
    return {
      table: keyTable.around(at, cellsMade),
      lineage: { kind: 'groups', groups },
      unreadable: failures,
      notes: { labels: labels.length, leftOut: table.rowCount - seen.rowCount },
    }
  },
  trace: pivotTrace,
  columnLineage: (params, input) => Object.fromEntries(keysFor(params, input).map((field) => [field.name, field.name])),
  scripts: {
    sql: (params, { from, input, output, column }) => {
      const keys = keysFor(params, input)
      const keyNames = new Set(keys.map((field) => field.name))
      const madeNames = output.filter((field) => !keyNames.has(field.name)).map((field) => field.name)
      const labels = params.found?.map(labelText) ?? foundLabels(params, keys, madeNames)
      const { made } = layout(params, input, labels)
      const label = sql`${sqlHelper('shown')}(${column(params.labels)})`
      const cells = made.map(({ label: one, value, field }, i) => {
        const here = one === null ? sql`${label} is null` : sql`${label} = ${one}`
        const figure_ =
          value.how === 'only'
            ? sql`${sqlHelper('only_one')}(array_agg(${column(value.column)} order by "¶") filter (where ${here} and ${column(value.column)} is not null), ${`${value.column}, ${one ?? 'Empty'}`})`
            : measureSql({ how: value.how, column: value.column }, input, column, here)
        const gap =
          params.gaps === undefined || params.gaps === null ? code('null') : literalSql(params.gaps, field.type)
        return {
          name: madeNames[i] ?? field.name,
          part: sql`case when count(*) filter (where ${here}) > 0 then ${figure_} else ${gap} end`,
        }
      })
      const parts = output.map((field) => cells.find((one) => one.name === field.name)?.part ?? column(field.name))
      const named = output.map((field, i) => sql`${parts[i] as Code} as ${column(field.name)}`)
      const groups = keys.length > 0 ? sql`\ngroup by ${keys.map((field) => column(field.name))}` : code('')
      // without keys and labels there is nothing to make a column or a row of
      const body =
        output.length === 0
          ? sql`select "¶"\nfrom ${from}\nwhere false`
          : sql`select coalesce(min("¶"), 1) as "¶", ${named}\nfrom ${from}${groups}`
      const known = joined(
        labels.map((one) => sql`${one ?? ''}`),
        ', ',
      )
      const after = sql`select ${sqlHelper('labels_known')}(${params.labels}, array[${known}]::text[], array_agg(label order by place), array_agg(held order by place)) as ignored from (select ${label} as label, count(*) as held, min("¶") as place from ${from} group by 1) t ${psql('gset')}\n`
      return { body, after }
    },
    sqlRows: (params, { from, input, column }) => [{ rows: groupRowsSql(keysFor(params, input), from, column) }],
    spark: 'table',
    python: (params, context) => {
      const plain = plainPivot(params, context)
      if (plain) return plain
      const { frame, input } = context
      const values = params.values.map((value) =>
        measurePython({ how: value.how as Aggregate, column: value.column }, valueName(value), valueType(value, input)),
      )
      const found = params.found
        ? py`[${joined(
            params.found.map((one) => py`${labelText(one)}`),
            ', ',
          )}]`
        : code('None')
      return py`${frame} = ${pyHelper('pivot')}(${frame}, ${params.labels}, [${joined(values, ', ')}], by=${keysPython(params, frame)}, found=${found}${params.gaps === undefined || params.gaps === null ? code('') : py`, gaps=${literalPython(params.gaps, valueType(params.values[0] as PivotValue, input))}`}${placePython(params)})`
    },
  },
  absorbs: (params, column, input) =>
    params.by === undefined
      ? column !== params.labels && !params.values.some((value) => value.column === column)
      : selectedNames(params.by as never, input).includes(column),
})

/** The labels behind columns that the data made, found from their names. */
const foundLabels = (params: Pivot, keys: readonly Field[], names: readonly string[]): (string | null)[] => {
  const width = params.values.length
  const suffix = width === 1 ? '' : ` ${valueName(params.values[0] as PivotValue)}`
  return names
    .filter((_, i) => i % width === 0)
    .map((one) => {
      const label = suffix !== '' && one.endsWith(suffix) ? one.slice(0, -suffix.length) : one
      // a label that is named like a key gave way to it
      const plain = /^(.*) \d+$/.exec(label)?.[1]
      if (label === 'Empty') return null
      if (plain !== undefined && keys.some((key) => key.name === plain)) return plain
      return label
    })
}

function wholeColumns(
  params: Pivot,
  keyWords: (row: number) => string,
  seen: Table,
  table: Table,
  cells: Groups,
  held: Uint8Array<ArrayBufferLike>,
  failures: { column: string; rows: Int32Array }[],
  made: PivotColumn[],
  labels: (string | null)[],
) {
  return params.values.map((value): Column => {
    const refuse = (row: number, first: number): never => {
      throw new DataRefused(
        `Two values of ${quoted(value.column)} meet in one cell, for ${keyWords(row)}: ${cellWords(seen, value.column, first)} and ${cellWords(seen, value.column, row)}. Choose a measure such as their sum, or another column that tells the rows apart.`,
      )
    }
    const type = valueType(value, table.schema)
    if (value.how === 'only')
      return withGaps(
        rowsAt(seen, value.column, onlyRows(seen.named(value.column), cells, refuse)),
        held,
        cellFor(params.gaps ?? null, type),
      )
    const { column, failures: bad } =
      value.how === 'share'
        ? shareOf(table, seen, value.column, cells)
        : runMeasure({ how: value.how, column: value.column }, seen, cells, type)
    if (bad.length > 0)
      failures.push({
        column: made.find((one) => one.value === value)?.field.name ?? '',
        rows: Int32Array.from(new Set(Array.from(bad, (cell) => Math.floor(cell / labels.length)))),
      })
    return withGaps(column, held, cellFor(params.gaps ?? null, type))
  })
}
