import { expect, test } from 'vitest'
import { dateFormsIn, likelyForms } from './date-forms.ts'

const forms = (...texts: string[]) => dateFormsIn(texts.map((text) => ({ text, count: 1 })))
const patterns = (...texts: string[]) =>
  likelyForms(forms(...texts) ?? { type: 'date', day: [], month: [], left: [], leftRows: 0 }).map(
    ({ pattern, rows }) => `${pattern} ${rows}`,
  )

test('each form that dates come in is told, with its rows', () => {
  expect(
    patterns(
      '02/05/2031',
      '13/05/2031',
      '2031-05-03',
      '3 May 2031',
      'May 4, 2031',
      '5th May 2031',
      '20310506',
      'Fri 2 May 2031',
    ),
  ).toEqual([
    'd/M/yyyy 2',
    'yyyy-MM-dd 1',
    'd MMM yyyy 1',
    'MMM d, yyyy 1',
    "d'th' MMM yyyy 1",
    'yyyyMMdd 1',
    'EEE d MMM yyyy 1',
  ])
  expect(patterns('2.5.31', '14.5.31', '3-Sep-31', 'Sept 2031')).toEqual(['d.M.yy 2', 'd-MMM-yy 1', 'MMM yyyy 1'])
})

test('times: with dots, without separators, with am and pm, by themselves and behind a date', () => {
  expect(forms('9.30', '9:05 pm', '0915', '10 am', '14h20')?.type).toBe('time')
  expect(patterns('9.30', '9:05 pm', '10 am', '14h20', '09:30:15')).toEqual([
    'H.mm 1',
    'h:mm a 1',
    'h a 1',
    "H'h'mm 1",
    'H:mm:ss 1',
  ])
  const moments = forms('13/05/2031 9.30', '14/05/2031 0930', '2031-05-15T14:00', '16/05/2031 2:30pm')
  expect(moments?.type).toBe('datetime')
  expect(moments?.day.map(({ pattern }) => pattern)).toEqual([
    'd/M/yyyy H.mm',
    'd/M/yyyy HHmm',
    "yyyy-MM-dd'T'H:mm",
    'd/M/yyyy h:mma',
  ])
})

test('whether 03/04 is March or April is a question, with what speaks for either', () => {
  expect(forms('03/04/2031', '13/04/2031', '05/02/2031')?.question).toEqual({
    dayFirst: 1,
    monthFirst: 0,
    either: 2,
    eitherExample: '03/04/2031',
    dayExample: '13/04/2031',
  })
  expect(patterns('03/04/2031', '04/13/2031')).toEqual(['M/d/yyyy 2'])
  expect(forms('2031-05-03', '3 May 2031')?.question).toBeUndefined()
})

test('a missing year is told apart, what no form reads is listed with its rows', () => {
  const reported = dateFormsIn([
    { text: '3 May', count: 2 },
    { text: '29/2', count: 1 },
    { text: 'unknown', count: 3 },
    { text: '31/02/2031', count: 1 },
  ])
  expect(reported?.day.map(({ pattern, noYear }) => [pattern, noYear])).toEqual([
    ['d MMM', true],
    ['d/M', true],
  ])
  expect(reported?.left).toEqual([
    { text: 'unknown', count: 3 },
    { text: '31/02/2031', count: 1 },
  ])
  expect(reported?.leftRows).toBe(4)
})

test('codes, numbers and words are no dates', () => {
  expect(forms('VAC-1', 'CON-2', 'DEN-1')).toBeUndefined()
  expect(forms('12.50', '3.20', '180.00')).toBeUndefined()
  expect(forms('4/1', 'dog', 'cat', 'rabbit', 'ferret', 'horse')).toBeUndefined()
})
