import { code, joined, py, pyHelper, type Code } from '../../codegen/tag.ts'
import type { PythonContext } from '../shared/step-kind.ts'
import { alignUnion, type UnionLayout, type UnionParams, type UnionPart } from './align.ts'

/** Columns that are alike in all tables, or numbers: then cells tell what a column that the recipe does not list becomes. */
const typesAgree = ({ parts, fields }: UnionLayout): boolean =>
  fields.every(({ name, type }) =>
    parts.every((part) => {
      const own = part.schema[part.names.indexOf(name)]
      return !own || own.type === type || (own.type === 'integer' && type === 'decimal')
    }),
  )

const renamed = (frame: Code, { schema, names }: UnionPart): Code => {
  const pairs = schema.flatMap((field, i) => (names[i] === field.name ? [] : [py`${field.name}: ${names[i] ?? ''}`]))
  return pairs.length > 0 ? py`${pyHelper('rename_columns')}(${frame}, {${joined(pairs, ', ')}})` : frame
}

/** A union by pandas' concat; undefined where types differ in other ways than numbers do. */
export const plainUnion = (params: UnionParams, context: PythonContext): Code | undefined => {
  const { frame, table, own, input, names, plain } = context
  if (!plain) return undefined
  const layout = alignUnion(params, own, input, (id) => table(id).columns)
  if (!typesAgree(layout)) return undefined
  const tables = layout.parts.map((part, i) => renamed(i === 0 ? frame : table(part.table).frame, part))
  const shared = params.columns === 'shared' ? code(', shared=True') : code('')
  const titles = layout.parts.map((part, i) => names(i === 0 ? '' : part.table))
  const origin = params.origin === undefined ? code('') : py`, origin=${params.origin}, names=${titles}`
  return py`${frame} = ${pyHelper('stack')}([${joined(tables, ', ')}]${shared}${origin})`
}
