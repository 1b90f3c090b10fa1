import { describe, expect, it } from 'vitest'
import { code, comment, id, joined, lines, psql, psqlVariable, py, pyHelper, sql, sqlHelper } from './tag.ts'

describe('SQL', () => {
  it.each([
    ['a text', sql`select ${"O'Brien"}`, "select 'O''Brien'"],
    ['a backslash, plain under standard_conforming_strings', sql`select ${'a\\b'}`, "select 'a\\b'"],
    ['a psql variable in a text', sql`select ${':name'}`, "select ':name'"],
    ['a number', sql`limit ${12}`, 'limit 12'],
    ['a boolean', sql`where ${true}`, 'where true'],
    ['nothing', sql`select ${null}`, 'select null'],
    ['a list', sql`in (${['a', 'b']})`, "in ('a', 'b')"],
    ['a name', sql`select ${id('Visit "date"')}`, 'select "Visit ""date"""'],
    ['code in code', sql`select ${sql`${1} + ${2}`}`, 'select 1 + 2'],
  ])('writes %s', (_what, made, text) => {
    expect(made.text).toBe(text)
  })
})

describe('Python', () => {
  it.each([
    ['a text', py`x = ${'say "so"'}`, 'x = "say \\"so\\""'],
    ['a line break', py`x = ${'a\nb'}`, 'x = "a\\nb"'],
    ['a non-breaking space, visibly', py`x = ${'a\u00a0b'}`, 'x = "a\\u00a0b"'],
    ['an emoji, kept', py`x = ${'🐶'}`, 'x = "🐶"'],
    ['a lone surrogate, escaped', py`x = ${'\ud800'}`, 'x = "\\ud800"'],
    ['a boolean', py`x = ${false}`, 'x = False'],
    ['nothing', py`x = ${null}`, 'x = None'],
    ['a list of values', py`x = ${['a', 'b']}`, 'x = ["a", "b"]'],
    ['a list of code', py`f(${[code('a'), code('b')]})`, 'f(a, b)'],
  ])('writes %s', (_what, made, text) => {
    expect(made.text).toBe(text)
  })
})

describe('psql', () => {
  it('quotes the words of a command, so that none ends it', () => {
    expect(psql('set', code('out'), "it's\n\\o /tmp/x").text).toBe("\\set out 'it''s\\n\\\\o /tmp/x'")
  })
  it('keeps a command apart from the text around it', () => {
    const script = sql`select ${'\\o /tmp/x'} ${psql('gset')}`
    expect(script.parts.filter((part) => typeof part !== 'string')).toEqual([{ command: 'gset', words: [] }])
  })
  it('writes a variable quoted or as it stands', () => {
    expect([psqlVariable('file').text, psqlVariable('file', false).text]).toEqual([":'file'", ':file'])
  })
  it('refuses a name that is none', () => {
    expect(() => psqlVariable("a'b")).toThrow("a'b is no name of a psql variable")
  })
})

describe('comments', () => {
  it('let no line break end them early', () => {
    expect(comment('#', 'one\ntwo\u2028three').text).toBe('# one\n# two\n# three')
  })
  it('hold no control characters', () => {
    expect(comment('--', 'a\u0000b\u0007c').text).toBe('-- a b c')
  })
})

describe('code', () => {
  it('tells the helpers it refers to, those in the words of commands too', () => {
    const made = lines(sql`select ${sqlHelper('shown')}(1)`, psql('set', sql`${sqlHelper('trim_of')}`))
    expect(made.helpers).toEqual(['shown', 'trim_of'])
  })
  it('keeps references where it is joined', () => {
    expect(joined([py`${pyHelper('cells')}(x)`, py`${pyHelper('column')}(y)`], ', ').helpers).toEqual([
      'cells',
      'column',
    ])
  })
  it('leaves out lines that are not there', () => {
    expect(lines(code('a'), undefined, code('b')).text).toBe('a\nb')
  })
})
