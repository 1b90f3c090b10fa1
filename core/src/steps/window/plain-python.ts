import { code, joined, lines, py, pyHelper, type Code } from '../../codegen/tag.ts'
import type { Aggregate } from '../../table/aggregate.ts'
import type { ColumnType } from '../../table/column.ts'
import type { Field } from '../../table/table.ts'
import { typeIn } from '../shared/columns.ts'
import { pandasAggregate, pandasFigure, pandasTypes, sortedByValues, sortsAlike } from '../shared/pandas.ts'
import type { PythonContext } from '../shared/step-kind.ts'
import type { Window, WindowMeasure } from './layout.ts'

/** The value some rows before or after; of columns of objects, None where there is none. */
const neighbour = ({ how, column = '', offset = 1 }: WindowMeasure, type: ColumnType): Code => {
  const shifted = py`groups[${column}].shift(${how === 'previous' ? offset : -offset})`
  return pandasTypes[type] ? shifted : py`${shifted}.astype(object).where(lambda x: x.notna(), None)`
}

/** The groups of rows that are equal in some columns; of all rows where there is none. */
const groupedBy = (names: readonly string[], frame: Code): Code =>
  names.length > 0 ? py`${[...new Set(names)]}, sort=False, dropna=False` : py`np.zeros(len(${frame}))`
const groupedSeries = (names: readonly string[], frame: Code): Code => {
  const columns = [...new Set(names)].map((name) => py`${frame}[${name}]`)
  return columns.length > 0 ? py`[${joined(columns, ', ')}], sort=False, dropna=False` : groupedBy([], frame)
}

/** The least place among rows that are equal in what they go by, or how many such places there are up to it. */
const ranked = (target: Code, dense: boolean, params: Window, frame: Code): Code => {
  const { order = [] } = params
  const by = Array.isArray(params.by) ? params.by : []
  const ties = order.length > 0 ? [...by, ...order.map(({ column }) => column)] : by
  return lines(
    py`rank = groups.cumcount() + 1`,
    py`rank = rank.groupby(${groupedSeries(ties, frame)}).transform("min")`,
    dense ? py`rank = rank.groupby(${groupedSeries(by, frame)}).rank(method="dense")` : undefined,
    py`${target} = rank.astype("Int64")`,
  )
}

/** A figure of the group of each row, as `transform` makes it. */
const ofGroup = (how: Aggregate, column: string, context: PythonContext, made: Field): Code | undefined => {
  const type = typeIn(context.input, column)
  const isPlace = (how === 'first' || how === 'last') && type === 'decimal'
  const way = isPlace ? pandasAggregate(how, type) : pandasFigure(how, type)
  const of = how === 'count' ? context.input[0]?.name : column
  return way && py`groups[${of ?? ''}].transform(${way}).astype(${pandasTypes[made.type] ?? 'object'})`
}

/** A figure beside each row, by `groups`; undefined where pandas would not give what the engine gives. */
const valuesOf = (measure: WindowMeasure, context: PythonContext, made: Field): Code | undefined => {
  const { how, column = '' } = measure
  if (how === 'share' || how === 'rank' || how === 'dense-rank') return undefined
  if (how === 'row-number') return py`(groups.cumcount() + 1).astype("Int64")`
  if (how === 'previous' || how === 'next') return neighbour(measure, made.type)
  if (how !== 'running-sum') return ofGroup(how, column, context, made)
  const isDecimal = typeIn(context.input, column) === 'decimal'
  return isDecimal ? py`groups[${column}].transform(${pyHelper('running_sum')})` : undefined
}

/** The statements that put a figure beside each row. */
const columnCode = (measure: WindowMeasure, made: Field, params: Window, context: PythonContext): Code | undefined => {
  const { frame, closed } = context
  const { how, column = '', as } = measure
  // a column that the recipe does not list may have the name
  const target = py`${frame}[${closed ? made.name : py`${pyHelper('free_name')}(${as}, list(${frame}))`}]`
  if (how === 'rank' || how === 'dense-rank') return ranked(target, how === 'dense-rank', params, frame)
  if (how === 'share') {
    const floats = typeIn(context.input, column) === 'integer' ? code('.astype("float64")') : code('')
    return lines(
      py`total = groups[${column}].transform(${pyHelper('exact_sum')})`,
      py`${target} = ${frame}[${column}]${floats} / total.where(total != 0)`,
    )
  }
  const values = valuesOf(measure, context, made)
  return values && py`${target} = ${values}`
}

/** Each figure as a column, by the groups that pandas makes; undefined where it would not give what the engine gives. */
export const plainWindow = (params: Window, made: readonly Field[], context: PythonContext): Code | undefined => {
  const { frame, plain } = context
  const { by = [], order, before, after } = params
  if (!plain || !Array.isArray(by) || before !== undefined || after !== undefined) return undefined
  if (order && !sortsAlike(order)) return undefined
  const columns = params.measures.map((measure, i) => columnCode(measure, made[i] as Field, params, context))
  if (columns.includes(undefined)) return undefined
  const rows = order ? sortedByValues(frame, order) : frame
  return lines(py`groups = ${rows}.groupby(${groupedBy(by, frame)})`, ...columns)
}
