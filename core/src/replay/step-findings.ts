import { formatDecimal } from '../table/number.ts'
import { counted, quoted } from '../messages/words.ts'
import type { StepRun } from '../engine/run.ts'
import { inOrder, kindOf, openedBy, paramsOf, tablesNeeded } from '../recipe/step-access.ts'
import { kindNamed } from '../steps/index.ts'
import { usedTables } from '../recipe/used-tables.ts'
import { columnOfProblem, sentenceOf } from '../steps/shared/problems.ts'
import type { RowSelection } from '../steps/shared/statistics.ts'
import { quickFixesFor } from './quick-fixes.ts'
import { hasValue, textsAt } from '../table/value-counts.ts'
import { ownValue } from '../table/own.ts'
import type { Table } from '../table/table.ts'
import { withInputs, type StepAccount } from './accounts.ts'
import type { CompatibilityFinding, CompatibilityOffer, FindingPlace } from './finding.ts'
import { findingOf, type StandingOut } from './finding-sentences.ts'
import { inputOfStep, lastStep, stepPlace, type FitContext } from './fit-context.ts'

const accept: CompatibilityOffer = { do: 'accept', why: 'it is right as it is' }
const placeOf = ({ recipe }: FitContext, step: string, column?: string): FindingPlace => {
  const input = inputOfStep(recipe, step)
  return { ...(input === undefined ? {} : { input }), ...(column === undefined ? {} : { column }), step }
}

/** What the cells that did not read hold, of the first few. */
const originals = (
  context: FitContext,
  { step, result }: StepRun,
  before: Table | undefined,
  column: string,
): string[] => {
  const opened = openedBy(step)
  if (opened) {
    const cells = ownValue(context.inputs, opened.input)?.unreadable?.find((one) => one.column === column)
    return [...(cells?.texts ?? [])]
  }
  const rows = result?.unreadable?.find((one) => one.column === column)?.rows
  if (!rows || !before || before.positionOf(column) < 0 || result?.lineage.kind !== 'same') return []
  return textsAt(before.named(column), rows, 1000)
}

/** More cells than last time that cannot be read, or, without a last time, a column of which none could. */
const isUnusual = (
  now: StepAccount,
  before: StepAccount | undefined,
  column: string,
  n: number,
  { table }: StepRun,
): boolean => {
  if (!before) return table.positionOf(column) >= 0 && !hasValue(table.named(column))
  const lost = ownValue(before.unreadable, column) ?? 0
  const share = n / (now.rowsIn || now.rowsOut || 1)
  const usual = lost / (before.rowsIn || before.rowsOut || 1)
  return lost === 0 || (share > usual * 2 && n - lost >= 5)
}

const unreadableCells = (
  context: FitContext,
  run: StepRun,
  table: Table | undefined,
  now: StepAccount,
  before: StepAccount | undefined,
): CompatibilityFinding[] =>
  Object.entries(now.unreadable).flatMap(([column, n]): CompatibilityFinding[] => {
    if (n === 0 || !isUnusual(now, before, column, n, run)) return []
    const texts = originals(context, run, table, column)
    const different = [...new Set(texts)]
    const fixes = kindOf(run.step).readingFixes?.(paramsOf(run.step), column, texts) ?? []
    return [
      findingOf(
        'unreadable',
        'changes',
        placeOf(context, run.step.id, column),
        {
          step: stepPlace(context.recipe, run.step.id),
          column,
          rows: n,
          values: different,
          before: before && (ownValue(before.unreadable, column) ?? 0),
        },
        {
          rows: n,
          values: different,
          shows: { step: run.step.id, only: 'unreadable' },
          offers: [
            ...fixes.map(({ params, words, reads }): CompatibilityOffer => ({
              do: 'change-step',
              params,
              why: `read them as ${words}: it reads ${counted(Math.min(reads, n), 'more cell', 'more cells')}`,
            })),
            { do: 'accept', why: 'these cells stay empty' },
          ],
        },
      ),
    ]
  })

const threefold = (now: number, before: number): boolean => now >= before * 3 || now * 3 <= before

type Compared = {
  readonly context: FitContext
  readonly run: StepRun
  readonly step: string
  readonly now: StepAccount
  readonly before: StepAccount
}

const rowsStandOut = ({ step, now, before }: Compared): StandingOut[] => {
  const opens = kindNamed(now.kind)?.opens !== undefined
  if (now.rowsOut === 0 && before.rowsOut > 0 && (now.rowsIn > 0 || opens))
    return [{ what: 'no-rows', step, before: before.rowsOut }]
  if (now.rowsIn === 0 || before.rowsIn === 0) return []
  const [share, usual] = [now.rowsOut / now.rowsIn, before.rowsOut / before.rowsIn]
  return Math.abs(now.rowsOut - before.rowsOut) >= 5 &&
    threefold(now.rowsOut, before.rowsOut) &&
    threefold(share, usual)
    ? [{ what: 'rows', step, before: before.rowsOut, now: now.rowsOut }]
    : []
}

/** Rows without a match on one side of a join, and how many there are on that side. */
type SideFigures = { readonly unmatched: number; readonly rows: number }
const sideFigures = (account: StepAccount, side: 'here' | 'there', others: number): SideFigures => ({
  unmatched: account.notes[side === 'here' ? 'unmatchedLeft' : 'unmatchedRight'] ?? 0,
  rows: (side === 'here' ? account.rowsIn : others) || 1,
})

/** The rows of a join without a match, on either side, as far as it keeps or loses them. */
const unmatchedStandOut = ({ context, run, step, now, before }: Compared): StandingOut[] => {
  const sides = kindOf(run.step).unmatchedSides?.(paramsOf(run.step)) ?? []
  const [other] = usedTables(run.step)
  const others = context.tables.find(({ id }) => id === other)?.table?.rowCount ?? 0
  const othersBefore = context.last?.tables.find(({ id }) => id === other)?.steps.at(-1)?.rowsOut ?? others
  return sides.flatMap(({ side, loses }): StandingOut[] => {
    const here = sideFigures(now, side, others)
    const had = sideFigures(before, side, othersBefore)
    const [share, usual] = [here.unmatched / here.rows, had.unmatched / had.rows]
    const turned = had.unmatched === 0 && here.unmatched > 0 && (loses || share > 0.01)
    const grown = had.unmatched > 0 && share >= usual * 2 && here.unmatched - had.unmatched >= 5
    return turned || grown ? [{ what: 'unmatched', step, side, before: had.unmatched, now: here.unmatched, share }] : []
  })
}

const multipliedStandsOut = ({ step, now, before }: Compared): StandingOut[] => {
  const n = now.notes.multiplied ?? 0
  return n > 0 && (before.notes.multiplied ?? 0) === 0 ? [{ what: 'multiplied', step, now: n }] : []
}

/** What a check says, with its figure. */
export const checkWords = ({ say, figure: n }: { readonly say: string; readonly figure: number | null }): string =>
  `${say}${n === null ? '' : ` (${formatDecimal(n)})`}`

const checkStandsOut = ({ step, now, before }: Compared): StandingOut[] =>
  now.check && !now.check.passed && !now.check.stop && before.check?.passed
    ? [{ what: 'check', step, say: checkWords(now.check) }]
    : []

const hundredfold = (now: number, before: number): boolean => {
  if (now === 0 || before === 0) return false
  const ratio = Math.abs(now / before)
  return ratio >= 100 || ratio <= 0.01
}
/** A median that moved by two digits; further ones of the same table follow from the first. */
const medianStandsOut = ({ step, now, before }: Compared): StandingOut[] =>
  Object.entries(now.medians ?? {}).flatMap(([column, median]): StandingOut[] => {
    const had = ownValue(before.medians, column)
    return had !== undefined && hundredfold(median, had)
      ? [{ what: 'median', step, column, before: had, now: median }]
      : []
  })

/** The rows that a finding touches. */
const rowsOf = (one: StandingOut, now: StepAccount): number => {
  if (one.what === 'rows' || one.what === 'unmatched' || one.what === 'multiplied') return one.now
  return one.what === 'median' ? now.rowsOut : now.rowsIn
}

/** The rows to look at. */
const selectionOf = (one: StandingOut): RowSelection => {
  if (one.what === 'unmatched') return one.side === 'here' ? 'unmatched' : 'unmatched-there'
  if (one.what === 'multiplied') return 'multiplied'
  if (one.what === 'check') return 'against'
  return one.what === 'median' ? 'all' : 'left'
}

const standingOut = (
  context: FitContext,
  run: StepRun,
  now: StepAccount,
  before: StepAccount,
): CompatibilityFinding[] => {
  const compared = { context, run, step: stepPlace(context.recipe, now.id), now, before }
  return [
    ...rowsStandOut(compared),
    ...unmatchedStandOut(compared),
    ...multipliedStandsOut(compared),
    ...checkStandsOut(compared),
    ...medianStandsOut(compared),
  ].map((one) =>
    findingOf('standing-out', 'changes', placeOf(context, now.id, 'column' in one ? one.column : undefined), one, {
      rows: rowsOf(one, now),
      offers: [accept],
      shows: { step: now.id, only: selectionOf(one) },
    }),
  )
}

/** Data that a step refuses, and checks that stop the run. */
const refusals = (context: FitContext): CompatibilityFinding[] => [
  ...context.broken.flatMap(({ step, problem }) =>
    problem.code === 'refused-data'
      ? [
          findingOf('standing-out', 'refused', placeOf(context, step.id), {
            what: 'refused',
            step: stepPlace(context.recipe, step.id),
            why: problem.sentence,
          }),
        ]
      : [],
  ),
  ...context.tables.flatMap(({ steps }) =>
    steps.flatMap(({ step, statistics }) =>
      statistics?.check && !statistics.check.passed && statistics.check.stop
        ? [
            findingOf(
              'standing-out',
              'refused',
              placeOf(context, step.id),
              {
                what: 'check-stops',
                step: stepPlace(context.recipe, step.id),
                say: checkWords(statistics.check),
              },
              { shows: { step: step.id, only: 'against' } },
            ),
          ]
        : [],
    ),
  ),
]

/** Steps that cannot run, but for those whose cause is a finding already. */
export const brokenFindings = (context: FitContext, known: readonly CompatibilityFinding[]): CompatibilityFinding[] =>
  context.broken
    .filter(
      ({ step, problem }) =>
        problem.code !== 'refused-data' &&
        !known.some(
          (finding) =>
            finding.grade === 'breaks' &&
            (finding.step === step.id || (finding.column !== undefined && finding.column === columnOfProblem(problem))),
        ),
    )
    .map(({ step, problem }) => {
      const column = columnOfProblem(problem)
      return findingOf(
        'broken-step',
        'breaks',
        placeOf(context, step.id, column),
        { step: stepPlace(context.recipe, step.id), why: sentenceOf(problem) },
        {
          offers: quickFixesFor(step, problem).map(({ column: other, words, step: fixed }): CompatibilityOffer => ({
            do: 'change-step',
            params: paramsOf(fixed) as Readonly<Record<string, unknown>>,
            why: words ?? `take ${quoted(other)} instead`,
          })),
        },
      )
    })

/** Medians that follow from one that stands out before them, in the same table or one that it uses, are not reported again. */
const withoutFollowing = (
  { recipe }: FitContext,
  findings: readonly CompatibilityFinding[],
): readonly CompatibilityFinding[] => {
  const tableOf = (step: string | undefined): string | undefined =>
    recipe.tables.find(({ steps }) => steps.some(({ id }) => id === step))?.id
  const first = new Map<string, string>()
  const order = inOrder(recipe).map(({ id }) => id)
  const medians = findings
    .filter(({ code, column }) => code === 'standing-out' && column !== undefined)
    .sort((a, b) => order.indexOf(tableOf(a.step) ?? '') - order.indexOf(tableOf(b.step) ?? ''))
  const following = medians.filter(({ step = '' }) => {
    const table = tableOf(step) ?? ''
    const known = first.get(table)
    if (known === step) return false
    if (known !== undefined || tablesNeeded(recipe, table).some((id) => id !== table && first.has(id))) return true
    first.set(table, step)
    return false
  })
  return findings.filter((finding) => !following.includes(finding))
}

/** What steps did otherwise than last time: cells they cannot read, rows and figures that stand out, and refusals. */
export const stepFindings = (context: FitContext): CompatibilityFinding[] => {
  const accounts = new Map(context.steps.flatMap(({ steps }) => steps.map((step) => [step.id, step])))
  const found = context.tables.flatMap((table) =>
    withInputs(table).flatMap(({ run, before: input }): CompatibilityFinding[] => {
      const now = accounts.get(run.step.id)
      if (!now) return []
      const before = lastStep(context, run.step.id)
      return [
        ...unreadableCells(context, run, input, now, before),
        ...(before ? standingOut(context, run, now, before) : []),
      ]
    }),
  )
  return [...withoutFollowing(context, found), ...refusals(context)]
}
