import { expect, test } from 'vitest'
import { takesFor } from './takes.ts'

const takes = (text: string, part: string, at = text.indexOf(part)) => takesFor(text, at, at + part.length)

test('what stands before or after a sign, the first or the last', () => {
  expect(takes('VAC-12-b', 'VAC')[0]).toEqual({ take: { before: '-' } })
  expect(takes('VAC-12-b', 'b')[0]).toEqual({ take: { after: '-' }, occurrence: 'last' })
  expect(takes('Ada Moss: owner', 'owner')[0]).toEqual({ take: { after: ': ' } })
})

test('what stands between two signs, and what it looks like', () => {
  expect(takes('Tess (dog), 4', 'dog')[0]).toEqual({ take: { between: [' (', '), '] } })
  expect(takes('ref B0017 of May', 'B0017').map(({ take }) => take)).toContainEqual({ pattern: '\\p{Lu}+\\d+' })
})

test('by its place where nothing stands beside it', () => {
  expect(takes('20310502', '2031').map(({ take }) => take)).toContainEqual({ first: 4 })
  expect(takes('20310502', '05').map(({ take }) => take)).toContainEqual({ from: 5, length: 2 })
  expect(takes('😀b', 'b').map(({ take }) => take)).toContainEqual({ from: 2, length: 1 })
  expect(takes('abc', '', 0)).toEqual([])
})
