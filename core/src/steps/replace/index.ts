import { z } from 'zod'
import { code, joined, py, sql, type Code, sqlHelper, pyHelper } from '../../codegen/tag.ts'
import { compilePattern, patternProblem, replaceMatches } from '../../codegen/regex/engine.ts'
import { patternPython, replacedSql, replacementPython } from '../../codegen/regex/scripts.ts'
import { cellAt, columnWriter, lengthOf, type Cell, type Column, type ColumnType } from '../../table/column.ts'
import { mapText } from '../../table/gather.ts'
import type { Schema } from '../../table/table.ts'
import { lower } from '../../table/text.ts'
import { listed } from '../../messages/words.ts'
import {
  typeIn,
  checkSelector,
  columnsSlot,
  selectColumns,
  selected,
  selectedNames,
  eachColumnPython,
  selectorSchema,
  type Selector,
} from '../shared/columns.ts'
import { defineStep, slot } from '../shared/step-kind.ts'
import { cellFor, literalPython, literalSql, valueWords } from '../shared/value.ts'
import { shortened, textsOf, valueOfText } from '../shared/draft-values.ts'

type ReplacementValue = string | number | boolean | null
/** What is found and what stands there instead. */
export type Replacement = { readonly find: ReplacementValue; readonly with: ReplacementValue }
type MatchMode = 'whole' | 'part' | 'pattern'
type ReplaceOptions = {
  readonly columns: Selector
  readonly match?: MatchMode | undefined
  readonly ignoreCase?: boolean | undefined
}
type Replace = ReplaceOptions & (Replacement | { readonly pairs: readonly Replacement[] })

/** The pairs of a step, which has one pair of its own or a list of them. */
export const replacementPairs = (params: Replace): readonly Replacement[] =>
  'pairs' in params ? params.pairs : [{ find: params.find, with: params.with }]

const escaped = (text: string): string => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')

/** Nothing is found by nothing. */
const isFound = ({ find }: Replacement): boolean => find !== null && find !== ''

/** One text through all pairs: whole values at once, parts and patterns one after another. */
const textChanger = (
  pairs: readonly Replacement[],
  match: MatchMode,
  ignoreCase: boolean,
): ((text: string) => string) => {
  if (match === 'whole') {
    const see = ignoreCase ? lower : (text: string) => text
    const known = new Map(
      pairs.filter(isFound).map((pair) => [see(String(pair.find)), pair.with === null ? '' : String(pair.with)]),
    )
    return (text) => known.get(see(text)) ?? text
  }
  const changes = pairs.map((pair) => {
    const put = pair.with === null ? '' : String(pair.with)
    if (match === 'pattern') {
      const pattern = compilePattern(String(pair.find), ignoreCase)
      return (text: string): string => replaceMatches(text, pattern, put)
    }
    if (!ignoreCase) return (text: string): string => text.replaceAll(String(pair.find), () => put)
    const any = new RegExp(escaped(String(pair.find)), 'giu')
    return (text: string): string => text.replace(any, () => put)
  })
  return (text) => changes.reduce((now, change) => (now === '' ? now : change(now)), text)
}

/** Values of other types are found whole. */
const valueColumn = (column: Column, pairs: readonly Replacement[]): Column => {
  const known = new Map<Cell, Cell>(
    pairs.map((pair) => [cellFor(pair.find, column.type) ?? null, cellFor(pair.with, column.type) ?? null]),
  )
  const n = lengthOf(column)
  const writer = columnWriter(column.type, n)
  for (let i = 0; i < n; i++) {
    const cell = cellAt(column, i)
    writer.set(i, cell !== null && known.has(cell) ? (known.get(cell) as Cell) : cell)
  }
  return writer.done()
}

/** A text that is looked for in any case is a pattern too. */
const asPattern = ({ find, with: put }: Replacement, match: MatchMode): readonly [pattern: string, put: string] => {
  const into = put === null ? '' : String(put)
  return match === 'part' ? [escaped(String(find)), into.replaceAll('$', '$$$$')] : [String(find), into]
}

const pairSql = (part: Code, type: ColumnType, params: Replace): Code => {
  const { match = 'whole', ignoreCase = false } = params
  const pairs = replacementPairs(params).filter(isFound)
  if (match === 'whole' || type !== 'text') {
    const see = (one: Code): Code => (ignoreCase && type === 'text' ? sql`${sqlHelper('lower_of')}(${one})` : one)
    // of two pairs that find the same value the last counts
    return sql`case ${joined(
      pairs
        .toReversed()
        .map(
          (pair) => sql`when ${see(part)} = ${see(literalSql(pair.find, type))} then ${literalSql(pair.with, type)}`,
        ),
      ' ',
    )} else ${part} end`
  }
  return pairs.reduce<Code>((now, pair) => {
    const put = pair.with === null ? '' : String(pair.with)
    if (match === 'part' && !ignoreCase) return sql`nullif(replace(${now}, ${String(pair.find)}, ${put}), '')`
    const [pattern, into] = asPattern(pair, match)
    return sql`nullif(${replacedSql(now, pattern, into, ignoreCase)}, '')`
  }, part)
}

const written = z.union([z.string(), z.number(), z.boolean(), z.null()])
const options = {
  columns: selectorSchema,
  match: z.enum(['whole', 'part', 'pattern']).optional(),
  ignoreCase: z.boolean().optional(),
}
const pairWords = ({ find, with: put }: Replacement): string =>
  `${valueWords(find)} by ${put === null || put === '' ? 'nothing' : valueWords(put)}`
const matchWords: Readonly<Record<MatchMode, string>> = {
  whole: 'as the whole value',
  part: 'wherever it stands inside',
  pattern: 'as a pattern',
}

/** Whether only texts of named columns are replaced, by texts. */
const isOfTexts = (params: Replace, input: Schema): boolean =>
  Array.isArray(params.columns) &&
  selected(params.columns, input).every(({ type }) => type === 'text') &&
  replacementPairs(params).every(({ find, with: into }) =>
    [find, into].every((one) => typeof one === 'string' && one !== ''),
  )

/** Replaces values, parts of texts or matches of a pattern. */
export const replace = defineStep<Replace>({
  kind: 'replace',
  verb: 'Replace a value…',
  words: ['replace', 'find', 'substitute', 'correct', 'spelling', 'recode', 'map', 'change value'],
  params: z.union([
    z.strictObject({ ...options, find: written, with: written }),
    z.strictObject({ ...options, pairs: z.array(z.strictObject({ find: written, with: written })).min(1) }),
  ]),
  drafts: {
    columns: ({ columns, schema }) => {
      const texts = textsOf(columns, schema)
      return texts.length > 0 ? [{ rank: 180, params: { columns: texts, find: ' ', with: '', match: 'part' } }] : []
    },
    cell: ({ column, value, schema }) => {
      const type = typeIn(schema, column)
      if (value === null || type === 'list') return []
      const find = valueOfText(value, type)
      return [{ rank: 5, verb: 'Replace it…', params: { columns: [column], find, with: find } }]
    },
    part: ({ column, value, from, to }) => {
      const find = value.slice(from, to)
      const params = { columns: [column], find, match: 'part' as const }
      return [
        { rank: 30, verb: `Take “${shortened(find)}” out everywhere`, params: { ...params, with: null } },
        { rank: 30, verb: `Replace “${shortened(find)}”…`, params: { ...params, with: find } },
      ]
    },
  },
  decides: (params, input) =>
    (params.match ?? 'whole') === 'whole'
      ? textsOf(selectedNames(params.columns, input), input).map((column) => ({
          column,
          unnamed: 'stays',
          named: replacementPairs(params).flatMap(({ find }) => (typeof find === 'string' ? [find] : [])),
          ...(params.ignoreCase ? { ignoreCase: true } : {}),
        }))
      : [],
  sentence: (params) => {
    const pairs = replacementPairs(params)
    const shown =
      pairs.length > 3
        ? `${pairs.slice(0, 2).map(pairWords).join(', ')} and ${pairs.length - 2} more`
        : listed(pairs.map(pairWords))
    return [
      'In ',
      columnsSlot(params.columns, 'columns'),
      ' replace ',
      slot(shown, 'pairs', []),
      ', ',
      slot(matchWords[params.match ?? 'whole'], 'choice', ['match'], Object.entries(matchWords)),
      `${params.ignoreCase ? ', whatever the case' : ''}.`,
    ]
  },
  output: (params, input, context) => {
    const pairs = replacementPairs(params)
    for (const field of checkSelector(params.columns, input, context, 'columns')) {
      if ((params.match === 'part' || params.match === 'pattern') && field.type !== 'text')
        context.report({ code: 'wrong-type', column: field.name, type: field.type, needs: 'text' }, 'columns')
      else
        pairs.forEach((pair, i) => {
          for (const side of ['find', 'with'] as const)
            if (cellFor(pair[side], field.type) === undefined)
              context.report(
                { code: 'wrong-value', value: String(pair[side]), column: field.name, type: field.type },
                ...('pairs' in params ? ['pairs', i, side] : [side]),
              )
        })
    }
    if (params.match === 'pattern')
      pairs.forEach((pair, i) => {
        const why = patternProblem(String(pair.find))
        if (why)
          context.report(
            { code: 'bad-pattern', pattern: String(pair.find), why },
            ...('pairs' in params ? ['pairs', i, 'find'] : ['find']),
          )
      })
    return input
  },
  run: (params, table) => {
    const change = textChanger(replacementPairs(params), params.match ?? 'whole', params.ignoreCase ?? false)
    let result = table
    let cellsChanged = 0
    for (const name of selectedNames(params.columns, table.schema)) {
      const at = table.positionOf(name)
      const before = table.column(at)
      const after = before.type === 'text' ? mapText(before, change) : valueColumn(before, replacementPairs(params))
      for (let i = 0, n = lengthOf(before); i < n; i++) if (cellAt(before, i) !== cellAt(after, i)) cellsChanged++
      result = result.with(at, name, after, true)
    }
    return { table: result, lineage: { kind: 'same' }, cellsChanged }
  },
  scripts: {
    sql: (params, context) =>
      selectColumns(
        context,
        Object.fromEntries(
          selected(params.columns, context.input).map((field) => [
            field.name,
            pairSql(context.column(field.name), field.type, params),
          ]),
        ),
      ),
    python: (params, { frame, input, plain }) => {
      const { match = 'whole', ignoreCase = false } = params
      const type = selected(params.columns, input)[0]?.type ?? 'text'
      if (plain && match === 'whole' && !ignoreCase && isOfTexts(params, input))
        return eachColumnPython(
          params.columns,
          frame,
          (name) =>
            py`${frame}[${name}] = ${frame}[${name}].replace({${joined(
              replacementPairs(params).map((pair) => py`${pair.find}: ${pair.with}`),
              ', ',
            )}})`,
        )
      const byPattern = match === 'pattern' || (match === 'part' && ignoreCase)
      const pairs = replacementPairs(params)
        .filter(isFound)
        .map((pair) => {
          if (!byPattern) return py`(${literalPython(pair.find, type)}, ${literalPython(pair.with, type)})`
          const [pattern, into] = asPattern(pair, match)
          return py`(${patternPython(pattern, ignoreCase)}, ${replacementPython(into)})`
        })
      const wholeOptions = ignoreCase ? code(', ignore_case=True') : code('')
      const options = match === 'whole' ? wholeOptions : py`, ${byPattern ? 'pattern' : match}`
      return eachColumnPython(
        params.columns,
        frame,
        (name) =>
          py`${frame}[${name}] = ${pyHelper('replace_values')}(${frame}[${name}], [${joined(pairs, ', ')}]${options})`,
      )
    },
  },
  absorbs: ({ columns }, column, input) => selectedNames(columns, input).includes(column),
})
