import { compileDatePattern, type DatePattern } from '../reading/date-pattern.ts'
import { code, joined, py, sql, type Code } from './tag.ts'

const compiled = (patterns: readonly string[]): DatePattern[] =>
  patterns.map(compileDatePattern).filter((pattern): pattern is DatePattern => !('problem' in pattern))

/** Date patterns as regular expressions with the names of their groups; none means ISO. */
export const sqlPatterns = (patterns: readonly string[]): Code =>
  patterns.length === 0
    ? code("'{}'::text[]")
    : sql`array[${joined(
        compiled(patterns).map(({ source, fields }) => sql`[${source}, ${fields.join(' ')}]`),
        ', ',
      )}]`

/** Date patterns as a Python list of regular expressions with the names of their groups. */
export const pythonPatterns = (patterns: readonly string[]): Code =>
  py`[${joined(
    compiled(patterns).map(({ source, fields }) => py`(${source}, ${fields.join(' ')})`),
    ', ',
  )}]`
