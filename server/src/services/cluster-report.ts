import { open } from 'node:fs/promises'
import { sentenceText, tableNames, type CompatibilityFinding, type Plan, type Recipe } from '@fabula/core'
import { fileFromBytes, openInput } from '@fabula/formats'
import type { RunReply } from '@fabula/core/api'
import { firstRows } from '../compute/outputs.ts'
import type { RunMade } from '../store/runs.ts'
import type { ClusterOutput } from './cluster-output.ts'

type PlannedTable = Plan['tables'][number]
type Written = { readonly table: string; readonly file: string; readonly path: string }
type Output = RunReply['outputs'][number]

/** Rows shown of a table, and how much of its file is read for them. */
const shownRows = 50
const shownBytes = 1 << 18

/** A path of this machine without the scheme that may stand before it. */
export const withoutFileScheme = (path: string): string => path.replace(/^file:(?:\/\/)?/, '')

/** The first rows of a CSV that this machine reads too; none where it does not. */
const preview = async (path: string): Promise<Pick<Output, 'first' | 'names' | 'types'>> => {
  const none = { first: [], names: [], types: [] }
  const file = await open(withoutFileScheme(path)).catch(() => undefined)
  if (!file) return none
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(shownBytes), 0, shownBytes, 0)
    const whole = bytesRead < shownBytes ? bytesRead : buffer.lastIndexOf('\n', bytesRead - 1) + 1
    const { table } = await openInput([fileFromBytes('result.csv', buffer.subarray(0, whole))], {
      encoding: 'utf-8',
      delimiter: ',',
    })
    return {
      first: firstRows(table, shownRows),
      names: [...table.names],
      types: table.schema.map(({ type }) => type),
    }
  } catch {
    return none
  } finally {
    await file.close()
  }
}

const namesOf = (schema: PlannedTable['steps'][number]['input']): string[] => schema.map(({ name }) => name)

/** What each step left, as far as the script's accounts say it; a step whose rows were not asked for has none. */
const statistics = (recipe: Recipe, table: PlannedTable, { accounts }: ClusterOutput): RunReply['tables'][number] => {
  let rowsIn = 0
  const own = recipe.tables.find(({ id }) => id === table.id)
  const steps = table.steps.flatMap(({ step, input, output }) => {
    const account = accounts.get(step.id)
    if (!account) return []
    const before = rowsIn
    rowsIn = account.rows
    const [had, has] = [namesOf(input), namesOf(output)]
    return [
      {
        id: step.id,
        kind: step.kind,
        sentence: sentenceText(step, tableNames(recipe, own)),
        rowsIn: before,
        rowsOut: account.rows,
        rowsLeft: Math.max(0, before - account.rows),
        rowsCame: Math.max(0, account.rows - before),
        columnsAdded: has.filter((name) => !had.includes(name)),
        columnsDropped: had.filter((name) => !has.includes(name)),
        columnsRenamed: {},
        cellsChanged: 0,
        unreadable: {},
        notes: {},
      },
    ]
  })
  return { id: table.id, steps }
}

/** What a script said that should be looked at. */
const findingOf = (sentence: string): CompatibilityFinding => ({
  code: 'said-by-script',
  grade: 'fits',
  asks: false,
  offers: [],
  sentence,
})

/** What a replay on a cluster made: accounts of the script, its sentences, and the first rows of what this machine can read. */
export const clusterRunMade = async (
  recipe: Recipe,
  plan: Plan,
  written: readonly Written[],
  folder: string,
  output: ClusterOutput,
): Promise<RunMade> => {
  const tables = plan.tables.map((table) => statistics(recipe, table, output))
  const outputs = await Promise.all(
    written.map(async ({ table, file, path }): Promise<Output> => {
      const last = plan.tables.find(({ id }) => id === table)?.steps.findLast(({ state }) => state !== 'off')
      const { rows = 0, columns = 0 } = (last && output.accounts.get(last.step.id)) ?? {}
      return { table, file, format: 'csv', hash: '', into: folder, rows, columns, totals: {}, ...(await preview(path)) }
    }),
  )
  const findings = output.sentences.map(findingOf)
  return { files: [], tables, outputs, pictures: [], findings, open: 0 }
}
