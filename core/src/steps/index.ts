import { blank } from './blank.ts'
import { cases } from './cases.ts'
import { cast } from './cast.ts'
import { check } from './check.ts'
import { cleanText } from './clean-text.ts'
import { combine } from './combine.ts'
import { derive } from './derive.ts'
import { distinct } from './distinct.ts'
import { drop } from './drop.ts'
import { duplicate } from './duplicate.ts'
import { enter } from './enter.ts'
import { extract } from './extract.ts'
import { fill } from './fill.ts'
import { fillEmpty } from './fill-empty.ts'
import { filter } from './filter.ts'
import { header } from './header.ts'
import { join } from './join.ts'
import { move } from './move.ts'
import { number } from './number.ts'
import { open } from './open.ts'
import { pivot } from './pivot.ts'
import { rename } from './rename.ts'
import { replace } from './replace.ts'
import { select } from './select.ts'
import { slice } from './slice.ts'
import { sort } from './sort.ts'
import { split } from './split.ts'
import { startFrom } from './start-from.ts'
import type { StepKind } from './step-kind.ts'
import { summarise } from './summarise.ts'
import { transpose } from './transpose.ts'
import { unify } from './unify.ts'
import { union } from './union.ts'
import { unpivot } from './unpivot.ts'
import { unroll } from './unroll.ts'
import { window } from './window.ts'

/** The one list of step kinds. A new kind is a file beside these and a line here. */
export const stepKinds = {
  open,
  'start-from': startFrom,
  enter,
  select,
  drop,
  rename,
  move,
  duplicate,
  cast,
  header,
  filter,
  sort,
  slice,
  distinct,
  number,
  fill,
  replace,
  'fill-empty': fillEmpty,
  blank,
  'clean-text': cleanText,
  unify,
  derive,
  cases,
  split,
  extract,
  combine,
  unpivot,
  pivot,
  transpose,
  summarise,
  window,
  unroll,
  join,
  union,
  check,
} as const satisfies Readonly<Record<string, StepKind>>

export type StepKindName = keyof typeof stepKinds

/** A kind by name, its params seen from outside as data. */
export const kindNamed = (name: string): StepKind<unknown> | undefined =>
  Object.hasOwn(stepKinds, name) ? (stepKinds[name as StepKindName] as unknown as StepKind<unknown>) : undefined
