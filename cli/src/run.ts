import { appendFileSync, mkdirSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import { dirname, join, resolve } from 'node:path'
import {
  parameterTypes,
  ownValue,
  byFile,
  checkCompatibility,
  formatOfPath,
  isFile,
  maybeIsoDateTime,
  maybeIsoDate,
  refusals,
  runRecipe,
  formatDateTime,
  formatDecimal,
  textOfCell,
  type DatabaseOutput,
  type TrialRun,
  type OutputFormat,
  type Recipe,
  type TableRun,
  type Table,
  type Cell,
} from '@fabula/core'
import { outputPieces, UnwritableTable, writeToDatabases } from '@fabula/formats'
import { connectionOf, withDatabase } from './database.ts'
import { Fault, fault } from './fault.ts'
import { checkRecipe, loadInputs, loadParameters, loadRecipe, pairs, type Opened } from './load.ts'

export type RunWords = {
  input: string[]
  param: string[]
  output: string[]
  now?: string
  to?: string
  accounts?: string
  allowChanges?: boolean
}

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

type WrittenTable = {
  readonly table: string
  readonly path: string
  readonly format: OutputFormat
  readonly guard: boolean
}

const targets = (
  recipe: Recipe,
  recipePath: string,
  words: RunWords,
): { readonly files: readonly WrittenTable[]; readonly database: readonly DatabaseOutput[] } => {
  const folder = words.to ?? dirname(recipePath)
  if (words.output.length > 0)
    return {
      files: pairs(
        words.output,
        '--output',
        recipe.tables.map(({ id }) => id),
        'table',
      ).map(([table, path]) => ({ table, path, format: path === '-' ? 'csv' : formatOfPath(path), guard: false })),
      database: [],
    }
  const outputs = recipe.outputs ?? []
  return {
    files: outputs.filter(isFile).map(({ table, format, file, options }) => ({
      table,
      path: join(folder, file),
      format,
      guard: options?.guard ?? false,
    })),
    database: outputs.filter((output): output is DatabaseOutput => !isFile(output)),
  }
}

const fitted = (recipe: Recipe, { inputs }: Opened, ran: TrialRun, allowChanges: boolean): void => {
  const { verdict, findings } = checkCompatibility(recipe, inputs, ran)
  if (verdict === 'fits' || (verdict === 'fits-with-changes' && allowChanges)) return
  const grave = findings.filter(({ code, step }) =>
    verdict === 'does-not-fit' ? step !== undefined : code === 'missing-column' || code === 'changed-type',
  )
  throw new Fault(
    4,
    (grave.length > 0 ? grave : findings).map(({ code, sentence, column }) => ({
      code,
      sentence: verdict === 'does-not-fit' ? sentence : `${sentence} Run with --allow-changes to go on all the same.`,
      where: column,
    })),
  )
}

type MadeOutput = WrittenTable & { readonly result: Table; readonly name: string }
const piecesOf = (format: OutputFormat, made: readonly MadeOutput[]): (string | Uint8Array)[] => [
  ...outputPieces(
    format,
    made.map(({ name, result }) => ({ name, table: result })),
    made[0]?.guard ?? false,
  ),
]

/** All files or none: each is written beside its place first, then, once `between` is done, moved there. */
const writeAll = async (
  files: readonly { readonly path: string; readonly pieces: readonly (string | Uint8Array)[] }[],
  between: () => Promise<void>,
): Promise<void> => {
  const done: { from: string; to: string }[] = []
  try {
    for (const { path, pieces } of files) {
      mkdirSync(dirname(resolve(path)), { recursive: true })
      const from = `${path}.${process.pid}.part`
      done.push({ from, to: path })
      writeFileSync(from, '')
      for (const piece of pieces) appendFileSync(from, piece)
    }
    await between()
    for (const { from, to } of done) renameSync(from, to)
  } catch (error) {
    for (const { from } of done) rmSync(from, { force: true })
    if (error instanceof Fault) throw error
    throw fault(6, 'unwritable-file', `The result cannot be written: ${(error as Error).message.replace(/\.$/, '')}.`)
  }
}

const checksOf = (tables: readonly TableRun[]) =>
  tables.flatMap(({ steps }) =>
    steps.flatMap(({ step, statistics }) =>
      statistics?.check
        ? [
            {
              step: step.id,
              passed: statistics.check.passed,
              say: statistics.check.say,
              figure: statistics.check.figure,
              stop: statistics.check.stop,
            },
          ]
        : [],
    ),
  )
const reported = ({ say, figure }: { say: string; figure: number | null }): string =>
  `${say}${figure === null ? '' : ` (${formatDecimal(figure)})`}`

const accountsOf = (
  recipe: Recipe,
  startedAt: number,
  parameters: Readonly<Record<string, unknown>>,
  opened: Opened,
  tables: readonly TableRun[],
  outputs: readonly { readonly table: string; readonly path: string; readonly result: Table }[],
) => ({
  recipe: recipe.name,
  startedAt: formatDateTime(startedAt),
  parameters,
  inputs: recipe.inputs.flatMap(({ id }) => {
    const one = ownValue(opened.inputs, id)
    return one ? [{ id, files: one.files }] : []
  }),
  tables: tables.map(({ id, steps }) => ({
    id,
    steps: steps.flatMap(({ statistics }) => (statistics ? [statistics] : [])),
  })),
  checks: checksOf(tables).map(({ stop: _stop, ...check }) => check),
  outputs: outputs.map(({ table, path, result }) => ({
    table,
    file: path,
    rows: result.rowCount,
    columns: result.names.length,
  })),
})

// eslint-disable-next-line max-lines-per-function -- the run in the order of its exit codes
export const run = async (recipePath: string, words: RunWords): Promise<void> => {
  const recipe = loadRecipe(recipePath)
  const now = momentOf(words.now)
  const parameters = loadParameters(recipe, words.param)
  const wanted = targets(recipe, recipePath, words)
  checkRecipe(recipe)
  const opened = await loadInputs(recipe, words.input)
  const ran = runRecipe(recipe, { sources: opened.sources, parameters, now })
  const refused = refusals(ran.plan)
  if (refused.length > 0)
    throw new Fault(
      5,
      refused.map(({ sentence, where }) => ({ code: 'refused-data', sentence, where })),
    )
  fitted(recipe, opened, ran, words.allowChanges === true)
  const { tables } = ran
  const failed = checksOf(tables).filter(({ passed }) => !passed)
  refuseStopped(failed)
  for (const check of failed) process.stderr.write(`A check does not hold: ${reported(check)}.\n`)
  const tableOf = (id: string): Table => {
    const result = tables.find((one) => one.id === id)?.table
    if (!result) throw fault(4, 'broken-step', `The table ${id} could not be made.`)
    return result
  }
  const outputs = wanted.files.map((one): MadeOutput => ({
    ...one,
    result: tableOf(one.table),
    name: recipe.tables.find(({ id }) => id === one.table)?.name ?? one.table,
  }))
  // a connection that is not given is told before anything is opened
  for (const { connection } of wanted.database) connectionOf(connection)
  const stored = wanted.database.map((output) => ({
    output,
    table: output.table,
    path: `${output.connection}: ${output.name}`,
    result: tableOf(output.table),
  }))
  const types = parameterTypes(recipe)
  const shown = parameterValues(parameters, types)
  const accounts = accountsFile(words, recipe, now, shown, opened, tables, outputs, stored)
  const files = byFile(outputs.filter(({ path }) => path !== '-')).map((made) => ({
    path: made[0]?.path ?? '',
    pieces: made,
  }))
  try {
    await writeAll(
      [
        ...files.map(({ path, pieces }) => ({ path, pieces: piecesOf(pieces[0]?.format ?? 'csv', pieces) })),
        ...accounts,
      ],
      async () => {
        await writeToDatabases(
          stored.map(({ output, result }) => ({ output, table: result })),
          (name, work) => withDatabase(connectionOf(name), work),
        )
      },
    )
  } catch (error) {
    if (error instanceof UnwritableTable) throw fault(6, 'unwritable-table', error.message)
    throw error
  }
  for (const made of outputs)
    if (made.path === '-') for (const piece of piecesOf('csv', [made])) process.stdout.write(piece)
}

/** @throws Fault (exit code 5) where a check that fails says stop. */
function refuseStopped(failed: ReturnType<typeof checksOf>) {
  if (failed.some(({ stop }) => stop))
    throw new Fault(
      5,
      failed
        .filter(({ stop }) => stop)
        .map((check) => ({
          code: 'check-stops',
          sentence: `A check stops the run: ${reported(check)}.`,
          where: check.step,
        })),
    )
}

/** Parameters as the accounts file shows them: numbers and booleans as they are, the rest as text. */
function parameterValues(parameters: Readonly<Record<string, Cell>>, types: ReturnType<typeof parameterTypes>) {
  return Object.fromEntries(
    Object.entries(parameters).map(([name, cell]) => [
      name,
      cell === null ||
      typeof cell === 'boolean' ||
      ownValue(types, name) === 'integer' ||
      ownValue(types, name) === 'decimal'
        ? cell
        : textOfCell(ownValue(types, name) ?? 'text', cell),
    ]),
  )
}

/** The file of `--accounts`, where it is asked for. */
function accountsFile(
  words: RunWords,
  recipe: Recipe,
  now: number,
  shown: Readonly<Record<string, Cell>>,
  opened: Opened,
  tables: readonly TableRun[],
  outputs: MadeOutput[],
  stored: readonly { readonly table: string; readonly path: string; readonly result: Table }[],
) {
  return words.accounts
    ? [
        {
          path: words.accounts,
          pieces: [
            `${JSON.stringify(accountsOf(recipe, now, shown, opened, tables, [...outputs, ...stored]), null, 2)}\n`,
          ],
        },
      ]
    : []
}
