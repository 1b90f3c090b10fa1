import { z } from 'zod'
import { py } from '../../codegen/tag.ts'
import {
  checkSelector,
  columnNoun,
  columnsSlot,
  selectColumns,
  selectedNames,
  selectorPython,
  selectorSchema,
  type Selector,
} from '../shared/columns.ts'
import { defineStep } from '../shared/step-kind.ts'

type Drop = { readonly columns: Selector }

/** Drops columns. */
export const drop = defineStep<Drop>({
  consumes: true,
  kind: 'drop',
  verb: 'Drop these columns',
  words: ['drop', 'remove', 'delete', 'columns', 'hide', 'leave out'],
  params: z.strictObject({ columns: selectorSchema }),
  drafts: {
    table: ({ schema }) => [{ rank: 160, verb: 'Drop columns', params: { columns: [schema.at(-1)?.name ?? ''] } }],
    columns: ({ columns, schema }) =>
      columns.length < schema.length
        ? [{ rank: 40, key: 'Del', verb: columns.length === 1 ? 'Drop it' : 'Drop them', params: { columns } }]
        : [],
  },
  sentence: ({ columns }) => [`Drop ${columnNoun(columns)}`, columnsSlot(columns, 'columns'), '.'],
  output: ({ columns }, input, context) => {
    const gone = checkSelector(columns, input, context, 'columns')
    const left = input.filter((field) => !gone.includes(field))
    if (left.length === 0) context.report({ code: 'no-columns-left' }, 'columns')
    return left
  },
  run: ({ columns }, table) => {
    const gone = new Set(selectedNames(columns, table.schema))
    return {
      table: table.select(table.names.flatMap((name, i) => (gone.has(name) ? [] : [i]))),
      lineage: { kind: 'same' },
    }
  },
  scripts: {
    sql: (_params, context) => selectColumns(context),
    spark: 'table',
    python: ({ columns }, { frame }) => py`${frame} = ${frame}.drop(columns=${selectorPython(columns, frame)})`,
  },
  absorbs: ({ columns }, column, input) => selectedNames(columns, input).includes(column),
})
