import { expect, test } from 'vitest'
import { writeCsv } from '@fabula/core'
import { contentOf } from '../file-content.ts'
import { fileFromBytes, openInput } from '../index.ts'
import { openCsvFile } from './open-csv.ts'

/** Small files go through the parser of all files, large ones from their bytes: both must read alike. */
test('a large file is read as a small one is, whatever stands in it', async () => {
  const odd = [
    '"a, ""b""",1,\n',
    'é,-0.50,"line\r\nbreak"\r\n',
    ',,\n',
    '\n',
    'x\n',
    'y,12.5,z,more\n',
    '"","",""\n',
    ' sp ,1e3,\n',
    'Oxbow,007,t\r\n',
    'last,9007199254740993,',
  ]
  const rows = odd.join('').replace(/last.*$/, '')
  const small = `T,N,O\n${rows}`
  const filler = 'Marlpit,3.25,nothing to see here\n'
  const count = Math.ceil((3 << 20) / filler.length)
  const csv = async (content: string): Promise<string> =>
    writeCsv((await openInput([fileFromBytes('a.csv', Buffer.from(content))], { delimiter: ',', types: 'text' })).table)
  const want = (await csv(small)).split('\n').slice(1).join('\n')
  const large = await csv(`T,N,O\n${filler.repeat(count)}${rows}`)
  expect(large.endsWith(want)).toBe(true)
  expect(large.split('\n').length - 1).toBe(count + (await csv(small)).split('\n').length - 1)
})

test('numbers of a large file keep their values', async () => {
  const lines = [
    '0.1',
    '-2.5',
    '12345.6789',
    '',
    '999999999999999',
    '.5',
    '1.0e-3',
    '-0',
    '0.000001',
    '123456789.123456',
  ]
  const { table } = await openInput(
    [
      fileFromBytes(
        'n.csv',
        Buffer.from(
          `n,t\n${Array.from({ length: 400_000 }, (_, i) => `${lines[i % lines.length]},w${i % 9}\n`).join('')}`,
        ),
      ),
    ],
    {},
  )
  expect(table.schema).toEqual([
    { name: 'n', type: 'decimal' },
    { name: 't', type: 'text' },
  ])
  for (let i = 300_000; i < 300_020; i++) {
    const text = lines[i % lines.length] as string
    expect(table.cell(0, i)).toBe(text === '' ? null : Number(text) + 0)
    expect(table.cell(1, i)).toBe(`w${i % 9}`)
  }
})

test('a large file goes on with the cells of its own rows after one that is wider', async () => {
  const above = 'Marlpit,3.25,dog\n'
  const below = ['Oxbow,1.5,cat,first\n', 'Tarn End,,rabbit,second\n', 'Marlpit,7,dog,\n']
  const count = 200_000
  const rows = Array.from({ length: 3000 }, (_, i) => below[i % 3]).join('')
  const { table } = await openInput(
    [fileFromBytes('w.csv', Buffer.from(`Clinic,Fee,Kind\n${above.repeat(count)}${rows}`))],
    {},
  )
  expect(table.rowCount).toBe(count + 3000)
  expect(table.names).toEqual(['Clinic', 'Fee', 'Kind', 'Column 4'])
  for (const i of [0, 1, 2, 1500, 2999]) {
    const [clinic = '', fee = '', kind = '', more = ''] = (below[i % 3] as string).trimEnd().split(',')
    const cells = table.names.map((_, column) => table.cell(column, count + i))
    expect(cells).toEqual([clinic, fee === '' ? null : Number(fee), kind, more === '' ? null : more])
  }
})

test('numbers that turn out to be text are read as text, early in a large file, late, and in several columns one after the other', async () => {
  const count = 300_000
  const first = new Map([
    ['A', 2500],
    ['B', 6000],
    ['C', 9000],
    ['D', 12_000],
    ['E', 290_000],
  ])
  const line = (i: number): string =>
    [i, ...[...first.values()].map((row) => (i >= row && i % 7 === row % 7 ? `0${i}` : String(i % 97)))].join(',')
  const content = `Id,${[...first.keys()].join(',')}\n${Array.from({ length: count }, (_, i) => line(i)).join('\n')}\n`
  const shares: number[] = []
  const { table } = await openCsvFile(contentOf(Buffer.from(content)), 's.csv', {}, (share) => void shares.push(share))
  expect(table.schema.map(({ type }) => type)).toEqual(['integer', 'text', 'text', 'text', 'text', 'text'])
  for (const row of [0, 2499, 2500, 6000, 9000, 12_000, 289_999, 290_000, count - 1])
    expect(table.names.map((_, column) => String(table.cell(column, row)))).toEqual(line(row).split(','))
  // once to find what is text late in it, and once with all of that as text
  expect(shares.filter((share, i) => share > 0.5 && shares[i - 1]! <= 0.5)).toHaveLength(2)
})

test('a large file whose rows are long, or whose names stand far below its beginning, is read as a small one', async () => {
  const names = Array.from({ length: 9000 }, (_, column) => `Column of the visit ${column}`)
  const wide = [names, ...Array.from({ length: 60 }, (_, row) => names.map((_name, column) => String(row * column)))]
  const bytes = Buffer.from(wide.map((row) => row.join(',')).join('\n'))
  const { table } = await openInput([fileFromBytes('w.csv', bytes)], {})
  expect(table.rowCount).toBe(60)
  expect(table.cell(8999, 59)).toBe(59 * 8999)
  const notes = 'A note of the front desk that stands above the table,\n'.repeat(6000)
  const below = Array.from({ length: 200_000 }, (_, i) => `${i},Oxbow`).join('\n')
  const read = { header: 6001 }
  const { table: deep } = await openInput([fileFromBytes('d.csv', Buffer.from(`${notes}No,Clinic\n${below}`))], read)
  expect(deep.names).toEqual(['No', 'Clinic'])
  expect([deep.rowCount, deep.cell(0, 199_999), deep.cell(1, 7)]).toEqual([200_000, 199_999, 'Oxbow'])
})
