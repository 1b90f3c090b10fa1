import { counted } from '../messages/words.ts'
import { sentenceText, kindOf, paramsOf, tableNames } from '../recipe/step-access.ts'
import type { Recipe } from '../recipe/recipe.ts'
import { columnLineageOf } from '../engine/lineage.ts'
import type { TraceSource } from '../steps/shared/step-kind.ts'
import { cellWords } from '../steps/shared/columns.ts'
import { compensatedSum } from '../table/number.ts'
import { textOfCell } from '../table/cell-text.ts'
import { cellAt, isNumber } from '../table/column.ts'
import { ownValue } from '../table/own.ts'
import type { BackVisit } from './back.ts'
import { isOrigin, type PlacedStep } from './traced-run.ts'

/** A step on the way back, and what it did in a few words. */
export type StepOnTheWay = { readonly id: string; readonly sentence: string; readonly did: string }

const became = ({ step }: PlacedStep, before: string, after: string): string =>
  kindOf(step).trace?.changed?.(before, after) ?? `${before} became ${after}`

/** The row before a step that a row after it goes on from; -1 where there is none of its own table. */
const rowBefore = ({ traced }: PlacedStep, row: number): number => {
  const { lineage } = traced
  if (lineage.kind === 'same') return row
  return lineage.kind === 'index' ? (lineage.index[row] ?? -1) : -1
}

/** Cells of a row that a step made or changed, as words. */
const changedCells = (placed: PlacedStep, row: number): string[] => {
  const { traced, step } = placed
  const { before, after } = traced
  const at = rowBefore(placed, row)
  const carried = columnLineageOf(step, before.schema, after.schema)
  return after.names.flatMap((name, c) => {
    const from = ownValue(carried, name)
    const position = from === undefined ? -1 : before.positionOf(from)
    if (position < 0) return [`${name} is ${cellWords(after, name, row)}`]
    if (at < 0 || before.sharesColumn(position, after, c)) return []
    const [was, is] = [cellWords(before, from ?? '', at), cellWords(after, name, row)]
    return was === is ? [] : [became(placed, was, is)]
  })
}

/** The values that enter added up, as a cell shows a number; undefined of what are no numbers. */
const sumWords = ({ traced }: PlacedStep, { table, column, rows }: TraceSource): string | undefined => {
  const values = table === undefined && column !== undefined ? traced.before.named(column) : undefined
  if (values === undefined || !isNumber(values.type)) return undefined
  const entering = Float64Array.from(rows.rows, (row) => Number(cellAt(values, row) ?? 0))
  const total = compensatedSum(entering)
  return textOfCell(values.type, total)
}

const groupWords = (visit: BackVisit): string => {
  const { placed, column, rows, sources } = visit
  const [row = 0] = rows.rows
  const entering = sources.reduce((sum, source) => sum + source.rows.rows.length, 0)
  const whole = placed.traced.back(rows).rows.length
  if (column === undefined) return `${counted(whole, 'row')} of its group made into one`
  const passed = whole > entering ? `; ${counted(whole - entering, 'row')} of the group passed over` : ''
  const figure = cellWords(placed.traced.after, column, row)
  const from = sources[0]
  const adds = from !== undefined && sumWords(placed, from) === figure ? 'the sum of' : 'of'
  return `${column} is ${figure}, ${adds} ${counted(entering, 'row')}${passed}`
}

/** What a step did to a row as a whole; undefined where it neither could have taken it away nor changed a cell of it. */
const didToRow = (visit: BackVisit): string | undefined => {
  const { placed, rows } = visit
  const { traced, step } = placed
  const [row] = rows.rows
  if (row === undefined) return undefined
  if (traced.lineage.kind === 'groups') return groupWords(visit)
  const trace = kindOf(step).trace
  const at = rowBefore(placed, row)
  const kept = trace?.left && at >= 0 ? (trace.did?.(paramsOf(step), traced, at) ?? 'kept') : undefined
  const changed = trace?.fromTable && trace.left ? [] : changedCells(placed, row)
  const words = [...(kept === undefined ? [] : [kept]), ...changed.slice(0, 3)]
  return words.length === 0 ? undefined : words.join('; ')
}

/** What a step did to a cell that it took from one column; undefined where the cell went through as it was. */
const didToOneCell = (
  { placed, column = '', rows }: BackVisit,
  source: TraceSource,
  row: number,
): string | undefined => {
  const { traced, step } = placed
  const after = cellWords(traced.after, column, row)
  const table = source.table === undefined ? traced.before : traced.context.table(source.table)
  const [from = -1] = source.rows.rows
  if (source.table !== undefined) {
    const name = traced.context.names(source.table)
    return kindOf(step).trace?.left ? `${column} is ${after}, brought from ${name}` : undefined
  }
  const before = from < 0 ? 'empty' : cellWords(table, source.column ?? '', from)
  if (before !== after) {
    const more = rows.rows.length > 1 ? `, and ${counted(rows.rows.length - 1, 'more row', 'more rows')}` : ''
    return `${became(placed, before, after)}${more}`
  }
  const isSameRow = source.rows.rows.length === rows.rows.length && from === rowBefore(placed, row)
  const carried = ownValue(columnLineageOf(step, traced.before.schema, traced.after.schema), column)
  return isSameRow && carried === source.column ? undefined : `${column} is ${after}`
}

/** What a step did to a cell; undefined where the cell went through as it was. */
const didToCell = (visit: BackVisit): string | undefined => {
  const { placed, column = '', rows, sources } = visit
  const [row] = rows.rows
  if (row === undefined) return undefined
  if (placed.traced.lineage.kind === 'groups') return groupWords(visit)
  const [source, more] = sources
  const made = `${column} is ${cellWords(placed.traced.after, column, row)}`
  if (!source) return `${made}, of nothing`
  return more !== undefined || source.column === undefined ? made : didToOneCell(visit, source, row)
}

/** The steps on the way back, in the order of running: of a row where it was opened, could have left or was changed; of a cell where it was made, changed or moved. */
export const stepsOnTheWay = (
  recipe: Recipe,
  visits: readonly BackVisit[],
  ofCell: boolean,
  opened: ReadonlyMap<PlacedStep, string>,
): readonly StepOnTheWay[] => {
  const found = new Map<PlacedStep, string>()
  for (const visit of visits) {
    const { placed, column } = visit
    if (found.has(placed)) continue
    const wordsOf = () => {
      if (isOrigin(placed)) return opened.get(placed)
      if (!ofCell) return didToRow(visit)
      return column === undefined ? undefined : didToCell(visit)
    }
    const words = wordsOf()
    if (words !== undefined) found.set(placed, words)
  }
  const names = tableNames(recipe)
  return [...found]
    .sort(([a], [b]) => a.order - b.order)
    .map(([{ step }, did]) => ({ id: step.id, sentence: sentenceText(step, names), did }))
}
