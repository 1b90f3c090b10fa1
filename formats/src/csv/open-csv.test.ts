import iconv from 'iconv-lite'
import { expect, test } from 'vitest'
import { writeCsv, type ReadOptions } from '@fabula/core'
import { fileFromBytes, lookAtFile, openInput } from '../index.ts'

const open = (content: string | Buffer, read: ReadOptions = {}) =>
  openInput([fileFromBytes('a.csv', Buffer.from(content as never))], read)
const opened = async (content: string | Buffer, read: ReadOptions = {}) => writeCsv((await open(content, read)).table)
const types = async (content: string, read: ReadOptions = {}) =>
  (await open(content, read)).table.schema.map(({ type }) => type)

test('any delimiter, found by itself', async () => {
  expect(await opened('A;B\n"1;2";x\n')).toBe('A,B\n1;2,x\n')
  expect(await opened('A\tB\n1\t2,5\n')).toBe('A,B\n1,"2,5"\n')
  expect(await opened('A|B|C\n1|2|3\n', { delimiter: '|' })).toBe('A,B,C\n1,2,3\n')
})
test('quotes and line breaks in cells stay as they are', async () => {
  expect(await opened('A,B\r\n"two\r\nlines","say ""so"""\r\nx,y\r\n')).toBe('A,B\n"two\r\nlines","say ""so"""\nx,y\n')
})
test('a mark at the start, UTF-16 and Windows-1252', async () => {
  expect(await opened('\ufeffÄ,B\n1,2\n')).toBe('Ä,B\n1,2\n')
  expect(await opened(iconv.encode('Ä,B\né,2\n', 'utf16le', { addBOM: true }))).toBe('Ä,B\né,2\n')
  expect(await opened(iconv.encode('Name,Bee\nRené,£ 2\n', 'utf16be'))).toBe('Name,Bee\nRené,£ 2\n')
  expect(await opened(iconv.encode('Ä,B\n€,2\n', 'win1252'))).toBe('Ä,B\n€,2\n')
  await expect(opened(iconv.encode('Ä,B\n', 'win1252'), { encoding: 'utf-8' })).rejects.toThrow(
    'is not written in UTF-8: byte 1',
  )
})
test('ragged and blank rows are counted, nothing is lost', async () => {
  const { table, notes } = await open('A,B\n1\n,\n2,3,4\n\n5,6\n')
  expect(writeCsv(table)).toBe('A,B,Column 3\n1,,\n2,3,4\n5,6,\n')
  expect(notes).toEqual({ blankRows: 2, raggedRows: 2 })
})
test('title lines, rows below the names and at the foot', async () => {
  const file = 'Takings\n\nA,B\nunits,kg\n1,2\n3,4\nTotal,6\n'
  expect(await opened(file, { header: 3, skip: 1, footer: 1 })).toBe('A,B\n1,2\n3,4\n')
  expect(lookAtFile(fileFromBytes('a.csv', Buffer.from(file)), {})).toMatchObject({ header: 3, footer: 1 })
  expect(await opened('1,x\n2,y\n', { header: 'none' })).toBe('Column 1,Column 2\n1,x\n2,y\n')
})
test('names that clash or are missing', async () => {
  expect(await opened('A,A,,A\n1,2,3,4\n')).toBe('A,A 2,Column 3,A 3\n1,2,3,4\n')
})
test('types are told from all rows, and only where there is no doubt', async () => {
  expect(
    await types(
      'a,b,c,d,e,f,g,h,i\n1,1.5,true,2031-05-02,2031-05-02 09:30,09:30,007,£5,\n-2,3,FALSE,2031-01-01,2031-05-02T09:30:01,10:00:00,1,6,\n',
    ),
  ).toEqual(['integer', 'decimal', 'boolean', 'date', 'datetime', 'time', 'text', 'text', 'text'])
  expect(await types('a,b,c\n1234567890123456,2031-02-30,1e5\n')).toEqual(['text', 'text', 'text'])
  expect(await types('a\n1\n2\n', { types: 'text' })).toEqual(['text'])
  expect(await types('a;b\n1,5;2\n', { delimiter: ';', locale: { decimal: ',', group: '.' } })).toEqual([
    'decimal',
    'integer',
  ])
})
test('a column that turns out to be text late keeps every cell as it was', async () => {
  const many = Array.from({ length: 600_000 }, (_, i) =>
    i === 599_990 ? 'see invoice' : `0${i % 7 === 0 ? '.50' : '.5'}`,
  )
  const { table } = await open(`n\n${many.join('\n')}\n`)
  expect(table.schema).toEqual([{ name: 'n', type: 'text' }])
  expect(table.cell(0, 0)).toBe('0.50')
  expect(table.cell(0, 599_990)).toBe('see invoice')
})
test('several files are stacked by name; a column that is text in one is text in all, to the letter', async () => {
  const files = [
    fileFromBytes('may.csv', Buffer.from('A,B\n1.50,x\n')),
    fileFromBytes('june.csv', Buffer.from('B,A,C\ny,none,2\n')),
  ]
  const { table, parts } = await openInput(files, { origin: { file: 'File' } })
  expect(writeCsv(table)).toBe('A,B,C,File\n1.50,x,,may.csv\nnone,y,2,june.csv\n')
  expect(parts.map(({ file, lacks }) => [file, lacks])).toEqual([
    ['may.csv', ['C']],
    ['june.csv', []],
  ])
})
test('types that a recipe gives are read as cast reads them, and what does not read is counted', async () => {
  const { table, unreadable } = await open('Fee,Day\n£ 1.5,02/05/2031\nfree,3/5/2031\n', {
    types: { Fee: { type: 'decimal' }, Day: { type: 'date', formats: ['dd/MM/yyyy'] } },
  })
  expect(writeCsv(table)).toBe('Fee,Day\n1.5,2031-05-02\n,\n')
  expect(unreadable.map(({ column, rows }) => [column, [...rows]])).toEqual([
    ['Fee', [1]],
    ['Day', [1]],
  ])
})
test('a quote that is never closed says where, and the file can still be looked at and read without quotes', async () => {
  const file = 'A,B\n"x,1\ny",2\nz,"3\n'
  await expect(opened(file)).rejects.toThrow('opens a quote in row 3')
  expect(lookAtFile(fileFromBytes('a.csv', Buffer.from(file)), {}).rows[0]?.cells).toEqual(['A', 'B'])
  expect(await opened(file, { quote: '\u0001', delimiter: ',' })).toBe('A,B\n"""x",1\n"y""",2\nz,"""3"\n')
})
test('what is looked at of a large file breaks off cleanly, even amid a cell', () => {
  const line = `"two\nlines",${'x'.repeat(100)}\n`
  const look = lookAtFile(fileFromBytes('a.csv', Buffer.from(`A,B\n${line.repeat(90_000)}`)), {})
  expect(look.rows).toHaveLength(60)
  expect(look.total).toBe(0)
})
