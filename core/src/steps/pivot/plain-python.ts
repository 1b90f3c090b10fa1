import { code, joined, py, pyHelper, type Code } from '../../codegen/tag.ts'
import { selectorPython, typeIn, type Selector } from '../shared/columns.ts'
import { keepsKeys, onlyValue, pandasAggregate, pandasTypes } from '../shared/pandas.ts'
import type { PythonContext } from '../shared/step-kind.ts'
import { literalPython } from '../shared/value.ts'
import { keysFor, labelText, valueName, valueType, type Pivot, type PivotValue } from './layout.ts'

const figureOf = (value: PivotValue, context: PythonContext, keys: readonly string[]): Code | undefined => {
  const { how, column } = value
  const type = typeIn(context.input, column)
  const figure = how === 'only' ? onlyValue(type) : pandasAggregate(how, type)
  const dtype = pandasTypes[valueType(value, context.input)] ?? 'object'
  return figure && py`(${valueName(value)}, ${how === 'count' ? (keys[0] ?? '') : column}, ${figure}, ${dtype})`
}

/** The names of the columns that identify a row. */
export const keysPython = ({ by, labels, values }: Pivot, frame: Code): Code => {
  const used = [...new Set([labels, ...values.map(({ column }) => column)])]
  if (by === undefined) return py`[c for c in ${frame}.columns if c not in ${used}]`
  return Array.isArray(by) && by.length === 0 ? code('[]') : selectorPython(by as Selector, frame)
}

/** A pivot by pandas' groupby; undefined where it would not give what the engine gives. */
export const plainPivot = (params: Pivot, context: PythonContext): Code | undefined => {
  const { frame, input, plain } = context
  const { labels, by, values, found, gaps, before, after } = params
  const fields = keysFor(params, input)
  const keys = fields.map(({ name }) => name)
  const isListed = by === undefined || Array.isArray(by)
  if (!plain || !isListed || keys.length === 0 || !keepsKeys(fields) || before !== undefined || after !== undefined)
    return undefined
  const figures = values.map((value) => figureOf(value, context, keys))
  if (figures.includes(undefined)) return undefined
  const rows = by === undefined ? keysPython(params, frame) : py`${[...new Set(keys)]}`
  const columns = found ? py`, found=${found.map(labelText)}` : code('')
  // a whole number fits columns of decimals as well
  const type =
    typeof gaps === 'number' && Number.isInteger(gaps) ? 'integer' : valueType(values[0] as PivotValue, input)
  const filled = gaps === undefined || gaps === null ? code('') : py`, gaps=${literalPython(gaps, type)}`
  return py`${frame} = ${pyHelper('to_columns')}(${frame}, ${labels}, ${rows}, [${joined(figures as Code[], ', ')}]${columns}${filled})`
}
