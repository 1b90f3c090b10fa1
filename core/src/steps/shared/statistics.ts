import { z } from 'zod'
import { byWord } from '../../table/by-word.ts'

/** What a step did, in figures. Columns renamed: old name to new. */
export type StepStatistics = {
  readonly id: string
  readonly kind: string
  readonly sentence: string
  readonly rowsIn: number
  readonly rowsOut: number
  readonly rowsLeft: number
  readonly rowsCame: number
  readonly columnsAdded: readonly string[]
  readonly columnsDropped: readonly string[]
  readonly columnsRenamed: Readonly<Record<string, string>>
  readonly cellsChanged: number
  readonly unreadable: Readonly<Record<string, number>>
  readonly notes: Readonly<Record<string, number>>
  /** Of a check: whether it holds. */
  readonly check?:
    | {
        readonly passed: boolean
        readonly stop: boolean
        readonly say: string
        readonly figure: number | null
      }
    | undefined
}
/** The form of step statistics in JSON. */
export const stepStatistics = z.object({
  id: z.string(),
  kind: z.string(),
  sentence: z.string(),
  rowsIn: z.number(),
  rowsOut: z.number(),
  rowsLeft: z.number(),
  rowsCame: z.number(),
  columnsAdded: z.array(z.string()),
  columnsDropped: z.array(z.string()),
  columnsRenamed: byWord(z.string()),
  cellsChanged: z.number(),
  unreadable: byWord(z.number()),
  notes: byWord(z.number()),
  check: z
    .object({ passed: z.boolean(), stop: z.boolean(), say: z.string(), figure: z.number().nullable() })
    .optional(),
}) satisfies z.ZodType<StepStatistics>

/** Which rows of a step's view are shown. `changed`: all that were touched; `values-changed`: those that stay with another value. `unmatched-there`: rows of the other table that match none and are kept. */
export const rowSelections = [
  'all',
  'changed',
  'values-changed',
  'left',
  'added',
  'unreadable',
  'against',
  'matched',
  'unmatched',
  'unmatched-there',
  'multiplied',
] as const
/** One of the selections of rows. */
export type RowSelection = (typeof rowSelections)[number]
/** A figure shown beside a sentence; choosing it shows its rows, where they are in the view. */
export type Figure = {
  readonly text: string
  readonly tone: 'plain' | 'added' | 'removed' | 'changed'
  readonly only?: RowSelection | undefined
}

/** A figure without a tone: by default of all rows. */
export const plainFigure = (text: string, only: RowSelection | undefined = 'all'): Figure => ({
  text,
  tone: 'plain',
  ...(only ? { only } : {}),
})
/** A figure where its number is above zero, else nothing. */
export const figureIf = (n: number | undefined, of: (n: number) => Figure): Figure[] =>
  n !== undefined && n > 0 ? [of(n)] : []
