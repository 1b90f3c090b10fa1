import { RE2JS } from 're2js'
import { anyPart, isNullable, parsePattern, type Pattern } from './parse.ts'
import { replacementParts } from './replacement.ts'

/** A pattern in the syntax of RE2, tested in linear time. Source: github.com/google/re2 wiki, Syntax. */
export const compilePattern = (pattern: string, ignoreCase: boolean): RE2JS =>
  RE2JS.compile(pattern, ignoreCase ? RE2JS.CASE_INSENSITIVE : 0)

/** Whether a group is repeated in something that can match nothing: languages differ in what it then holds. */
const repeatsNothing = (pattern: Pattern): boolean =>
  anyPart(
    pattern,
    (part) =>
      part.type === 'repeat' &&
      (part.most ?? 2) > 1 &&
      isNullable(part.of) &&
      anyPart(part.of, ({ type }) => type === 'group'),
  )

/** Why a pattern cannot be read; undefined where it can. */
export const patternProblem = (pattern: string): string | undefined => {
  try {
    compilePattern(pattern, false)
  } catch (error) {
    return error instanceof Error ? error.message.replace(/^error parsing regexp: /, '') : String(error)
  }
  // only a group with a sign of repetition behind it needs a closer look
  return /\)[*+?{]/.test(pattern) && repeatsNothing(parsePattern(pattern))
    ? 'a group in it is repeated that can match nothing; let it match one character at least: (a+)* for (a*)*'
    : undefined
}

/** Every match of a pattern, replaced; a group that took no part is empty. */
export const replaceMatches = (text: string, pattern: RE2JS, put: string): string => {
  const parts = replacementParts(put)
  const matcher = pattern.matcher(text)
  let made = ''
  let end = 0
  while (matcher.find()) {
    made += text.slice(end, matcher.start())
    for (const part of parts) {
      if ('text' in part) made += part.text
      else if (part.group <= matcher.groupCount()) made += matcher.group(part.group) ?? ''
    }
    end = matcher.end()
  }
  return made + text.slice(end)
}
