import { unzipSync, strFromU8 } from 'fflate'
import { expect, test } from 'vitest'
import {
  columnOf,
  createStatement,
  databaseColumns,
  Table,
  writeCsv,
  type Cell,
  type ColumnType,
  type OutputFormat,
} from '@fabula/core'
import { fileFromBytes, openInput } from '../index.ts'
import { outputPieces, UnwritableTable } from './index.ts'
import { sheetNames } from './xlsx.ts'

const table = (columns: Readonly<Record<string, readonly [ColumnType, ...Cell[]]>>): Table =>
  Table.of(
    Object.keys(columns),
    Object.values(columns).map(([type, ...cells]) => columnOf(type, cells)),
  )
const day = 86_400_000
const all = table({
  Clinic: ['text', 'Oxbow', 'Tarn', '=1+1', ' a\tb\u0001_x0041_ <&>"\'\nc ', '007', '2031-05-02'],
  Visits: ['integer', 3, null, -9007199254740991, 0, 5, 6],
  'Fee, net': ['decimal', 12.5, null, 1e-7, 1e21, -0.1, 2],
  Paid: ['boolean', true, null, false, true, true, true],
  Day: ['date', 22401, null, -25509, 0, 1, 2],
  At: ['datetime', 22401 * day + 49_530_000, null, -25509 * day, 1000, 2000, 3000],
  Time: ['time', 49_530_000, null, 0, 1000, 2000, day - 1000],
  Tags: ['list', '["a",1,null]', null, '[]', '[true]', '["x"]', '[]'],
})
const bytesOf = (format: OutputFormat, guard = false, ...more: Table[]): Buffer => {
  const sheets = [all, ...more].map((one, i) => ({ name: `T${i}`, table: one }))
  return Buffer.concat(Array.from(outputPieces(format, sheets, guard), (piece) => Buffer.from(piece)))
}
const read = async (format: OutputFormat, name = `t.${format}`, guard = false) =>
  (await openInput([fileFromBytes(name, bytesOf(format, guard))], {})).table

test('a workbook, JSON and Parquet hold each cell with its type', async () => {
  const parquet = await read('parquet')
  expect(writeCsv(parquet)).toBe(writeCsv(all))
  expect(parquet.schema).toEqual(all.schema)
  const book = await read('xlsx')
  // a workbook has no lists: they are their JSON
  expect(book.schema.map(({ type }) => type)).toEqual([
    'text',
    'integer',
    'decimal',
    'boolean',
    'date',
    'datetime',
    'time',
    'text',
  ])
  expect(writeCsv(book)).toBe(writeCsv(all))
  const json = JSON.parse(bytesOf('json').toString('utf8')) as Record<string, unknown>[]
  expect(json[0]).toEqual({
    Clinic: 'Oxbow',
    Visits: 3,
    'Fee, net': 12.5,
    Paid: true,
    Day: '2031-05-02',
    At: '2031-05-02T13:45:30',
    Time: '13:45:30',
    Tags: ['a', 1, null],
  })
  expect(json[1]).toEqual({ Clinic: 'Tarn' })
  expect(Object.keys(json[0] ?? {})).toEqual(all.names)
  expect(
    JSON.parse(
      Buffer.concat(
        [...outputPieces('json', [{ name: 'T', table: all.rows(new Int32Array(0)) }], false)].map((piece) =>
          Buffer.from(piece),
        ),
      ).toString(),
    ),
  ).toEqual([])
})

test('a workbook takes a sheet a table, names held in view, text guarded when asked, and says what it cannot hold', async () => {
  const parts = unzipSync(bytesOf('xlsx', true, table({ A: ['text', 'x'] })))
  expect(strFromU8(parts['xl/workbook.xml'] ?? new Uint8Array())).toContain('name="T1"')
  const sheet = strFromU8(parts['xl/worksheets/sheet1.xml'] ?? new Uint8Array())
  expect(sheet).toContain('state="frozen"')
  expect(sheet).toContain(">'=1+1<")
  expect(sheetNames(['Takings/May', 'takings?may', '', `${'x'.repeat(40)}`, `${'x'.repeat(40)}`])).toEqual([
    'Takings May',
    'takings may 2',
    'Sheet',
    'x'.repeat(31),
    `${'x'.repeat(29)} 2`,
  ])
  const long = table({ Note: ['text', 'y'.repeat(40_000)] })
  expect(() => [...outputPieces('xlsx', [{ name: 'T', table: long }], false)]).toThrow(UnwritableTable)
  expect(() => [...outputPieces('xlsx', [{ name: 'T', table: long }], false)]).toThrow('“Note” in row 1 has 40,000')
})

test('names and types as a database takes them', () => {
  const output = {
    table: 't',
    format: 'postgresql' as const,
    connection: 'W',
    name: 'visits',
    mode: 'upsert' as const,
    keys: ['Booking ref'],
    names: 'snake_case' as const,
  }
  const schema = [
    { name: 'Booking ref', type: 'integer' },
    { name: 'bookingRef', type: 'text' },
    { name: '2031', type: 'decimal' },
    { name: 'Kundenn\u00e4he', type: 'list' },
    { name: '€', type: 'date' },
  ] as const
  expect(databaseColumns(output, schema).map(({ name, type }) => `${name} ${type}`)).toEqual([
    'booking_ref bigint',
    'booking_ref_2 text',
    'c_2031 double precision',
    'kundennahe jsonb',
    'column date',
  ])
  expect(createStatement(output, schema.slice(0, 1))).toBe(
    'create table "visits" (\n  "booking_ref" bigint,\n  unique ("booking_ref")\n)',
  )
  expect(
    databaseColumns({}, [
      { name: 'ä'.repeat(40), type: 'text' },
      { name: `${'ä'.repeat(40)}x`, type: 'text' },
    ]).map(({ name }) => name),
  ).toEqual(['ä'.repeat(31), `${'ä'.repeat(30)}_2`])
})
