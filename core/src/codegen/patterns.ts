import { compileDatePattern, hasYear, type DatePattern } from '../reading/date-pattern.ts'
import { code, joined, py, sql, type Code } from './tag.ts'

const compiled = (patterns: readonly string[]): DatePattern[] =>
  patterns.map(compileDatePattern).filter((pattern): pattern is DatePattern => !('problem' in pattern))

/** The names of a pattern's groups, then `year=2031` where the pattern has no year and one is given. */
const groupNames = (pattern: DatePattern, year: number | undefined): string =>
  [...pattern.fields, ...(year === undefined || hasYear(pattern) ? [] : [`year=${year}`])].join(' ')

/** Date patterns as regular expressions with the names of their groups; none means ISO. */
export const sqlPatterns = (patterns: readonly string[], year?: number): Code =>
  patterns.length === 0
    ? code("'{}'::text[]")
    : sql`array[${joined(
        compiled(patterns).map((one) => sql`[${one.source}, ${groupNames(one, year)}]`),
        ', ',
      )}]`

/** Date patterns as a Python list of regular expressions with the names of their groups. */
export const pythonPatterns = (patterns: readonly string[], year?: number): Code =>
  py`[${joined(
    compiled(patterns).map((one) => py`(${one.source}, ${groupNames(one, year)})`),
    ', ',
  )}]`
