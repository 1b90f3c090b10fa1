import type { RowSelection } from '../steps/shared/statistics.ts'
import { type ColumnType } from '../table/column.ts'

/** Whether a replay may run: without looking, with changes accepted, or not. */
export type Verdict = 'fits' | 'fits-with-changes' | 'does-not-fit'

/** What a finding means for the verdict: nothing to answer, an answer needed, a step broken, or the data refused. */
export type Grade = 'fits' | 'changes' | 'breaks' | 'refused'

/** The codes of findings. */
export const findingCodes = [
  'missing-column',
  'lacking-file',
  'new-column',
  'new-sheet',
  'missing-sheet',
  'unclaimed-sheet',
  'unclaimed-file',
  'kept-file',
  'repeated-file',
  'changed-type',
  'broken-step',
  'unreadable',
  'new-value',
  'missing-value',
  'standing-out',
  'row-count',
  'known-name',
  'parameter',
  'said-by-script',
] as const
/** One of the codes. */
export type FindingCode = (typeof findingCodes)[number]

/**
 * What can be answered. `rename`: another column is read as this one, in the input or in one file. `leave-empty`: the cells
 * that a file lacks stay empty. `leave-out`: the file or sheet is not taken in. `take-in`: this input takes the sheet, which
 * changes `step`, or the file. `expect`: a column that is new or of another type is as expected. `read-as`: it is read as the
 * type it had. `do-without`: the column is expected no more. `change-step`: the step has these params. `accept`: it is right.
 */
export type CompatibilityOffer = { readonly why: string } & (
  | { readonly do: 'rename'; readonly column: string }
  | { readonly do: 'leave-empty' | 'leave-out' | 'accept' }
  | {
      readonly do: 'take-in'
      readonly input: string
      readonly step?: string | undefined
      readonly params?: StepParams | undefined
    }
  | { readonly do: 'expect' | 'read-as'; readonly column: string; readonly type: ColumnType }
  | { readonly do: 'do-without'; readonly column: string }
  | { readonly do: 'change-step'; readonly params: StepParams }
)
type StepParams = Readonly<Record<string, unknown>>

/** What a finding is about, as far as each applies. */
export type FindingPlace = {
  readonly input?: string | undefined
  readonly file?: string | undefined
  readonly sheet?: string | undefined
  readonly column?: string | undefined
  readonly step?: string | undefined
  readonly parameter?: string | undefined
}

/** The rows that a finding is about, in the table of a step: those of a selection, or those before it with one of these texts in a column. */
export type FindingRows = {
  readonly step: string
  readonly only?: RowSelection | undefined
  readonly texts?: { readonly column: string; readonly of: readonly string[] } | undefined
}

/** Something that differs between new files and what the recipe expects or the last run had, with what may be done about it. */
export type CompatibilityFinding = FindingPlace & {
  readonly code: FindingCode
  readonly grade: Grade
  /** Whether it needs an answer before the run may be trusted. */
  readonly asks: boolean
  /** The rows or cells that it touches. */
  readonly rows?: number | undefined
  /** Up to five of the values. */
  readonly values?: readonly string[] | undefined
  readonly offers: readonly CompatibilityOffer[]
  readonly sentence: string
  /** Where its rows can be seen; absent where it is about none. */
  readonly shows?: FindingRows | undefined
}

/** All findings and the verdict. */
export type CompatibilityReport = { readonly verdict: Verdict; readonly findings: readonly CompatibilityFinding[] }

/** At most so many values stand in a finding. */
export const mostValuesShown = 5

/** The findings as `fabula fit --json` has them. */
export const findingData = ({
  grade: _grade,
  parameter: _parameter,
  shows: _shows,
  ...finding
}: CompatibilityFinding) => finding
