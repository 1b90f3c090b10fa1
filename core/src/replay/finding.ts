import { type ColumnType } from '../table/column.ts'

/** Whether a replay may run: without looking, with changes accepted, or not. */
export type Verdict = 'fits' | 'fits-with-changes' | 'does-not-fit'

/**
 * What can be answered: `rename` reads another column as this one, for one replay or for good; the others change the recipe
 * for good: `expect` a column that is new or of another type, `read-as` reads it as the type it had, `do-without` one
 * that is gone, `change-step` puts `params` into the step.
 */
export type CompatibilityOffer =
  | { readonly do: 'rename'; readonly column: string; readonly why: string }
  | { readonly do: 'expect'; readonly column: string; readonly type: ColumnType; readonly why: string }
  | { readonly do: 'read-as'; readonly column: string; readonly type: ColumnType; readonly why: string }
  | { readonly do: 'do-without'; readonly column: string; readonly why: string }
  | { readonly do: 'change-step'; readonly params: Readonly<Record<string, unknown>>; readonly why: string }

/** Something that differs between new files and what the recipe expects, with what may be done about it. */
export type CompatibilityFinding = {
  readonly code:
    | 'missing-column'
    | 'new-column'
    | 'changed-type'
    | 'broken-step'
    | 'lacking-file'
    | 'missing-sheet'
    | 'new-sheet'
    | 'row-count'
    | 'new-value'
    | 'known-name'
    | 'new-label'
    | 'missing-label'
  readonly input: string
  readonly file?: string
  readonly sheet?: string
  readonly column?: string
  readonly step?: string
  readonly offers: readonly CompatibilityOffer[]
  readonly sentence: string
}

/** All findings and the verdict. */
export type CompatibilityReport = { readonly verdict: Verdict; readonly findings: readonly CompatibilityFinding[] }
