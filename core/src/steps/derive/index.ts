import { sourcesIn } from '../shared/trace.ts'
import { z } from 'zod'
import { checkFormula, type TypedNode } from '../../formula/check.ts'
import { formulaColumn } from '../../formula/lazy-formula.ts'
import { formulaPandas, formulaPython, formulaSql } from '../../formula/to-code.ts'
import { py, sql, pyHelper, type Code } from '../../codegen/tag.ts'
import { cellAt, lengthOf, type Column } from '../../table/column.ts'
import {
  checkPlace,
  placePython,
  placeSchema,
  positionFor,
  putPandas,
  selectColumns,
  withField,
  type ColumnPlacement,
} from '../shared/columns.ts'
import { checkedFormula } from '../shared/condition-code.ts'
import { name } from '../../reading/name-schema.ts'
import { defineStep, slot, type PythonContext } from '../shared/step-kind.ts'
import { newName } from '../shared/draft-values.ts'
import { writeColumn } from '../../formula/parse.ts'

type Derive = ColumnPlacement & { readonly as: string; readonly formula: string }

/** Cells that hold another value than before; types may differ. */
const countChanged = (before: Column, after: Column): number => {
  let changed = 0
  for (let i = 0, n = lengthOf(before); i < n; i++) if (cellAt(before, i) !== cellAt(after, i)) changed++
  return changed
}

/** By what pandas has for whole columns, where that gives the same. */
const plainPython = (params: Derive, formula: TypedNode, { frame, input }: PythonContext): Code | undefined => {
  const value = formulaPandas(formula, (column) => py`${frame}[${column}]`)
  if (!value || formula.kind === 'constant') return undefined
  const cells = formula.kind === 'call' && formula.type === 'decimal' ? py`${pyHelper('finite')}(${value})` : value
  return putPandas(frame, input, params.as, params, cells)
}

/** A column by a formula. */
export const derive = defineStep<Derive>({
  kind: 'derive',
  verb: 'Compute a column',
  words: ['derive', 'compute', 'calculate', 'formula', 'new column', 'add column', 'expression', 'mutate'],
  params: z.strictObject({ as: name, formula: z.string().min(1), ...placeSchema }),
  drafts: {
    table: ({ schema }) => [{ rank: 20, params: { as: newName('New column', schema), formula: '1' } }],
    columns: ({ columns: [first = '', ...more], schema }) =>
      more.length > 0
        ? []
        : [
            {
              rank: 270,
              verb: 'Compute a column from it',
              params: { as: newName(first, schema), formula: writeColumn(first), after: first },
            },
          ],
  },
  sentence: ({ as, formula }) => [
    'Compute ',
    slot(as, 'name', ['as']),
    ' as ',
    slot(formula, 'formula', ['formula']),
    '.',
  ],
  output: (params, input, context) => {
    checkPlace(params, input, context)
    const checked = checkFormula(params.formula, input, context.parameters)
    if ('problem' in checked) context.report({ code: 'formula', problem: checked.problem }, 'formula')
    const field = { name: params.as, type: 'problem' in checked ? ('text' as const) : checked.type }
    const at = input.findIndex((one) => one.name === params.as)
    if (at >= 0) return input.map((one, i) => (i === at ? field : one))
    return withField(input, field, params)
  },
  run: (params, table, context) => {
    const checked = checkedFormula(params.formula, table.schema, context.parameterTypes)
    const { column, rows, failures } = formulaColumn(checked.formula, checked.type, table, context)
    const at = table.positionOf(params.as)
    const place = at >= 0 ? at : positionFor(params, table.names)
    const made = table.with(place, params.as, column, at >= 0, rows)
    return {
      table: made,
      lineage: { kind: 'same' },
      cellsChanged: at >= 0 ? countChanged(table.column(at), made.column(at)) : 0,
      unreadable: failures.length > 0 ? [{ column: params.as, rows: failures }] : [],
    }
  },
  trace: {
    cells: (params, { before, context }, column, rows) =>
      column === params.as
        ? sourcesIn(checkedFormula(params.formula, before.schema, context.parameterTypes).columns, rows)
        : undefined,
  },
  scripts: {
    sql: (params, context) => {
      const { formula } = checkedFormula(params.formula, context.input, context.parameters)
      const written = formulaSql(formula, context)
      const asText = () => {
        if (formula.type === 'text') return sql`nullif(${written}, '')`
        if (formula.type === 'empty') return sql`null::text`
        return written
      }
      return selectColumns(context, {
        [params.as]: asText(),
      })
    },
    python: (params, context) => {
      const checked = checkedFormula(params.formula, context.input, context.parameters)
      const { frame } = context
      const plain = context.plain ? plainPython(params, checked.formula, context) : undefined
      if (plain) return plain
      const written = formulaPython(checked.formula, {
        column: (column) => py`${frame}[${column}]`,
        parameter: context.parameter,
      })
      return py`${frame} = ${pyHelper('put')}(${frame}, ${params.as}, ${written}, ${checked.type}${placePython(params)})`
    },
  },
})
