import { distance } from 'fastest-levenshtein'
import { quoted } from '../messages/words.ts'
import { kindOf, paramsOf } from '../recipe/step-access.ts'
import { matchToGroups, similarityMeasures } from '../steps/shared/similar-values.ts'
import { seenBy } from '../steps/shared/condition-run.ts'
import type { DecidingColumn } from '../steps/shared/step-kind.ts'
import { ownValue } from '../table/own.ts'
import { lower } from '../table/text.ts'
import { valueCounts } from '../table/value-counts.ts'
import { withInputs, type StepAccount } from './accounts.ts'
import type { CompatibilityFinding, CompatibilityOffer, FindingPlace, FindingRows, Grade } from './finding.ts'
import { findingOf } from './finding-sentences.ts'
import { inputOfStep, lastStep, stepPlace, type FitContext } from './fit-context.ts'

/** Conditions are compared only over columns that had at most so many different values last time. */
const mostCompared = 50
/** So many near values are asked about one by one. */
const mostAskedAlone = 20
/** So many groups are offered to a value that is near none. */
const mostGroupsOffered = 3

type NewValues = {
  readonly decided: DecidingColumn
  readonly place: FindingPlace
  readonly step: string
  /** New values with their rows. */
  readonly values: readonly (readonly [value: string, rows: number])[]
  /** What was decided by last time, where that can be compared. */
  readonly before: readonly string[] | undefined
}

const rowsOf = (values: NewValues['values']): number => values.reduce((sum, [, rows]) => sum + rows, 0)

/** The rows before a step with one of these values. */
const rowsWith = ({ step = '' }: FindingPlace, column: string, of: readonly string[]): FindingRows => ({
  step,
  texts: { column, of },
})

const accept = (why: string): CompatibilityOffer => ({ do: 'accept', why })
const changeStep = (params: Readonly<Record<string, unknown>> | undefined, why: string): CompatibilityOffer[] =>
  params ? [{ do: 'change-step', params, why }] : []

/** The groups by how few edits part one of their values from this one. */
const nearestGroups = (value: string, groups: NonNullable<DecidingColumn['groups']>): readonly string[] =>
  groups
    .map(({ into, from }) => ({
      into,
      far: Math.min(...[into, ...from].map((text) => distance(lower(text), lower(value)))),
    }))
    .sort((a, b) => a.far - b.far)
    .map(({ into }) => into)

/** For each value the group that it is near by any measure of likeness. */
const nearGroups = (values: readonly string[], groups: NonNullable<DecidingColumn['groups']>): Map<string, string> => {
  const near = new Map<string, string>()
  for (const measure of similarityMeasures)
    for (const { value, into } of matchToGroups(values, groups, measure)) if (!near.has(value)) near.set(value, into)
  return near
}

const spellingFinding = (
  { decided: { column }, place, step }: NewValues,
  values: NewValues['values'],
  grade: Grade,
  group: { readonly into: string | undefined; readonly near: boolean },
  offers: readonly CompatibilityOffer[],
): CompatibilityFinding => {
  const names = values.map(([value]) => value)
  const rows = rowsOf(values)
  return findingOf(
    'new-value',
    grade,
    place,
    {
      step,
      column,
      values: names,
      count: names.length,
      rows,
      unnamed: 'own-spelling',
      group: group.into,
      near: group.near,
    },
    { rows, values: names, offers, shows: rowsWith(place, column, names) },
  )
}
const joinOffers = ({ naming }: DecidingColumn, value: string, groups: readonly string[]): CompatibilityOffer[] =>
  groups.flatMap((into) => changeStep(naming?.([value], into), `write ${quoted(into)} for ${quoted(value)}`))

/** New values that are near a group: each is asked about. */
const nearSpellings = (one: NewValues, near: ReadonlyMap<string, string>): CompatibilityFinding[] => {
  const close = one.values.filter(([value]) => near.has(value))
  const rest = close.slice(mostAskedAlone)
  return [
    ...close.slice(0, mostAskedAlone).map(([value, rows]) => {
      const into = near.get(value) ?? ''
      return spellingFinding(one, [[value, rows]], 'changes', { into, near: true }, [
        ...joinOffers(one.decided, value, [into]),
        accept('it is a value of its own'),
      ])
    }),
    ...(rest.length > 0
      ? [
          spellingFinding(one, rest, 'changes', { into: undefined, near: true }, [
            accept('they are values of their own'),
          ]),
        ]
      : []),
  ]
}

/** New values that are near no group: one finding, which asks where every value of last time had been named. */
const farSpellings = (one: NewValues, near: ReadonlyMap<string, string>): CompatibilityFinding[] => {
  const { decided, values, before } = one
  const far = values.filter(([value]) => !near.has(value))
  if (far.length === 0 || before === undefined) return []
  const grade = before.every((value) => decided.named.includes(value)) ? 'changes' : 'fits'
  const [[value] = ['']] = far
  if (far.length > 1)
    return [
      spellingFinding(one, far, grade, { into: undefined, near: false }, [accept('they are values of their own')]),
    ]
  const nearest = nearestGroups(value, decided.groups ?? [])
  return [
    spellingFinding(one, far, grade, { into: nearest[0], near: false }, [
      ...joinOffers(decided, value, nearest.slice(0, mostGroupsOffered)),
      accept('it is a value of its own'),
    ]),
  ]
}

/** New values in a column that was given one spelling. */
const unnamedSpellings = (one: NewValues): CompatibilityFinding[] => {
  const near = nearGroups(
    one.values.map(([value]) => value),
    one.decided.groups ?? [],
  )
  return [...nearSpellings(one, near), ...farSpellings(one, near)]
}

/** Values that conditions, cases and replacements do not name. */
const unnamedInConditions = ({ decided, place, step, values }: NewValues): CompatibilityFinding[] => {
  const { column, unnamed, naming } = decided
  const names = values.map(([value]) => value)
  const leaves = unnamed === 'leaves'
  return [
    findingOf(
      'new-value',
      leaves ? 'changes' : 'fits',
      place,
      { step, column, values: names, count: names.length, rows: rowsOf(values), unnamed },
      {
        rows: rowsOf(values),
        values: names,
        shows: rowsWith(place, column, names),
        offers: [
          ...changeStep(naming?.(names), leaves ? 'their rows stay from now on' : 'their rows leave from now on'),
          accept(leaves ? 'it is right that these rows leave' : 'it is right that these rows stay'),
        ],
      },
    ),
  ]
}

/** Labels that make no column. */
const unnamedLabels = ({ decided, place, step, values }: NewValues): CompatibilityFinding[] =>
  values.map(([value, rows]) =>
    findingOf(
      'new-value',
      'changes',
      place,
      { step, column: decided.column, values: [value], count: 1, rows, unnamed: 'no-column' },
      {
        rows,
        values: [value],
        shows: rowsWith(place, decided.column, [value]),
        offers: [
          ...changeStep(decided.naming?.([value]), `make a column of ${quoted(value)}`),
          accept('it is right that it has no column'),
        ],
      },
    ),
  )

/** What was decided by before, by whatever params: the step before it was the same then. */
const valuesBefore = ({ last, keys }: FitContext, id: string, column: string): readonly string[] => {
  for (const { steps } of last?.tables ?? []) {
    const at = steps.findIndex((step) => step.id === id)
    const above = steps[at - 1]
    if (above?.key !== undefined && above.key === keys.get(above.id)) return ownValue(steps[at]?.decides, column) ?? []
  }
  return []
}

/** The values that a step knew before these: undefined where they cannot be compared. */
const knownBefore = (
  context: FitContext,
  id: string,
  { column, unnamed }: DecidingColumn,
): readonly string[] | undefined => {
  const before = ownValue(lastStep(context, id)?.decides, column)
  if (unnamed === 'own-spelling') return before ?? valuesBefore(context, id, column)
  const isCondition = unnamed === 'leaves' || unnamed === 'stays'
  return isCondition && (before?.length ?? 0) > mostCompared ? undefined : before
}

const newValues = (
  context: FitContext,
  id: string,
  decided: DecidingColumn,
  counts: ReadonlyMap<string, number>,
): CompatibilityFinding[] => {
  const { column, named, unnamed } = decided
  const account = lastStep(context, id)
  const known = knownBefore(context, id, decided)
  if (!known || account?.decidesMore?.includes(column)) return []
  const see = seenBy(decided)
  const seen = new Set([...named, ...known].map(see))
  const values = [...counts].filter(([value]) => !seen.has(see(value)))
  if (values.length === 0) return []
  const input = inputOfStep(context.recipe, id)
  const one: NewValues = {
    decided,
    place: { ...(input === undefined ? {} : { input }), column, step: id },
    step: stepPlace(context.recipe, id),
    values,
    before: ownValue(account?.decides, column),
  }
  if (unnamed === 'own-spelling') return unnamedSpellings(one)
  return unnamed === 'no-column' ? unnamedLabels(one) : unnamedInConditions(one)
}

/** Values that a step names, that were there last time, and that no row has now. */
const missingValues = (
  context: FitContext,
  id: string,
  { column, named, unnamed, ...options }: DecidingColumn,
  counts: ReadonlyMap<string, number>,
  account: StepAccount | undefined,
): CompatibilityFinding[] => {
  const before = ownValue(account?.decides, column)
  if (!before || unnamed === 'own-spelling') return []
  const see = seenBy(options)
  const now = new Set([...counts.keys()].map(see))
  const had = new Set(before.map(see))
  const gone = [...new Set(named)].filter((value) => had.has(see(value)) && !now.has(see(value)))
  if (gone.length === 0) return []
  const input = inputOfStep(context.recipe, id)
  return [
    findingOf(
      'missing-value',
      'fits',
      { ...(input === undefined ? {} : { input }), column, step: id },
      { column, values: gone, step: stepPlace(context.recipe, id) },
      { values: gone },
    ),
  ]
}

/** Columns decided by in several places of a step are one. */
const merged = (columns: readonly DecidingColumn[]): DecidingColumn[] => {
  const found = new Map<string, DecidingColumn>()
  for (const one of columns) {
    const key = `${one.unnamed} ${one.column}`
    const known = found.get(key)
    found.set(key, known ? { ...known, named: [...known.named, ...one.named] } : one)
  }
  return [...found.values()]
}

/** Values that no step has decided on, beside those of the last run, and values that are gone. */
export const valueFindings = (context: FitContext): CompatibilityFinding[] =>
  context.tables.flatMap((table) =>
    withInputs(table).flatMap(({ run: { step, result }, before }) => {
      if (!result || !before) return []
      const columns = merged(kindOf(step).decides?.(paramsOf(step), before.schema) ?? [])
      const account = lastStep(context, step.id)
      return columns.flatMap((decided) => {
        const counts = before.positionOf(decided.column) < 0 ? undefined : valueCounts(before.named(decided.column))
        return counts
          ? [
              ...newValues(context, step.id, decided, counts),
              ...missingValues(context, step.id, decided, counts, account),
            ]
          : []
      })
    }),
  )
