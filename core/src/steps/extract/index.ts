import { ownValue } from '../../table/own.ts'
import { z } from 'zod'
import { compilePattern, patternProblem } from '../../codegen/regex/engine.ts'
import { partSql, patternPython } from '../../codegen/regex/scripts.ts'
import { code, py, sql, type Code, sqlHelper, pyHelper } from '../../codegen/tag.ts'
import { isNullAt, lengthOf } from '../../table/column.ts'
import { mapText } from '../../table/gather.ts'
import type { Schema } from '../../table/table.ts'
import { quoted } from '../../messages/words.ts'
import {
  typeIn,
  checkColumn,
  checkPlace,
  freeName,
  placePython,
  putPandas,
  placeSchema,
  positionFor,
  selectColumns,
  withField,
  type ColumnPlacement,
} from '../shared/columns.ts'
import { name } from '../../reading/name-schema.ts'
import { defineStep, slot } from '../shared/step-kind.ts'
import { escaped, takesFor, type Take } from './takes.ts'

type Occurrence = 'first' | 'last'
type Extract = ColumnPlacement & {
  readonly column: string
  readonly as: string
  readonly take: Take
  readonly occurrence?: Occurrence | undefined
}

const between = (text: string, a: string, b: string, occurrence: Occurrence): string => {
  let found = ''
  for (let start = text.indexOf(a); start >= 0; start = text.indexOf(a, start + 1)) {
    const end = text.indexOf(b, start + a.length)
    if (end < 0) break
    found = text.slice(start + a.length, end)
    if (occurrence === 'first') break
  }
  return found
}

/** What is taken from a text; "" where nothing is found. */
const taker = (take: Take, occurrence: Occurrence): ((text: string) => string) => {
  const find = (text: string, what: string): number =>
    occurrence === 'first' ? text.indexOf(what) : text.lastIndexOf(what)
  if ('before' in take) return (text) => text.slice(0, Math.max(0, find(text, take.before)))
  if ('after' in take)
    return (text) => (find(text, take.after) < 0 ? '' : text.slice(find(text, take.after) + take.after.length))
  if ('between' in take) return (text) => between(text, take.between[0], take.between[1], occurrence)
  if ('first' in take) return (text) => Array.from(text).slice(0, take.first).join('')
  if ('last' in take) return (text) => Array.from(text).slice(-take.last).join('')
  if ('from' in take)
    return (text) =>
      Array.from(text)
        .slice(take.from - 1, take.from - 1 + take.length)
        .join('')
  const compiled = compilePattern(take.pattern, false)
  return (text) => {
    const matcher = compiled.matcher(text)
    const group = take.group ?? 0
    let found = ''
    while (matcher.find()) {
      found = group <= matcher.groupCount() ? (matcher.group(group) ?? '') : ''
      if (occurrence === 'first') break
    }
    return found
  }
}

const blankWords: Readonly<Record<string, string>> = { ' ': 'blank', '\n': 'line break', '\t': 'tab' }
const signWords = (text: string): string => ownValue(blankWords, text) ?? quoted(text)
/** A taking in words: “what stands before the first “-””. */
export const takeWords = (take: Take, occurrence: Occurrence): string => {
  const which = `the ${occurrence} `
  if ('before' in take) return `what stands before ${which}${signWords(take.before)}`
  if ('after' in take) return `what stands after ${which}${signWords(take.after)}`
  if ('between' in take)
    return `what stands between ${which}${signWords(take.between[0])} and ${signWords(take.between[1])}`
  if ('first' in take) return take.first === 1 ? 'the first character' : `the first ${take.first} characters`
  if ('last' in take) return take.last === 1 ? 'the last character' : `the last ${take.last} characters`
  if ('from' in take)
    return `${take.length === 1 ? 'a character' : `${take.length} characters`} from the ${take.from}. on`
  return `${which}match of ${take.pattern}${take.group ? `, its group ${take.group}` : ''}`
}

const takeSql = (cell: Code, take: Take, occurrence: Occurrence): Code => {
  if ('before' in take || 'after' in take) {
    const what = 'before' in take ? take.before : take.after
    return sql`${sqlHelper('before' in take ? 'text_before' : 'text_after')}(${cell}, ${what}, ${occurrence === 'last'})`
  }
  if ('between' in take)
    return sql`${sqlHelper('text_between')}(${cell}, ${take.between[0]}, ${take.between[1]}, ${occurrence === 'last'})`
  if ('first' in take) return sql`left(${cell}, ${take.first})`
  if ('last' in take) return sql`right(${cell}, ${take.last})`
  if ('from' in take) return sql`substr(${cell}, ${take.from}, ${take.length})`
  return partSql(cell, take.pattern, take.group ?? 0, occurrence === 'last')
}

const takePython = (take: Take): Code => {
  if ('before' in take) return py`before=${take.before}`
  if ('after' in take) return py`after=${take.after}`
  if ('between' in take) return py`between=(${take.between[0]}, ${take.between[1]})`
  if ('first' in take) return py`first=${take.first}`
  if ('last' in take) return py`last=${take.last}`
  if ('from' in take) return py`start=${take.from}, length=${take.length}`
  return py`pattern=${patternPython(take.pattern)}, group=${take.group ?? 0}`
}

const nameOf = ({ as }: Extract, schema: Schema): string =>
  freeName(
    as,
    schema.map((field) => field.name),
  )

const count = z.number().int().min(1)
/** Takes a part of a text. */
export const extract = defineStep<Extract>({
  kind: 'extract',
  verb: 'Take a part of the text…',
  words: [
    'extract',
    'take',
    'substring',
    'before',
    'after',
    'between',
    'left',
    'right',
    'middle',
    'part',
    'pattern',
    'regular expression',
    'code',
  ],
  params: z.strictObject({
    column: name,
    as: name,
    take: z.union([
      z.strictObject({ before: z.string().min(1) }),
      z.strictObject({ after: z.string().min(1) }),
      z.strictObject({ between: z.tuple([z.string().min(1), z.string().min(1)]) }),
      z.strictObject({ first: count }),
      z.strictObject({ last: count }),
      z.strictObject({ from: count, length: count }),
      z.strictObject({ pattern: z.string().min(1), group: z.number().int().min(0).max(9).optional() }),
    ]),
    occurrence: z.enum(['first', 'last']).optional(),
    ...placeSchema,
  }),
  drafts: {
    columns: ({ columns: [column = '', ...more], schema }) =>
      more.length === 0 && typeIn(schema, column) === 'text'
        ? [{ rank: 140, params: { column, as: `${column} part`, take: { before: '-' }, after: column } }]
        : [],
    part: ({ column, value, from, to }) => {
      const drafts = takesFor(value, from, to).map(({ take, occurrence }) => ({
        rank: 10,
        verb: `Take ${takeWords(take, occurrence ?? 'first')}`,
        params: { column, as: `${column} part`, take, ...(occurrence ? { occurrence } : {}), after: column },
      }))
      return drafts.filter(({ verb }, i) => drafts.findIndex((other) => other.verb === verb) === i)
    },
  },
  sentence: ({ column, as, take, occurrence = 'first' }) => [
    'Take ',
    slot(takeWords(take, occurrence), 'take', []),
    ' in ',
    slot(column, 'oneColumn', ['column']),
    ' as ',
    slot(as, 'name', ['as']),
    '.',
  ],
  output: (params, input, context) => {
    const field = checkColumn(params.column, input, context, 'column')
    if (field && field.type !== 'text')
      context.report({ code: 'wrong-type', column: field.name, type: field.type, needs: 'text' }, 'column')
    checkPlace(params, input, context)
    if ('pattern' in params.take) {
      const why = patternProblem(params.take.pattern) ?? groupProblem(params.take.pattern, params.take.group ?? 0)
      if (why) context.report({ code: 'bad-pattern', pattern: params.take.pattern, why }, 'take', 'pattern')
    }
    return withField(input, { name: nameOf(params, input), type: 'text' }, params)
  },
  run: (params, table) => {
    const from = table.named(params.column)
    if (from.type !== 'text') throw new Error(`extract from ${from.type}`)
    const made = mapText(from, taker(params.take, params.occurrence ?? 'first'))
    let missed = 0
    for (let i = 0, n = lengthOf(from); i < n; i++) if (isNullAt(made, i) && !isNullAt(from, i)) missed++
    return {
      table: table.with(positionFor(params, table.names), nameOf(params, table.schema), made),
      lineage: { kind: 'same' },
      notes: { notFound: missed },
    }
  },
  trace: {
    cells: (params, { before }, column, rows) =>
      column === nameOf(params, before.schema) ? [{ column: params.column, rows }] : undefined,
  },
  scripts: {
    sql: (params, context) =>
      selectColumns(context, {
        [nameOf(params, context.input)]:
          sql`nullif(${takeSql(context.column(params.column), params.take, params.occurrence ?? 'first')}, '')`,
      }),
    python: (params, { frame, input, plain }) =>
      (plain ? plainPython(params, frame, input) : undefined) ??
      py`${frame} = ${pyHelper('put')}(${frame}, ${nameOf(params, input)}, ${pyHelper('take_part')}(${frame}[${params.column}], ${takePython(params.take)}${params.occurrence === 'last' ? code(', occurrence="last"') : code('')}), "text"${placePython(params)})`,
  },
})

/** The pattern of which the one group is what is taken, where a pattern says it. */
const takenPattern = (take: Take, last: boolean): string | undefined => {
  if ('before' in take) return `^(${last ? '.*' : '.*?'})${escaped(take.before)}`
  if ('after' in take) return `${last ? '^.*' : ''}${escaped(take.after)}(.*)`
  return undefined
}

/** What is taken, by what pandas has for texts. */
const plainPython = (params: Extract, frame: Code, input: Schema): Code | undefined => {
  const { take, column, occurrence } = params
  const cells = py`${frame}[${column}].str`
  const put = (taken: Code) =>
    putPandas(frame, input, nameOf(params, input), params, py`${pyHelper('filled_text')}(${taken})`)
  if ('first' in take) return put(py`${cells}[:${take.first}]`)
  if ('last' in take) return put(py`${cells}[-${take.last}:]`)
  const pattern = takenPattern(take, occurrence === 'last')
  return pattern === undefined ? undefined : put(py`${cells}.extract(${`(?s)${pattern}`}, expand=False)`)
}

const groupProblem = (pattern: string, group: number): string | undefined => {
  const groups = compilePattern(pattern, false).groupCount()
  return group > groups ? `it has ${groups === 0 ? 'no groups' : `only ${groups} groups`}` : undefined
}
