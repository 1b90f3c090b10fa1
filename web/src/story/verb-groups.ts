import { ownValue, type DraftContext, type NewStep, type Schema, type Selection } from '@fabula/core'
import { isDate, isNumber, typeOf } from './builder.ts'
import { selectedColumns } from './named-verbs/named-verb.ts'
import { verbsFor, type Verb } from './verbs.ts'

/** Verbs of one sort under a heading. */
export type VerbGroup = { readonly heading: string; readonly verbs: readonly Verb[] }

const headings = [
  'Likely here',
  'Rows',
  'Columns',
  'Values',
  'Groups and totals',
  'Turn the table',
  'Other tables and checks',
] as const
type Heading = (typeof headings)[number]

const headingOfKind: Readonly<Partial<Record<NewStep['kind'], Heading>>> = {
  filter: 'Rows',
  sort: 'Rows',
  slice: 'Rows',
  distinct: 'Rows',
  number: 'Rows',
  rename: 'Columns',
  drop: 'Columns',
  select: 'Columns',
  move: 'Columns',
  duplicate: 'Columns',
  cast: 'Columns',
  summarise: 'Groups and totals',
  window: 'Groups and totals',
  pivot: 'Turn the table',
  unpivot: 'Turn the table',
  transpose: 'Turn the table',
  header: 'Turn the table',
  join: 'Other tables and checks',
  union: 'Other tables and checks',
  check: 'Other tables and checks',
}
const headingOfBuilder: Readonly<Record<string, Heading>> = {
  period: 'Groups and totals',
  'with-total': 'Groups and totals',
  beside: 'Groups and totals',
  collect: 'Groups and totals',
}
const headingOf = ({ step, builder, draw }: Verb): Heading => {
  if (draw) return 'Other tables and checks'
  const ofBuilder = builder && ownValue(headingOfBuilder, builder.id)
  if (ofBuilder) return ofBuilder
  return (step && headingOfKind[step.kind]) ?? 'Values'
}

/** Kinds and builders that are likely meant, the likeliest first. */
const likely: Readonly<Record<'table' | 'text' | 'number' | 'date' | 'labels' | 'several', readonly string[]>> = {
  table: ['filter', 'summarise', 'sort', 'derive', 'join'],
  text: ['unify', 'clean-text', 'split', 'replace', 'filter'],
  number: ['calculate', 'bins', 'sort', 'beside', 'summarise'],
  date: ['date-part', 'period', 'difference', 'sort', 'filter'],
  labels: ['unpivot', 'across', 'summarise', 'drop', 'select'],
  several: ['summarise', 'distinct', 'combine', 'drop', 'select'],
}

/** Names of columns that are values of something: years, months, weeks, quarters, or one stem with numbers. */
const label =
  /^(?:\d{4}|q[1-4]|\d{4}[-/ ]?(?:\d{1,2}|q[1-4])|(?:week|w|day|no|nr)?[ ._-]*\d+|(?:jan|feb|mar|apr|may|jun|jul|aug|sept?|oct|nov|dec)[a-z]*\.?(?:[ ._-]*\d{2,4})?)$/i

const sortOf = (columns: readonly string[], schema: Schema): keyof typeof likely => {
  const [first, ...more] = columns
  if (first === undefined) return 'table'
  if (more.length > 0) {
    const alike = columns.every((name) => isNumber(typeOf(name, schema)))
    return columns.every((name) => label.test(name)) || (alike && columns.length > 2) ? 'labels' : 'several'
  }
  const type = typeOf(first, schema)
  if (isNumber(type)) return 'number'
  return isDate(type) ? 'date' : 'text'
}

/** Below this rank of likelihood a verb stands under its own heading. */
const mostLikely = 5

/** The verbs of a selection in groups: what is likely meant first, then each sort of verb under its heading. */
export const verbGroups = (selection: Selection, context: DraftContext): readonly VerbGroup[] => {
  const verbs = verbsFor(selection, context)
  const wanted = likely[sortOf(selectedColumns({ selection, ...context }), context.schema)]
  const own = selection.kind === 'cell' || selection.kind === 'part' || selection.kind === 'values'
  // what is made of the selected cell, part or values themselves stands first as it is
  const exact = own ? verbs.filter(({ step }) => step !== undefined).slice(0, mostLikely) : []
  const meant = wanted
    .flatMap((id) => verbs.find(({ step, builder }) => builder?.id === id || (!builder && step?.kind === id)) ?? [])
    .filter((verb) => !exact.includes(verb))
  const first = [...exact, ...meant].slice(0, mostLikely)
  const rest = verbs.filter((verb) => !first.includes(verb))
  return headings
    .map((heading) => ({
      heading,
      verbs: heading === 'Likely here' ? first : rest.filter((verb) => headingOf(verb) === heading),
    }))
    .filter((group) => group.verbs.length > 0)
}
