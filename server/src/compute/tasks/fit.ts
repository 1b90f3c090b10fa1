import {
  checkCompatibility,
  columnAliases,
  needsData,
  ownValue,
  parameterCells,
  runRecipe,
  type CheckedInput,
  type ColumnAliases,
  type Recipe,
} from '@fabula/core'
import { fitReply, type FitReply } from '@fabula/core/api'
import type { OpenedFiles } from '@fabula/formats'
import { openAll, openFiles, reads, type InputFiles, type WorkerContext } from '../worker-context.ts'
import { defineTask } from './define-task.ts'

type FitRequest = {
  readonly recipe: Recipe
  readonly files: InputFiles
  /** The files of the last accepted run. */
  readonly before: InputFiles
  readonly renames: Readonly<Record<string, ColumnAliases>>
}

/** The files of the last run, of inputs that are given others now. */
const openBefore = async (
  { recipe, files, before }: FitRequest,
  context: WorkerContext,
): Promise<ReadonlyMap<string, OpenedFiles>> => {
  const opened = new Map<string, OpenedFiles>()
  for (const [input, read] of reads(recipe)) {
    const refs = ownValue(before, input)
    if (!refs || refs === ownValue(files, input)) continue
    const aliases = columnAliases(recipe.inputs.find(({ id }) => id === input))
    opened.set(input, (await openFiles(refs, read, aliases, context)).files)
  }
  return opened
}

const inputSummary = (
  { id, name }: Recipe['inputs'][number],
  { files, before }: FitRequest,
  opened: OpenedFiles | undefined,
): FitReply['inputs'] =>
  opened
    ? [
        {
          id,
          name,
          files: [...(ownValue(files, id) ?? [])],
          rows: opened.table.rowCount,
          columns: opened.table.names.length,
          kept: ownValue(before, id) === ownValue(files, id),
        },
      ]
    : []

/** Whether new files fit a recipe: findings with their offers, and what each input holds. */
export const fit = defineTask({
  reply: fitReply,
  run: async (request: FitRequest, context): Promise<FitReply> => {
    const { recipe, files, renames } = request
    const { inputs, sources } = await openAll(recipe, files, renames, context)
    const known = await openBefore(request, context)
    const checked = Object.fromEntries(
      Object.entries(inputs).map(([id, { table, parts, missingSheets, renamed }]): [string, CheckedInput] => [
        id,
        {
          table,
          parts,
          missingSheets,
          renamed,
          before: known.get(id)?.table,
          partsBefore: known.get(id)?.parts,
        },
      ]),
    )
    const trial = needsData(recipe)
      ? runRecipe(recipe, {
          sources,
          parameters: parameterCells(recipe, {}).cells,
          now: 0,
          cache: context.inputs.steps,
          shouldStop: context.shouldStop,
        })
      : undefined
    const { verdict, findings } = checkCompatibility(recipe, checked, trial)
    return {
      verdict,
      findings: findings.map((finding) => ({
        ...finding,
        offers: finding.offers.map((offer) =>
          offer.do === 'change-step' ? { ...offer, params: { ...offer.params } } : offer,
        ),
      })),
      inputs: recipe.inputs.flatMap((input) => inputSummary(input, request, ownValue(inputs, input.id))),
    }
  },
})
