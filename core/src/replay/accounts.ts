import { z } from 'zod'
import type { StepRun, TableRun } from '../engine/run.ts'
import { stepKeys } from '../engine/step-keys.ts'
import type { Recipe } from '../recipe/recipe.ts'
import { kindOf, paramsOf } from '../recipe/step-access.ts'
import { stepStatistics, type StepStatistics } from '../steps/shared/statistics.ts'
import { byWord } from '../table/by-word.ts'
import { columnTypes } from '../table/column.ts'
import { medianOf } from '../table/median.ts'
import { valueCounts } from '../table/value-counts.ts'
import { ownValue, setOwnValue } from '../table/own.ts'
import type { Schema, Table } from '../table/table.ts'

/** A sheet of a file as an account has it: a text file is one sheet without a name. */
export type SheetAccount = {
  readonly name?: string | undefined
  /** Of a sheet that was not taken in: those that were looked at. */
  readonly rows: number
  readonly columns: Schema
  /** It was there and not taken in. */
  readonly taken?: false | undefined
}
/** A file of an input as an account has it. */
export type FileAccount = {
  readonly name: string
  readonly sha256: string
  readonly rows: number
  readonly sheets?: readonly SheetAccount[] | undefined
}
/** What a step decided by, beside its statistics. */
export type StepAccount = StepStatistics & {
  readonly key?: string | undefined
  readonly decides?: Readonly<Record<string, readonly string[]>> | undefined
  readonly decidesMore?: readonly string[] | undefined
  readonly medians?: Readonly<Record<string, number>> | undefined
}
/** What a run was given and did, as the next one is compared with it. */
export type Accounts = {
  readonly parameters: Readonly<Record<string, unknown>>
  readonly inputs: readonly { readonly id: string; readonly files: readonly FileAccount[] }[]
  readonly tables: readonly { readonly id: string; readonly steps: readonly StepAccount[] }[]
}

const sheetAccount = z.object({
  name: z.string().optional(),
  rows: z.number(),
  columns: z.array(z.object({ name: z.string(), type: z.enum(columnTypes) })),
  taken: z.literal(false).optional(),
})
const fileAccount = z.object({
  name: z.string(),
  sha256: z.string(),
  rows: z.number(),
  sheets: z.array(sheetAccount).optional(),
})
const { shape } = stepStatistics
const stepAccount = z.object({
  ...shape,
  sentence: shape.sentence.default(''),
  rowsLeft: shape.rowsLeft.default(0),
  rowsCame: shape.rowsCame.default(0),
  columnsAdded: shape.columnsAdded.default([]),
  columnsDropped: shape.columnsDropped.default([]),
  columnsRenamed: shape.columnsRenamed.default({}),
  cellsChanged: shape.cellsChanged.default(0),
  unreadable: shape.unreadable.default({}),
  notes: shape.notes.default({}),
  key: z.string().optional(),
  decides: byWord(z.array(z.string())).optional(),
  decidesMore: z.array(z.string()).optional(),
  medians: byWord(z.number()).optional(),
})
/** Accounts as `--accounts` writes them, read again; what another version left out is nothing. */
export const accountsSchema = z.object({
  parameters: byWord(z.unknown()).default({}),
  inputs: z.array(z.object({ id: z.string(), files: z.array(fileAccount) })),
  tables: z.array(z.object({ id: z.string(), steps: z.array(stepAccount) })),
}) satisfies z.ZodType<Accounts>

/** An opened input as far as accounts tell of it. */
export type AccountedInput = {
  readonly files: readonly { readonly name: string; readonly sha256: string; readonly rows: number }[]
  readonly parts: readonly {
    readonly file: string
    readonly sheet?: string
    readonly rows: number
    readonly schema: Schema
  }[]
  readonly otherSheets: readonly {
    readonly file: string
    readonly sheet: string
    readonly rows: number
    readonly schema: Schema
  }[]
}

/** The files of an input with their sheets; parts stand in the order of the files. */
export const fileAccounts = ({ files, parts, otherSheets }: AccountedInput): FileAccount[] => {
  const ofFile = partsByFile(files, parts)
  return files.map(({ name, sha256, rows }, i) => ({
    name,
    sha256,
    rows,
    sheets: [
      ...(ofFile[i] ?? []).map(({ sheet, rows: taken, schema }) => ({
        ...(sheet === undefined ? {} : { name: sheet }),
        rows: taken,
        columns: schema,
      })),
      ...otherSheets
        .filter(({ file }) => file === name)
        .map(({ sheet, rows: seen, schema }) => ({ name: sheet, rows: seen, columns: schema, taken: false as const })),
    ],
  }))
}

/** The parts of each file; where two files have one name each has its own. */
const partsByFile = <P extends { readonly file: string; readonly sheet?: string }>(
  files: readonly { readonly name: string }[],
  parts: readonly P[],
): P[][] => {
  const left = [...parts]
  return files.map(({ name }) => {
    const own: P[] = []
    while (left[0]?.file === name && !own.some(({ sheet }) => sheet === left[0]?.sheet)) own.push(left.shift() as P)
    return own
  })
}

/** The table that goes into each step. */
export const withInputs = ({ steps }: TableRun): { readonly run: StepRun; readonly before: Table | undefined }[] =>
  steps.map((run, i) => ({ run, before: steps[i - 1]?.table }))

const decisionsOf = ({ step }: StepRun, before: Table): Pick<StepAccount, 'decides' | 'decidesMore'> => {
  const columns = new Set(
    kindOf(step)
      .decides?.(paramsOf(step), before.schema)
      .map(({ column }) => column),
  )
  if (columns.size === 0) return {}
  const decides: Record<string, string[]> = {}
  const more: string[] = []
  for (const column of columns) {
    if (before.positionOf(column) < 0) continue
    const counts = valueCounts(before.named(column))
    if (counts) setOwnValue(decides, column, [...counts.keys()])
    else more.push(column)
  }
  return { decides, ...(more.length > 0 ? { decidesMore: more } : {}) }
}

/** The medians of the number columns that a step made. */
const mediansOf = ({ result, table }: StepRun, before: Table | undefined): Record<string, number> => {
  const medians: Record<string, number> = {}
  for (const { name, type } of table.schema) {
    if (type !== 'integer' && type !== 'decimal') continue
    const column = table.named(name)
    const had = before !== undefined && before.positionOf(name) >= 0
    const carried = had && (result?.lineage.kind === 'same' ? before.named(name) === column : true)
    const median = carried ? undefined : medianOf(column)
    if (median !== undefined) setOwnValue(medians, name, median)
  }
  return medians
}

/** The accounts of the steps of every table: statistics, keys, the values they decide by, and medians. */
export const stepAccounts = (keys: ReadonlyMap<string, string>, tables: readonly TableRun[]): Accounts['tables'] =>
  tables.map((table) => ({
    id: table.id,
    steps: withInputs(table).flatMap(({ run, before }): StepAccount[] => {
      if (!run.statistics) return []
      const medians = mediansOf(run, before)
      const key = keys.get(run.step.id)
      return [
        {
          ...run.statistics,
          ...(key === undefined ? {} : { key }),
          ...(before ? decisionsOf(run, before) : {}),
          ...(Object.keys(medians).length > 0 ? { medians } : {}),
        },
      ]
    }),
  }))

/** What a run was given and did. `unanswered`: the recipe before answers for this run changed it, by which its steps are known. */
export const accountsOf = (
  recipe: Recipe,
  inputs: Readonly<Record<string, AccountedInput>>,
  tables: readonly TableRun[],
  parameters: Readonly<Record<string, unknown>>,
  unanswered = recipe,
): Accounts => ({
  parameters,
  inputs: recipe.inputs.flatMap(({ id }) => {
    const input = ownValue(inputs, id)
    return input ? [{ id, files: fileAccounts(input) }] : []
  }),
  tables: stepAccounts(stepKeys(unanswered), tables),
})

/** Whether steps of a recipe, or what they depend on, were others when a run was accounted for. */
export const isOutdated = (accounts: Accounts, recipe: Recipe): boolean => {
  const known = new Map(accounts.tables.flatMap(({ steps }) => steps.map(({ id, key }) => [id, key])))
  return [...stepKeys(recipe)].some(([id, key]) => known.get(id) !== key)
}
