import { expect, test } from 'vitest'
import { columnOf, type Cell } from '../table/column.ts'
import { formatDecimal } from '../table/number.ts'
import { Table } from '../table/table.ts'
import { guarded, writeCsv } from './csv-writer.ts'

test('a table without columns has no lines but its empty heading', () => {
  expect(writeCsv(Table.of([], [], 3))).toBe('\n')
})

test('columns of one type are written each by its own values, over many pieces', () => {
  const rows = 20_000
  const fees: Cell[] = Array.from({ length: rows }, (_, i) => (i % 7 === 0 ? null : ((i * 7919) % 10_007) / 100))
  const rates: Cell[] = Array.from({ length: rows }, (_, i) => ((i * 104_729) % 10_007) / 7)
  const days: Cell[] = Array.from({ length: rows }, (_, i) => 22_000 + (i % 400))
  const lines = writeCsv(
    Table.of(
      ['Fee', 'Rate', 'Day', 'Since'],
      [
        columnOf('decimal', fees),
        columnOf('decimal', rates),
        columnOf('date', days),
        columnOf(
          'datetime',
          days.map((day) => Number(day) * 86_400_000),
        ),
      ],
    ),
  )
    .trimEnd()
    .split('\n')
  const written = (cell: Cell | undefined): string => (typeof cell === 'number' ? formatDecimal(cell) : '')
  const day = (i: number): string => new Date(Number(days[i]) * 86_400_000).toISOString().slice(0, 10)
  expect(lines.slice(1)).toEqual(
    fees.map((fee, i) => `${written(fee)},${written(rates[i])},${day(i)},${day(i)}T00:00:00`),
  )
})

test('texts that a spreadsheet would take for formulas are guarded, behind white space and in full width too; numbers are not', () => {
  const guardedTexts = [
    '=1+1',
    '+cmd',
    '-2+3',
    '@sum',
    '\t=1',
    '\r\n=1',
    ' =1+1',
    '\u00a0=1',
    '\u3000@x',
    '\uff1d1+1',
    '\uff0b1',
    '\uff0dx',
    '\uff20x',
    '\n',
    ' \n +x',
  ]
  for (const text of guardedTexts) expect(guarded(text), JSON.stringify(text)).toBe(`'${text}`)
  for (const text of ['-12.5', '+3', ' -4 ', '-1.5e-8', 'a=b', '1-2', 'Oxbow - north', "'=1", ''])
    expect(guarded(text), JSON.stringify(text)).toBe(text)
  expect(writeCsv(Table.of(['=A'], [columnOf('text', [' =B1', 'x'])]), true)).toBe("'=A\n' =B1\nx\n")
})
