import { code, joined, sql, sqlHelper, type Code } from '../tag.ts'
import { isLongest } from './longest.ts'
import { isNullable, parsePattern, type Pattern } from './parse.ts'
import { programOf } from './program.ts'
import { replacementParts, writtenReplacement } from './replacement.ts'
import { pythonPattern, sqlPattern, sqlSet } from './write.ts'

/** The pattern in the syntax of Python, where it finds the same. */
export const patternPython = (pattern: string, ignoreCase = false): string =>
  pythonPattern(parsePattern(pattern, ignoreCase))
/** A replacement in the syntax of Python. */
export const replacementPython = (put: string): string => writtenReplacement(put, (n) => `\\g<${n}>`)

/** Every match of a pattern, found by its program: a row of positions from 0 on, where the match and each group begin and end. */
const matchesSql = (cell: Code, pattern: Pattern): Code => {
  const program = programOf(pattern)
  const texts = program.map((one) => {
    if (one.type === 'set') return sql`${sqlSet(one.ranges)}`
    return sql`${one.type === 'at' ? `at ${one.place}` : one.type}`
  })
  const goes = program.map((one) => {
    if (one.type === 'fork') return one.to[0] + 1
    return one.type === 'done' ? 0 : one.to + 1
  })
  const other = program.map((one) => {
    if (one.type === 'fork') return one.to[1] + 1
    return one.type === 'save' ? one.slot + 1 : 0
  })
  const slots = Math.max(...program.map((one) => (one.type === 'save' ? one.slot + 1 : 0)))
  return sql`${sqlHelper('pattern_matches')}(${cell}, array[${joined(texts, ', ')}], array[${code(goes.join(', '))}], array[${code(other.join(', '))}], ${slots})`
}

/** Whether a text holds a match. */
export const foundSql = (cell: Code, pattern: string, ignoreCase = false): Code =>
  sql`${cell} ~ ${sqlPattern(parsePattern(pattern, ignoreCase), false)}`

/** The first or last match of a pattern, or a group of it. */
export const partSql = (cell: Code, pattern: string, group: number, last: boolean): Code => {
  const tree = parsePattern(pattern)
  if (!isLongest(tree, group > 0) || (last && isNullable(tree)))
    return sql`${sqlHelper('match_part')}(${cell}, ${matchesSql(cell, tree)}, ${group}, ${last})`
  const match = sql`${group === 0 ? `(${sqlPattern(tree, false)})` : sqlPattern(tree, true)}`
  const at = code(String(Math.max(1, group)))
  return last
    ? sql`(select m[${at}] from regexp_matches(${cell}, ${match}, 'g') with ordinality as found(m, n) order by n desc limit 1)`
    : sql`(regexp_match(${cell}, ${match}))[${at}]`
}

/** A text with another text for each match. */
export const replacedSql = (cell: Code, pattern: string, put: string, ignoreCase = false): Code => {
  const tree = parsePattern(pattern, ignoreCase)
  const parts = replacementParts(put)
  const groups = parts.some((part) => 'group' in part && part.group > 0)
  if (isNullable(tree) || !isLongest(tree, groups)) {
    const texts = parts.map((part) => sql`${'text' in part ? part.text : ''}`)
    const places = parts.map((part) => ('group' in part ? part.group : -1))
    return sql`${sqlHelper('put_matches')}(${cell}, ${matchesSql(cell, tree)}, array[${joined(texts, ', ')}]::text[], array[${code(places.join(', '))}]::int[])`
  }
  const into = writtenReplacement(put, (n) => `\\${n === 0 ? '&' : n}`)
  return sql`regexp_replace(${cell}, ${sqlPattern(tree, groups)}, ${into}, 'g')`
}

/** The pieces of a text between matches, as an array of texts. */
export const piecesSql = (cell: Code, pattern: string, at: string, most: number): Code => {
  const tree = parsePattern(pattern)
  const cuts =
    isNullable(tree) || !isLongest(tree, false)
      ? matchesSql(cell, tree)
      : sql`${sqlHelper('cuts_by_pattern')}(${cell}, ${sqlPattern(tree, false)})`
  return sql`${sqlHelper('pieces_by_cuts')}(${cell}, ${cuts}, ${at}, ${most})`
}
