import { z } from 'zod'
import { patternProblem } from '../../codegen/regex/engine.ts'
import { patternPython, piecesSql as piecesByPattern } from '../../codegen/regex/scripts.ts'
import { code, joined, py, pyHelper, sql, sqlHelper, type Code, sparkHelper } from '../../codegen/tag.ts'
import { listed, quoted } from '../../messages/words.ts'
import { name } from '../../reading/name-schema.ts'
import { asDictionary, columnWriter, lengthOf, textAt, type TextColumn } from '../../table/column.ts'
import { gather } from '../../table/gather.ts'
import { checkSize } from '../../table/limits.ts'
import { IntList } from '../../kernels/memory.ts'
import { Table, type Field, type Schema } from '../../table/table.ts'
import { typeIn, checkColumn, freeName } from '../shared/columns.ts'
import { cutsAtPattern, cutsAtText, cutsAtWidths, piecesOf, type Splitter } from '../shared/pieces.ts'
import { defineStep, slot, type StepResult } from '../shared/step-kind.ts'
import { shortened } from '../shared/draft-values.ts'

/** Where a text is split. */
export type SplitBy =
  { readonly delimiter: string } | { readonly pattern: string } | { readonly widths: readonly number[] }
type SplitAt = 'every' | 'first' | 'last'
type Split = {
  readonly column: string
  readonly by: SplitBy
  readonly at?: SplitAt | undefined
  readonly into: 'rows' | { readonly columns: readonly string[] | 'found' }
  readonly keep?: boolean | undefined
}

const cutsOf = (by: SplitBy): Splitter => {
  if ('delimiter' in by) return cutsAtText(by.delimiter)
  if ('pattern' in by) return cutsAtPattern(by.pattern)
  return cutsAtWidths(by.widths)
}

/** Names that are given, or so many after the column: Tags 1, Tags 2. */
const wantedNames = ({ column, into }: Split, found: number): readonly string[] => {
  if (into === 'rows') return [column]
  if (into.columns === 'found') return Array.from({ length: Math.max(1, found) }, (_, i) => `${column} ${i + 1}`)
  return into.columns
}

/** The pieces take the place of the column, or stand right after it. */
const layout = (
  params: Split,
  input: Schema,
  found: number,
): { schema: Schema; made: readonly string[]; at: number } => {
  const at = input.findIndex((field) => field.name === params.column)
  const rest = params.keep ? input : input.filter((_, i) => i !== at)
  const taken = rest.map((field) => field.name)
  const made = wantedNames(params, found).map((wanted) => {
    const free = freeName(wanted, taken)
    taken.push(free)
    return free
  })
  const place = params.keep ? at + 1 : at
  const fields = made.map((one): Field => ({ name: one, type: 'text' }))
  return { schema: [...rest.slice(0, place), ...fields, ...rest.slice(place)], made, at: place }
}

const withColumns = (table: Table, params: Split, made: readonly TextColumn[]): Table => {
  const { schema, at } = layout(params, table.schema, made.length)
  const rest = params.keep ? table : table.select(table.names.flatMap((one, i) => (one === params.column ? [] : [i])))
  return Table.of(
    schema.map((field) => field.name),
    schema.map((_, i) =>
      i >= at && i < at + made.length ? (made[i - at] as TextColumn) : rest.column(i < at ? i : i - made.length),
    ),
    table.rowCount,
  )
}

/** Pieces are cut once per distinct text. */
const intoColumns = (
  params: Split & { readonly into: { readonly columns: readonly string[] | 'found' } },
  table: Table,
): StepResult => {
  const { indices, dictionary } = asDictionary(table.named(params.column) as TextColumn)
  const cuts = cutsOf(params.by)
  const named = params.into.columns === 'found' ? undefined : params.into.columns.length
  const at = params.at ?? 'every'
  const all = dictionary.map((word) => (word === '' ? [] : piecesOf(word, cuts, at)))
  const pieces =
    named === undefined
      ? all
      : dictionary.map((word, i) => ((all[i]?.length ?? 0) <= named ? (all[i] ?? []) : piecesOf(word, cuts, at, named)))
  let most = 0
  let beyond = 0
  for (const word of indices) {
    const count = all[word]?.length ?? 0
    if (count > most) most = count
    if (named !== undefined && count > named) beyond++
  }
  const index = Int32Array.from(indices)
  const columns = Array.from({ length: named ?? Math.max(1, most) }, (_, n) => {
    const writer = columnWriter('text', dictionary.length)
    pieces.forEach((list, i) => writer.set(i, list[n] || null))
    return gather(writer.done(), index) as TextColumn
  })
  return {
    table: withColumns(table, params, columns),
    lineage: { kind: 'same' },
    notes: { pieces: most, ...(beyond > 0 ? { rowsWithMorePieces: beyond } : {}) },
  }
}

const intoRows = (params: Split, table: Table): StepResult => {
  const column = table.named(params.column) as TextColumn
  const cuts = cutsOf(params.by)
  const index = new IntList()
  const cells: string[] = []
  let most = 0
  for (let row = 0, n = lengthOf(column); row < n; row++) {
    const pieces = piecesOf(textAt(column, row), cuts, params.at ?? 'every')
    if (pieces.length > most) most = pieces.length
    checkSize('A row for each piece', index.length + pieces.length)
    for (const piece of pieces) {
      index.push(row)
      cells.push(piece)
    }
  }
  const rows = index.done()
  const writer = columnWriter('text', cells.length)
  cells.forEach((piece, i) => writer.set(i, piece || null))
  return {
    table: withColumns(table.rows(rows), params, [writer.done() as TextColumn]),
    lineage: { kind: 'index', index: rows },
    notes: { pieces: most },
  }
}

const separatorNames = new Map([
  [' ', 'blank'],
  ['\n', 'line break'],
  ['\t', 'tab'],
])
const byWords = (by: SplitBy, at: SplitAt): string => {
  const each = at === 'every' ? 'every' : `the ${at}`
  if ('widths' in by) return `after ${listed(by.widths.map(String))} characters`
  if ('pattern' in by) return `at ${each} match of ${by.pattern}`
  return `at ${each} ${separatorNames.get(by.delimiter) ?? quoted(by.delimiter)}`
}
const intoWords = (into: Split['into']): string => {
  if (into === 'rows') return 'a row for each piece'
  if (into.columns === 'found') return 'as many columns as there are pieces'
  return listed(into.columns)
}

/** The pieces of a cell as an array of text. */
const piecesSql = (cell: Code, { by, at = 'every' }: Split, most: number): Code => {
  if ('widths' in by)
    return sql`${sqlHelper('pieces_by_widths')}(${cell}, array[${code(by.widths.join(', '))}], ${most})`
  if ('pattern' in by) return piecesByPattern(cell, by.pattern, at, most)
  return sql`${sqlHelper('pieces_by_text')}(${cell}, ${by.delimiter}, ${at}, ${most})`
}
const cutterPython = ({ by, at = 'every' }: Split): Code => {
  if ('widths' in by) return py`${pyHelper('cuts_by_widths')}([${code(by.widths.join(', '))}]), ${'every'}`
  if ('pattern' in by) return py`${pyHelper('cuts_by_pattern')}(${patternPython(by.pattern)}), ${at}`
  return py`${pyHelper('cuts_by_text')}(${by.delimiter}), ${at}`
}

/** More pieces than any text has. */
const unlimited = 2_000_000_000

/** The sign that parts a text, the likeliest first; undefined where it holds none. */
const signIn = (text: string): string | undefined =>
  ['; ', ';', ' | ', '|', ', ', ',', '\t', '\n', ' / ', '/', ' - '].find((sign) => text.includes(sign))

/** The sign that parts most of the texts; a semicolon where none does. */
const signOfMost = (texts: readonly string[]): string => {
  const signs = texts.flatMap((text) => signIn(text) ?? [])
  const count = (sign: string): number => signs.filter((one) => one === sign).length
  return signs.reduce((best, sign) => (count(sign) > count(best) ? sign : best), signs[0] ?? ';')
}

/** The rows before the step, one for each of their pieces. */
const piecesInRows = (params: Split, from: Code, column: (name: string) => Code): Code =>
  sql`${from} t cross join lateral unnest(coalesce(${piecesSql(sql`t.${column(params.column)}`, params, unlimited)}, array[null]::text[])) with ordinality as u(piece, n)`

/** Splits texts into columns or rows. */
export const split = defineStep<Split>({
  reshapes: true,
  kind: 'split',
  verb: 'Split the text…',
  words: [
    'split',
    'separate',
    'delimiter',
    'text to columns',
    'parse',
    'divide',
    'list in a cell',
    'explode',
    'pieces',
    'fixed width',
  ],
  params: z.strictObject({
    column: name,
    by: z.union([
      z.strictObject({ delimiter: z.string().min(1) }),
      z.strictObject({ pattern: z.string().min(1) }),
      z.strictObject({ widths: z.array(z.number().int().min(1)).min(1) }),
    ]),
    at: z.enum(['every', 'first', 'last']).optional(),
    into: z.union([
      z.literal('rows'),
      z.strictObject({ columns: z.union([z.array(name).min(1), z.literal('found')]) }),
    ]),
    keep: z.boolean().optional(),
  }),
  drafts: {
    columns: ({ columns: [column = '', ...more], schema, sample }) =>
      more.length === 0 && typeIn(schema, column) === 'text'
        ? [
            {
              rank: 130,
              params: {
                column,
                by: { delimiter: signOfMost(sample?.(column)?.texts ?? []) },
                into: { columns: 'found' },
              },
            },
          ]
        : [],
    cell: ({ column, value, schema }) => {
      const sign = value === null || typeIn(schema, column) !== 'text' ? undefined : signIn(value)
      return sign === undefined
        ? []
        : [
            {
              rank: 8,
              verb: `Split at every “${sign}”`,
              params: { column, by: { delimiter: sign }, into: { columns: 'found' } },
            },
          ]
    },
    part: ({ column, value, from, to }) => {
      const by = { delimiter: value.slice(from, to) }
      const part = shortened(by.delimiter)
      return [
        { rank: 20, verb: `Split at every “${part}”`, params: { column, by, into: { columns: 'found' } } },
        { rank: 20, verb: `Split at “${part}” into rows`, params: { column, by, into: 'rows' } },
        {
          rank: 20,
          verb: 'Split here, once',
          params: { column, by, at: 'first', into: { columns: [`${column} 1`, `${column} 2`] } },
        },
      ]
    },
  },
  sentence: ({ column, by, at = 'every', into, keep }) => [
    'Split ',
    slot(column, 'oneColumn', ['column']),
    ' ',
    slot(byWords(by, at), 'separator', []),
    ' into ',
    slot(intoWords(into), 'pieces', ['into']),
    ', and ',
    slot(
      keep ? 'keep it' : 'drop it',
      'choice',
      ['keep'],
      [
        ['true', 'keep it'],
        ['false', 'drop it'],
      ],
    ),
    '.',
  ],
  output: (params, input, context) => {
    const field = checkColumn(params.column, input, context, 'column')
    if (field && field.type !== 'text')
      context.report({ code: 'wrong-type', column: field.name, type: field.type, needs: 'text' }, 'column')
    if ('widths' in params.by && params.at !== undefined) context.report({ code: 'widths-with-at' }, 'at')
    const why = 'pattern' in params.by ? patternProblem(params.by.pattern) : undefined
    if (why && 'pattern' in params.by)
      context.report({ code: 'bad-pattern', pattern: params.by.pattern, why }, 'by', 'pattern')
    return field ? layout(params, input, 1).schema : input
  },
  dynamicColumns: ({ into }) => (into !== 'rows' && into.columns === 'found' ? () => ['text'] : undefined),
  run: (params, table) =>
    params.into === 'rows' ? intoRows(params, table) : intoColumns({ ...params, into: params.into }, table),
  trace: {
    cells: (params, { before, back }, column, rows) => {
      const isPiece = column === params.column ? !params.keep : before.positionOf(column) < 0
      return isPiece ? [{ column: params.column, rows: back(rows) }] : undefined
    },
  },
  columnLineage: (params, input, output) =>
    Object.fromEntries(
      input.flatMap((field) =>
        (params.keep || params.into === 'rows' || field.name !== params.column) &&
        output.some((one) => one.name === field.name)
          ? [[field.name, field.name]]
          : [],
      ),
    ),
  scripts: {
    sql: (params, { from, input, output, column }) => {
      const made = output
        .filter((field) => !input.some((one) => one.name === field.name && (params.keep || one.name !== params.column)))
        .map((field) => field.name)
      const cell = sql`t.${column(params.column)}`
      const names = output.map((field) =>
        made.includes(field.name)
          ? sql`nullif(${params.into === 'rows' ? code('u.piece') : sql`p.pieces[${made.indexOf(field.name) + 1}]`}, '') as ${column(field.name)}`
          : sql`t.${column(field.name)}`,
      )
      if (params.into === 'rows')
        return sql`select row_number() over (order by t."¶", u.n) as "¶", ${names}\nfrom ${piecesInRows(params, from, column)}`
      return sql`select t."¶", ${names}\nfrom ${from} t cross join lateral (select ${piecesSql(cell, params, params.into.columns === 'found' ? unlimited : made.length)}) as p(pieces)`
    },
    sqlRows: (params, { from, column }) =>
      params.into === 'rows'
        ? [
            {
              rows: sql`select row_number() over (order by t."¶", u.n) as "¶", t."¶" as was from ${piecesInRows(params, from, column)}`,
            },
          ]
        : undefined,
    spark: (params, context) => {
      if (params.into === 'rows') return 'repeats'
      if (params.into.columns !== 'found') return 'rows'
      const rest = joined([cutterPython(params), ...(params.keep ? [code('keep=True')] : [])], ', ')
      return py`${context.frame} = ${sparkHelper('split_found')}(${context.frame}, ${params.column}, ${rest})`
    },
    python: (params, { frame }) => {
      const rest = joined([cutterPython(params), ...(params.keep ? [code('keep=True')] : [])], ', ')
      return params.into === 'rows'
        ? py`${frame} = ${pyHelper('split_to_rows')}(${frame}, ${params.column}, ${rest})`
        : py`${frame} = ${pyHelper('split_to_columns')}(${frame}, ${params.column}, ${params.into.columns === 'found' ? null : params.into.columns}, ${rest})`
    },
  },
})
