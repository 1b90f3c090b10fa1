import { RowCounter, rowsWhere, timesAt, type RowSet } from '../../table/row-set.ts'
import type { StepTrace, TracedStep, TraceSource } from '../shared/step-kind.ts'
import { alignUnion, type UnionParams } from './align.ts'

/** A table of a union: its id, absent for the table's own rows, and where its rows begin in the result. */
type Part = { readonly table: string | undefined; readonly from: number; readonly count: number }

const partsOf = ({ with: others }: UnionParams, { before, context }: TracedStep): Part[] => {
  const parts: Part[] = [{ table: undefined, from: 0, count: before.rowCount }]
  for (const table of others) {
    const last = parts.at(-1) as Part
    parts.push({ table, from: last.from + last.count, count: context.table(table).rowCount })
  }
  return parts
}

const rowsOf = ({ from, count }: Part, rows: RowSet): RowSet => {
  const inside = rowsWhere(rows, (row) => row >= from && row < from + count)
  return { ...inside, rows: inside.rows.map((row) => row - from) }
}

const sourcesOf = (
  params: UnionParams,
  step: TracedStep,
  rows: RowSet,
  columnOf: (part: number) => string | undefined,
): TraceSource[] =>
  partsOf(params, step).flatMap((part, i): TraceSource[] => {
    const own = rowsOf(part, rows)
    const column = columnOf(i)
    return own.rows.length === 0
      ? []
      : [
          {
            ...(part.table === undefined ? {} : { table: part.table }),
            ...(column === undefined ? {} : { column }),
            rows: own,
          },
        ]
  })

/** Rows of a union through their place in it. */
export const unionTrace: StepTrace<UnionParams> = {
  rows: (params, step, rows) => sourcesOf(params, step, rows, () => undefined),
  cells: (params, step, column, rows) => {
    const { context, before } = step
    const { parts } = alignUnion(params, context.own, before.schema, (id) => context.table(id).schema)
    return sourcesOf(params, step, rows, (i) => {
      const part = parts[i]
      return part?.schema[part.names.indexOf(column)]?.name
    })
  },
  fromTable: (params, step, table, rows) => {
    const counter = new RowCounter(step.after.rowCount)
    for (const part of partsOf(params, step))
      if (part.table === table)
        for (let i = 0; i < rows.rows.length; i++) counter.add(rows.rows[i]! + part.from, timesAt(rows, i))
    return counter.done()
  },
}
