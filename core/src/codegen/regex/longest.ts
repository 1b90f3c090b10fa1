import { includes, lastPoint, type Range } from './fold.ts'
import { anyPart, wordSigns, type Pattern, type Place } from './parse.ts'
import { mostCounted } from './write.ts'
import { programOf, TooLong, type Instruction } from './program.ts'

/** What stands beside a place: an end of the text, a line break, a sign of a word, or another. */
const besides = ['end', 'line', 'word', 'other'] as const
type Beside = (typeof besides)[number]
const besideOf = (point: number): Beside => {
  if (point === 10) return 'line'
  return includes(wordSigns, point) ? 'word' : 'other'
}
const holds = (place: Place, before: Beside, after: Beside): boolean => {
  switch (place) {
    case 'text-start':
      return before === 'end'
    case 'text-end':
      return after === 'end'
    case 'line-start':
      return before === 'end' || before === 'line'
    case 'line-end':
      return after === 'end' || after === 'line'
    case 'word':
      return (before === 'word') !== (after === 'word')
    case 'no-word':
      return (before === 'word') === (after === 'word')
  }
}

type Program = readonly Instruction[]
/** A character of each kind that the program tells apart. */
const alphabetOf = (program: Program): number[] => {
  const ranges: (readonly Range[])[] = program.flatMap((one) => (one.type === 'set' ? [one.ranges] : []))
  const looks = program.some((one) => one.type === 'at')
  const all = looks ? [...ranges, [[10, 10]] as Range[], wordSigns] : ranges
  const starts = new Set([0, ...all.flatMap((set) => set.flatMap(([low, high]) => [low, high + 1]))])
  const kinds = new Map<string, number>()
  for (const point of starts) {
    if (point > lastPoint) continue
    const kind = all.map((set) => (includes(set, point) ? '1' : '0')).join('')
    if (!kinds.has(kind)) kinds.set(kind, point)
  }
  return [...kinds.values()]
}

/** Where the program may be before the next character, from some places on, in the order they are tried; whether it is done among them. */
const reached = (
  program: Program,
  from: readonly number[],
  before: Beside,
  after: Beside,
  stopWhenDone: boolean,
): { readonly sets: readonly number[]; readonly done: boolean } => {
  const seen = new Set<number>()
  const sets: number[] = []
  const waiting = from.toReversed()
  for (let at = waiting.pop(); at !== undefined; at = waiting.pop()) {
    if (seen.has(at)) continue
    seen.add(at)
    const one = program[at] as Instruction
    if (one.type === 'done') {
      if (stopWhenDone) return { sets, done: true }
    } else if (one.type === 'set') sets.push(at)
    else if (one.type === 'fork') waiting.push(...one.to.toReversed())
    else if (one.type === 'save' || holds(one.place, before, after)) waiting.push(one.to)
  }
  return { sets, done: program.some((one, at) => one.type === 'done' && seen.has(at)) }
}
const stepped = (program: Program, sets: readonly number[], point: number): number[] =>
  sets.flatMap((at) => {
    const one = program[at] as Instruction
    return one.type === 'set' && includes(one.ranges, point) ? [one.to] : []
  })

/** So many states are looked at before a pattern is taken for one that may differ. */
const mostStates = 4000

type Race = {
  readonly first: readonly number[]
  readonly any: readonly number[]
  readonly before: Beside
  readonly same: boolean
}
/** Whether the match that comes first in the order of choices always ends where the longest one does. */
const endsAlike = (program: Program): boolean => {
  const alphabet = alphabetOf(program)
  const seen = new Set<string>()
  const waiting: Race[] = besides.map((before) => ({ first: [0], any: [0], before, same: true }))
  /** Both, one character further or at the end of the text; undefined where nothing of them is left. */
  const further = (race: Race, point: number | undefined): Race => {
    const after = point === undefined ? 'end' : besideOf(point)
    const first = reached(program, race.first, race.before, after, true)
    const any = reached(program, race.any, race.before, after, false)
    const same = any.done ? first.done : race.same
    const step = (sets: readonly number[]): number[] => (point === undefined ? [] : stepped(program, sets, point))
    return { first: step(first.sets), any: step(any.sets).toSorted((a, b) => a - b), before: after, same }
  }
  for (let race = waiting.pop(); race; race = waiting.pop()) {
    const key = `${race.before}${race.same}${race.first.join()};${[...new Set(race.any)].join()}`
    if (seen.has(key)) continue
    if (seen.size >= mostStates) return false
    seen.add(key)
    if (race.any.length === 0) {
      if (!race.same) return false
      continue
    }
    for (const point of [undefined, ...alphabet]) waiting.push(further(race, point))
  }
  return true
}

/** A way from a place to the next character or the end, and what it saves on it. */
type Way = { readonly at: number; readonly saves: string }
const mostWays = 60
const waysFrom = (program: Program, from: number, before: Beside, after: Beside): Way[] | undefined => {
  const ways: Way[] = []
  const walk = (at: number, saves: string, on: ReadonlySet<number>): boolean => {
    if (on.has(at)) return true
    const one = program[at] as Instruction
    if (one.type === 'set' || one.type === 'done') return ways.push({ at, saves }) <= mostWays
    const further = new Set(on).add(at)
    if (one.type === 'fork') return one.to.every((to) => walk(to, saves, further))
    if (one.type === 'save') return walk(one.to, `${saves}${one.slot};`, further)
    return !holds(one.place, before, after) || walk(one.to, saves, further)
  }
  return walk(from, '', new Set()) ? ways : undefined
}

/** Two ways through the program over the same text; whether they saved another place. */
type Pair = { readonly one: number; readonly other: number; readonly before: Beside; readonly differ: boolean }
/** The pairs after one character more, or at the end of the text; undefined where both are done and differ, or where there are too many. */
const pairsAfter = (program: Program, pair: Pair, point: number | undefined): Pair[] | undefined => {
  const after = point === undefined ? 'end' : besideOf(point)
  const some = waysFrom(program, pair.one, pair.before, after)
  const others = waysFrom(program, pair.other, pair.before, after)
  if (!some || !others) return undefined
  const isDone = (way: Way): boolean => (program[way.at] as Instruction).type === 'done'
  const next = ({ at }: Way): number[] => (point === undefined ? [] : stepped(program, [at], point))
  const both = some.flatMap((a) => others.map((b) => ({ a, b, differ: pair.differ || a.saves !== b.saves })))
  if (both.some(({ a, b, differ }) => differ && isDone(a) && isDone(b))) return undefined
  return both.flatMap(({ a, b, differ }) =>
    next(a).flatMap((one) => next(b).map((other): Pair => ({ one, other, before: after, differ }))),
  )
}

/** Whether a text can be matched in one way only, as to where the groups begin and end. */
const groupsAlike = (program: Program): boolean => {
  const alphabet = alphabetOf(program)
  const seen = new Set<string>()
  const waiting = besides.map((before): Pair => ({ one: 0, other: 0, before, differ: false }))
  for (let pair = waiting.pop(); pair; pair = waiting.pop()) {
    const key = JSON.stringify(pair)
    if (seen.has(key)) continue
    if (seen.size >= mostStates) return false
    seen.add(key)
    for (const point of [undefined, ...alphabet]) {
      const further = pairsAfter(program, pair, point)
      if (!further) return false
      waiting.push(...further)
    }
  }
  return true
}

/** Whether a repeat is written as several, which would count its groups anew. */
const countsPast = (pattern: Pattern): boolean =>
  anyPart(pattern, (part) => part.type === 'repeat' && Math.max(part.least, part.most ?? 0) > mostCounted)

/** Only characters, some of them repeated, one after the other; groups hold such. PostgreSQL gives each the most it can, from the left, as RE2 does. */
const isFlat = (pattern: Pattern): boolean => {
  if (pattern.type === 'set' || pattern.type === 'at') return true
  if (pattern.type === 'repeat') return !pattern.lazy && pattern.of.type === 'set'
  if (pattern.type === 'sequence') return pattern.parts.every(isFlat)
  return pattern.type === 'group' && isFlat(pattern.of)
}

/**
 * Whether PostgreSQL, which takes the longest match, finds what RE2 finds, which takes the first in the order of choices: where it
 * ends, and with `groups` where its groups do.
 */
export const isLongest = (pattern: Pattern, groups: boolean): boolean => {
  try {
    const program = programOf(pattern)
    return endsAlike(program) && (!groups || (!countsPast(pattern) && (isFlat(pattern) || groupsAlike(program))))
  } catch (error) {
    if (error instanceof TooLong) return false
    throw error
  }
}
