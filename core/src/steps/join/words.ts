/** The ways of joining. */
export const joinHows = ['left', 'inner', 'right', 'full', 'left-only', 'right-only', 'cross'] as const
/** One of the ways of joining. */
export type JoinHow = (typeof joinHows)[number]

/** How tables are joined, as it stands in a sentence. */
export const joinWords: Readonly<Record<JoinHow, string>> = {
  left: 'keep every row here',
  inner: 'keep only rows that match',
  right: 'keep every row there',
  full: 'keep every row of both',
  'left-only': 'keep only rows here that match nothing there',
  'right-only': 'keep only rows there that match nothing here',
  cross: 'pair every row with every row',
}
/** Which matches of a row are taken, as it stands in a sentence. */
export const matchWords = { all: 'every match', first: 'the first match', one: 'one match and no more' } as const
