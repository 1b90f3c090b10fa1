import { z } from 'zod'
import { checkSize } from '../../table/limits.ts'
import { joined, py, pyHelper } from '../../codegen/tag.ts'
import { isNumber, type Column, type ColumnType } from '../../table/column.ts'
import { concat, gather } from '../../table/gather.ts'
import { int32s, uint8s } from '../../kernels/memory.ts'
import { convert } from '../../reading/convert.ts'
import { Table, type Field } from '../../table/table.ts'
import { listed, quoted } from '../../messages/words.ts'
import {
  cellWords,
  checkColumn,
  checkSelector,
  inTable,
  selected,
  selectorSchema,
  selectorWords,
} from '../shared/columns.ts'
import { bucket, keyIds } from '../shared/join-keys.ts'
import { name } from '../../reading/name-schema.ts'
import { DataRefused, defineStep, slot, tableSlot } from '../shared/step-kind.ts'
import { joinDrafts } from './drafts.ts'
import { joinFigures } from './figures.ts'
import { keepsLeft, keepsRight, layout, onOf, type Join, type KeyPair } from './layout.ts'
import { joinRowsSql, joinSql } from './join-sql.ts'
import { plainJoin } from './plain-python.ts'
import { joinTrace } from './trace.ts'
import { sidesToMatch } from './sides.ts'
import { joinHows, joinWords, matchWords } from './words.ts'

const alike = (a: ColumnType, b: ColumnType): boolean => a === b || (isNumber(a) && isNumber(b))

/** Where rows of the result come from: positions in the left and the right table, -1 where there is none. */
type RowPairs = {
  readonly left: Int32Array
  readonly right: Int32Array
  readonly notes: Readonly<Record<string, number>>
}

/** Every row with every row. */
const crossRows = (rows: number, others: number): RowPairs => {
  checkSize('Matching every row with every row', rows * others)
  const left = int32s(rows * others)
  const right = int32s(rows * others)
  for (let l = 0, at = 0; l < rows; l++)
    for (let r = 0; r < others; r++, at++) {
      left[at] = l
      right[at] = r
    }
  return { left, right, notes: { matched: others > 0 ? rows : 0, multiplied: Math.max(0, rows * (others - 1)) } }
}

// the loops stand alone and call nothing, so that the compiler of the runtime makes the most of them

/** How many rows of the right table each row of the left matches. */
const countMatches = (ids: Int32Array, starts: Int32Array): Int32Array => {
  const n = ids.length
  const counts = int32s(n)
  for (let l = 0; l < n; l++) {
    const id = ids[l]!
    if (id >= 0) counts[l] = starts[id + 1]! - starts[id]!
  }
  return counts
}
/** How many rows have a match, how many matches they have together, and the first that has several; -1 where none has. */
const sumMatches = (counts: Int32Array): { matched: number; matches: number; several: number } => {
  const n = counts.length
  let matched = 0
  let matches = 0
  let several = -1
  for (let l = 0; l < n; l++) {
    const count = counts[l]!
    if (count === 0) continue
    matched++
    matches += count
    if (count > 1 && several < 0) several = l
  }
  return { matched, matches, several }
}
/** A byte for each id that a row has. */
const metIds = (ids: Int32Array, count: number): Uint8Array => {
  const n = ids.length
  const met = uint8s(count)
  for (let l = 0; l < n; l++) if (ids[l]! >= 0) met[ids[l]!] = 1
  return met
}
/** Rows of the right table that no row of the left met. */
const unmet = (ids: Int32Array, met: Uint8Array): Int32Array => {
  const n = ids.length
  const rows = int32s(n)
  let count = 0
  for (let r = 0; r < n; r++) {
    rows[count] = r
    if (ids[r]! < 0 || met[ids[r]!] === 0) count++
  }
  return rows.slice(0, count)
}
/** Rows of the left table that have no match. */
const rowsAlone = (counts: Int32Array, left: Int32Array): void => {
  const n = counts.length
  let at = 0
  for (let l = 0; l < n; l++) if (counts[l] === 0) left[at++] = l
}
type Pairs = { readonly left: Int32Array; readonly right: Int32Array }
/** Pairs of rows from the first place on, of each left row at most `most`. A row without a match stands with -1 where it is kept. */
const fillPairs = (
  { left, right }: Pairs,
  ids: Int32Array,
  { starts, rows }: { readonly starts: Int32Array; readonly rows: Int32Array },
  keepsAlone: boolean,
  most: number,
): void => {
  const n = ids.length
  let at = 0
  for (let l = 0; l < n; l++) {
    const id = ids[l]!
    const from = id < 0 ? 0 : starts[id]!
    const count = id < 0 ? 0 : starts[id + 1]! - from
    if (count === 0) {
      if (!keepsAlone) continue
      left[at] = l
      right[at++] = -1
      continue
    }
    const end = from + (count < most ? count : most)
    for (let k = from; k < end; k++) {
      left[at] = l
      right[at++] = rows[k]!
    }
  }
}

// eslint-disable-next-line complexity -- one pass over the left rows and the rest of the right behind them, by seven ways to match
const pairRows = (params: Join, table: Table, other: Table, names: string): RowPairs => {
  const { how, matches = 'all' } = params
  if (how === 'cross') return crossRows(table.rowCount, other.rowCount)
  const on = onOf(params)
  const ids = keyIds(
    on.map((one) => table.named(one.left)),
    on.map((one) => other.named(one.right)),
    params,
  )
  const buckets = bucket(ids.right, ids.count)
  const counts = countMatches(ids.left, buckets.starts)
  const { matched, matches: all, several } = sumMatches(counts)
  const alone = how === 'left-only' || how === 'right-only'
  if (!alone && matches === 'all') checkSize('This match', all)
  if (!alone && matches === 'one' && several >= 0)
    throw new DataRefused(
      `${on.map((one) => `${quoted(one.left)} ${cellWords(table, one.left, several)}`).join(', ')} matches ${counts[several]!} rows of ${names}, and only one match is allowed. Take the first, or make the rows there one of each.`,
    )
  const unmatched = unmet(ids.right, metIds(ids.left, ids.count))
  const keepsAlone = how === 'left' || how === 'full' || how === 'left-only'
  const behind = keepsRight(how) ? unmatched : int32s(0)
  const pairs = matches === 'all' ? all : matched
  const total = (alone ? 0 : pairs) + (keepsAlone ? table.rowCount - matched : 0) + behind.length
  const left = int32s(total)
  const right = int32s(total)
  const ahead = total - behind.length
  if (!alone) fillPairs({ left, right }, ids.left, buckets, keepsAlone, matches === 'all' ? Infinity : 1)
  else if (keepsAlone) rowsAlone(counts, left)
  if (alone) right.fill(-1, 0, ahead)
  left.fill(-1, ahead)
  right.set(behind, ahead)
  const multiplied = alone ? 0 : pairs - matched
  return {
    left,
    right,
    notes: { matched, unmatchedLeft: table.rowCount - matched, unmatchedRight: unmatched.length, multiplied },
  }
}

/** Left values, and where there is no left row the other's. */
const keyColumn = (
  left: Table,
  right: Table,
  { field, on, pairs }: { field: Field; on: KeyPair; pairs: RowPairs },
): Column => {
  const mine = convert(left.named(on.left), { type: field.type }).column
  const theirs = convert(right.named(on.right), { type: field.type }).column
  // the other's values stand only in the last rows, where there is no row on the left
  const alone = pairs.left.indexOf(-1)
  if (alone < 0) return gather(mine, pairs.left)
  return concat(field.type, [gather(mine, pairs.left.subarray(0, alone)), gather(theirs, pairs.right.subarray(alone))])
}

/** Matches rows with those of another table. */
export const join = defineStep<Join>({
  dropsRows: true,
  multipliesRows: true,
  unmatchedSides: ({ how }) => sidesToMatch[how],
  workbench: 'tables',
  figures: joinFigures,
  refusalFixes: () => [
    { name: 'first', words: 'Take the first match', params: { matches: 'first' } },
    { name: 'all', words: 'Take every match', params: { matches: 'all' } },
  ],
  kind: 'join',
  verb: 'Match with another table…',
  words: [
    'join',
    'match',
    'lookup',
    'vlookup',
    'merge',
    'combine tables',
    'bring columns',
    'enrich',
    'left join',
    'inner join',
    'anti join',
  ],
  params: z
    .strictObject({
      with: z.string().min(1),
      how: z.enum(joinHows),
      on: z.array(z.strictObject({ left: name, right: name })).optional(),
      ignoreCase: z.boolean().optional(),
      trim: z.boolean().optional(),
      bring: selectorSchema.optional(),
      prefix: z.string().optional(),
      matches: z.enum(['all', 'first', 'one']).optional(),
    })
    .refine(({ how, on }) => how === 'cross' || (on !== undefined && on.length > 0), {
      message: 'a match needs at least one pair of keys',
      path: ['on'],
    }),
  drafts: joinDrafts,
  sentence: (params, names) => {
    const { with: other, how, bring, matches = 'all', ignoreCase, trim } = params
    const on = onOf(params)
    return [
      'Match with ',
      tableSlot(other, 'join', ['with'], names),
      ...(on.length > 0
        ? [
            ' where ',
            slot(
              listed(
                on.map((one) =>
                  one.left === one.right ? `${one.left} is the same` : `${one.left} is its ${one.right}`,
                ),
              ),
              'join',
              ['on'],
            ),
            `${ignoreCase ? ', whatever the case' : ''}${trim ? ', spaces at the ends aside' : ''}`,
          ]
        : []),
      ', and ',
      slot(joinWords[how], 'join', ['how']),
      ...(how === 'left-only' || how === 'right-only'
        ? []
        : [
            ', bringing ',
            slot(bring ? selectorWords(bring) : 'all its other columns', 'join', ['bring']),
            ...(how === 'cross' || matches === 'all' ? [] : [' of ', slot(matchWords[matches], 'join', ['matches'])]),
          ]),
      '.',
    ]
  },
  uses: ({ with: other }) => [other],
  output: (params, input, context) => {
    const other = context.tableColumns(params.with)
    const there = inTable(context, params.with)
    onOf(params).forEach((one, i) => {
      const left = checkColumn(one.left, input, context, 'on', i, 'left')
      const right = checkColumn(one.right, other, there, 'on', i, 'right')
      if (left && right && !alike(left.type, right.type))
        context.report(
          { code: 'keys-differ', left: left.name, leftType: left.type, right: right.name, rightType: right.type },
          'on',
          i,
        )
    })
    if (params.bring) checkSelector(params.bring, other, there, 'bring')
    return layout(params, input, other).schema
  },
  run: (params, table, context) => {
    const other = context.table(params.with)
    const pairs = pairRows(params, table, other, context.names(params.with))
    const { left, brought, schema } = layout(params, table.schema, other.schema)
    const lefts = left.length > 0 ? table.rows(pairs.left) : undefined
    const rights = other.select(brought.map(({ from }) => other.positionOf(from))).rows(pairs.right)
    let result = lefts ? lefts : Table.of([], [], pairs.left.length)
    if (lefts && keepsRight(params.how))
      for (const on of onOf(params)) {
        const at = left.findIndex((field) => field.name === on.left)
        result = result.with(at, on.left, keyColumn(table, other, { field: left[at] as Field, on, pairs }), true)
      }
    const all = result.select(left.map((_, i) => i)).beside(
      rights,
      schema.map((field) => field.name),
    )
    const { how } = params
    return {
      table: all,
      lineage: {
        kind: 'index',
        index: pairs.left,
        other: pairs.right,
        ...(how === 'left-only' ? { keepsUnmatchedOnly: true as const } : {}),
      },
      notes: keepsRight(how) ? { ...pairs.notes, keptThere: pairs.notes.unmatchedRight ?? 0 } : pairs.notes,
    }
  },
  trace: joinTrace,
  columnLineage: (params, input, output) =>
    Object.fromEntries(
      (keepsLeft(params.how) ? input : []).flatMap((field) =>
        output.some((one) => one.name === field.name) ? [[field.name, field.name]] : [],
      ),
    ),
  scripts: {
    sql: (params, context) => joinSql(params, context),
    sqlRows: (params, context) => joinRowsSql(params, context),
    spark: 'table',
    python: (params, context) => {
      const plain = plainJoin(params, context)
      if (plain) return plain
      const { frame, table } = context
      const { frame: other, columns } = table(params.with)
      const options = [
        ...(params.ignoreCase ? [py`, ignore_case=True`] : []),
        ...(params.trim ? [py`, trim=True`] : []),
        ...(params.bring ? [py`, bring=${selected(params.bring, columns).map((field) => field.name)}`] : []),
        ...(params.prefix ? [py`, prefix=${params.prefix}`] : []),
        ...(params.matches && params.matches !== 'all' ? [py`, matches=${params.matches}`] : []),
      ]
      return py`${frame} = ${pyHelper('join_tables')}(${frame}, ${other}, ${params.how}, [${joined(
        onOf(params).map((one) => py`(${one.left}, ${one.right})`),
        ', ',
      )}]${joined(options, '')})`
    },
  },
})
