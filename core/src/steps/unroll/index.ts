import { z } from 'zod'
import { checkSize } from '../../table/limits.ts'
import { py, sql, type Code, sqlHelper, pyHelper, sparkHelper } from '../../codegen/tag.ts'
import { asDictionary, columnWriter, type Cell, type ColumnType, type TextColumn } from '../../table/column.ts'
import { itemsOf, itemText, type ListItem } from '../../table/list.ts'
import { IntList } from '../../kernels/memory.ts'
import { typeIn, checkColumn } from '../shared/columns.ts'
import { name } from '../../reading/name-schema.ts'
import { defineStep, slot } from '../shared/step-kind.ts'

type Unroll = { readonly column: string }

/** The one type that all items have: numbers, yes or no, else text. */
const typeOfItems = (lists: readonly (readonly ListItem[])[]): ColumnType => {
  let type: ColumnType | undefined
  for (const items of lists)
    for (const item of items) {
      if (item === null) continue
      const chooseOwn = () => {
        if (typeof item === 'boolean') return 'boolean'
        if (typeof item === 'number') {
          if (Number.isSafeInteger(item)) return 'integer'
          return 'decimal'
        }
        return 'text'
      }
      const own: ColumnType = chooseOwn()
      if (type === undefined || type === own) type = own
      else if ((type === 'integer' || type === 'decimal') && (own === 'integer' || own === 'decimal')) type = 'decimal'
      else return 'text'
    }
  return type ?? 'text'
}

const cellOf = (item: ListItem, type: ColumnType): Cell => {
  if (item === null) return null
  if (type === 'text') return itemText(item) || null
  return item
}

const itemSql = (type: ColumnType): Code => {
  if (type === 'text') return sql`nullif(u.shown_item, '')`
  if (type === 'integer') return sql`u.shown_item::numeric::bigint`
  if (type === 'decimal') return sql`u.shown_item::float8`
  return sql`u.shown_item::boolean`
}

/** The rows before the step, one for each item of their list. */
const itemsInRows = (wanted: string, from: Code, column: (name: string) => Code): Code =>
  sql`${from} t left join lateral ${sqlHelper('items_of')}(t.${column(wanted)}) u on true`

/** A row for each item of a list. */
export const unroll = defineStep<Unroll>({
  reshapes: true,
  kind: 'unroll',
  verb: 'Make a row of each item',
  words: ['unroll', 'explode', 'unnest', 'list to rows', 'expand list', 'flatten'],
  params: z.strictObject({ column: name }),
  drafts: {
    columns: ({ columns: [column = '', ...more], schema }) =>
      more.length === 0 && typeIn(schema, column) === 'list' ? [{ rank: 190, params: { column } }] : [],
  },
  sentence: ({ column }) => ['Make a row of each item of ', slot(column, 'oneColumn', ['column']), '.'],
  output: ({ column }, input, context) => {
    const field = checkColumn(column, input, context, 'column')
    if (field && field.type !== 'list')
      context.report({ code: 'wrong-type', column, type: field.type, needs: 'lists' }, 'column')
    return input.map((one) => (one.name === column ? { name: column, type: 'text' as const } : one))
  },
  /** What the items are, their column's type does not say. */
  dynamicTypes: ({ column }) => [column],
  run: ({ column }, table) => {
    const at = table.positionOf(column)
    const { indices, dictionary } = asDictionary(table.column(at) as TextColumn)
    const lists = dictionary.map((word) => (word === '' ? [] : itemsOf(word)))
    const type = typeOfItems(lists)
    checkSize(
      'A row for each item',
      indices.reduce((sum, code) => sum + Math.max(1, lists[code]?.length ?? 0), 0),
    )
    const rows = new IntList()
    const items: ListItem[] = []
    let most = 0
    for (let row = 0; row < indices.length; row++) {
      const list = lists[indices[row]!] ?? []
      if (list.length > most) most = list.length
      for (const item of list.length > 0 ? list : [null]) {
        rows.push(row)
        items.push(item)
      }
    }
    const index = rows.done()
    const writer = columnWriter(type, items.length)
    items.forEach((item, i) => writer.set(i, cellOf(item, type)))
    return {
      table: table.rows(index).with(at, column, writer.done(), true),
      lineage: { kind: 'index', index },
      notes: { items: most },
    }
  },
  scripts: {
    sql: ({ column: wanted }, { from, output, column }) => {
      const names = output.map((field) =>
        field.name === wanted ? sql`${itemSql(field.type)} as ${column(wanted)}` : sql`t.${column(field.name)}`,
      )
      return sql`select row_number() over (order by t."¶", u.n) as "¶", ${names}\nfrom ${itemsInRows(wanted, from, column)}`
    },
    sqlRows: ({ column: wanted }, { from, column }) => [
      {
        rows: sql`select row_number() over (order by t."¶", u.n) as "¶", t."¶" as was from ${itemsInRows(wanted, from, column)}`,
      },
    ],
    spark: ({ column }, { frame }) => py`${frame} = ${sparkHelper('unroll_rows')}(${frame}, ${column})`,
    python: ({ column }, { frame }) => py`${frame} = ${pyHelper('unroll')}(${frame}, ${column})`,
  },
})
