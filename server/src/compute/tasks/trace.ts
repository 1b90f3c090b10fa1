import { columnAliases, ownValue, parameterCells, runRecipe, setOwnValue } from '@fabula/core'
import type { FollowReply, LostReply, SheetReply, TraceReply } from '@fabula/core/api'
import { openSourceRows, Tracer, TraceProblem, type OpenRows, type TracedInput } from '@fabula/formats'
import { Refusal } from '../../refusal.ts'
import { openAll, reads, stored, type WorkerContext } from '../worker-context.ts'
import { defineTableQuery } from './define-task.ts'
import type { StoryFiles } from './story-run.ts'

/** So many files are kept as text, so that row after row of one can be asked about. */
const mostKept = 4
const kept = new Map<string, ReturnType<OpenRows>>()

const openKept: OpenRows = (file, sheet, read, known) => {
  const key = JSON.stringify([file.label, sheet, read, known])
  const rows = kept.get(key) ?? openSourceRows(file.load(), sheet, read, known)
  kept.delete(key)
  kept.set(key, rows)
  for (const old of kept.keys()) if (kept.size > mostKept) kept.delete(old)
  return rows
}

/** A story run whole, ready to be traced; its steps are those of the cache. */
const tracerOf = async (
  { recipe, files, parameters = {}, now }: StoryFiles,
  context: WorkerContext,
): Promise<Tracer> => {
  const { sources, inputs } = await openAll(recipe, files, context)
  const { cells } = parameterCells(recipe, parameters)
  const { tables } = runRecipe(recipe, {
    sources,
    parameters: cells,
    now,
    cache: context.inputs.steps,
    shouldStop: context.shouldStop,
  })
  const traced: Record<string, TracedInput> = {}
  for (const [input, read] of reads(recipe))
    setOwnValue(traced, input, {
      files: (ownValue(files, input) ?? []).map(({ aliases, withoutSheets, ...file }) => ({
        name: file.name,
        label: file.hash,
        load: () => ({ ...stored(file, context), aliases, withoutSheets }),
      })),
      parts: ownValue(inputs, input)?.parts ?? [],
      read,
      known: columnAliases(recipe.inputs.find(({ id }) => id === input)),
    })
  return new Tracer({ recipe, tables, parameters: cells, now }, traced, openKept)
}

/** What is not there is a refusal. */
const refused = async <T>(answer: Promise<T>): Promise<T> => {
  try {
    return await answer
  } catch (error) {
    throw error instanceof TraceProblem ? new Refusal('not-traced', { reason: error.message }) : error
  }
}

/** Where a row, or a cell of it, comes from. */
export const trace = defineTableQuery('trace', async ({ table, step, row, column, limit }, story, context) => {
  const tracer = await tracerOf(story, context)
  return (await refused(tracer.backWithPassedOver(table, row, { column, after: step, limit }))) as TraceReply
})

/** What became of a row of a file. */
export const follow = defineTableQuery('follow', async ({ from, limit }, story, context) => {
  const tracer = await tracerOf(story, context)
  const answer =
    'entered' in from
      ? tracer.forwardEntered(from.entered, from.row, limit)
      : tracer.forward(from.input, from.file, from.sheet, from.row, limit)
  return (await refused(answer)) as FollowReply
})

/** Rows of a file as they stand in it. */
export const sheet = defineTableQuery('sheet', async ({ of, first, count }, story, context) => {
  const tracer = await tracerOf(story, context)
  return (await refused(tracer.rows.sheet(of.input, of, first, count))) as SheetReply
})

/** Where the rows of each input went. */
export const lost = defineTableQuery('lost', async ({ table, limit, since, until }, story, context) => {
  const tracer = await tracerOf(story, context)
  return { inputs: (await refused(tracer.lost(table, limit, { since, until }))) as LostReply['inputs'] }
})
