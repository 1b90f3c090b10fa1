import { code, joined, py, pyHelper, type Code } from '../../codegen/tag.ts'
import type { Schema } from '../../table/table.ts'
import type { PythonContext } from '../shared/step-kind.ts'
import { selected } from '../shared/columns.ts'
import { layout, onOf, type Join } from './layout.ts'

/** Keys of the same type on both sides, that pandas compares as the engine does: as they are, empty ones with nothing. */
const comparesAlike = (params: Join, input: Schema, other: Schema): boolean => {
  const typeIn = (schema: Schema, name: string) => schema.find((field) => field.name === name)?.type
  const on = onOf(params)
  return (
    !params.ignoreCase &&
    !params.trim &&
    on.length > 0 &&
    on.every(({ left, right }) => typeIn(input, left) !== 'list' && typeIn(input, left) === typeIn(other, right))
  )
}

/** Rows without a match there. */
const withoutMatch = (params: Join, { frame, renumbered }: PythonContext, other: Code): Code | undefined => {
  const [on, ...more] = onOf(params)
  if (!on || more.length > 0) return undefined
  return py`${frame} = ${renumbered(py`${frame}[~${frame}[${on.left}].isin(${other}[${on.right}].dropna())]`)}`
}

/** The other table with its keys under the names of those here and the columns to bring, none of which is here; undefined where names meet. */
const columnsThere = (params: Join, input: Schema, other: Code, there: Schema): Code | undefined => {
  const on = onOf(params)
  const { brought } = layout(params, input, there)
  const keys = on.map(({ right }) => right)
  const own = on.filter(({ left, right }) => left !== right)
  if (brought.some(({ from, field }) => from !== field.name || keys.includes(from))) return undefined
  if (new Set(keys).size < keys.length || own.some(({ left }) => there.some(({ name }) => name === left)))
    return undefined
  const chosen = params.bring
    ? py`${other}[${[...keys, ...selected(params.bring, there).map(({ name }) => name)]}]`
    : other
  if (own.length === 0) return chosen
  const names = joined(
    own.map(({ left, right }) => py`${right}: ${left}`),
    ', ',
  )
  return py`${chosen}.rename(columns={${names}})`
}

/** A match by pandas' merge, where it gives what the engine gives; undefined elsewhere. */
export const plainJoin = (params: Join, context: PythonContext): Code | undefined => {
  const { frame, input, table, plain } = context
  const { how, prefix, matches = 'all' } = params
  const { frame: other, columns } = table(params.with)
  if (!plain || prefix || matches === 'one' || !comparesAlike(params, input, columns)) return undefined
  if (how === 'left-only') return withoutMatch(params, context, other)
  const there = how === 'left' || how === 'inner' ? columnsThere(params, input, other, columns) : undefined
  if (!there) return undefined
  const keys = onOf(params).map(({ left }) => left)
  const first = matches === 'first' ? py`.drop_duplicates(subset=${keys})` : code('')
  return py`${frame} = ${pyHelper('match')}(${frame}, ${there}${first}, ${how}, ${keys})`
}
