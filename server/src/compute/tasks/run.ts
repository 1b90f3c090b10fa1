import {
  chartData,
  checkCompatibility,
  refusals,
  runRecipe,
  sentenceText,
  tableNames,
  type ColumnAliases,
  type Recipe,
  type Table,
} from '@fabula/core'
import type { Picture, RunReply } from '@fabula/core/api'
import { UnwritableTable } from '@fabula/formats'
import type { Connection } from '../../sources/postgresql.ts'
import { writeOutputs } from '../outputs.ts'
import { openAll, TaskProblem, type InputFiles } from '../worker-context.ts'
import { defineTask } from './define-task.ts'
import { cellsFor } from './story-run.ts'

type RunRequest = {
  readonly recipe: Recipe
  readonly pictures: readonly Picture[]
  readonly files: InputFiles
  readonly renames: Readonly<Record<string, ColumnAliases>>
  readonly allowChanges: boolean
  readonly parameters: Readonly<Record<string, string>>
  readonly connections: Readonly<Record<string, Connection>>
  readonly now: number
}
export type RunResult = Pick<RunReply, 'files' | 'tables' | 'outputs' | 'pictures'> & {
  readonly stored: readonly { hash: string; size: number }[]
}
type Ran = ReturnType<typeof runRecipe>
type Opened = Awaited<ReturnType<typeof openAll>>['inputs']

/** Nothing may be written of a run whose data was refused, whose check says stop, or whose files do not fit. @throws TaskProblem */
const requireWritable = ({ recipe, allowChanges }: RunRequest, inputs: Opened, ran: Ran): void => {
  const refused = refusals(ran.plan)
  if (refused.length > 0)
    throw new TaskProblem(`The data was refused. ${refused.map(({ sentence }) => sentence).join(' ')}`)
  const stopped = ran.tables.flatMap(({ steps }) =>
    steps.flatMap(({ statistics }) =>
      statistics?.check && !statistics.check.passed && statistics.check.stop ? [statistics.check.say] : [],
    ),
  )
  if (stopped.length > 0) throw new TaskProblem(`A check stops the replay: ${stopped.join('; ')}. Nothing was written.`)
  const { verdict, findings } = checkCompatibility(recipe, inputs, ran)
  if (verdict === 'fits' || (verdict === 'fits-with-changes' && allowChanges)) return
  const told = findings.filter(({ code }) => code !== 'new-column').map(({ sentence }) => sentence)
  throw new TaskProblem(`The files do not fit: ${told.join(' ')}`)
}

/** A replay: the recipe run on files, every output written. */
export const run = defineTask({
  run: async (request: RunRequest, context): Promise<RunResult> => {
    const { recipe, files, renames, parameters, now } = request
    const { inputs, sources } = await openAll(recipe, files, renames, context)
    const ran = runRecipe(recipe, {
      sources,
      parameters: cellsFor(recipe, parameters),
      now,
      cache: context.inputs.steps,
      shouldStop: context.shouldStop,
      onStep: (done, of, step) => context.progress({ done, of, doing: sentenceText(step, tableNames(recipe)) }),
    })
    requireWritable(request, inputs, ran)
    const { tables } = ran
    const tableOf = (id: string): Table => {
      const result = tables.find((one) => one.id === id)?.table
      if (!result) throw new TaskProblem(`The table ${tableNames(recipe)(id)} could not be made.`)
      return result
    }
    const pictures = request.pictures.flatMap((picture) => {
      const table = tables.find(({ id }) => id === picture.table)?.table
      return table ? [{ picture, data: chartData(picture, table) }] : []
    })
    context.progress({ done: 1, of: 1, doing: 'Writing what came out' })
    const { outputs, stored } = await writeOutputs(
      recipe,
      tableOf,
      pictures,
      context.folder,
      request.connections,
    ).catch((error: unknown) => {
      throw error instanceof UnwritableTable ? new TaskProblem(error.message) : error
    })
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
  },
})
