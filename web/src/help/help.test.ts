import { stepKinds, type StepKindName } from '@fabula/core'
import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, test } from 'vitest'
import { examplesOf, kindsWithExamples, smallTable } from './examples.ts'
import { foundEntries, type HelpEntry } from './search.ts'
import { verbAbout } from './verb-about.ts'

describe('small tables', () => {
  test('quoted cells, empty cells and types in the heads', () => {
    expect(smallTable('Clinic,Fee:decimal\n"Oxbow, north",1.5\n"a ""b""",\n')).toEqual({
      names: ['Clinic', 'Fee'],
      types: ['text', 'decimal'],
      rows: [
        ['Oxbow, north', '1.5'],
        ['a "b"', null],
      ],
    })
  })
  test('line breaks in cells, and a table without rows', () => {
    expect(smallTable('A\n"x\ny"\n').rows).toEqual([['x\ny']])
    expect(smallTable('A,B\n').rows).toEqual([])
  })
})

const helpedKinds = kindsWithExamples()

describe('the pages of verbs', () => {
  test.each(Object.keys(stepKinds) as StepKindName[])('%s says what it is for, in whole sentences', (kind) => {
    expect(verbAbout[kind]).toMatch(/^[A-Z].*\.$/)
  })
  test('every verb that is begun by a selection has examples', () => {
    const without = (Object.keys(stepKinds) as StepKindName[]).filter((kind) => !helpedKinds.includes(kind))
    // opening is shown by the opening page itself
    expect(without).toEqual(['open'])
  })
  test('an example has a sentence, a table before and a table after', () => {
    for (const kind of helpedKinds)
      for (const { sentence, to } of examplesOf(kind)) {
        expect(sentence).toMatch(/[.?]$/)
        expect(to.names.length).toBeGreaterThan(0)
      }
  })
})

describe('search', () => {
  const entries: readonly HelpEntry[] = [
    { to: '/a', title: 'Clean values', sort: 'guide', words: 'spaces, spelling, pivot tables' },
    { to: '/b', title: 'Turn rows into columns', sort: 'verb', words: 'pivot crosstab' },
    { to: '/c', title: 'TRIM', sort: 'function', words: 'Text without spaces at its ends.' },
  ]
  test('what is named so comes first, every word must be there', () => {
    expect(foundEntries(entries, 'trim').map(({ to }) => to)).toEqual(['/c'])
    expect(foundEntries(entries, 'PIVOT').map(({ to }) => to)).toEqual(['/a', '/b'])
    expect(foundEntries(entries, 'rows pivot').map(({ to }) => to)).toEqual(['/b'])
    expect(foundEntries(entries, 'columns spaces')).toEqual([])
    expect(foundEntries(entries, ' ')).toEqual([])
  })
})

describe('the guide', () => {
  const folder = join(import.meta.dirname, '../../../docs/guide')
  test.each(readdirSync(folder))('%s has one title, and its links lead somewhere', (file) => {
    const text = readFileSync(join(folder, file), 'utf8')
    expect(text.match(/^# .+$/gm)).toHaveLength(1)
    const files = readdirSync(folder)
    for (const [, to = ''] of text.matchAll(/\]\(([^)]+)\)/g))
      expect(to === '/help/formulas' || files.includes(to), to).toBe(true)
  })
})
