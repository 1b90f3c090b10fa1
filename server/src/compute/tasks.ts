import { setOwnValue, ownValue } from '@fabula/core'
import {
  chartData,
  factsOf,
  findText,
  checkCompatibility,
  columnAliases,
  lineageBetween,
  quickFixesFor,
  needsData,
  parameterCells,
  partnersOf,
  dialects,
  type Dialect,
  type Plan,
  refusals,
  runRecipe,
  ScriptError,
  sentenceOf,
  sentenceText,
  suggestGroups,
  tableNames,
  tablesNeeded,
  valuesOf,
  diffView,
  type ReadOptions,
  type Recipe,
  type ColumnAliases,
  type ColumnFacts,
  type SimilarityMeasure,
  type Step,
  type Table,
} from '@fabula/core'
import * as api from '@fabula/core/api'
import type {
  FileRef,
  FitReply,
  GroupsReply,
  LookReply,
  OpenReply,
  Picture,
  PreviewReply,
  PreviewRequest,
  ReconcileReply,
  RunReply,
  ScriptReply,
} from '@fabula/core/api'
import { lookAtFile, UnwritableTable, type OpenedFiles } from '@fabula/formats'
import type { Connection } from '../sources/postgresql.ts'
import { setImmediate as otherWork } from 'node:timers/promises'
import { prove } from './tasks/prove.ts'
import { alignTables, matchTables, reconcileTables, type MatchAsked } from './workbenches.ts'
import {
  openAll,
  openFiles,
  reads,
  stored,
  TaskProblem,
  type WorkerContext,
  type InputFiles,
} from './worker-context.ts'
import { firstRows, writeOutputs } from './outputs.ts'

type TablePosition = { readonly table: string; readonly step: string }
/** Work done in a worker thread. A `Task` is plain data; `Progress` tells how far it is. */
export type Task =
  | {
      readonly kind: 'look'
      readonly hash: string
      readonly name: string
      readonly read: ReadOptions
      readonly sheet: string | undefined
    }
  | { readonly kind: 'open'; readonly files: readonly FileRef[]; readonly read: ReadOptions }
  | { readonly kind: 'preview'; readonly request: PreviewRequest; readonly files: InputFiles; readonly now: number }
  | {
      readonly kind: 'facts'
      readonly recipe: Recipe
      readonly table: string
      readonly step: string
      readonly columns: readonly string[]
      readonly deep: boolean
      readonly files: InputFiles
      readonly now: number
    }
  | {
      readonly kind: 'values'
      readonly recipe: Recipe
      readonly table: string
      readonly step: string
      readonly column: string
      readonly files: InputFiles
      readonly now: number
    }
  | {
      readonly kind: 'groups'
      readonly recipe: Recipe
      readonly table: string
      readonly step: string
      readonly column: string
      readonly files: InputFiles
      readonly now: number
    }
  | {
      readonly kind: 'picture'
      readonly recipe: Recipe
      readonly table: string
      readonly step: string
      readonly picture: Picture
      readonly files: InputFiles
      readonly now: number
    }
  | {
      readonly kind: 'match'
      readonly recipe: Recipe
      readonly table: string
      readonly step: string
      readonly with: string
      readonly asked: MatchAsked
      readonly files: InputFiles
      readonly now: number
    }
  | {
      readonly kind: 'align'
      readonly recipe: Recipe
      readonly table: string
      readonly step: string
      readonly union: { readonly with: readonly string[] }
      readonly files: InputFiles
      readonly now: number
    }
  | {
      readonly kind: 'reconcile'
      readonly recipe: Recipe
      readonly here: TablePosition
      readonly there: TablePosition
      readonly asked: Parameters<typeof reconcileTables>[3]
      readonly files: InputFiles
      readonly now: number
    }
  | { readonly kind: 'scripts'; readonly recipe: Recipe; readonly files: InputFiles }
  | {
      readonly kind: 'cells'
      readonly hash: string
      readonly name: string
      /** Which sheet of a workbook, from 0. */ readonly sheet: number
    }
  | {
      readonly kind: 'prove'
      readonly recipe: Recipe
      readonly files: InputFiles
      readonly now: number
      /** An empty folder to work in. */ readonly folder: string
    }
  | {
      readonly kind: 'find'
      readonly recipe: Recipe
      readonly table: string
      readonly step: string
      readonly text: string
      readonly from: { readonly row: number; readonly column: string } | null
      readonly back: boolean
      readonly files: InputFiles
      readonly now: number
    }
  | {
      readonly kind: 'fit'
      readonly recipe: Recipe
      readonly files: InputFiles
      readonly before: InputFiles
      readonly renames: Readonly<Record<string, ColumnAliases>>
    }
  | {
      readonly kind: 'run'
      readonly recipe: Recipe
      readonly pictures: readonly Picture[]
      readonly files: InputFiles
      readonly renames: Readonly<Record<string, ColumnAliases>>
      readonly allowChanges: boolean
      readonly parameters: Readonly<Record<string, string>>
      readonly connections: Readonly<Record<string, Connection>>
      readonly now: number
    }
const cellsFor = (recipe: Recipe, given: Readonly<Record<string, string>>) => {
  const { cells, faults } = parameterCells(recipe, given)
  if (faults.length > 0) throw new TaskProblem(faults.map(({ sentence }) => sentence).join(' '))
  return cells
}

const runTo = async (
  recipe: Recipe,
  table: string,
  step: string,
  files: InputFiles,
  now: number,
  context: WorkerContext,
  drafts: readonly string[] = [],
) => {
  const needed = tablesNeeded(recipe, table)
  const only: Recipe = { ...recipe, tables: recipe.tables.filter(({ id }) => needed.includes(id)) }
  const { sources } = await openAll(only, files, {}, context)
  const began = performance.now()
  const { tables, plan } = runRecipe(only, {
    sources,
    parameters: cellsFor(recipe, {}),
    now,
    cache: context.inputs.steps,
    until: { table, step },
    drafts,
    shouldStop: context.shouldStop,
  })
  const ran = tables.find(({ id }) => id === table)
  if (!ran) throw new TaskProblem('This table is not in the recipe.')
  return { ran, plan, engineMs: performance.now() - began }
}

const tableAfter = async (
  { recipe, table, step, files, now }: Extract<Task, { kind: 'facts' | 'values' | 'groups' | 'find' | 'picture' }>,
  context: WorkerContext,
): Promise<Table | undefined> =>
  (await runTo(recipe, table, step, files, now, context)).ran.steps.find((one) => one.step.id === step)?.table

type StoryFiles = { readonly recipe: Recipe; readonly files: InputFiles; readonly now: number }
const ranTo = async (story: StoryFiles, table: string, step: string | undefined, context: WorkerContext) => {
  const one = story.recipe.tables.find(({ id }) => id === table)
  const last = step ?? one?.steps.at(-1)?.id ?? ''
  const { ran } = await runTo(story.recipe, table, last, story.files, story.now, context)
  const done = ran.steps.find((reported) => reported.step.id === last)
  if (!one || !done || done.state === 'broken' || done.state === 'waiting')
    throw new TaskProblem(`The table ${one?.name ?? table} is not finished: one of its sentences needs a mend first.`)
  return { ran, table: done.table }
}
/** A table of the story after its last sentence, or after another one; a story that breaks before has none. */
const tableOf = async (
  story: StoryFiles,
  table: string,
  step: string | undefined,
  context: WorkerContext,
): Promise<Table> => (await ranTo(story, table, step, context)).table

const reconcile = async (
  task: Extract<Task, { kind: 'reconcile' }>,
  context: WorkerContext,
): Promise<ReconcileReply> => {
  const here = await ranTo(task, task.here.table, task.here.step, context)
  const there = await ranTo(task, task.there.table, task.there.step, context)
  // rows of two moments of one table are known by where they came from
  const lineage =
    task.here.table === task.there.table ? lineageBetween(there.ran.steps, task.here.step, task.there.step) : undefined
  return reconcileTables(here.table, there.table, lineage, task.asked)
}

const preview = async (
  { request, files, now }: Extract<Task, { kind: 'preview' }>,
  context: WorkerContext,
): Promise<PreviewReply> => {
  const { recipe, table, step, diffMode, only, from, count } = request
  const { ran, plan, engineMs } = await runTo(recipe, table, step, files, now, context, request.drafts ?? [])
  const at = Math.max(
    0,
    ran.steps.findIndex((one) => one.step.id === step),
  )
  const view = diffView(ran.steps, at, diffMode, only, from, count)
  const planned = plan.tables.find(({ id }) => id === table)?.steps ?? []
  return {
    ...structuredClone(view),
    rows: view.rows.map(({ old, bad, ...row }) => ({
      ...row,
      cells: [...row.cells],
      ...(old ? { old: { ...old } } : {}),
      ...(bad ? { bad: [...bad] } : {}),
    })),
    columns: view.columns.map((column) => ({ ...column })),
    steps: planned.map(({ step: one, state, problems, output }) => {
      const statistics = ran.steps.find((done) => done.step.id === one.id)?.statistics
      return {
        id: one.id,
        state,
        statistics: statistics ? (structuredClone(statistics) as PreviewReply['steps'][number]['statistics']) : null,
        columns: output.map((field) => ({ ...field })),
        problems: problems.map((problem) => ({
          sentence: sentenceOf(problem),
          path: [...problem.path],
          quickFixes: quickFixesFor(one, problem).map(({ column, words, step: mended }) => ({
            column,
            ...(words ? { words } : {}),
            step: mended as Step & { [key: string]: unknown },
          })),
        })),
      }
    }),
    engineMs,
  }
}

/** More different values are not held against each other: they are no spellings of a few things. */
const mostCompared = 6000
const mostGroups = 400

const groupsOf = (bars: readonly { label: string; count: number }[]): GroupsReply => {
  const values = bars.slice(0, mostCompared).map(({ label, count }) => ({ text: label, count }))
  const by = (judge: SimilarityMeasure): GroupsReply[SimilarityMeasure] =>
    suggestGroups(values, judge)
      .slice(0, mostGroups)
      .map((group) => ({ ...group, members: [...group.members] }))
  return {
    values,
    sound: by('sound'),
    characters: by('characters'),
    spelling: by('spelling'),
    beyond: bars.length - values.length,
  }
}

const fit = async (
  { recipe, files, before, renames }: Extract<Task, { kind: 'fit' }>,
  context: WorkerContext,
): Promise<FitReply> => {
  const { inputs, sources } = await openAll(recipe, files, renames, context)
  const known = new Map<string, OpenedFiles>()
  for (const [input, read] of reads(recipe)) {
    const refs = ownValue(before, input)
    if (refs && refs !== ownValue(files, input))
      known.set(
        input,
        (await openFiles(refs, read, columnAliases(recipe.inputs.find(({ id }) => id === input)), context)).files,
      )
  }
  const report = checkCompatibility(
    recipe,
    Object.fromEntries(
      Object.entries(inputs).map(([id, one]) => [
        id,
        {
          table: one.table,
          parts: one.parts,
          missingSheets: one.missingSheets,
          renamed: one.renamed,
          before: known.get(id)?.table,
          partsBefore: known.get(id)?.parts,
        },
      ]),
    ),
    needsData(recipe)
      ? runRecipe(recipe, {
          sources,
          parameters: parameterCells(recipe, {}).cells,
          now: 0,
          cache: context.inputs.steps,
          shouldStop: context.shouldStop,
        })
      : undefined,
  )
  return {
    verdict: report.verdict,
    findings: report.findings.map((finding) => ({
      ...finding,
      offers: finding.offers.map((offer) =>
        offer.do === 'change-step' ? { ...offer, params: { ...offer.params } } : offer,
      ),
    })),
    inputs: recipe.inputs.flatMap(({ id, name }) => {
      const table = ownValue(inputs, id)?.table
      return table
        ? [
            {
              id,
              name,
              files: [...(ownValue(files, id) ?? [])],
              rows: table.rowCount,
              columns: table.names.length,
              kept: ownValue(before, id) === ownValue(files, id),
            },
          ]
        : []
    }),
  }
}

/** Both scripts; columns that only data can tell are pinned to those of the flow's own files. */
const scriptIn = (
  { name: dialect, label, fileEnding, assemble }: Dialect,
  recipe: Recipe,
  plan: Plan | undefined,
): ScriptReply['scripts'][number] => {
  try {
    return { dialect, label, fileEnding, parts: [...assemble(recipe, plan).parts], problem: null }
  } catch (error) {
    if (error instanceof ScriptError) return { dialect, label, fileEnding, parts: [], problem: error.message }
    throw error
  }
}

const scripts = async (
  { recipe, files }: Extract<Task, { kind: 'scripts' }>,
  context: WorkerContext,
): Promise<ScriptReply> => {
  const ready = [...reads(recipe).keys()].every((input) => (ownValue(files, input) ?? []).length > 0)
  const plan =
    needsData(recipe) && ready
      ? runRecipe(recipe, {
          sources: (await openAll(recipe, files, {}, context)).sources,
          parameters: parameterCells(recipe, {}).cells,
          now: 0,
          cache: context.inputs.steps,
          shouldStop: context.shouldStop,
        }).plan
      : undefined
  return { scripts: Object.values(dialects).map((dialect) => scriptIn(dialect, recipe, plan)) }
}

export type RunResult = Pick<RunReply, 'files' | 'tables' | 'outputs' | 'pictures'> & {
  readonly stored: readonly { hash: string; size: number }[]
}

const run = async (task: Extract<Task, { kind: 'run' }>, context: WorkerContext): Promise<RunResult> => {
  const { recipe, files, renames, parameters, now } = task
  const { inputs, sources } = await openAll(recipe, files, renames, context)
  const ran = runRecipe(recipe, {
    sources,
    parameters: cellsFor(recipe, parameters),
    now,
    cache: context.inputs.steps,
    shouldStop: context.shouldStop,
    onStep: (done, of, step) => context.progress({ done, of, doing: sentenceText(step, tableNames(recipe)) }),
  })
  const refused = refusals(ran.plan)
  if (refused.length > 0)
    throw new TaskProblem(`The data was refused. ${refused.map(({ sentence }) => sentence).join(' ')}`)
  const stopped = ran.tables.flatMap(({ steps }) =>
    steps.flatMap(({ statistics }) =>
      statistics?.check && !statistics.check.passed && statistics.check.stop ? [statistics.check.say] : [],
    ),
  )
  if (stopped.length > 0) throw new TaskProblem(`A check stops the replay: ${stopped.join('; ')}. Nothing was written.`)
  const report = checkCompatibility(recipe, inputs, ran)
  if (report.verdict === 'does-not-fit' || (report.verdict === 'fits-with-changes' && !task.allowChanges))
    throw new TaskProblem(
      `The files do not fit: ${report.findings
        .filter(({ code }) => code !== 'new-column')
        .map(({ sentence }) => sentence)
        .join(' ')}`,
    )
  const { tables } = ran
  const tableOf = (id: string): Table => {
    const result = tables.find((one) => one.id === id)?.table
    if (!result) throw new TaskProblem(`The table ${tableNames(recipe)(id)} could not be made.`)
    return result
  }
  const pictures = task.pictures.flatMap((picture) => {
    const table = tables.find(({ id }) => id === picture.table)?.table
    return table ? [{ picture, data: chartData(picture, table) }] : []
  })
  context.progress({ done: 1, of: 1, doing: 'Writing what came out' })
  const { outputs, stored } = await writeOutputs(recipe, tableOf, pictures, context.folder, task.connections).catch(
    (error: unknown) => {
      throw error instanceof UnwritableTable ? new TaskProblem(error.message) : error
    },
  )
  return {
    stored,
    outputs,
    pictures,
    files: Object.entries(inputs).flatMap(([input, one]) =>
      one.files.map(({ name, sha256, rows }) => ({ input, name, hash: sha256, rows })),
    ),
    tables: tables.map(({ id, steps }) => ({
      id,
      steps: steps.flatMap(({ statistics }) =>
        statistics ? [structuredClone(statistics) as RunReply['tables'][number]['steps'][number]] : [],
      ),
    })),
  }
}

export const perform = async (task: Task, context: WorkerContext): Promise<unknown> => {
  switch (task.kind) {
    case 'look': {
      const look: LookReply = structuredClone(lookAtFile(stored(task, context), task.read, task.sheet)) as LookReply
      return look
    }
    case 'open': {
      const { table, notes, parts, missingSheets, unreadable } = (await openFiles(task.files, task.read, {}, context))
        .files
      const reply: OpenReply = {
        columns: table.schema.map((field) => ({ ...field })),
        rows: table.rowCount,
        notes: { ...notes },
        parts: parts.map((part) => ({ ...part, lacks: [...part.lacks] })),
        missingSheets: [...missingSheets],
        unreadable: Object.fromEntries(unreadable.map(({ column, rows }) => [column, rows.length])),
        first: firstRows(table, 60),
        partners: partnersOf(table, parts).map((partner) => ({ ...partner })),
      }
      return reply
    }
    case 'preview':
      return preview(task, context)
    case 'facts': {
      const table = await tableAfter(task, context)
      const facts: Record<string, ColumnFacts> = {}
      for (const name of task.columns) {
        if (context.shouldStop()) throw new TaskProblem('Newer facts are asked for.')
        if (table && table.positionOf(name) >= 0) setOwnValue(facts, name, factsOf(name, table.named(name), task.deep))
        await otherWork()
      }
      return { facts }
    }
    case 'values': {
      const table = await tableAfter(task, context)
      return { values: table && table.positionOf(task.column) >= 0 ? valuesOf(table.named(task.column), 500) : [] }
    }
    case 'groups': {
      const table = await tableAfter(task, context)
      return groupsOf(table && table.positionOf(task.column) >= 0 ? valuesOf(table.named(task.column), 1_000_000) : [])
    }
    case 'find': {
      const table = await tableAfter(task, context)
      return table ? findText(table, task.text, task.from, task.back) : { found: null, total: 0 }
    }
    case 'picture': {
      const table = await tableAfter(task, context)
      return table
        ? chartData(task.picture, table)
        : { labels: [], series: [], values: [], points: [], wheres: [], beyond: 0 }
    }
    case 'match':
      return matchTables(
        await tableOf(task, task.table, task.step, context),
        await tableOf(task, task.with, undefined, context),
        task.asked,
      )
    case 'align': {
      const tables = [await tableOf(task, task.table, task.step, context)]
      for (const id of task.union.with) tables.push(await tableOf(task, id, undefined, context))
      return alignTables(task.union, task.table, tables)
    }
    case 'reconcile':
      return reconcile(task, context)
    case 'scripts':
      return scripts(task, context)
    case 'cells': {
      const { format, sheets } = lookAtFile(stored(task, context), {}, undefined)
      const sheet = sheets[task.sheet]?.name
      const readAs = (): ReadOptions => {
        if (format === 'csv') return { delimiter: ',', types: 'text' }
        if (sheet === undefined) return {}
        return { sheets: [sheet] }
      }
      const { table } = (await openFiles([{ name: task.name, hash: task.hash, size: 0 }], readAs(), {}, context)).files
      return { rows: firstRows(table, table.rowCount) }
    }
    case 'prove':
      return prove(task, context)
    case 'fit':
      return fit(task, context)
    case 'run':
      return run(task, context)
  }
}

/** Replies that the server passes on unread, each held against its schema here; the others are held against theirs where they are sent. */
const replies: { readonly [K in Task['kind']]?: { readonly parse: (value: unknown) => unknown } } = {
  look: api.lookReply,
  preview: api.previewReply,
  facts: api.factsReply,
  values: api.valuesReply,
  groups: api.groupsReply,
  picture: api.pictureData,
  match: api.matchReply,
  align: api.alignReply,
  reconcile: api.reconcileReply,
  find: api.findReply,
  fit: api.fitReply,
  cells: api.cellsReply,
}
export const replyText = (kind: Task['kind'], result: unknown): string =>
  JSON.stringify(replies[kind]?.parse(result) ?? result)
