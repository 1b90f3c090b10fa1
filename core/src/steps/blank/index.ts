import { z } from 'zod'
import { joined, py, sql, pyHelper } from '../../codegen/tag.ts'
import { cellAt, columnWriter, type Cell } from '../../table/column.ts'
import { listed } from '../../messages/words.ts'
import {
  typeIn,
  checkSelector,
  columnsSlot,
  selectColumns,
  selected,
  selectedNames,
  eachColumnPython,
  selectorSchema,
  type Selector,
} from '../shared/columns.ts'
import { defineStep, slot } from '../shared/step-kind.ts'
import { cellFor, literalPython, literalSql, valueWords } from '../shared/value.ts'
import { valueOfText } from '../shared/draft-values.ts'

type BlankedValue = string | number | boolean
type Blank = { readonly columns: Selector; readonly values: readonly BlankedValue[] }

/** Makes values empty. */
export const blank = defineStep<Blank>({
  kind: 'blank',
  verb: 'Make values empty',
  words: ['blank', 'make empty', 'null if', 'n/a', 'missing', 'clear', 'remove value'],
  params: z.strictObject({
    columns: selectorSchema,
    values: z.array(z.union([z.string(), z.number(), z.boolean()])).min(1),
  }),
  drafts: {
    cell: ({ column, value, schema }) => {
      const type = typeIn(schema, column)
      if (value === null || type === 'list') return []
      return [{ rank: 6, verb: 'Make it empty', params: { columns: [column], values: [valueOfText(value, type)] } }]
    },
    values: ({ column, values, schema }) => {
      const type = typeIn(schema, column)
      const typed = values.map((value) => valueOfText(value, type))
      return [{ rank: 40, verb: 'Make them empty', params: { columns: [column], values: typed } }]
    },
  },
  sentence: ({ columns, values }) => [
    'In ',
    columnsSlot(columns, 'columns'),
    ' make ',
    slot(listed(values.map(valueWords)), 'values', ['values']),
    ' empty.',
  ],
  output: ({ columns, values }, input, context) => {
    for (const field of checkSelector(columns, input, context, 'columns'))
      values.forEach((value, i) => {
        if (cellFor(value, field.type) === undefined)
          context.report(
            { code: 'wrong-value', value: String(value), column: field.name, type: field.type },
            'values',
            i,
          )
      })
    return input
  },
  run: ({ columns, values }, table) => {
    let result = table
    let cellsChanged = 0
    for (const name of selectedNames(columns, table.schema)) {
      const at = table.positionOf(name)
      const column = table.column(at)
      const gone = new Set<Cell>(values.map((value) => cellFor(value, column.type) ?? null))
      const writer = columnWriter(column.type, table.rowCount)
      for (let row = 0; row < table.rowCount; row++) {
        const cell = cellAt(column, row)
        if (cell !== null && gone.has(cell)) cellsChanged++
        else writer.set(row, cell)
      }
      result = result.with(at, name, writer.done(), true)
    }
    return { table: result, lineage: { kind: 'same' }, cellsChanged }
  },
  scripts: {
    sql: ({ columns, values }, context) =>
      selectColumns(
        context,
        Object.fromEntries(
          selected(columns, context.input).map((field) => [
            field.name,
            sql`case when ${context.column(field.name)} in (${joined(
              values.map((value) => literalSql(value, field.type)),
              ', ',
            )}) then null else ${context.column(field.name)} end`,
          ]),
        ),
      ),
    python: ({ columns, values }, { frame, input }) => {
      const type = selected(columns, input)[0]?.type ?? 'text'
      const pairs = joined(
        values.map((value) => py`(${literalPython(value, type)}, None)`),
        ', ',
      )
      return eachColumnPython(
        columns,
        frame,
        (name) => py`${frame}[${name}] = ${pyHelper('replace_values')}(${frame}[${name}], [${pairs}])`,
      )
    },
  },
  absorbs: ({ columns }, column, input) => selectedNames(columns, input).includes(column),
})
