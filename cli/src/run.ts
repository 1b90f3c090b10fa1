import { mkdirSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import { dirname, join, resolve } from 'node:path'
import { fitRecipe, maybeIsoDateTime, maybeIsoDate, refusals, runRecipe, csvPieces, formatDateTime, formatDecimal, textOfCell, type FitRun, type Recipe, type RanTable, type Table } from '@fabula/core'
import { Fault, fault } from './fault.ts'
import { checkRecipe, loadInputs, loadParameters, loadRecipe, pairs, type Opened } from './load.ts'

export type RunWords = { input: string[]; param: string[]; output: string[]; now?: string; to?: string; accounts?: string; allowChanges?: boolean }

/** The wall clock here, or the moment that was given. */
const momentOf = (text: string | undefined): number => {
  if (text === undefined) {
    const now = new Date()
    return Math.floor((now.getTime() - now.getTimezoneOffset() * 60_000) / 1000) * 1000
  }
  const days = maybeIsoDate(text)
  const moment = maybeIsoDateTime(text) ?? (days === null ? null : days * 86_400_000)
  if (moment === null) throw fault(2, 'bad-option', `--now ${text} is not a date and time such as 2031-06-30T08:00:00.`)
  return moment
}

type Written = { readonly table: string; readonly path: string; readonly guard: boolean }

const targets = (recipe: Recipe, recipePath: string, words: RunWords): Written[] => {
  const folder = words.to ?? dirname(recipePath)
  if (words.output.length > 0) return pairs(words.output, '--output', recipe.tables.map(({ id }) => id), 'table').map(([table, path]) => ({ table, path, guard: false }))
  return (recipe.outputs ?? []).map(({ table, file, options }) => ({ table, path: join(folder, file), guard: options?.guard ?? false }))
}

const fitted = (recipe: Recipe, { inputs }: Opened, ran: FitRun, allowChanges: boolean): void => {
  const { verdict, findings } = fitRecipe(recipe, inputs, ran)
  if (verdict === 'fits' || (verdict === 'fits-with-changes' && allowChanges)) return
  const grave = findings.filter(({ code, step }) => (verdict === 'does-not-fit' ? step !== undefined : code === 'missing-column' || code === 'changed-type'))
  throw new Fault(4, (grave.length > 0 ? grave : findings).map(({ code, sentence, column }) => ({ code, sentence: verdict === 'does-not-fit' ? sentence : `${sentence} Run with --allow-changes to go on all the same.`, where: column })))
}

const pieces = (table: Table, guard: boolean): string => [...csvPieces(table, guard)].join('')

/** All files or none: each is written beside its place first, then moved there. */
const writeAll = (files: readonly { path: string; text: string }[]): void => {
  const done: { from: string; to: string }[] = []
  try {
    for (const { path, text } of files) {
      mkdirSync(dirname(resolve(path)), { recursive: true })
      const from = `${path}.${process.pid}.part`
      writeFileSync(from, text)
      done.push({ from, to: path })
    }
    for (const { from, to } of done) renameSync(from, to)
  } catch (error) {
    for (const { from } of done) rmSync(from, { force: true })
    throw fault(6, 'unwritable-file', `The result cannot be written: ${(error as Error).message}.`)
  }
}

const checksOf = (tables: readonly RanTable[]) => tables.flatMap(({ steps }) => steps.flatMap(({ step, account }) => (account?.check ? [{ step: step.id, passed: account.check.passed, say: account.check.say, figure: account.check.figure, stop: account.check.stop }] : [])))
const told = ({ say, figure }: { say: string; figure: number | null }): string => `${say}${figure === null ? '' : ` (${formatDecimal(figure)})`}`

const accountsOf = (recipe: Recipe, startedAt: number, parameters: Readonly<Record<string, unknown>>, opened: Opened, tables: readonly RanTable[], outputs: readonly (Written & { result: Table })[]) => ({
  recipe: recipe.name,
  startedAt: formatDateTime(startedAt),
  parameters,
  inputs: recipe.inputs.flatMap(({ id }) => (opened.inputs[id] ? [{ id, files: opened.inputs[id].files }] : [])),
  tables: tables.map(({ id, steps }) => ({ id, steps: steps.flatMap(({ account }) => (account ? [account] : [])) })),
  checks: checksOf(tables).map(({ stop: _stop, ...check }) => check),
  outputs: outputs.map(({ table, path, result }) => ({ table, file: path, rows: result.rowCount, columns: result.names.length })),
})

export const run = async (recipePath: string, words: RunWords): Promise<void> => {
  const recipe = loadRecipe(recipePath)
  const now = momentOf(words.now)
  const parameters = loadParameters(recipe, words.param)
  const wanted = targets(recipe, recipePath, words)
  checkRecipe(recipe)
  const opened = await loadInputs(recipe, words.input)
  const ran = runRecipe(recipe, { sources: opened.sources, parameters, now })
  const refused = refusals(ran.plan)
  if (refused.length > 0) throw new Fault(5, refused.map(({ sentence, where }) => ({ code: 'refused-data', sentence, where })))
  fitted(recipe, opened, ran, words.allowChanges === true)
  const { tables } = ran
  const failed = checksOf(tables).filter(({ passed }) => !passed)
  if (failed.some(({ stop }) => stop)) throw new Fault(5, failed.filter(({ stop }) => stop).map((check) => ({ code: 'check-stops', sentence: `A check stops the run: ${told(check)}.`, where: check.step })))
  for (const check of failed) process.stderr.write(`A check does not hold: ${told(check)}.\n`)
  const outputs = wanted.map((one) => {
    const result = tables.find(({ id }) => id === one.table)?.table
    if (!result) throw fault(4, 'broken-step', `The table ${one.table} could not be made.`)
    return { ...one, result }
  })
  const types = Object.fromEntries((recipe.parameters ?? []).map(({ name, type }) => [name, type]))
  const shown = Object.fromEntries(Object.entries(parameters).map(([name, cell]) => [name, cell === null || typeof cell === 'boolean' || types[name] === 'integer' || types[name] === 'decimal' ? cell : textOfCell(types[name] ?? 'text', cell)]))
  const accounts = words.accounts ? [{ path: words.accounts, text: `${JSON.stringify(accountsOf(recipe, now, shown, opened, tables, outputs), null, 2)}\n` }] : []
  writeAll([...outputs.filter(({ path }) => path !== '-').map(({ path, result, guard }) => ({ path, text: pieces(result, guard) })), ...accounts])
  for (const { path, result } of outputs) if (path === '-') process.stdout.write(pieces(result, false))
}
