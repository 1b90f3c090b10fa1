import { rowsWhere } from '../../table/row-set.ts'
import type { StepTrace } from '../shared/step-kind.ts'
import { layout, type Unpivot } from './layout.ts'

/** A value cell through the one column that its label stands for. */
export const unpivotTrace: StepTrace<Unpivot> = {
  cells: (params, { before, lineage, back }, column, rows) => {
    const { turns, values } = layout(params, before.schema)
    const group = values.findIndex(({ name: value }) => value === column)
    if (group < 0 || lineage.kind !== 'index') return undefined
    const { turn } = lineage
    return turns.flatMap(({ columns }, t) => {
      const taken = rowsWhere(rows, (row) => (turn ? turn[row]! : row % turns.length) === t)
      const name = columns[group]
      return taken.rows.length === 0 || name === undefined ? [] : [{ column: name, rows: back(taken) }]
    })
  },
  leftBy: () => [],
  left: (params, { before }, row) => {
    const { turns } = layout(params, before.schema)
    return turns.every(({ columns }) =>
      columns.every((name) => name === undefined || before.isNull(before.positionOf(name), row)),
    )
      ? 'all of these cells are empty'
      : undefined
  },
}
