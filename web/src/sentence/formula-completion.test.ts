import type { Parameter, Schema } from '@fabula/core'
import { describe, expect, test } from 'vitest'
import { callAt, offersFor, pieces, wordAt } from './formula-completion.ts'

const schema: Schema = [
  { name: 'Fee', type: 'decimal' },
  { name: 'Day of visit', type: 'date' },
  { name: 'Clinic', type: 'text' },
]
const parameters: Parameter[] = [
  { name: 'As of', type: 'date', value: '2031-06-30' },
  { name: 'Rate', type: 'decimal', value: '0.2' },
]
const labels = (word: string) => offersFor(word, schema, parameters).map(({ label }) => label)

describe('the word at the caret', () => {
  test.each([
    ['ROU', 3, 'ROU'],
    ['ROUND(Fe', 8, 'Fe'],
    ["ROUND('Day o", 12, "'Day o"],
    ['Fee * $', 7, '$'],
    ["Fee * $'As o", 12, "$'As o"],
    ['Fee * ', 6, ''],
    ['Fee + Clinic', 3, 'Fee'],
    ['Größe', 5, 'Größe'],
    ['12', 2, ''],
  ])('of %s at %d is “%s”', (text, caret, word) => {
    expect(wordAt(text, caret)).toBe(word)
  })
})

describe('the call at the caret', () => {
  test('is the innermost function that is open, and the argument that is being written', () => {
    expect(callAt('ROUND(Fee; ', 11)).toEqual({ name: 'ROUND', at: 1 })
    expect(callAt('IF(ABS(Fee) > 2; ', 17)).toEqual({ name: 'IF', at: 1 })
    expect(callAt('IF(ABS(', 7)).toEqual({ name: 'ABS', at: 0 })
  })
  test('is none outside of brackets', () => {
    expect(callAt('ROUND(Fee; 2) + ', 16)).toBeUndefined()
    expect(callAt('Fee', 3)).toBeUndefined()
  })
  test('brackets of no function have no name', () => {
    expect(callAt('(Fee + ', 7)).toEqual({ name: '', at: 0 })
  })
  test('text that holds brackets opens none', () => {
    expect(callAt('CONCAT("(("; ', 13)).toMatchObject({ name: 'CONCAT', at: 1 })
  })
})

describe('what may stand there', () => {
  test('columns whose names hold the word, whatever its case, come before functions', () => {
    expect(labels('fe')[0]).toBe('Fee')
    expect(labels('visit')).toEqual(['Day of visit'])
  })
  test('functions begin with the word and show their arguments', () => {
    expect(labels('ROUND').some((label) => label.startsWith('ROUND('))).toBe(true)
    expect(labels('OUND')).toEqual([])
  })
  test('after $ only what is asked at replay', () => {
    expect(labels('$')).toEqual(['$As of', '$Rate'])
    expect(labels('$ra')).toEqual(['$Rate'])
  })
  test('after a quote only columns', () => {
    expect(labels("'")).toEqual(['Fee', 'Day of visit', 'Clinic'])
  })
  test('what is put in is written as the formula language needs it', () => {
    const put = (word: string) => offersFor(word, schema, parameters)[0]?.put
    expect(put('Day')).toBe("'Day of visit'")
    expect(put('Fee')).toBe('Fee')
    expect(put('$As')).toBe("$'As of'")
  })
  test('no more than eight', () => {
    const wide: Schema = Array.from({ length: 40 }, (_, i) => ({ name: `A${i}`, type: 'text' as const }))
    expect(offersFor('A', wide, parameters).length).toBeLessThanOrEqual(8)
    expect(offersFor("'A", wide, parameters)).toHaveLength(8)
  })
})

describe('the text in colours', () => {
  const shown = (text: string, problem?: { from: number; to: number }) => pieces(text, schema, problem)
  test('the pieces are the whole text, in order', () => {
    for (const text of ["ROUND(Fee * $Rate; 2) ' open", '', '  ', 'IF(Clinic = "Oxbow"; 1; 0) // why'])
      expect(
        shown(text)
          .map((piece) => piece.text)
          .join(''),
      ).toBe(text)
  })
  test('functions, columns and other names look different', () => {
    const [round, , fee] = shown('ROUND(Fee)')
    const [unknown] = shown('Cost')
    expect(new Set([round?.look, fee?.look, unknown?.look]).size).toBe(3)
  })
  test('what is wrong is underlined, and nothing else', () => {
    const wrong = shown('Fee + Cost', { from: 6, to: 10 }).filter(({ look }) => look.includes('underline'))
    expect(wrong.map(({ text }) => text)).toEqual(['Cost'])
  })
})
