import type { StepDraft } from '../shared/draft.ts'

type LeftJoin = {
  readonly with: string
  readonly how: 'left'
  readonly on: readonly { readonly left: string; readonly right: string }[]
}

/** A join that brings the columns of another table by a key of the same name; without a table it says what is needed. */
export const joinDrafts = (key: string, other: string | undefined, rank: number): StepDraft<LeftJoin>[] => [
  {
    rank,
    ...(other === undefined ? { needs: 'table' } : {}),
    params: { with: other ?? '', how: 'left', on: [{ left: key, right: key }] },
  },
]
