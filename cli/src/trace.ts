import { runRecipe, counted, tableNames, type Recipe } from '@fabula/core'
import {
  sourceWords,
  Tracer,
  TraceProblem,
  type BackReport,
  type FateReport,
  type ForwardReport,
} from '@fabula/formats'
import { Fault, fault } from './fault.ts'
import { fitReport } from './fit.ts'
import { checkRecipe, loadInputs, loadParameters, loadRecipe, momentOf } from './load.ts'
import { requireFit } from './run.ts'

type TraceWords = {
  readonly input: string[]
  readonly param: string[]
  readonly now?: string
  readonly table?: string
  readonly row?: string
  readonly column?: string
  readonly after?: string
  readonly from?: string
  readonly sheet?: string
  readonly limit: string
  readonly json?: boolean
}

const whole = (text: string | undefined, option: string): number => {
  const n = Number(text)
  if (text === undefined || !/^\d+$/.test(text) || n < 1)
    throw fault(2, 'bad-option', `${option} ${text ?? ''} is not understood: write a whole number from 1 on.`)
  return n
}

/** `visits=a.csv:17`: a row of a file; `targets:2`: one that was typed in. */
const startOf = (text: string) => {
  const [, place = '', row] = /^(.*):(\d+)$/.exec(text) ?? []
  if (row === undefined)
    throw fault(
      2,
      'bad-option',
      `--from ${text} is not understood: write --from INPUT=FILE:ROW, or --from TABLE:ROW of a row that was typed in.`,
    )
  const at = place.indexOf('=')
  return at < 0
    ? { entered: place, row: whole(row, '--from') }
    : { input: place.slice(0, at), file: place.slice(at + 1), row: whole(row, '--from') }
}

const valuesOf = (values: Readonly<Record<string, string>>): string =>
  Object.entries(values)
    .map(([name, text]) => `${name}: ${text}`)
    .join(', ')
const backWords = (recipe: Recipe, { table, row, column, count, sources, steps }: BackReport): string =>
  [
    `Row ${row} of ${tableNames(recipe)(table)}${column === undefined ? '' : `, ${column}`} comes from ${counted(count, 'row')}.`,
    ...sources.map(
      (source) =>
        `- ${sourceWords(source)}${(source.times ?? 1) > 1 ? ` (${source.times} times)` : ''}: ${valuesOf(source.values)}`,
    ),
    ...(count > sources.length ? [`- and ${counted(count - sources.length, 'more row')}`] : []),
    ...(steps.length > 0 ? ['On the way:'] : []),
    ...steps.map(({ sentence, did }) => `- ${sentence} ${did}`),
    '',
  ].join('\n')

const fateWords = (recipe: Recipe, fate: FateReport): string => {
  const name = tableNames(recipe)(fate.table)
  if ('left' in fate) return `- ${name}: left at “${fate.left.sentence}” ${fate.left.why}`
  const more = fate.count > fate.rows.length ? ' …' : ''
  return `- ${name}: in ${fate.count === 1 ? 'row' : 'rows'} ${fate.rows.join(', ')}${more}`
}
const forwardWords = (recipe: Recipe, report: ForwardReport): string =>
  [
    `${sourceWords(report)}: ${valuesOf(report.values)}`,
    ...report.fates.map((fate) => fateWords(recipe, fate)),
    '',
  ].join('\n')

const tracerFor = async (path: string, words: TraceWords) => {
  const recipe = loadRecipe(path)
  const parameters = loadParameters(recipe, words.param)
  checkRecipe(recipe)
  const now = momentOf(words.now)
  const opened = await loadInputs(recipe, words.input)
  const ran = runRecipe(recipe, { sources: opened.sources, parameters, now })
  requireFit(fitReport(recipe, opened, ran, parameters, undefined), true)
  return { recipe, tracer: new Tracer({ recipe, tables: ran.tables, parameters, now }, opened.traced) }
}

const answer = async (path: string, words: TraceWords): Promise<{ readonly data: object; readonly text: string }> => {
  const limit = whole(words.limit, '--limit')
  if (words.from !== undefined) {
    const start = startOf(words.from)
    const { recipe, tracer } = await tracerFor(path, words)
    if ('input' in start && !recipe.inputs.some(({ id }) => id === start.input))
      throw fault(2, 'unknown-input', `The recipe has no input “${start.input}”.`)
    const report =
      'entered' in start
        ? await tracer.forwardEntered(start.entered, start.row, limit)
        : await tracer.forward(start.input, start.file, words.sheet, start.row, limit)
    return { data: report, text: forwardWords(recipe, report) }
  }
  if (words.table === undefined)
    throw fault(2, 'bad-option', 'Say what to trace: --table TABLE --row N, or --from INPUT=FILE:ROW.')
  const row = whole(words.row, '--row')
  const { recipe, tracer } = await tracerFor(path, words)
  const report = await tracer.back(words.table, row, { column: words.column, after: words.after, limit })
  return { data: report, text: backWords(recipe, report) }
}

/** Where a row or a cell of a result comes from, or what became of a row of an input. */
export const trace = async (path: string, words: TraceWords): Promise<void> => {
  try {
    const { data, text } = await answer(path, words)
    process.stdout.write(words.json ? `${JSON.stringify(data, null, 2)}\n` : text)
  } catch (error) {
    if (error instanceof Fault) throw error
    if (error instanceof TraceProblem) throw fault(2, 'not-there', error.message)
    throw error
  }
}
