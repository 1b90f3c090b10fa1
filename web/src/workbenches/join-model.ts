import { counted, figure, type JoinHow, type NewStep, type StepOf } from '@fabula/core'
import type { MatchReply } from '@fabula/core/api'
import { without } from '../story/without.ts'

export type JoinStep = StepOf<'join'>
export type KeyPair = { readonly left: string; readonly right: string }
export type MatchFigures = NonNullable<MatchReply['matching']>
export type KeySuggestion = MatchReply['suggestions'][number]
type Side = 'left' | 'right'
type Reason = MatchFigures['why'][number]

/** Why rows meet none that would meet one if a difference did not matter. */
export const reasonWords: Readonly<Record<Reason['reason'], string>> = {
  case: 'differ only by small and large letters',
  spaces: 'differ only by spaces at the ends',
  'case-and-spaces': 'differ only by letters’ case and spaces',
  zeros: 'differ only by zeros in front',
}
export const quickFixWords: Readonly<Record<Reason['reason'], string>> = {
  case: 'Let case not matter',
  spaces: 'Let those spaces not matter',
  'case-and-spaces': 'Let both not matter',
  zeros: 'Take the zeros off',
}

export const keysOf = (step: JoinStep): readonly KeyPair[] => step.on ?? []

/** The join in another way; a cross join has no keys, any other needs one. */
export const withWay = (step: JoinStep, how: JoinHow, spare: KeyPair): JoinStep => {
  if (how === 'cross') return { ...without(step, 'on', 'matches', 'ignoreCase', 'trim'), how }
  const on = keysOf(step)
  return { ...step, how, on: on.length > 0 ? on : [spare] }
}

/** The join with another table; the columns that were brought are not there. */
export const withTable = (step: JoinStep, table: string): JoinStep => ({ ...without(step, 'bring'), with: table })

export const withOption = (step: JoinStep, option: 'ignoreCase' | 'trim', on: boolean): JoinStep =>
  on ? { ...step, [option]: true } : without(step, option)

const withoutZeros = (columns: readonly string[]): NewStep => ({
  kind: 'replace',
  columns,
  find: '^(\\s*)0+([0-9])',
  with: '$1$2',
  match: 'pattern',
})

/** What makes the rows of a reason meet: the join reworded, or a step before it and one at the end of the other table. */
export const quickFixOf = (
  step: JoinStep,
  { reason, leading = [] }: Reason,
  data: Pick<MatchReply, Side>,
): { readonly step?: JoinStep; readonly before?: NewStep; readonly elsewhere?: NewStep } => {
  const textKeys = (side: Side): string[] =>
    keysOf(step)
      .map((pair) => pair[side])
      .filter((name) => data[side].columns.find((field) => field.name === name)?.type === 'text')
  if (reason === 'zeros')
    return {
      ...(leading.includes('left') ? { before: withoutZeros(textKeys('left')) } : {}),
      ...(leading.includes('right') ? { elsewhere: withoutZeros(textKeys('right')) } : {}),
    }
  return {
    step: {
      ...step,
      ...(reason === 'spaces' ? {} : { ignoreCase: true }),
      ...(reason === 'case' ? {} : { trim: true }),
    },
  }
}

const sameKeys = (a: readonly KeyPair[], b: readonly KeyPair[]): boolean => JSON.stringify(a) === JSON.stringify(b)

/** The suggestion that the keys are, and the best two others. */
export const suggestionsFor = (
  suggestions: readonly KeySuggestion[],
  on: readonly KeyPair[],
): { readonly taken: KeySuggestion | undefined; readonly others: readonly KeySuggestion[] } => ({
  taken: suggestions.find((one) => sameKeys(one.on, on)),
  others: suggestions.filter((one) => !sameKeys(one.on, on)).slice(0, 2),
})

/** A pair of columns for one more key: a suggested one that is not in use, else the first of each table. */
export const spareKey = (data: MatchReply, on: readonly KeyPair[]): KeyPair =>
  data.suggestions.flatMap((one) => one.on).find((pair) => !on.some(({ left }) => left === pair.left)) ?? {
    left: data.left.columns[0]?.name ?? '',
    right: data.right.columns[0]?.name ?? '',
  }

/** The keys a join begins with: the likeliest, or those with a selected column; none where a column is gone. */
export const firstKeys = (data: MatchReply, selected: readonly string[]): readonly KeyPair[] | undefined => {
  const best = data.suggestions.find(({ on }) => on.some(({ left }) => selected.includes(left))) ?? data.suggestions[0]
  const known = (pair: KeyPair): boolean => data.left.columns.some(({ name }) => name === pair.left)
  return best?.on.every(known) ? best.on : undefined
}

/** How many rows of a table are shown, and of how many. */
export const shownRows = ({ shown: { total }, rows }: MatchReply[Side]): string =>
  total === rows ? counted(rows, 'row') : `${figure(total)} of ${counted(rows, 'row')}`

/** A suggestion by its columns and how many rows meet by it. */
export const suggestionWords = ({ on, share, repeats }: KeySuggestion): string =>
  `${on.map(({ left, right }) => (left === right ? left : `${left} is ${right}`)).join(' and ')} (${Math.round(share * 100)} %${repeats ? ', keys repeat' : ''})`

/** That a key repeats in the other table, which multiplies rows. */
export const repeatedWords = (there: number, table: string, repeatedKeys: number): string => {
  const times = there === 2 ? 'twice' : `${figure(there)} times`
  const more = repeatedKeys - 1
  const others = more > 0 ? `, and ${counted(more, 'more key')} repeat${more === 1 ? 's' : ''}` : ''
  return `stands ${times} in ${table}${others}.`
}
