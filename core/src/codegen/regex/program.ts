import type { Range } from './fold.ts'
import { isNullable, type Pattern, type Place } from './parse.ts'

/** One instruction of a pattern's program; `to` are places in it, the two of a fork in the order they are tried. */
export type Instruction =
  | { readonly type: 'set'; readonly ranges: readonly Range[]; readonly to: number }
  | { readonly type: 'at'; readonly place: Place; readonly to: number }
  | { readonly type: 'save'; readonly slot: number; readonly to: number }
  | { readonly type: 'fork'; readonly to: readonly [number, number] }
  | { readonly type: 'done' }

/** A program is not made longer than this. */
const longest = 3000
/** A pattern of which no program is made. */
export class TooLong extends Error {}

/**
 * The pattern as a program that matches it: from instruction 0 to `done`, trying the ways of a fork in their order.
 * Source: R. Cox, Regular Expression Matching: the Virtual Machine Approach, 2009.
 * @throws TooLong where counted repeats make more than 3,000 instructions
 */
export const programOf = (pattern: Pattern): readonly Instruction[] => {
  const made: Instruction[] = []
  const put = (one: Instruction): number => {
    if (made.length >= longest)
      throw new TooLong('a pattern repeats too much to be matched in SQL; count less often in it')
    return made.push(one) - 1
  }
  /** The place where the instructions of a pattern begin that go on at `to`. */
  const compile = (one: Pattern, to: number): number => {
    switch (one.type) {
      case 'set':
        return put({ type: 'set', ranges: one.ranges, to })
      case 'at':
        return put({ type: 'at', place: one.place, to })
      case 'group': {
        const end = put({ type: 'save', slot: 2 * one.index + 1, to })
        return put({ type: 'save', slot: 2 * one.index, to: compile(one.of, end) })
      }
      case 'sequence':
        return one.parts.reduceRight((next, part) => compile(part, next), to)
      case 'choice':
        return one.of.map((way) => compile(way, to)).reduceRight((rest, way) => put({ type: 'fork', to: [way, rest] }))
      case 'repeat':
        return repeat(one, to)
    }
  }
  const repeat = ({ of, least, most, lazy }: Pattern & { type: 'repeat' }, to: number): number => {
    const ways = (again: number, on: number): [number, number] => (lazy ? [on, again] : [again, on])
    let next = to
    if (most === undefined) {
      const fork: { type: 'fork'; to: [number, number] } = { type: 'fork', to: [0, 0] }
      next = put(fork)
      const body = compile(of, next)
      fork.to = ways(body, to)
      // what matches nothing is tried once before the way on, as Perl does
      if (least === 0 && isNullable(of)) next = put({ type: 'fork', to: ways(body, to) })
    } else for (let i = least; i < most; i++) next = put({ type: 'fork', to: ways(compile(of, next), to) })
    for (let i = 0; i < least; i++) next = compile(of, next)
    return next
  }
  const done = put({ type: 'done' })
  const end = put({ type: 'save', slot: 1, to: done })
  const start = put({ type: 'save', slot: 0, to: compile(pattern, end) })
  return inOrder(made, start)
}

/** The instructions in the order they are met first, without those that never are. */
const inOrder = (made: readonly Instruction[], start: number): Instruction[] => {
  const place = new Map<number, number>()
  const waiting = [start]
  for (let at = waiting.pop(); at !== undefined; at = waiting.pop()) {
    if (place.has(at)) continue
    place.set(at, place.size)
    const one = made[at] as Instruction
    if (one.type === 'fork') waiting.push(...one.to.toReversed())
    else if (one.type !== 'done') waiting.push(one.to)
  }
  const moved = (to: number): number => place.get(to) as number
  return [...place.keys()].map((at) => {
    const one = made[at] as Instruction
    if (one.type === 'fork') return { ...one, to: [moved(one.to[0]), moved(one.to[1])] }
    return one.type === 'done' ? one : { ...one, to: moved(one.to) }
  })
}
