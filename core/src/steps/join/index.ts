import { z } from 'zod'
import { joined, py, pyHelper } from '../../codegen/tag.ts'
import { isNumber, type Column, type ColumnType } from '../../table/column.ts'
import { concat, gather } from '../../table/gather.ts'
import { convert } from '../../reading/convert.ts'
import { Table, type Field } from '../../table/table.ts'
import { listed } from '../../messages/words.ts'
import { checkColumn, checkSelector, inTable, selected, selectorSchema, selectorWords } from '../shared/columns.ts'
import { name } from '../../reading/name-schema.ts'
import { defineStep, slot, tableSlot } from '../shared/step-kind.ts'
import { joinDrafts } from './drafts.ts'
import { joinFigures } from './figures.ts'
import { keepsLeft, keepsRight, layout, onOf, type Join, type KeyPair } from './layout.ts'
import { joinRowsSql, joinSql } from './join-sql.ts'
import { pairRows, type RowPairs } from './pairs.ts'
import { plainJoin } from './plain-python.ts'
import { joinTrace } from './trace.ts'
import { sidesToMatch } from './sides.ts'
import { joinHows, joinWords, matchWords } from './words.ts'

const alike = (a: ColumnType, b: ColumnType): boolean => a === b || (isNumber(a) && isNumber(b))

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
  return concat(field.type, [
    gather(mine, pairs.left.subarray(0, alone)),
    gather(theirs, pairs.right.rows.subarray(alone)),
  ])
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
    const rights = other.select(brought.map(({ from }) => other.positionOf(from))).chosen(pairs.right)
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
