import { closeSync, mkdirSync, openSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { dirname, join, resolve } from 'node:path'
import {
  accountsOf,
  checkWords,
  parameterTexts,
  byFile,
  formatOfPath,
  quoted,
  isFile,
  runRecipe,
  formatDateTime,
  type Accounts,
  type CompatibilityFinding,
  type CompatibilityReport,
  type DatabaseOutput,
  type OutputFormat,
  type Recipe,
  type TableRun,
  type Table,
} from '@fabula/core'
import { outputPieces, UnwritableTable, writeToDatabases } from '@fabula/formats'
import { connectionOf, withDatabase } from './database.ts'
import { Fault, fault } from './fault.ts'
import { fitReport, loadLast } from './fit.ts'
import { checkRecipe, loadInputs, loadParameters, loadRecipe, momentOf, pairs } from './load.ts'

export type RunWords = {
  input: string[]
  param: string[]
  output: string[]
  now?: string
  to?: string
  accounts?: string
  last?: string
  allowChanges?: boolean
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

/** Exit codes of what does not fit: 4 for a break, 5 for a refusal alone, 4 for what needs an answer. @throws Fault */
export const requireFit = ({ verdict, findings }: CompatibilityReport, allowChanges: boolean): void => {
  if (verdict === 'fits' || (verdict === 'fits-with-changes' && allowChanges)) return
  const graded = (grade: CompatibilityFinding['grade']) => findings.filter((finding) => finding.grade === grade)
  const entries = (all: readonly CompatibilityFinding[], tail = '') =>
    all.map(({ code, sentence, column, step }) => ({ code, sentence: `${sentence}${tail}`, where: column ?? step }))
  if (graded('breaks').length > 0) throw new Fault(4, entries(graded('breaks')))
  if (graded('refused').length > 0) throw new Fault(5, entries(graded('refused')))
  throw new Fault(4, entries(graded('changes'), ' Run with --allow-changes to go on all the same.'))
}

type MadeOutput = WrittenTable & { readonly result: Table; readonly name: string }
const piecesOf = (format: OutputFormat, made: readonly MadeOutput[]): Iterable<string | Uint8Array> =>
  outputPieces(
    format,
    made.map(({ name, result }) => ({ name, table: result })),
    made[0]?.guard ?? false,
  )

/** A new file of these pieces. */
const writePieces = (path: string, pieces: Iterable<string | Uint8Array>): void => {
  const file = openSync(path, 'w')
  try {
    for (const piece of pieces) writeFileSync(file, piece)
  } finally {
    closeSync(file)
  }
}

/** All files or none: each is written beside its place first, then, once `between` is done, moved there. */
const writeAll = async (
  files: readonly { readonly path: string; readonly pieces: Iterable<string | Uint8Array> }[],
  between: () => Promise<void>,
): Promise<void> => {
  const done: { from: string; to: string }[] = []
  try {
    for (const { path, pieces } of files) {
      if (statSync(path, { throwIfNoEntry: false })?.isDirectory())
        throw fault(
          6,
          'unwritable-file',
          `${quoted(path)} is a folder. Name a file in it, such as ${join(path, 'result.csv')}.`,
        )
      mkdirSync(dirname(resolve(path)), { recursive: true })
      const from = `${path}.${process.pid}.part`
      done.push({ from, to: path })
      writePieces(from, pieces)
    }
    await between()
    for (const { from, to } of done) renameSync(from, to)
  } catch (error) {
    for (const { from } of done) rmSync(from, { force: true })
    if (error instanceof Fault || error instanceof UnwritableTable) throw error
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
const accountsOfRun = (
  recipe: Recipe,
  startedAt: number,
  did: Accounts,
  tables: readonly TableRun[],
  outputs: readonly { readonly table: string; readonly path: string; readonly result: Table }[],
) => ({
  recipe: recipe.name,
  startedAt: formatDateTime(startedAt),
  ...did,
  checks: checksOf(tables).map(({ stop: _stop, ...check }) => check),
  outputs: outputs.map(({ table, path, result }) => ({
    table,
    file: path,
    rows: result.rowCount,
    columns: result.names.length,
  })),
})

export const run = async (recipePath: string, words: RunWords): Promise<void> => {
  const recipe = loadRecipe(recipePath)
  const now = momentOf(words.now)
  const parameters = loadParameters(recipe, words.param)
  const wanted = targets(recipe, recipePath, words)
  checkRecipe(recipe)
  const last = loadLast(words.last)
  const opened = await loadInputs(recipe, words.input)
  const ran = runRecipe(recipe, { sources: opened.sources, parameters, now })
  const did = accountsOf(recipe, opened.inputs, ran.tables, parameterTexts(recipe, parameters))
  requireFit(fitReport(recipe, opened, ran, parameters, last, did), words.allowChanges === true)
  const { tables } = ran
  const failed = checksOf(tables).filter(({ passed }) => !passed)
  for (const check of failed) process.stderr.write(`A check does not hold: ${checkWords(check)}.\n`)
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
  // a connection that is not given is reported before anything is opened
  for (const { connection } of wanted.database) connectionOf(connection)
  const stored = wanted.database.map((output) => ({
    output,
    table: output.table,
    path: `${output.connection}: ${output.name}`,
    result: tableOf(output.table),
  }))
  const accounts = accountsFile(words, recipe, now, did, tables, [...outputs, ...stored])
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
    // a pipe may take a piece later than it is given
    if (made.path === '-') for (const piece of piecesOf('csv', [made])) process.stdout.write(Buffer.from(piece))
}

/** The file of `--accounts`, where it is asked for. */
function accountsFile(
  words: RunWords,
  recipe: Recipe,
  now: number,
  did: Accounts,
  tables: readonly TableRun[],
  outputs: readonly { readonly table: string; readonly path: string; readonly result: Table }[],
) {
  return words.accounts
    ? [
        {
          path: words.accounts,
          pieces: [`${JSON.stringify(accountsOfRun(recipe, now, did, tables, outputs), null, 2)}\n`],
        },
      ]
    : []
}
