import { z } from 'zod'
import { code, py, sql } from '../../codegen/tag.ts'
import { IntList } from '../../table/memory.ts'
import { selectColumns } from '../shared/columns.ts'
import { checkCondition, conditionSchema, conditionWords, type Condition } from '../shared/condition.ts'
import { conditionPython, conditionSql } from '../shared/condition-code.ts'
import { evaluateCondition } from '../shared/condition-run.ts'
import { defineStep, slot } from '../shared/step-kind.ts'

type Filter = { readonly where: Condition; readonly keep?: boolean | undefined }

/** Keeps or drops rows by a condition. */
export const filter = defineStep<Filter>({
  dropsRows: true,
  kind: 'filter',
  verb: 'Keep rows where…',
  words: ['filter', 'keep', 'rows', 'where', 'drop rows', 'remove rows', 'condition', 'only', 'exclude'],
  params: z.strictObject({ where: conditionSchema, keep: z.boolean().optional() }),
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
  output: ({ where }, input, context) => {
    checkCondition(where, input, context, 'where')
    return input
  },
  run: ({ where, keep = true }, table, context) => {
    const mask = evaluateCondition(where, table, context)
    const wanted = keep ? 1 : 0
    const rows = new IntList()
    for (let i = 0; i < mask.length; i++) if (mask[i] === wanted) rows.push(i)
    const index = rows.done()
    return { table: table.rows(index), lineage: { kind: 'index', index } }
  },
  scripts: {
    sql: ({ where, keep = true }, context) => {
      const condition = conditionSql(where, context)
      return selectColumns(context, {}, sql`\nwhere ${keep ? condition : sql`not (${condition})`}`)
    },
    python: ({ where, keep = true }, context) => {
      const condition = conditionPython(where, context)
      return py`${context.frame} = ${context.frame}[${keep ? code('') : code('~')}${condition}].reset_index(drop=True)`
    },
  },
})
