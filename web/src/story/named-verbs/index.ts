import { columnVerbs } from './columns.ts'
import { groupVerbs, shapeVerbs } from './groups.ts'
import type { NamedVerb } from './named-verb.ts'
import { rowVerbs } from './rows.ts'
import { commandVerbs, tableVerbs } from './tables.ts'
import { dateVerbs, emptyVerbs, numberVerbs, textVerbs } from './values.ts'

/** The verbs by theme, as a list shows them. */
export const verbThemes: readonly (readonly [theme: string, verbs: readonly NamedVerb[]])[] = [
  ['Rows', rowVerbs],
  ['Columns', columnVerbs],
  ['Text', textVerbs],
  ['Gaps', emptyVerbs],
  ['Numbers', numberVerbs],
  ['Dates', dateVerbs],
  ['Groups', groupVerbs],
  ['Shape', shapeVerbs],
  ['Tables and formulas', tableVerbs],
  ['The story', commandVerbs],
]
/** Every verb by the names that people have for it. */
export const namedVerbs: readonly NamedVerb[] = verbThemes.flatMap(([, verbs]) => verbs)
