import { ownValue } from '../table/own.ts'
import { blank } from './blank/index.ts'
import { cases } from './cases/index.ts'
import { cast } from './cast/index.ts'
import { check } from './check/index.ts'
import { cleanText } from './clean-text/index.ts'
import { combine } from './combine/index.ts'
import { derive } from './derive/index.ts'
import { distinct } from './distinct/index.ts'
import { drop } from './drop/index.ts'
import { duplicate } from './duplicate/index.ts'
import { enter } from './enter/index.ts'
import { extract } from './extract/index.ts'
import { fill } from './fill/index.ts'
import { fillEmpty } from './fill-empty/index.ts'
import { filter } from './filter/index.ts'
import { header } from './header/index.ts'
import { join } from './join/index.ts'
import { move } from './move/index.ts'
import { number } from './number/index.ts'
import { open } from './open/index.ts'
import { pivot } from './pivot/index.ts'
import { rename } from './rename/index.ts'
import { replace } from './replace/index.ts'
import { select } from './select/index.ts'
import { slice } from './slice/index.ts'
import { sort } from './sort/index.ts'
import { split } from './split/index.ts'
import { startFrom } from './start-from/index.ts'
import type { StepDraft, DraftContext, Selection } from './shared/draft.ts'
import type { StepKind } from './shared/step-kind.ts'
import { summarise } from './summarise/index.ts'
import { transpose } from './transpose/index.ts'
import { unify } from './unify/index.ts'
import { union } from './union/index.ts'
import { unpivot } from './unpivot/index.ts'
import { unroll } from './unroll/index.ts'
import { window } from './window/index.ts'

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

/** The name of a step kind. */
export type StepKindName = keyof typeof stepKinds

const byName: Readonly<Record<string, StepKind>> = stepKinds
/** A kind by name, its params seen from outside as data. */
export const kindNamed = (name: string): StepKind<unknown> | undefined =>
  ownValue(byName, name) as StepKind<unknown> | undefined

/** A draft of a kind. */
type KindDraft = { readonly kind: StepKindName; readonly draft: StepDraft<unknown> }

/** The drafts of all kinds for a selection, in the order of the list of kinds. */
export const draftsFor = (selection: Selection, context: DraftContext): KindDraft[] =>
  (Object.keys(stepKinds) as StepKindName[]).flatMap((kind) => {
    const makers = kindNamed(kind)?.drafts
    const make = makers?.[selection.kind] as
      ((here: DraftContext & Selection) => readonly StepDraft<unknown>[]) | undefined
    return (make?.({ ...selection, ...context }) ?? []).map((draft) => ({ kind, draft }))
  })
