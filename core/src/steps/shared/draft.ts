import type { Schema } from '../../table/table.ts'

/** What is selected in a table: columns, a cell, a part of its text, several values of a column, or nothing (the table). */
export type Selection =
  | { readonly kind: 'table' }
  | { readonly kind: 'columns'; readonly columns: readonly string[] }
  | {
      readonly kind: 'cell'
      readonly column: string
      /** The row of the table after the step, from 0; of a row that left, before it. */
      readonly row: number
      readonly value: string | null
      readonly left?: boolean
    }
  | {
      readonly kind: 'part'
      readonly column: string
      readonly row: number
      readonly value: string
      readonly from: number
      readonly to: number
    }
  | { readonly kind: 'values'; readonly column: string; readonly values: readonly string[] }

/** A first version of a step, made from what is selected; the page offers it as a verb and shows it as an open sentence. */
export type StepDraft<P> = {
  /** Drafts of all kinds are listed by ascending rank. A cell's drafts (below 10) stand before those of its column. */
  readonly rank: number
  readonly params: P
  /** Words of the verb; those of the kind without it. */
  readonly verb?: string
  /** Words it is found by beside those of the kind. */
  readonly words?: readonly string[]
  readonly key?: string
  /** Steps that follow the first one. */
  readonly then?: readonly Readonly<Record<string, unknown> & { readonly kind: string }>[]
  /** What is missing before it can begin: another table, which for `files` may come from files. */
  readonly needs?: 'table' | 'files'
  /** A selected cell has a more exact draft in its place. */
  readonly replacedForCell?: true
}

/** Some of what a column holds: its commonest values as text, and the least of its numbers or moments. */
export type ColumnSample = { readonly texts: readonly string[]; readonly least?: string | undefined }

/** What drafts are made from beside the selection. */
export type DraftContext = {
  readonly schema: Schema
  /** What is known of a column's values so far. */
  readonly sample?: ((column: string) => ColumnSample | undefined) | undefined
  /** The other tables of the flow, the likeliest first. */
  readonly tables: readonly { readonly id: string; readonly name: string }[]
}

/** The drafts of a kind, by what is selected; names in a selection are columns of the schema, which has at least one. */
export type StepDrafts<P> = {
  readonly [K in Selection['kind']]?: (
    selection: DraftContext & Extract<Selection, { readonly kind: K }>,
  ) => readonly StepDraft<P>[]
}
