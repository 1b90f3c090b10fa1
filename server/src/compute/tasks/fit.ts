import { ownValue, type Recipe, type TableRun } from '@fabula/core'
import { fitReply, type FitReply } from '@fabula/core/api'
import { tryReplay, type Trial, type TrialRequest } from '../trial.ts'
import { defineTask } from './define-task.ts'

type FitRequest = TrialRequest & {
  /** When the last accepted run was; null where the story was never replayed. */
  readonly lastAt: string | null
}
type Statistics = FitReply['tables'][number]['steps'][number]

/** The statistics of every step that ran, as plain data. */
export const ranStatistics = (tables: readonly TableRun[]): { id: string; steps: Statistics[] }[] =>
  tables.map(({ id, steps }) => ({
    id,
    steps: steps.flatMap(({ statistics }) => (statistics ? [structuredClone(statistics) as Statistics] : [])),
  }))

const inputSummary = (
  { id, name }: Recipe['inputs'][number],
  { kept }: FitRequest,
  { inputs, files }: Trial,
): FitReply['inputs'] => {
  const opened = ownValue(inputs, id)
  if (!opened) return []
  const refs = ownValue(files, id) ?? []
  const keptHere = ownValue(kept, id) ?? []
  return [
    {
      id,
      name,
      files: refs.map((file, i) => ({
        name: file.name,
        hash: file.hash,
        size: file.size,
        sample: file.sample,
        rows: opened.files[i]?.rows ?? 0,
        sheets: opened.parts.flatMap((part) =>
          part.file === file.name && part.sheet !== undefined ? [part.sheet] : [],
        ),
        kept: keptHere.includes(file.hash),
      })),
      rows: opened.table.rowCount,
      columns: opened.table.names.length,
    },
  ]
}

/** Whether new files fit a recipe: a trial run, findings with their offers, and what each input holds. */
export const fit = defineTask({
  reply: fitReply,
  run: async (request: FitRequest, context): Promise<FitReply> => {
    const trial = await tryReplay(request, context)
    const { verdict, findings } = trial.report
    return structuredClone({
      verdict,
      findings,
      inputs: request.recipe.inputs.flatMap((input) => inputSummary(input, request, trial)),
      answers: request.answers,
      tables: ranStatistics(trial.ran.tables),
      last: trial.last ? { tables: trial.last.tables, at: request.lastAt } : null,
    }) as FitReply
  },
})
