import { z } from 'zod'
import { py, sql, sparkHelper, code } from '../../codegen/tag.ts'
import { sliceRows } from '../../table/gather.ts'
import { counted } from '../../messages/words.ts'
import { defineStep, slot } from '../shared/step-kind.ts'

type Slice =
  { readonly first: number } | { readonly last: number } | { readonly skip: number } | { readonly every: number }

const count = z.number().int().min(0)
const spanOf = (params: Slice, rows: number): Int32Array => {
  if ('first' in params) return sliceRows(Math.min(params.first, rows))
  if ('last' in params) return sliceRows(Math.min(params.last, rows), Math.max(0, rows - params.last))
  if ('skip' in params) return sliceRows(Math.max(0, rows - params.skip), params.skip)
  return sliceRows(Math.ceil(rows / params.every), 0, params.every)
}

const words = (params: Slice): string => {
  if ('first' in params) return `the first ${counted(params.first, 'row')}`
  if ('last' in params) return `the last ${counted(params.last, 'row')}`
  if ('skip' in params) return `all but the first ${counted(params.skip, 'row')}`
  if (params.every === 1) return 'every row'
  return `one row in ${params.every}`
}

/** Keeps rows by their place. */
export const slice = defineStep<Slice>({
  kind: 'slice',
  verb: 'Keep the first, last or every n-th row',
  words: ['slice', 'limit', 'top', 'head', 'tail', 'sample', 'skip', 'first rows', 'last rows'],
  params: z.union([
    z.strictObject({ first: count }),
    z.strictObject({ last: count }),
    z.strictObject({ skip: count }),
    z.strictObject({ every: z.number().int().min(1) }),
  ]),
  drafts: { table: () => [{ rank: 50, params: { first: 100 } }] },
  sentence: (params) => ['Keep ', slot(words(params), 'slice', []), '.'],
  output: (_params, input) => input,
  run: (params, table) => {
    const index = spanOf(params, table.rowCount)
    return { table: table.rows(index), lineage: { kind: 'index', index, kept: index.length } }
  },
  trace: {
    leftBy: () => [],
    left: (params) => `it is not of ${words(params)}`,
    did: (params) => `kept, of ${words(params)}`,
  },
  scripts: {
    sql: (params, { from, output, column }) => {
      const chooseCondition = () => {
        if ('first' in params) return sql`"¶n" <= ${params.first}`
        if ('last' in params) return sql`"¶n" > "¶all" - ${params.last}`
        if ('skip' in params) return sql`"¶n" > ${params.skip}`
        return sql`("¶n" - 1) % ${params.every} = 0`
      }
      const condition = chooseCondition()
      return sql`select "¶", ${output.map((field) => column(field.name))}\nfrom (select *, row_number() over (order by "¶") as "¶n", count(*) over () as "¶all" from ${from}) numbered\nwhere ${condition}`
    },
    spark: (params, { frame }) => {
      const [way = '', n = 0] = Object.entries(params)[0] ?? []
      return py`${frame} = ${sparkHelper('some_rows')}(${frame}, ${code(way)}=${n})`
    },
    python: (params, { frame, renumbered }) => {
      const chooseRows = () => {
        if ('first' in params) return py`.head(${params.first})`
        if ('last' in params) return py`.tail(${params.last})`
        if ('skip' in params) return py`.iloc[${params.skip}:]`
        return py`.iloc[::${params.every}]`
      }
      const rows = chooseRows()
      return py`${frame} = ${renumbered(py`${frame}${rows}`)}`
    },
  },
})
