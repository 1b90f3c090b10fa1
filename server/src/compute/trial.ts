import {
  accountsOf,
  isOfFiles,
  isOutdated,
  checkCompatibility,
  openFindings,
  ownValue,
  parameterCells,
  parameterTexts,
  runRecipe,
  sentenceText,
  tableNames,
  withAnswers,
  type Accounts,
  type Answer,
  type CheckedInput,
  type CompatibilityReport,
  type Recipe,
} from '@fabula/core'
import type { OpenedFiles } from '@fabula/formats'
import type { LastRun } from '../store/runs.ts'
import { openAll, openFiles, reads, type InputFiles, type WorkerContext } from './worker-context.ts'
import { cellsFor } from './tasks/story-run.ts'

/** What a replay is tried with. */
export type TrialRequest = {
  readonly recipe: Recipe
  readonly files: InputFiles
  /** SHA-256 of files that are kept from before, by input. */
  readonly kept: Readonly<Record<string, readonly string[]>>
  readonly answers: readonly Answer[]
  readonly parameters: Readonly<Record<string, string>>
  /** The last accepted run; without one the data the story was built on is run. */
  readonly last?: LastRun | undefined
  /** The files the story was built on. */
  readonly before: InputFiles
  /** The wall clock it takes for now, in milliseconds. */
  readonly now: number
}

/** What a replay would write, and how it fits. */
export type Trial = {
  readonly recipe: Recipe
  readonly files: InputFiles
  readonly inputs: Readonly<Record<string, OpenedFiles>>
  readonly ran: ReturnType<typeof runRecipe>
  readonly report: CompatibilityReport
  /** How many findings that ask have no answer. */
  readonly open: number
  readonly accounts: Accounts
  readonly last: Accounts | undefined
}

/** What the story makes of files of before; undefined where some are not there any more. */
const accountsFor = async (
  { recipe, now }: TrialRequest,
  files: InputFiles,
  given: Readonly<Record<string, string>>,
  context: WorkerContext,
): Promise<Accounts | undefined> => {
  for (const input of reads(recipe).keys()) if ((ownValue(files, input) ?? []).length === 0) return undefined
  // what it was built on may be gone from the shelf: then there is no last time
  const opened = await openAll(recipe, files, context).catch(() => undefined)
  if (!opened) return undefined
  const { cells } = parameterCells(recipe, given)
  const { tables } = runRecipe(recipe, {
    sources: opened.sources,
    parameters: cells,
    now,
    cache: context.inputs.steps,
    shouldStop: context.shouldStop,
  })
  return accountsOf(recipe, opened.inputs, tables, parameterTexts(recipe, cells))
}

/**
 * What the last accepted run did. A story that was edited since is run on that run's files, so that what an edit leaves
 * unread or unmatched is still seen; one that was never replayed, on the files it was built on.
 */
const lastAccounts = async (request: TrialRequest, context: WorkerContext): Promise<Accounts | undefined> => {
  const { recipe, last, before } = request
  if (!last) return accountsFor(request, before, {}, context)
  if (!isOutdated(last.accounts, recipe)) return last.accounts
  const { files } = withAnswers(recipe, last.files, last.answers.filter(isOfFiles), last.kept)
  return (await accountsFor(request, files, last.parameters, context)) ?? last.accounts
}

/** The tables of last time, of inputs that are given other files now. */
const tablesBefore = async (
  { recipe, before, files }: TrialRequest,
  context: WorkerContext,
): Promise<ReadonlyMap<string, OpenedFiles>> => {
  const opened = new Map<string, OpenedFiles>()
  for (const [input, read] of reads(recipe)) {
    const refs = ownValue(before, input) ?? []
    const now = ownValue(files, input) ?? []
    if (refs.length === 0 || refs.every(({ hash }) => now.some((file) => file.hash === hash))) continue
    const old = await openFiles(refs, read, {}, context).catch(() => undefined)
    if (old) opened.set(input, old.files)
  }
  return opened
}

/** Names that columns have only by an answer are no names that the recipe knows. */
const withoutOwnNames = (report: CompatibilityReport, answers: readonly Answer[]): CompatibilityReport => ({
  ...report,
  findings: report.findings.filter(
    ({ code, input, column }) =>
      code !== 'known-name' ||
      !answers.some((one) => one.offer.do === 'rename' && one.input === input && one.column === column),
  ),
})

/**
 * Runs a recipe on files without writing, with the answers given so far, and holds it against the last accepted run. The
 * steps stay in the cache of the process, so that a replay with the same answers writes what was tried.
 */
export const tryReplay = async (
  request: TrialRequest,
  context: WorkerContext,
  reportProgress = false,
): Promise<Trial> => {
  const { answers, kept, parameters, now } = request
  const { recipe, files } = withAnswers(request.recipe, request.files, answers, kept)
  const { inputs, sources } = await openAll(recipe, files, context)
  const cells = cellsFor(recipe, parameters)
  const last = await lastAccounts(request, context)
  const known = await tablesBefore(request, context)
  const ran = runRecipe(recipe, {
    sources,
    parameters: cells,
    now,
    cache: context.inputs.steps,
    shouldStop: context.shouldStop,
    ...(reportProgress
      ? { onStep: (done, of, step) => context.progress({ done, of, doing: sentenceText(step, tableNames(recipe)) }) }
      : {}),
  })
  const checked = Object.fromEntries(
    Object.entries(inputs).map(([id, opened]): [string, CheckedInput] => [
      id,
      { ...opened, before: known.get(id)?.table, kept: ownValue(kept, id) ?? [] },
    ]),
  )
  const accounts = accountsOf(recipe, inputs, ran.tables, parameterTexts(recipe, cells), request.recipe)
  const report = withoutOwnNames(
    checkCompatibility(recipe, checked, {
      ran,
      last,
      parameters: cells,
      unanswered: request.recipe,
      steps: accounts.tables,
    }),
    answers,
  )
  return {
    recipe,
    files,
    inputs,
    ran,
    report,
    open: openFindings(report.findings, answers).length,
    accounts,
    last,
  }
}
