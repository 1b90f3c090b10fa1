import { measureSources } from '../shared/trace-measures.ts'
import type { StepTrace } from '../shared/step-kind.ts'
import { labelsOf, layout, type Pivot } from './layout.ts'

/** A figure through the rows of its group that have its label. */
export const pivotTrace: StepTrace<Pivot> = {
  cells: (params, { before, lineage }, column, rows) => {
    if (lineage.kind !== 'groups') return undefined
    const { labels, ofRow } = labelsOf(params, before.named(params.labels))
    const made = layout(params, before.schema, labels).made.find(({ field }) => field.name === column)
    if (!made) return undefined
    const label = labels.indexOf(made.label)
    const ids = Int32Array.from(lineage.groups.ids, (group, row) => (ofRow[row] === label ? group : -1))
    return measureSources(before, made.value, rows, ids)
  },
}
