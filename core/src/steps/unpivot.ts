import { z } from 'zod'
import { code, joined, py, sql, type Code } from '../generate/tag.ts'
import { columnOf, emptyColumn, isEmptyAt, lengthOf, typeTogether, type Column, type ColumnType } from '../table/column.ts'
import { gather, interleave, repeatEach } from '../table/gather.ts'
import { IntList } from '../table/memory.ts'
import { convert } from '../table/reading.ts'
import type { Field, Schema } from '../table/table.ts'
import { checkPlace, checkSelector, columnsSlot, freeName, placePython, placeSchema, positionFor, selected, selectedNames, selectorPython, selectorSchema, type Place, type Selector } from './check-columns.ts'
import { name } from './names.ts'
import { defineStep, slot } from './step-kind.ts'

type Unpivot = Place & { readonly name: string; readonly groups: readonly [{ readonly columns: Selector; readonly value: string }]; readonly empty?: 'keep' | 'drop' | undefined }

type Layout = { readonly gathered: readonly Field[]; readonly kept: readonly Field[]; readonly type: ColumnType; readonly label: string; readonly value: string; readonly at: number; readonly schema: Schema }

/** Columns that repeat, then label and value: last, or where `before` or `after` says. */
const layout = (params: Unpivot, input: Schema): Layout => {
  const [group] = params.groups
  const gathered = [...new Set(selected(group.columns, input))]
  const kept = input.filter((field) => !gathered.includes(field))
  const names = kept.map((field) => field.name)
  const label = freeName(params.name, names)
  const value = freeName(group.value, [...names, label])
  const type = typeTogether(gathered.map((field) => field.type))
  const at = positionFor(params, names)
  const made: Field[] = [{ name: label, type: 'text' }, { name: value, type }]
  return { gathered, kept, type, label, value, at, schema: [...kept.slice(0, at), ...made, ...kept.slice(at)] }
}

/** Which of the made rows are kept when empties are dropped. */
const filledRows = (column: Column): Int32Array => {
  const rows = new IntList()
  for (let i = 0, n = lengthOf(column); i < n; i++) if (!isEmptyAt(column, i)) rows.push(i)
  return rows.done()
}

const widenSql = (part: Code, from: ColumnType, to: ColumnType): Code => (from === to ? part : to === 'text' ? sql`shown(${part})` : sql`${part}::${code(to === 'decimal' ? 'float8' : 'timestamp')}`)

export const unpivot = defineStep<Unpivot>({
  kind: 'unpivot',
  verb: 'Turn columns into rows',
  words: ['unpivot', 'melt', 'columns to rows', 'gather', 'longer', 'stack', 'transpose', 'crosstab', 'tidy', 'long'],
  acts: ['columns'],
  params: z.strictObject({ name, groups: z.tuple([z.strictObject({ columns: selectorSchema, value: name })]), empty: z.enum(['keep', 'drop']).optional(), ...placeSchema }),
  sentence: ({ name: label, groups: [group], empty = 'keep' }) => [
    'Turn ',
    columnsSlot(group.columns, 'groups', 0, 'columns'),
    ' into rows: the name as ',
    slot(label, 'name', ['name']),
    ', the value as ',
    slot(group.value, 'name', ['groups', 0, 'value']),
    ', and ',
    slot(empty === 'keep' ? 'keep the empty ones' : 'leave out the empty ones', 'choice', ['empty'], [['keep', 'keep the empty ones'], ['drop', 'leave out the empty ones']]),
    '.',
  ],
  output: (params, input, context) => {
    const fields = checkSelector(params.groups[0].columns, input, context, 'groups', 0, 'columns')
    checkPlace(params, input, context)
    if (fields.length === 0 && !Array.isArray(params.groups[0].columns)) context.report({ code: 'no-columns-chosen', selector: 'that rule' }, 'groups', 0, 'columns')
    return layout(params, input).schema
  },
  run: (params, table) => {
    const { gathered, kept, type, at, schema } = layout(params, table.schema)
    const columns = gathered.map((field) => convert(table.named(field.name), { type }).column)
    const value = columns.length > 0 ? interleave(type, columns) : emptyColumn(type, 0)
    const labels = columnOf('text', gathered.map((field) => field.name))
    const each = repeatEach(table.rowCount, gathered.length)
    const turns = new Int32Array(each.length)
    for (let i = 0; i < turns.length; i++) turns[i] = i % gathered.length
    const rows = params.empty === 'drop' ? filledRows(value) : undefined
    const index = rows ? rows.map((row) => each[row] as number) : each
    const label = gather(labels, rows ? rows.map((row) => turns[row] as number) : turns)
    const repeated = table.select(kept.map((field) => table.indexOf(field.name))).rows(index)
    const [labelName = '', valueName = ''] = [schema[at]?.name, schema[at + 1]?.name]
    const empties = rows ? each.length - rows.length : each.length - filledRows(value).length
    return {
      table: repeated.with(at, labelName, label).with(at + 1, valueName, rows ? gather(value, rows) : value),
      origin: { kind: 'index', index },
      notes: { gatheredColumns: gathered.length, emptyCells: empties },
    }
  },
  carries: (params, input) => Object.fromEntries(layout(params, input).kept.map((field) => [field.name, field.name])),
  sql: (params, { from, input, output, column }) => {
    const { gathered, type, label, value } = layout(params, input)
    const pairs = gathered.map((field, i) => sql`(${i + 1}, ${field.name}::text, ${widenSql(sql`t.${column(field.name)}`, field.type, type)})`)
    const names = output.map((field) => (field.name === label ? sql`u.label as ${column(label)}` : field.name === value ? sql`u.value as ${column(value)}` : sql`t.${column(field.name)}`))
    return sql`select row_number() over (order by t."¶", u.turn) as "¶", ${names}\nfrom ${from} t cross join lateral (values ${joined(pairs, ', ')}) u(turn, label, value)${params.empty === 'drop' ? code('\nwhere u.value is not null') : code('')}`
  },
  python: (params, { frame }) => {
    return py`${frame} = unpivot(${frame}, ${selectorPython(params.groups[0].columns, frame)}, name=${params.name}, value=${params.groups[0].value}, drop_empty=${params.empty === 'drop'}${placePython(params)})`
  },
  takesIn: (params, column, input) => selectedNames(params.groups[0].columns, input).includes(column),
})
