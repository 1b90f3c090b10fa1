import { copyFileSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import {
  dialects,
  languages,
  inputFormat,
  ownValue,
  parameterCells,
  runRecipe,
  scriptOutputs,
  ScriptError,
  writeCsv,
  type Language,
  type Recipe,
} from '@fabula/core'
import type { ProofReply } from '@fabula/core/api'
import { firstDifference } from '../../proof/difference.ts'
import { ScriptFailed, type ProofJob, type Verdict } from '../../proof/prover.ts'
import { provers } from '../../proof/provers.ts'
import { defineTask } from './define-task.ts'
import { openAll, storedAt, type InputFiles, type WorkerContext } from '../worker-context.ts'
import { Refusal } from '../../refusal.ts'

type ProofRequest = {
  readonly recipe: Recipe
  readonly files: InputFiles
  readonly now: number
  readonly folder: string
}
type OpenedTables = Awaited<ReturnType<typeof openAll>>['inputs']

/** The inputs as a dialect takes them: files as they came, or as the CSV that the command line makes of them. */
const inputsFor = (
  dialect: Language,
  { recipe, files, folder }: ProofRequest,
  tables: OpenedTables,
  context: WorkerContext,
): ProofJob['inputs'] => {
  const originalFiles = (input: string): string[] =>
    (ownValue(files, input) ?? []).map((file, i) => {
      const place = join(folder, `${dialect}-${input}-${i}`)
      mkdirSync(place, { recursive: true })
      const path = join(place, file.name)
      copyFileSync(storedAt(file, context), path)
      return path
    })
  const asCsv = (input: string): string[] => {
    const path = join(folder, `${dialect}-${input}.csv`)
    const table = ownValue(tables, input)?.table
    if (table) writeFileSync(path, writeCsv(table))
    return [path]
  }
  const cannotRead: readonly string[] = dialects[dialect].cannotRead
  return recipe.inputs.map(({ id }) => ({
    id,
    paths: cannotRead.includes(inputFormat(recipe, id)) ? asCsv(id) : originalFiles(id),
  }))
}

const compared = (label: string, made: ProofJob['tables'][number]['made'], path: string): Verdict => {
  const difference = firstDifference(made ? writeCsv(made) : '', readFileSync(path, 'utf8'))
  if (!difference) return { state: 'same', sentence: 'every cell the same' }
  return {
    state: 'different',
    sentence: `${label} gives another table. ${difference.sentence} (The first is Fabula’s.)`,
  }
}

/** A script's verdict on each table, in the order of the tables. */
const proveIn = async (dialect: Language, job: ProofJob): Promise<Verdict[]> => {
  const { label } = dialects[dialect]
  try {
    const result = await provers[dialect](job)
    return job.tables.map(({ id, made }) => (typeof result === 'function' ? compared(label, made, result(id)) : result))
  } catch (error) {
    if (error instanceof ScriptError) return job.tables.map(() => ({ state: 'failed', sentence: error.message }))
    if (!(error instanceof ScriptFailed)) throw error
    return job.tables.map(() => ({ state: 'failed', sentence: `The ${label} script stopped: ${error.message}` }))
  }
}

/** Each dialect's script run on the flow's own inputs, and held against the engine cell for cell. */
const proveAll = async (asked: ProofRequest, context: WorkerContext): Promise<ProofReply> => {
  const { recipe, files, now, folder } = asked
  const report = (share: number, doing: string): void => {
    if (context.shouldStop()) throw new Refusal('stopped')
    context.progress({ done: Math.round(share * 100), of: 100, doing })
  }
  report(0, 'Telling the story as Fabula does')
  const { inputs, sources } = await openAll(recipe, files, context)
  const ran = runRecipe(recipe, {
    sources,
    parameters: parameterCells(recipe, {}).cells,
    now,
    cache: context.inputs.steps,
    shouldStop: context.shouldStop,
  })
  const tables = scriptOutputs(recipe).map(({ table: id }) => ({
    id,
    made: ran.tables.find((one) => one.id === id)?.table,
  }))
  if (tables.some(({ made }) => !made)) throw new Refusal('unfinished-story')
  const names = languages
  const verdicts: { readonly dialect: Language; readonly ofTables: readonly Verdict[] }[] = []
  for (const [i, dialect] of names.entries()) {
    const job: ProofJob = {
      recipe,
      plan: ran.plan,
      inputs: inputsFor(dialect, asked, inputs, context),
      tables,
      folder,
      now: new Date(now).toISOString().slice(0, 19),
      progress: (share, doing) => report(0.15 + (0.85 * (i + share)) / names.length, doing),
      shouldStop: context.shouldStop,
    }
    verdicts.push({ dialect, ofTables: await proveIn(dialect, job) })
  }
  report(1, 'Comparing')
  return {
    tables: tables.map(({ id, made }, t) => ({
      table: id,
      rows: made?.rowCount ?? 0,
      columns: made?.names.length ?? 0,
      proofs: verdicts.flatMap(({ dialect, ofTables }) => {
        const verdict = ofTables[t]
        return verdict ? [{ dialect, label: dialects[dialect].label, ...verdict }] : []
      }),
    })),
  }
}

export const prove = defineTask({ run: proveAll })
