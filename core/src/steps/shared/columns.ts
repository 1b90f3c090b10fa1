import { ownValue } from '../../table/own.ts'
import { z } from 'zod'
import { code, joined, lines, py, sql, type Code, pyHelper } from '../../codegen/tag.ts'
import { columnTypes, isNumber, type ColumnType } from '../../table/column.ts'
import { textOfCell } from '../../table/cell-text.ts'
import type { Field, Schema, Table } from '../../table/table.ts'
import { wildcard } from '../../table/text.ts'
import { listed, nearest, quoted } from '../../messages/words.ts'
import { name } from '../../reading/name-schema.ts'
import { slot, type CheckContext, type ParamPath, type SentenceSlot, type SqlContext } from './step-kind.ts'

/** Column selectors: a list of names, or a rule that is worked out anew on each replay. */
export type Selector =
  | readonly string[]
  | { readonly all: true }
  | { readonly except: readonly string[] }
  | { readonly like: string }
  | { readonly type: ColumnType | 'number' }
  | { readonly from: string; readonly to: string }
  | { readonly any: readonly Selector[] }

/** Schema of a selector. */
export const selectorSchema: z.ZodType<Selector> = z
  .lazy(() =>
    z.union([
      z.array(name).min(1),
      z.strictObject({ all: z.literal(true) }),
      z.strictObject({ except: z.array(name) }),
      z.strictObject({ like: z.string().min(1) }),
      z.strictObject({ type: z.enum([...columnTypes, 'number']) }),
      z.strictObject({ from: name, to: name }),
      z.strictObject({ any: z.array(selectorSchema).min(1) }),
    ]),
  )
  .meta({ id: 'Selector' })

const isList = (selector: Selector): selector is readonly string[] => Array.isArray(selector)

const ofType = (type: ColumnType, wanted: ColumnType | 'number'): boolean =>
  wanted === 'number' ? isNumber(type) : type === wanted

/** Positions that a selector means, unknown names left out: a list in its own order, all else in table order. */
const positionsOf = (selector: Selector, schema: Schema): number[] => {
  const names = schema.map((field) => field.name)
  if (isList(selector)) return selector.map((one) => names.indexOf(one)).filter((at) => at >= 0)
  const every = names.map((_, i) => i)
  if ('all' in selector) return every
  if ('except' in selector) return every.filter((i) => !selector.except.includes(names[i] as string))
  if ('like' in selector) return every.filter((i) => wildcard(selector.like).test(names[i] as string))
  if ('type' in selector) return every.filter((i) => ofType((schema[i] as Field).type, selector.type))
  if ('from' in selector) {
    const from = names.indexOf(selector.from)
    const to = names.indexOf(selector.to)
    return from < 0 || to < 0 ? [] : every.filter((i) => i >= from && i <= to)
  }
  const meant = new Set(selector.any.flatMap((one) => positionsOf(one, schema)))
  return every.filter((i) => meant.has(i))
}

/** The fields that a selector means, in the order it gives. */
export const selected = (selector: Selector, schema: Schema): Field[] =>
  positionsOf(selector, schema).map((i) => schema[i] as Field)
/** Their names. */
export const selectedNames = (selector: Selector, schema: Schema): string[] =>
  selected(selector, schema).map((field) => field.name)

/** Columns that rows are grouped by; none makes one group. */
export type GroupKeys = Selector | readonly []
/** Schema of group keys, which may be none. */
export const bySchema: z.ZodType<GroupKeys> = z.union([selectorSchema, z.tuple([])])
const noKeys = (by: GroupKeys): boolean => Array.isArray(by) && by.length === 0
/** The fields of group keys. */
export const keysOf = (by: GroupKeys, schema: Schema): Field[] => (noKeys(by) ? [] : [...new Set(selected(by, schema))])
/** Group keys as they stand in a sentence. */
export const byWords = (by: GroupKeys): string => (noKeys(by) ? '' : selectorWords(by))
/** Reports group keys that are not there. */
export const checkBy = (by: GroupKeys, schema: Schema, context: CheckContext, ...path: ParamPath): void => {
  if (!noKeys(by)) checkSelector(by, schema, context, ...path)
}

/** The problem of a column that is not there, with the nearest names. */
export const missingColumn = (column: string, schema: Schema) => ({
  code: 'missing-column' as const,
  column,
  nearest: nearest(
    column,
    schema.map((field) => field.name),
  ),
})

/** Checks against another table's columns: what is missing is missing there, and is let pass where only data can tell. */
export const inTable = (context: CheckContext, table: string): CheckContext => ({
  ...context,
  report: ((problem: Parameters<CheckContext['report']>[0], ...path: ParamPath) => {
    if (problem.code !== 'missing-column') context.report(problem, ...path)
    else if (!context.tableUnsure(table))
      context.report(
        { code: 'unknown-column-of', table: context.names(table), column: problem.column, nearest: problem.nearest },
        ...path,
      )
  }) as CheckContext['report'],
})

/** The column of that name; reported where there is none. */
export const checkColumn = (
  column: string,
  schema: Schema,
  { report }: CheckContext,
  ...path: ParamPath
): Field | undefined => {
  const field = schema.find((one) => one.name === column)
  if (!field) report(missingColumn(column, schema), ...path)
  return field
}

/** What a selector means here; every name that is not there is reported, and a list that names one twice. */
export const checkSelector = (
  selector: Selector,
  schema: Schema,
  context: CheckContext,
  ...path: ParamPath
): Field[] => {
  if (isList(selector)) {
    selector.forEach((column, i) => {
      checkColumn(column, schema, context, ...path, i)
      if (selector.indexOf(column) !== i) context.report({ code: 'twice-named', column }, ...path, i)
    })
  } else if ('except' in selector)
    selector.except.forEach((column, i) => checkColumn(column, schema, context, ...path, 'except', i))
  else if ('from' in selector) {
    const from = checkColumn(selector.from, schema, context, ...path, 'from')
    const to = checkColumn(selector.to, schema, context, ...path, 'to')
    if (from && to && schema.indexOf(from) > schema.indexOf(to))
      context.report({ code: 'wrong-order', from: from.name, to: to.name }, ...path)
  } else if ('any' in selector) selector.any.forEach((one, i) => checkSelector(one, schema, context, ...path, 'any', i))
  return selected(selector, schema)
}

const typeNames: Readonly<Record<ColumnType | 'number', string>> = {
  number: 'number',
  text: 'text',
  integer: 'whole-number',
  decimal: 'decimal',
  boolean: 'yes-or-no',
  date: 'date',
  datetime: 'date-and-time',
  time: 'time',
  list: 'list',
}

/** A selector in words: “Jan and Feb”, “all columns but Clinic”. */
export const selectorWords = (selector: Selector): string => {
  if (isList(selector))
    return selector.length > 6 ? `${selector.slice(0, 4).join(', ')} and ${selector.length - 4} more` : listed(selector)
  if ('all' in selector) return 'all columns'
  if ('except' in selector)
    return selector.except.length === 0 ? 'all columns' : `all columns but ${selectorWords(selector.except)}`
  if ('like' in selector) return `the columns like ${quoted(selector.like)}`
  if ('type' in selector) return `the ${typeNames[selector.type]} columns`
  if ('from' in selector) return `the columns from ${selector.from} to ${selector.to}`
  return listed(selector.any.map(selectorWords))
}

/** A selector as open words of a sentence. */
export const columnsSlot = (selector: Selector, ...path: ParamPath): SentenceSlot =>
  slot(selectorWords(selector), 'columns', path)
/** “the column ” or “the columns ” before a list of names; nothing before a rule, whose words say it themselves. */
export const columnNoun = (selector: Selector): string => {
  if (isList(selector)) {
    if (selector.length === 1) return 'the column '
    return 'the columns '
  }
  return ''
}

/** The type of a column; undefined where there is none of the name. */
export const typeIn = (schema: Schema, name: string | undefined): ColumnType | undefined =>
  schema.find((field) => field.name === name)?.type

/** A name that no other column has: “Fee”, then “Fee 2”, “Fee 3”. */
export const freeName = (wanted: string, taken: readonly string[]): string => {
  if (!taken.includes(wanted)) return wanted
  let n = 2
  while (taken.includes(`${wanted} ${n}`)) n++
  return `${wanted} ${n}`
}

/** Where a new column goes: last, or beside another. */
export const placeSchema = { before: name.optional(), after: name.optional() }
/** Where a new column stands. */
export type ColumnPlacement = { readonly before?: string | undefined; readonly after?: string | undefined }
/** Reports a neighbour that is not there. */
export const checkPlace = (place: ColumnPlacement, schema: Schema, context: CheckContext): void => {
  if (place.before !== undefined) checkColumn(place.before, schema, context, 'before')
  if (place.after !== undefined) checkColumn(place.after, schema, context, 'after')
}
/** The schema with a new column in its place. */
export const withField = (schema: Schema, field: Field, place: ColumnPlacement): Schema => {
  const at = positionFor(
    place,
    schema.map((one) => one.name),
  )
  return [...schema.slice(0, at), field, ...schema.slice(at)]
}
/** A placement as Python keyword arguments. */
export const placePython = (place: ColumnPlacement): Code => {
  if (place.before !== undefined) return py`, before=${place.before}`
  if (place.after !== undefined) return py`, after=${place.after}`
  return code('')
}
/** Cells of pandas as a column of this name, where its place asks for no more than standing last, in its own place or behind another. */
export const putPandas = (
  frame: Code,
  input: Schema,
  name: string,
  { before, after }: ColumnPlacement,
  cells: Code,
): Code | undefined => {
  if (before !== undefined) return undefined
  return after === undefined || input.some((field) => field.name === name)
    ? py`${frame}[${name}] = ${cells}`
    : py`${frame} = ${pyHelper('put_after')}(${frame}, ${name}, ${cells}, ${after})`
}
/** The position at which a new column is put in. */
export const positionFor = (place: ColumnPlacement, names: readonly string[]): number => {
  const before = place.before === undefined ? -1 : names.indexOf(place.before)
  if (before >= 0) return before
  const after = place.after === undefined ? -1 : names.indexOf(place.after)
  return after >= 0 ? after + 1 : names.length
}

/** Python that is the same for each column of a selector: once for one that is named, else in a loop over their names. */
export const eachColumnPython = (selector: Selector, frame: Code, statement: (name: Code) => Code): Code => {
  const [only, ...more] = isList(selector) ? selector : []
  if (only !== undefined && more.length === 0) return statement(py`${only}`)
  return lines(py`for c in ${selectorPython(selector, frame)}:`, py`    ${statement(code('c'))}`)
}
/** Types whose columns pandas holds as objects: one without values does not tell its type. */
const pandasObjects: ReadonlySet<ColumnType> = new Set(['date', 'datetime', 'time', 'list'])
/** The columns whose types a script must tell pandas. */
export const untoldFields = (schema: Schema): Schema => schema.filter(({ type }) => pandasObjects.has(type))
/** The types of columns by name, as a Python dictionary. */
export const kindsPython = (fields: Schema): Code =>
  py`{${joined(
    fields.map(({ name, type }) => py`${name}: ${type}`),
    ', ',
  )}}`

/** A selector as a Python list of names; rules look at the frame when the script runs. */
export const selectorPython = (selector: Selector, frame: Code): Code => {
  if (isList(selector)) return py`${selector}`
  if ('all' in selector) return py`list(${frame}.columns)`
  if ('except' in selector) return py`[c for c in ${frame}.columns if c not in ${selector.except}]`
  if ('like' in selector) return py`${pyHelper('columns_like')}(${frame}, ${selector.like})`
  if ('type' in selector) return py`${pyHelper('columns_of_type')}(${frame}, ${selector.type})`
  if ('from' in selector) return py`${pyHelper('columns_between')}(${frame}, ${selector.from}, ${selector.to})`
  return py`${pyHelper('in_table_order')}(${frame}, ${joined(
    selector.any.map((one) => selectorPython(one, frame)),
    ' + ',
  )})`
}

/** select "¶", a, b, from …: the columns of a step's output, each by its own expression where one is given. */
export const selectColumns = (
  { from, output, column }: SqlContext,
  expressions: Readonly<Record<string, Code>> = {},
  tail: Code = code(''),
): Code =>
  sql`select ${joined([code('"¶"'), ...output.map((field) => (ownValue(expressions, field.name) ? sql`${ownValue(expressions, field.name) as Code} as ${column(field.name)}` : column(field.name)))], ', ')}\nfrom ${from}${tail}`

/** In a clash the renamed column gives way; between two renamed ones the later does. */
export const settle = (wanted: readonly string[], before: readonly string[]): string[] => {
  const taken = wanted.filter((one, i) => one === before[i])
  return wanted.map((one, i) => {
    if (one === before[i]) return one
    const free = freeName(one, taken)
    taken.push(free)
    return free
  })
}

/** A cell as a sentence shows it; “empty” where there is none, and of a column that is not there. */
export const cellWords = (table: Table, column: string, row: number): string => {
  const at = table.positionOf(column)
  const cell = at < 0 ? null : table.cell(at, row)
  return cell === null ? 'empty' : textOfCell(table.schema[at]?.type ?? 'text', cell)
}
