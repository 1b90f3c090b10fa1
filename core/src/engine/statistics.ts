import { counted, figure } from '../messages/words.ts'
import type { Step } from '../recipe/recipe.ts'
import { sentenceText } from '../recipe/step-access.ts'
import { kindNamed } from '../steps/index.ts'
import { figureIf, plainFigure, type Figure, type StepStatistics } from '../steps/shared/statistics.ts'
import type { StepResult, TableNames } from '../steps/shared/step-kind.ts'
import { uint8s } from '../kernels/memory.ts'
import { rowOrder } from '../table/rows-in-order.ts'
import { ownValue } from '../table/own.ts'
import type { Schema } from '../table/table.ts'
import { columnLineageOf } from './lineage.ts'

/** How many of the rows that went in stand in what came out. */
const keptRows = ({ lineage }: StepResult, rowsIn: number, rowsOut: number): number => {
  if (lineage.kind === 'same') return rowsIn
  if (lineage.kind === 'source') return 0
  if (lineage.kind === 'groups') return Math.min(rowsIn, rowsOut)
  return lineage.kept ?? differentRows(lineage.index, rowsIn)
}

/** How many different rows an index names; most name them in order. */
const differentRows = (index: Int32Array, of: number): number => {
  const { ordered, different } = rowOrder(index)
  if (ordered) return different
  const seen = uint8s(of)
  markRows(index, seen)
  return countMarks(seen)
}
const markRows = (index: Int32Array, seen: Uint8Array): void => {
  const n = index.length
  for (let i = 0; i < n; i++) if (index[i]! >= 0) seen[index[i]!] = 1
}
const countMarks = (seen: Uint8Array): number => {
  const n = seen.length
  let count = 0
  for (let row = 0; row < n; row++) count += seen[row]!
  return count
}

/** The statistics of a step from its result; O(rows) for a selection. */
export const statisticsFor = (
  step: Step,
  rowsIn: number,
  input: Schema,
  result: StepResult,
  names: TableNames,
): StepStatistics => {
  const output = result.table.schema
  const columnLineage = columnLineageOf(step, input, output)
  const used = new Set(Object.values(columnLineage))
  const rowsOut = result.table.rowCount
  const kept = keptRows(result, rowsIn, rowsOut)
  const left = rowsIn - kept
  return {
    id: step.id,
    kind: step.kind,
    sentence: sentenceText(step, names),
    rowsIn,
    rowsOut,
    rowsLeft: left,
    rowsCame: rowsOut - kept,
    columnsAdded: output.flatMap(({ name }) => (ownValue(columnLineage, name) === undefined ? [name] : [])),
    columnsDropped: input.flatMap(({ name }) => (used.has(name) ? [] : [name])),
    columnsRenamed: Object.fromEntries(
      Object.entries(columnLineage).flatMap(([next, old]) => (next === old ? [] : [[old, next]])),
    ),
    cellsChanged: result.cellsChanged ?? 0,
    unreadable: Object.fromEntries((result.unreadable ?? []).map(({ column, rows }) => [column, rows.length])),
    notes: result.notes ?? {},
    ...(result.check
      ? {
          check: {
            passed: result.check.passed,
            stop: result.check.stop,
            say: result.check.say,
            figure: result.check.figure,
          },
        }
      : {}),
  }
}

/** Rows and columns of a table that begins here. */
const startFigures = ({ rowsOut, columnsAdded, unreadable, notes }: StepStatistics): Figure[] => [
  plainFigure(counted(rowsOut, 'row')),
  plainFigure(counted(columnsAdded.length, 'column')),
  ...figureIf(notes.raggedRows, (n) => ({ text: `${figure(n)} ragged`, tone: 'changed', only: 'all' })),
  ...figureIf(unreadableCells(unreadable), unreadableFigure),
  ...figureIf(notes.blankRows, (n) => plainFigure(`${figure(n)} blank left out`)),
]
/** The cells of all columns that could not be read. */
export const unreadableCells = (unreadable: StepStatistics['unreadable']): number =>
  Object.values(unreadable).reduce((a, b) => a + b, 0)
const unreadableFigure = (n: number): Figure => ({
  text: `${figure(n)} unreadable`,
  tone: 'removed',
  only: 'unreadable',
})

/** At most so many figures stand beside a sentence. */
const maxFigures = 4

/** The figures of a step that has none of its own: rows first, then columns, then cells. */
const commonFigures = (statistics: StepStatistics): Figure[] => {
  const { rowsIn, rowsOut, rowsLeft, rowsCame, columnsAdded, columnsDropped, columnsRenamed, notes } = statistics
  const all: Figure[] = [
    ...(rowsIn === rowsOut ? [] : [plainFigure(counted(rowsOut, 'row'))]),
    ...figureIf(rowsLeft, (n) => ({ text: `−${counted(n, 'row')}`, tone: 'removed', only: 'left' })),
    ...figureIf(rowsCame, (n) => ({ text: `+${counted(n, 'row')}`, tone: 'added', only: 'added' })),
    ...figureIf(columnsAdded.length, (n) => ({ text: `+${counted(n, 'column')}`, tone: 'added', only: 'all' })),
    ...figureIf(columnsDropped.length, (n) => ({ text: `−${counted(n, 'column')}`, tone: 'removed', only: 'all' })),
    ...figureIf(Object.keys(columnsRenamed).length, (n) => ({
      text: `${figure(n)} renamed`,
      tone: 'changed',
      only: 'all',
    })),
    ...figureIf(statistics.cellsChanged, (n) => ({
      text: `${figure(n)} ${kindNamed(statistics.kind)?.changeWord ?? 'changed'}`,
      tone: 'changed',
      only: 'values-changed',
    })),
    ...figureIf(unreadableCells(statistics.unreadable), unreadableFigure),
    ...figureIf(notes.rowsWithMorePieces, (n) => ({
      text: `${figure(n)} with more pieces`,
      tone: 'changed',
      only: 'all',
    })),
    ...figureIf(notes.newLookalikes, (n) => ({
      text: `${figure(n)} new look-alike${n === 1 ? '' : 's'}`,
      tone: 'removed',
      only: 'all',
    })),
  ]
  return all.length > 0 ? all.slice(0, maxFigures) : [plainFigure(counted(rowsOut, 'row'))]
}

/** What stands beside a sentence: its kind's own figures, or those of any step. */
export const figuresOf = (statistics: StepStatistics): readonly Figure[] => {
  const kind = kindNamed(statistics.kind)
  if (kind?.start) return startFigures(statistics)
  return kind?.figures?.(statistics) ?? commonFigures(statistics)
}
