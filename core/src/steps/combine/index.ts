import { sourcesIn } from '../shared/trace.ts'
import { ownValue } from '../../table/own.ts'
import { z } from 'zod'
import { code, joined, py, sql, type Code, sqlHelper, pyHelper } from '../../codegen/tag.ts'
import { cellAt, columnWriter } from '../../table/column.ts'
import { textOfCell } from '../../table/cell-text.ts'
import type { Schema } from '../../table/table.ts'
import { quoted } from '../../messages/words.ts'
import {
  checkPlace,
  checkSelector,
  columnsSlot,
  freeName,
  placePython,
  placeSchema,
  positionFor,
  selectColumns,
  selected,
  selectedNames,
  selectorPython,
  selectorSchema,
  withField,
  type ColumnPlacement,
  type Selector,
} from '../shared/columns.ts'
import { name } from '../../reading/name-schema.ts'
import { defineStep, slot } from '../shared/step-kind.ts'

type Combine = ColumnPlacement & {
  readonly columns: Selector
  readonly as: string
  readonly with: string
  readonly keep?: boolean | undefined
}

/** What stays, and the name of what is made: the combined columns go unless they are kept. */
const layout = (params: Combine, input: Schema): { kept: Schema; as: string } => {
  const joinedNames = selectedNames(params.columns, input)
  const kept = params.keep ? input : input.filter((field) => !joinedNames.includes(field.name))
  return {
    kept,
    as: freeName(
      params.as,
      kept.map((field) => field.name),
    ),
  }
}

/** The columns that stay as they are. */
const carriedBy = (params: Combine, input: Schema): Readonly<Record<string, string>> =>
  Object.fromEntries(layout(params, input).kept.map((field) => [field.name, field.name]))

/** Joins the texts of several columns. */
export const combine = defineStep<Combine>({
  kind: 'combine',
  verb: 'Combine columns into one text',
  words: ['combine', 'concatenate', 'merge columns', 'join text', 'paste together', 'unite'],
  params: z.strictObject({
    columns: selectorSchema,
    as: name,
    with: z.string(),
    keep: z.boolean().optional(),
    ...placeSchema,
  }),
  drafts: {
    columns: ({ columns }) =>
      columns.length > 1 ? [{ rank: 160, params: { columns, as: columns.join(' '), with: ' ', keep: true } }] : [],
  },
  sentence: ({ columns, as, with: between, keep }) => [
    'Combine ',
    columnsSlot(columns, 'columns'),
    ' as ',
    slot(as, 'name', ['as']),
    ', with ',
    slot(between === '' ? 'nothing' : quoted(between), 'text', ['with']),
    ' between, and ',
    slot(
      keep ? 'keep them' : 'drop them',
      'choice',
      ['keep'],
      [
        ['true', 'keep them'],
        ['false', 'drop them'],
      ],
    ),
    '.',
  ],
  output: (params, input, context) => {
    const fields = checkSelector(params.columns, input, context, 'columns')
    if (fields.length === 0 && !Array.isArray(params.columns))
      context.report({ code: 'no-columns-chosen', selector: 'that rule' }, 'columns')
    const { kept, as } = layout(params, input)
    checkPlace(params, kept, context)
    return withField(kept, { name: as, type: 'text' }, params)
  },
  run: (params, table) => {
    const { kept, as } = layout(params, table.schema)
    const parts = selected(params.columns, table.schema).map(({ name: one, type }) => ({
      column: table.named(one),
      type,
    }))
    const writer = columnWriter('text', table.rowCount)
    for (let row = 0; row < table.rowCount; row++) {
      const texts = parts.flatMap(({ column, type }) => {
        const cell = cellAt(column, row)
        return cell === null ? [] : [textOfCell(type, cell)]
      })
      writer.set(row, texts.join(params.with) || null)
    }
    const rest = table.select(kept.map((field) => table.positionOf(field.name)))
    return { table: rest.with(positionFor(params, rest.names), as, writer.done()), lineage: { kind: 'same' } }
  },
  trace: {
    cells: (params, { before }, column, rows) =>
      ownValue(carriedBy(params, before.schema), column) === undefined
        ? sourcesIn(
            selected(params.columns, before.schema).map(({ name: part }) => part),
            rows,
          )
        : undefined,
  },
  columnLineage: carriedBy,
  scripts: {
    sql: (params, context) => {
      const parts = selected(params.columns, context.input).map(
        (field): Code => sql`${sqlHelper('shown')}(${context.column(field.name)})`,
      )
      return selectColumns(context, {
        [layout(params, context.input).as]: sql`nullif(concat_ws(${params.with}, ${joined(parts, ', ')}), '')`,
      })
    },
    python: (params, { frame, input }) => {
      const { as } = layout(params, input)
      return py`${frame} = ${pyHelper('combine')}(${frame}, ${selectorPython(params.columns, frame)}, ${as}, ${params.with}, keep=${params.keep === true}${placePython(params)})${code('')}`
    },
  },
  absorbs: ({ columns }, column, input) => selectedNames(columns, input).includes(column),
})
