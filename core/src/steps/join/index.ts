import { z } from 'zod'
import { checkSize } from '../../table/limits.ts'
import { joined, py, pyHelper } from '../../codegen/tag.ts'
import { isNumber, type Column, type ColumnType } from '../../table/column.ts'
import { concat, gather } from '../../table/gather.ts'
import { IntList } from '../../kernels/memory.ts'
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

/** How many pairs of rows have the same keys, before any of them is made. */
const matchCount = (left: Int32Array, starts: Int32Array): number => {
  let count = 0
  for (let l = 0; l < left.length; l++) {
    const id = left[l]!
    if (id >= 0) count += starts[id + 1]! - starts[id]!
  }
  return count
}

// eslint-disable-next-line complexity, max-lines-per-function -- one pass over the left rows and one over the rest, which share their counts
const pairRows = (params: Join, table: Table, other: Table, names: string): RowPairs => {
  const { how, matches = 'all' } = params
  const left = new IntList()
  const right = new IntList()
  const push = (l: number, r: number): void => {
    left.push(l)
    right.push(r)
  }
  if (how === 'cross') {
    checkSize('Matching every row with every row', table.rowCount * other.rowCount)
    for (let l = 0; l < table.rowCount; l++) for (let r = 0; r < other.rowCount; r++) push(l, r)
    return {
      left: left.done(),
      right: right.done(),
      notes: {
        matched: other.rowCount > 0 ? table.rowCount : 0,
        multiplied: Math.max(0, table.rowCount * (other.rowCount - 1)),
      },
    }
  }
  const on = onOf(params)
  const ids = keyIds(
    on.map((one) => table.named(one.left)),
    on.map((one) => other.named(one.right)),
    params,
  )
  const { starts, rows } = bucket(ids.right, ids.count)
  if (matches === 'all' && how !== 'left-only' && how !== 'right-only')
    checkSize('This match', matchCount(ids.left, starts))
  const met = new Uint8Array(ids.count)
  let matched = 0
  let multiplied = 0
  for (let l = 0; l < table.rowCount; l++) {
    const id = ids.left[l]!
    const from = id < 0 ? 0 : starts[id]!
    const to = id < 0 ? 0 : starts[id + 1]!
    if (from === to) {
      if (how === 'left' || how === 'full' || how === 'left-only') push(l, -1)
      continue
    }
    matched++
    met[id] = 1
    if (how === 'left-only' || how === 'right-only') continue
    if (matches === 'one' && to - from > 1)
      throw new DataRefused(
        `${on.map((one) => `${quoted(one.left)} ${cellWords(table, one.left, l)}`).join(', ')} matches ${to - from} rows of ${names}, and only one match is allowed. Take the first, or make the rows there one of each.`,
      )
    const end = matches === 'all' ? to : from + 1
    multiplied += end - from - 1
    for (let k = from; k < end; k++) push(l, rows[k]!)
  }
  let unmatchedRight = 0
  for (let r = 0; r < other.rowCount; r++) {
    const id = ids.right[r]!
    if (id >= 0 && met[id]) continue
    unmatchedRight++
    if (keepsRight(how)) push(-1, r)
  }
  return {
    left: left.done(),
    right: right.done(),
    notes: { matched, unmatchedLeft: table.rowCount - matched, unmatchedRight, multiplied },
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
    const all = Table.of(
      schema.map((field) => field.name),
      [...left.map((_, i) => result.column(i)), ...brought.map((_, i) => rights.column(i))],
      pairs.left.length,
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
