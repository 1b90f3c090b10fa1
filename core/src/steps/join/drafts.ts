import type { StepDraft, StepDrafts } from '../shared/draft.ts'

type LeftJoin = {
  readonly with: string
  readonly how: 'left'
  readonly on: readonly { readonly left: string; readonly right: string }[]
}

/** A join that brings the columns of another table by a key of the same name; without a table it says what is needed. */
const draftFor = (key: string, other: string | undefined, rank: number): StepDraft<LeftJoin>[] => [
  {
    rank,
    ...(other === undefined ? { needs: 'table' } : {}),
    params: { with: other ?? '', how: 'left', on: [{ left: key, right: key }] },
  },
]

/** The drafts of a join: by the first column, or by those that are selected. */
export const joinDrafts: StepDrafts<LeftJoin> = {
  table: ({ schema, tables: [other] }) => draftFor(schema[0]?.name ?? '', other?.id, 150),
  columns: ({ columns, tables: [other] }) => draftFor(columns[0] ?? '', other?.id, 210),
}
