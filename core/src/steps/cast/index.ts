import { z } from 'zod'
import { sqlPatterns, pythonPatterns } from '../../codegen/patterns.ts'
import { code, joined, psql, py, sql, type Code, sqlHelper, pyHelper } from '../../codegen/tag.ts'
import { scalarTypes, type ColumnType } from '../../table/column.ts'
import { compileDatePattern } from '../../reading/date-pattern.ts'
import { plainLocale, type NumberLocale } from '../../table/number.ts'
import { canConvert, convert } from '../../reading/convert.ts'
import { listed, typeWords } from '../../messages/words.ts'
import type { Schema } from '../../table/table.ts'
import {
  checkSelector,
  columnsSlot,
  selectColumns,
  selected,
  selectedNames,
  eachColumnPython,
  selectorSchema,
  type Selector,
} from '../shared/columns.ts'
import { textReader } from '../shared/text-reader.ts'
import { defineStep, slot, type CheckContext, type ParamPath, type SqlContext } from '../shared/step-kind.ts'
import { localeSchema } from '../../reading/read-options.ts'
import { isPlain, localeWords } from '../../reading/number-locales.ts'
import { moreDatePatterns, otherNumberSigns } from '../shared/reading-fixes.ts'
import { textsOf } from '../shared/draft-values.ts'
import type { Field } from '../../table/table.ts'

type Cast = {
  readonly columns: Selector
  readonly type: ColumnType
  readonly formats?: readonly string[] | undefined
  readonly locale?: NumberLocale | undefined
  readonly language?: 'en' | undefined
  readonly year?: number | undefined
}

/** “dd/MM/yyyy” in words: day/month/year. */
export const formatWords = (format: string): string =>
  format.replace(/([A-Za-z])(?!\1)(?=[A-Za-z])(?![a]$)/g, /'/.test(format) ? '$1' : '$1 ').replace(
    /'([^']*)'|([A-Za-z])\2*/g,
    (all: string, plain?: string, letter?: string) =>
      plain ??
      {
        y: 'year',
        M: all.length > 2 ? 'month name' : 'month',
        d: 'day',
        H: 'hour',
        h: 'hour',
        m: 'minute',
        s: 'second',
        S: 'fraction',
        a: 'am/pm',
        E: 'weekday',
      }[letter ?? ''] ??
      all,
  )

/** Reports date patterns that cannot be read. */
export const checkFormats = (
  formats: readonly string[] | undefined,
  { report }: CheckContext,
  ...path: ParamPath
): void =>
  formats?.forEach((format, i) => {
    const compiled = compileDatePattern(format)
    if ('problem' in compiled) report({ code: 'bad-date-pattern', pattern: format, why: compiled.problem }, ...path, i)
  })

const isDated = (type: ColumnType): type is 'date' | 'datetime' | 'time' =>
  type === 'date' || type === 'datetime' || type === 'time'

/** Text read as a value; one home for `cast` and for `open` with types. */
export const readSql = (
  part: Code,
  { type, formats = [], locale = plainLocale, year }: Omit<Cast, 'columns'>,
): Code => {
  if (isDated(type)) return sql`${sqlHelper(`read_${type}`)}(${part}, ${sqlPatterns(formats, year)})`
  if (type === 'boolean') return sql`${sqlHelper('read_boolean')}(${part})`
  if (type === 'text' || type === 'list') return part
  if (type === 'integer') return sql`${sqlHelper('read_integer')}(${part}, ${locale.decimal}, ${locale.group})`
  return sql`${sqlHelper('read_number')}(${part}, ${locale.decimal}, ${locale.group})`
}

/** A statement that says how many cells of each column are filled in `from` and empty in the table that was made of it. */
export const unreadSql = (
  cells: readonly { readonly name: string; readonly kind: ColumnType; readonly text: Code }[],
  from: Code,
  { made, column }: Pick<SqlContext, 'made' | 'column'>,
): Code => {
  const typed = cells.filter(({ kind }) => kind !== 'text')
  if (typed.length === 0) return code('')
  const counts = typed.map(
    ({ name, kind, text }) =>
      sql`${sqlHelper('cells_read')}(${name}, ${kind}, count(${text}) - (select count(${column(name)}) from ${made}))`,
  )
  return sql`select array[${joined(counts, ', ')}] as ignored from ${from} ${psql('gset')}\n`
}

const convertSql = (part: Code, from: ColumnType, to: Cast): Code => {
  const { type } = to
  if (from === type) return part
  if (from === 'text') return readSql(part, to)
  if (type === 'text') return sql`${sqlHelper('shown')}(${part})`
  if (type === 'decimal') return from === 'boolean' ? sql`(${part}::int)::float8` : sql`${part}::float8`
  if (type === 'integer')
    return from === 'boolean' ? sql`(${part}::int)::bigint` : sql`${sqlHelper('to_whole')}(${part})`
  if (type === 'boolean') return sql`(${part} <> 0)`
  return type === 'datetime' ? sql`${part}::timestamp` : sql`${part}::${code(type)}`
}

/** Dates take long to read and come again and again: each different text is read once, and joined. */
const readOnce = (
  field: Field,
  to: Cast,
  { from, column }: SqlContext,
): { readonly read: Code; readonly join?: Code } => {
  const text = column(field.name)
  if (field.type !== 'text' || !isDated(to.type)) return { read: convertSql(text, field.type, to) }
  const texts = column(`¶ ${field.name}`)
  return {
    read: sql`${texts}."¶read"`,
    join: sql`\nleft join (select "¶text", ${convertSql(code('"¶text"'), 'text', to)} as "¶read" from (select distinct ${text} as "¶text" from ${from}) texts offset 0) ${texts} on ${texts}."¶text" = ${text}`,
  }
}

const wordsFor = ({ type, formats }: Cast): string => {
  if (formats && formats.length > 3)
    return `${formats.slice(0, 2).map(formatWords).join(', ')} or in ${formats.length - 2} other forms`
  if (formats && formats.length > 0) return listed(formats.map(formatWords), 'or')
  if (type === 'date') return 'year-month-day'
  return 'the ISO way'
}

/** Whether all columns that are named hold text. */
const readsTexts = ({ columns }: Cast, input: Schema): boolean =>
  Array.isArray(columns) && selected(columns, input).every((field) => field.type === 'text')

/** Reads columns as another type. */
export const cast = defineStep<Cast>({
  changeWord: 'read',
  kind: 'cast',
  verb: 'Change its type',
  words: ['cast', 'type', 'convert', 'number', 'date', 'parse', 'read as', 'format', 'text to date', 'text to number'],
  params: z.strictObject({
    columns: selectorSchema,
    type: z.enum(scalarTypes),
    formats: z.array(z.string().min(1)).optional(),
    locale: localeSchema.optional(),
    language: z.literal('en').optional(),
    year: z.int().min(1).max(9999).optional(),
  }),
  drafts: {
    table: ({ schema }) => [
      { rank: 190, verb: 'Change types', params: { columns: [schema[0]?.name ?? ''], type: 'text' } },
    ],
    columns: ({ columns, schema }) => [
      {
        rank: 30,
        key: 'T',
        verb: columns.length === 1 ? 'Change its type' : 'Change their type',
        params: { columns, type: textsOf(columns, schema).length === columns.length ? 'decimal' : 'text' },
      },
    ],
  },
  sentence: (params) => [
    'Read ',
    columnsSlot(params.columns, 'columns'),
    ' as ',
    slot(typeWords[params.type], 'types', ['type']),
    ...(isDated(params.type) ? [', written ', slot(wordsFor(params), 'formats', ['formats'])] : []),
    ...(params.year === undefined ? [] : [', where no year stands ', slot(String(params.year), 'number', ['year'])]),
    ...(params.locale && !isPlain(params.locale)
      ? [', with ', slot(localeWords(params.locale), 'types', ['type'])]
      : []),
    '.',
  ],
  readingFixes: ({ columns, type, formats, locale, year }, column, texts) => {
    const dates = moreDatePatterns({ type, formats, year }, texts)
    const numbers = otherNumberSigns(type, locale, texts)
    // another sign before decimals holds for every column of the step: only where it is of this one alone
    const alone = Array.isArray(columns) && columns.length === 1 && columns[0] === column
    return [
      ...(dates
        ? [
            {
              params: { formats: dates.formats },
              words: listed(dates.added.map(formatWords), 'or'),
              reads: dates.reads,
            },
          ]
        : []),
      ...(numbers && alone
        ? [
            {
              params: { locale: numbers.locale },
              words: `numbers with ${localeWords(numbers.locale)}`,
              reads: numbers.reads,
            },
          ]
        : []),
    ]
  },
  output: ({ columns, type, formats }, input, context) => {
    const fields = checkSelector(columns, input, context, 'columns')
    checkFormats(formats, context, 'formats')
    for (const field of fields)
      if (!canConvert(field.type, type))
        context.report({ code: 'cannot-cast', column: field.name, from: field.type, to: type }, 'type')
    return input.map((field) => (fields.includes(field) ? { name: field.name, type } : field))
  },
  run: ({ columns, type, formats, locale, year }, table) => {
    let result = table
    let cellsChanged = 0
    const unreadable = []
    for (const name of selectedNames(columns, table.schema)) {
      const at = result.positionOf(name)
      const converted = convert(result.column(at), { type, formats, locale, year })
      result = result.with(at, name, converted.column, true)
      cellsChanged += converted.changed
      if (converted.unreadable.length > 0) unreadable.push({ column: name, rows: converted.unreadable })
    }
    return { table: result, lineage: { kind: 'same' }, cellsChanged, unreadable }
  },
  trace: {
    changed: (before, after) => (after === 'empty' ? `${before} cannot be read` : `${before} read as ${after}`),
  },
  scripts: {
    sql: (params, context) => {
      const cells = selected(params.columns, context.input).map((field) => ({
        name: field.name,
        kind: params.type,
        text: context.column(field.name),
        ...readOnce(field, params, context),
      }))
      const joins = cells.flatMap(({ join }) => join ?? [])
      return {
        body: selectColumns(
          context,
          Object.fromEntries(cells.map(({ name, read }) => [name, read])),
          joined(joins, ''),
        ),
        after: unreadSql(cells, context.from, context),
      }
    },
    python: (params, { frame, input, plain }) => {
      const { columns, type, formats = [], locale = plainLocale, year } = params
      const reader = plain && readsTexts(params, input) ? textReader({ type, formats, locale }) : undefined
      if (reader)
        return eachColumnPython(
          columns,
          frame,
          (name) => py`${frame}[${name}] = ${pyHelper('read_cells')}(${frame}[${name}], ${reader}, ${type})`,
        )
      const options = [
        ...(isDated(type) && formats.length > 0 ? [py`, formats=${pythonPatterns(formats, year)}`] : []),
        ...(locale.decimal !== '.' || locale.group !== ','
          ? [py`, decimal=${locale.decimal}, group=${locale.group}`]
          : []),
      ]
      return eachColumnPython(
        columns,
        frame,
        (name) => py`${frame}[${name}] = ${pyHelper('cast')}(${frame}[${name}], ${type}${joined(options, '')})`,
      )
    },
  },
  absorbs: ({ columns }, column, input) => selectedNames(columns, input).includes(column),
})
