import type { JoinHow } from './words.ts'

type Side = { readonly side: 'here' | 'there'; readonly loses: boolean }
const here: Side = { side: 'here', loses: false }
const there: Side = { side: 'there', loses: false }

/** The sides whose rows should find a match, by how tables are joined, and whether a row without one is lost. */
export const sidesToMatch: Readonly<Record<JoinHow, readonly Side[]>> = {
  left: [here],
  inner: [{ side: 'here', loses: true }],
  right: [there],
  full: [here, there],
  'left-only': [],
  'right-only': [],
  cross: [],
}
