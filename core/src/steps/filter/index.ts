import { markComplete } from '../../table/gather.ts'
import { markAscending } from '../../table/rows-in-order.ts'
import { columnsOfCondition, conditionReason } from '../shared/trace-conditions.ts'
import { z } from 'zod'
import { py, sql } from '../../codegen/tag.ts'
import { typeIn, selectColumns } from '../shared/columns.ts'
import { checkCondition, conditionSchema, conditionWords, type Condition } from '../shared/condition.ts'
import { conditionPython, conditionSql } from '../shared/condition-code.ts'
import { decidingColumns } from '../shared/condition-values.ts'
import { rowsMeeting } from '../shared/condition-run.ts'
import { defineStep, slot } from '../shared/step-kind.ts'
import type { StepDraft } from '../shared/draft.ts'
import { shortened, valueOfText } from '../shared/draft-values.ts'
import type { ColumnType } from '../../table/column.ts'
import { writeColumn } from '../../formula/parse.ts'

type Filter = { readonly where: Condition; readonly keep?: boolean | undefined }

const comparable = (type: ColumnType | undefined): boolean => type !== 'text' && type !== 'boolean'

/** Rows with lists differ by what their lists hold: one draft each for the first three items. */
const listDrafts = (column: string, list: string): StepDraft<Filter>[] =>
  [...new Set(JSON.parse(list) as (string | number | boolean | null)[])]
    .filter((item) => item !== null)
    .slice(0, 3)
    .flatMap((item) => {
      const literal = typeof item === 'string' ? `"${item.replaceAll('"', '""')}"` : String(item).toUpperCase()
      const where = { formula: `LISTCONTAINS(${writeColumn(column)}; ${literal})` }
      const shown = shortened(String(item))
      return [
        { rank: 1, verb: `Keep rows whose list holds “${shown}”`, params: { where } },
        { rank: 1, verb: `Drop rows whose list holds “${shown}”`, params: { where, keep: false } },
      ]
    })

const cellDrafts = (column: string, text: string | null, type: ColumnType | undefined): StepDraft<Filter>[] => {
  const drafts = (shown: string, where: Condition): StepDraft<Filter>[] => [
    { rank: 1, verb: `Keep rows where ${shown}`, params: { where } },
    { rank: 2, verb: `Drop rows where ${shown}`, params: { where, keep: false } },
  ]
  if (text !== null && type === 'list') return listDrafts(column, text)
  if (text === null) return drafts('it is empty', { column, op: 'is-empty' })
  const value = valueOfText(text, type)
  const shown = text.length > 22 ? `${text.slice(0, 20)}…` : text
  return [
    ...drafts(`it is “${shown}”`, { column, op: 'is', value }),
    ...(comparable(type)
      ? [
          {
            rank: 3,
            verb: 'Keep rows from this value up',
            params: { where: { column, op: 'at-least' as const, value } },
          },
          { rank: 4, verb: 'Keep rows up to this value', params: { where: { column, op: 'at-most' as const, value } } },
        ]
      : []),
  ]
}

/** Keeps or drops rows by a condition. */
export const filter = defineStep<Filter>({
  dropsRows: true,
  kind: 'filter',
  verb: 'Keep rows where…',
  words: ['filter', 'keep', 'rows', 'where', 'drop rows', 'remove rows', 'condition', 'only', 'exclude'],
  params: z.strictObject({ where: conditionSchema, keep: z.boolean().optional() }),
  drafts: {
    table: ({ schema }) => [{ rank: 10, params: { where: { column: schema[0]?.name ?? '', op: 'is-filled' } } }],
    columns: ({ columns: [column = ''] }) => [
      { rank: 10, key: 'F', replacedForCell: true, params: { where: { column, op: 'is-filled' } } },
    ],
    cell: ({ column, value, schema }) => cellDrafts(column, value, typeIn(schema, column)),
    part: ({ column, value, from, to }) => {
      const where: Condition = { column, op: 'contains', value: value.slice(from, to) }
      const part = shortened(value.slice(from, to))
      return [
        { rank: 40, verb: `Keep rows that contain “${part}”`, params: { where } },
        { rank: 40, verb: `Drop rows that contain “${part}”`, params: { where, keep: false } },
      ]
    },
    values: ({ column, values, schema }) => {
      const type = typeIn(schema, column)
      const where: Condition = { column, op: 'is-one-of', values: values.map((value) => valueOfText(value, type)) }
      const one = values.length === 1
      return [
        { rank: 20, verb: one ? 'Drop the rows with it' : 'Drop these rows', params: { where, keep: false } },
        { rank: 20, verb: one ? 'Keep only the rows with it' : 'Keep only these rows', params: { where } },
      ]
    },
  },
  sentence: ({ where, keep = true }) => [
    slot(
      keep ? 'Keep' : 'Drop',
      'choice',
      ['keep'],
      [
        ['true', 'Keep'],
        ['false', 'Drop'],
      ],
    ),
    ' the rows where ',
    slot(conditionWords(where), 'condition', ['where']),
    '.',
  ],
  decides: ({ where, keep = true }, input) =>
    decidingColumns(
      where,
      input,
      keep ? { fails: 'leaves', passes: 'stays' } : { fails: 'stays', passes: 'leaves' },
      (condition) => ({ where: condition }),
    ),
  output: ({ where }, input, context) => {
    checkCondition(where, input, context, 'where')
    return input
  },
  run: ({ where, keep = true }, table, context) => {
    const index = rowsMeeting(where, table, context, keep)
    return {
      table: table.rows(markComplete(markAscending(index))),
      lineage: { kind: 'index', index, kept: index.length },
    }
  },
  trace: {
    leftBy: ({ where }, { before, context }) => columnsOfCondition(where, before, context),
    left: ({ where }, { before, context }, row) => conditionReason(where, before, context, row),
    did: ({ where }, { before, context }, row) => `kept, ${conditionReason(where, before, context, row)}`,
  },
  scripts: {
    sql: ({ where, keep = true }, context) => {
      const condition = conditionSql(where, context)
      return selectColumns(context, {}, sql`\nwhere ${keep ? condition : sql`not (${condition})`}`)
    },
    python: ({ where, keep = true }, context) => {
      const condition = conditionPython(keep ? where : { not: where }, context)
      return py`${context.frame} = ${context.renumbered(py`${context.frame}[${condition}]`)}`
    },
  },
})
