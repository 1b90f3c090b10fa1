import type { ColumnAliases, ReadOptions, StepOnTheWay } from '@fabula/core'
import type { InputFile, OpenedPart } from '../open-input.ts'

/** What cannot be traced, as a sentence: a table, row, column, file, sheet or step that is not there. */
export class TraceProblem extends Error {}

/** A file of an input; its bytes are read when a row of it is asked about. `label`: how it is named where two have the same name. */
export type TracedFile = { readonly name: string; readonly label?: string; readonly load: () => InputFile }
/** An input with its files as they were opened. */
export type TracedInput = {
  readonly files: readonly TracedFile[]
  readonly parts: readonly OpenedPart[]
  readonly read: ReadOptions
  readonly known: ColumnAliases
}

/** A row of a file, or one that was typed in, as traces name it. */
export type SourceName =
  | { readonly input: string; readonly file: string; readonly sheet?: string; readonly row: number }
  | { readonly entered: string; readonly row: number }
/** A source row in words: “visits.csv, row 7”, “months.xlsx, sheet May, row 5”, “targets, row 2”. */
export const sourceWords = (source: SourceName): string => {
  if ('entered' in source) return `${source.entered}, row ${source.row}`
  return `${source.file}${source.sheet === undefined ? '' : `, sheet ${source.sheet}`}, row ${source.row}`
}
/** A row that something was made of. */
export type TraceRow = SourceName & {
  readonly columns?: readonly string[]
  readonly times?: number
  readonly values: Readonly<Record<string, string>>
}
/** Source rows: how many there are, and the first of them. */
export type SourceRowsListed = { readonly count: number; readonly sources: readonly TraceRow[] }
/** The way back: section 10 of the contract. */
export type BackReport = SourceRowsListed & {
  readonly table: string
  readonly row: number
  readonly column?: string
  readonly steps: readonly StepOnTheWay[]
}
/** What became of a row in one table. */
export type FateReport =
  | { readonly table: string; readonly rows: readonly number[]; readonly count: number }
  | {
      readonly table: string
      readonly left: { readonly step: string; readonly sentence: string; readonly why: string }
    }
/** What became of a row. */
export type ForwardReport = SourceName & {
  readonly values: Readonly<Record<string, string>>
  readonly fates: readonly FateReport[]
}

/** Rows that left at one step for one reason; the first of them are named. */
export type LostReason = {
  readonly step: string
  readonly sentence: string
  /** The sentence by its table and number. */
  readonly place: string
  readonly why: string
  readonly count: number
  readonly rows: readonly { readonly file: string; readonly sheet?: string; readonly row: number }[]
}
/** Two steps of a table: rows are counted that are in a row after the first of them, and in none after the second. Without them: what was opened, the result. */
export type StepSpan = { readonly since?: string | undefined; readonly until?: string | undefined }
/** Where the rows of an input went that a table is made from. */
export type LostRows = {
  readonly input: string
  readonly name: string
  readonly opened: number
  readonly inResult: number
  readonly withoutFigure: number | null
  readonly left: readonly LostReason[]
}
