import { describe, expect, it, test } from 'vitest'
import { patternProblem } from './engine.ts'
import { isLongest } from './longest.ts'
import { parsePattern } from './parse.ts'
import { partSql, patternPython, piecesSql, replacedSql } from './scripts.ts'
import { code } from '../tag.ts'

test.each([
  ['\\d+-[a-z]', '[0-9]+-[a-z]'],
  ['(?i)ab', '[Aa][Bb]'],
  ['a(?i)k', 'a[Kk\u212a]'],
  ['.', '[^\\n]'],
  ['^a$', '\\Aa\\Z'],
  ['(?m)^a', '(?:\\A|(?<=\\n))a'],
  ['(?U)a*b*?', 'a*?b*'],
  ['\\Qa.b\\E+', 'a\\.b+'],
  ['(?P<year>\\d{4})', '([0-9]{4})'],
  ['[^\\d\\]-]', '[^\\-0-9\\]]'],
  ['(?:a|b)*|c', '(?:a|b)*|c'],
])('%s is %s in Python', (pattern, written) => {
  expect(patternPython(pattern)).toBe(written)
})

describe('PostgreSQL finds by its own operators', () => {
  it.each(['[a-z]+\\d*', '(\\w+)\\s+(\\w+)', '(.*) - (.*)', 'cat|dog', 'a.*?$', '(Dr|Prof)\\. ([A-Z][a-z]+)'])(
    'what %s finds',
    (pattern) => {
      expect(isLongest(parsePattern(pattern), true)).toBe(true)
    },
  )
  it.each(['Marlpit|Marlpit North', 'a+?', '(a|ab)(c|bcd)(d*)'])(
    'but not what %s finds, which need not be the longest',
    (pattern) => {
      expect(isLongest(parsePattern(pattern), true)).toBe(false)
    },
  )
  it('and by a program where they would find another match', () => {
    const cell = code('t')
    expect(partSql(cell, 'a+', 0, false).text).toBe("(regexp_match(t, '(a+)'))[1]")
    expect(partSql(cell, 'a+?', 0, false).text).toContain('pattern_matches')
    expect(replacedSql(cell, 'a', '$0$$\\', true).text).toBe("regexp_replace(t, '[Aa]', '\\&$\\\\', 'g')")
    expect(replacedSql(cell, 'a*', '-').text).toContain('put_matches')
    expect(piecesSql(cell, ', ?', 'every', 3).text).toContain('cuts_by_pattern')
    expect(piecesSql(cell, ';|;;', 'every', 3).text).toContain('pattern_matches')
  })
})

it('refuses a group that is repeated and may match nothing, as languages differ in what it holds', () => {
  expect(patternProblem('(a*)*')).toContain('repeated')
  expect(patternProblem('(a+)*')).toBeUndefined()
  expect(patternProblem('(?:a*)*')).toBeUndefined()
})
it('makes no program without end', () => {
  expect(() => partSql(code('t'), '(?:(?:a|ab){100}){100}?', 0, false)).toThrow('count less often')
})
it('says where a pattern is none', () => {
  expect(patternProblem('(a')).toContain('missing closing')
  expect(patternProblem('\\C')).toBeDefined()
})
