import { z } from 'zod'
import { code, joined, lines, py, pyHelper, sql } from '../../codegen/tag.ts'
import { counted, listed } from '../../messages/words.ts'
import { name } from '../../reading/name-schema.ts'
import { ownValue } from '../../table/own.ts'
import type { Schema } from '../../table/table.ts'
import { lower, titleCase, trim, upper } from '../../table/text.ts'
import {
  checkColumn,
  checkSelector,
  selected,
  selectedNames,
  selectorPython,
  selectorSchema,
  selectorWords,
  settle,
  type Selector,
} from '../shared/columns.ts'
import { defineStep, slot, type Sentence } from '../shared/step-kind.ts'

type Change = {
  readonly trim?: boolean | undefined
  readonly find?: string | undefined
  readonly replace?: string | undefined
  readonly case?: 'lower' | 'upper' | 'title' | undefined
  readonly prefix?: string | undefined
  readonly suffix?: string | undefined
}
type Rename = {
  readonly names?: Readonly<Record<string, string>> | undefined
  readonly change?: Change | undefined
  readonly columns?: Selector | undefined
}

const cases = { lower, upper, title: titleCase }

const changed = (change: Change, text: string): string => {
  let result = change.trim ? trim(text) : text
  if (change.find) result = result.replaceAll(change.find, () => change.replace ?? '')
  if (change.case) result = cases[change.case](result)
  return `${change.prefix ?? ''}${result}${change.suffix ?? ''}`
}

/** The names after `names` all at once, then after `change`. */
const renamed = ({ names = {}, change, columns }: Rename, schema: Schema): string[] => {
  const before = schema.map((field) => field.name)
  const first = settle(
    before.map((one) => ownValue(names, one) ?? one),
    before,
  )
  if (!change) return first
  const meant = new Set(
    selectedNames(
      columns ?? { all: true },
      schema.map((field, i) => ({ ...field, name: first[i] as string })),
    ),
  )
  const wanted = first.map((one, i) => (meant.has(one) ? changed(change, one) || `Column ${i + 1}` : one))
  return settle(wanted, first)
}

const changeWords = (change: Change): string =>
  listed([
    ...(change.trim ? ['spaces at the ends taken off'] : []),
    ...(change.find
      ? [change.replace ? `“${change.find}” made “${change.replace}”` : `“${change.find}” taken out`]
      : []),
    ...(change.case
      ? [{ lower: 'small letters', upper: 'large letters', title: 'Large First Letters' }[change.case]]
      : []),
    ...(change.prefix ? [`“${change.prefix}” put before`] : []),
    ...(change.suffix ? [`“${change.suffix}” put after`] : []),
  ])

const sentence = ({ names = {}, change, columns }: Rename): Sentence => {
  const pairs = Object.entries(names)
  const [first] = pairs
  const chooseNamesPart = () => {
    if (pairs.length === 0) return []
    if (pairs.length === 1 && first)
      return ['Rename ', slot(first[0], 'column', ['names']), ' to ', slot(first[1], 'renames', ['names'])]
    return [
      'Rename ',
      slot(
        pairs.length <= 3 ? listed(pairs.map(([old, next]) => `${old} to ${next}`)) : counted(pairs.length, 'column'),
        'renames',
        ['names'],
      ),
    ]
  }
  const namesPart: Sentence = chooseNamesPart()
  if (!change) return [...namesPart, '.']
  return [
    ...(namesPart.length > 0 ? [...namesPart, '; then write '] : ['Write ']),
    'the names of ',
    slot(selectorWords(columns ?? { all: true }), 'columns', ['columns']),
    ' with ',
    slot(changeWords(change) || 'no change', 'change', ['change']),
    '.',
  ]
}

/** Renames columns. */
export const rename = defineStep<Rename>({
  kind: 'rename',
  verb: 'Rename',
  words: ['rename', 'name', 'header', 'title', 'label', 'call'],
  params: z.strictObject({
    names: z.record(name, name).optional(),
    change: z
      .strictObject({
        trim: z.boolean().optional(),
        find: z.string().min(1).optional(),
        replace: z.string().optional(),
        case: z.enum(['lower', 'upper', 'title']).optional(),
        prefix: z.string().optional(),
        suffix: z.string().optional(),
      })
      .optional(),
    columns: selectorSchema.optional(),
  }),
  drafts: {
    table: () => [{ rank: 180, verb: 'Tidy the names of columns', params: { change: { trim: true } } }],
    columns: ({ columns: [first = '', ...more] }) =>
      more.length > 0 ? [] : [{ rank: 20, key: 'F2', params: { names: { [first]: first } } }],
  },
  sentence,
  output: (params, input, context) => {
    for (const [old, next] of Object.entries(params.names ?? {})) {
      checkColumn(old, input, context, 'names', old)
      if (next === '') context.report({ code: 'empty-name' }, 'names', old)
    }
    if (params.columns) {
      const middle = renamed({ names: params.names }, input)
      checkSelector(
        params.columns,
        input.map((field, i) => ({ ...field, name: middle[i] as string })),
        context,
        'columns',
      )
    }
    return renamed(params, input).map((one, i) => ({ name: one, type: input[i]?.type ?? 'text' }))
  },
  run: (params, table) => ({ table: table.renamed(renamed(params, table.schema)), lineage: { kind: 'same' } }),
  columnLineage: (_params, input, output) =>
    Object.fromEntries(output.map((field, i) => [field.name, input[i]?.name ?? field.name])),
  scripts: {
    sql: (_params, { from, input, output, column }) =>
      sql`select ${joined([code('"¶"'), ...output.map((field, i) => sql`${column(input[i]?.name ?? field.name)}${field.name === input[i]?.name ? code('') : sql` as ${column(field.name)}`}`)], ', ')}\nfrom ${from}`,
    spark: 'table',
    python: ({ names, change, columns }, { frame }) =>
      lines(
        names && Object.keys(names).length > 0
          ? py`${frame} = ${pyHelper('rename_columns')}(${frame}, {${joined(
              Object.entries(names).map(([old, next]) => py`${old}: ${next}`),
              ', ',
            )}})`
          : undefined,
        change
          ? py`${frame} = ${pyHelper('change_names')}(${frame}, ${selectorPython(columns ?? { all: true }, frame)}, trim=${change.trim ?? false}, find=${change.find ?? null}, replace=${change.replace ?? ''}, case=${change.case ?? null}, prefix=${change.prefix ?? ''}, suffix=${change.suffix ?? ''})`
          : undefined,
      ),
  },
  absorbs: ({ change, columns }, column, input) =>
    change !== undefined && selected(columns ?? { all: true }, input).some((field) => field.name === column),
})
