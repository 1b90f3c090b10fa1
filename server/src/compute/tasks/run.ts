import { chartData, openFindings, tableNames, type Table } from '@fabula/core'
import type { Picture } from '@fabula/core/api'
import { UnwritableTable } from '@fabula/formats'
import type { Connection } from '../../sources/postgresql.ts'
import type { RunMade } from '../../store/runs.ts'
import { writeOutputs } from '../outputs.ts'
import { tryReplay, type Trial, type TrialRequest } from '../trial.ts'
import { defineTask } from './define-task.ts'
import { ranStatistics } from './fit.ts'
import { Refusal } from '../../refusal.ts'

type RunRequest = TrialRequest & {
  readonly pictures: readonly Picture[]
  /** Whether it may run where findings are left without an answer. */
  readonly allowChanges: boolean
  readonly connections: Readonly<Record<string, Connection>>
}
export type RunResult = RunMade & {
  readonly stored: readonly { hash: string; size: number }[]
}
/** Nothing may be written of a run whose data was refused, whose check says stop, or whose files do not fit. @throws Refusal */
const requireWritable = ({ allowChanges, answers }: RunRequest, { report, open }: Trial): void => {
  const graded = (...grades: readonly string[]): string =>
    report.findings
      .filter(({ grade }) => grades.includes(grade))
      .map(({ sentence }) => sentence)
      .join(' ')
  if (graded('breaks') !== '') throw new Refusal('does-not-fit', { reason: graded('breaks') })
  if (graded('refused') !== '') throw new Refusal('data-refused', { reason: graded('refused') })
  if (open > 0 && !allowChanges)
    throw new Refusal('needs-answer', {
      reason: openFindings(report.findings, answers)
        .map(({ sentence }) => sentence)
        .join(' '),
    })
}

/** A replay: the recipe run on files, every output written. */
export const run = defineTask({
  run: async (request: RunRequest, context): Promise<RunResult> => {
    const trial = await tryReplay(request, context, true)
    requireWritable(request, trial)
    const { recipe, inputs, report, open, accounts } = trial
    const { tables } = trial.ran
    const tableOf = (id: string): Table => {
      const result = tables.find((one) => one.id === id)?.table
      if (!result) throw new Refusal('unmade-table', { name: tableNames(recipe)(id) })
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
      throw error instanceof UnwritableTable ? new Refusal('unwritable', { reason: error.message }) : error
    })
    return {
      stored,
      outputs,
      pictures,
      files: Object.entries(inputs).flatMap(([input, one]) =>
        one.files.map(({ name, sha256, rows }) => ({ input, name, hash: sha256, rows })),
      ),
      tables: ranStatistics(tables),
      findings: report.findings,
      open,
      accounts,
    }
  },
})
