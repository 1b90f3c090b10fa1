import { strToU8, zipSync } from 'fflate'
import { parquetWriteBuffer } from 'hyparquet-writer'
import { expect, test } from 'vitest'
import { writeCsv, type ReadOptions } from '@fabula/core'
import { fileFromBytes, openInput } from './index.ts'

const opened = async (bytes: Buffer, name: string, read: ReadOptions = {}) => {
  const { table, ...rest } = await openInput([fileFromBytes(name, bytes)], read)
  return { csv: writeCsv(table), types: table.schema.map(({ type }) => type), ...rest }
}

test('JSON: records at a path, objects inside as columns a.b, columns in order of first appearance', async () => {
  const document = {
    ok: true,
    data: {
      items: [
        { id: 1, when: '2031-05-02', owner: { name: 'Ada' }, tags: ['a', null], fee: 1.5 },
        { id: 2, fee: 2, vip: true, code: '007', owner: { tel: '' } },
        {},
      ],
    },
  }
  const { csv, types, notes } = await opened(Buffer.from(JSON.stringify(document)), 'api.json', { path: 'data.items' })
  expect(csv).toBe(
    'id,when,owner.name,tags,fee,vip,code,owner.tel\n1,2031-05-02,Ada,"[""a"",null]",1.5,,,\n2,,,,2,true,007,\n',
  )
  expect(types).toEqual(['integer', 'date', 'text', 'list', 'decimal', 'boolean', 'text', 'text'])
  expect(notes).toEqual({ blankRows: 1 })
  await expect(opened(Buffer.from(JSON.stringify(document)), 'api.json')).rejects.toThrow('Lists stand at data.items')
  await expect(opened(Buffer.from(JSON.stringify(document)), 'api.json', { path: 'data.rows' })).rejects.toThrow(
    'has nothing at “data.rows”',
  )
  await expect(opened(Buffer.from('[{"a":1},\n{"a":}]'), 'api.json')).rejects.toThrow('line 2')
  await expect(opened(Buffer.from('[1,2]'), 'api.json')).rejects.toThrow('entry 1 of the list is a single value')
})
test('whole numbers that a number cannot hold stay what they are, as text', async () => {
  const json =
    '[{"id":9007199254740993,"n":9007199254740991,"of":[12345678901234567,1],"say":"no 12345678901234567"},{"id":7}]'
  const record = await opened(Buffer.from(json), 'ids.json')
  expect(record.types.slice(0, 2)).toEqual(['text', 'integer'])
  expect(record.csv).toBe(
    'id,n,of,say\n9007199254740993,9007199254740991,"[""12345678901234567"",1]",no 12345678901234567\n7,,,\n',
  )
  const bytes = parquetWriteBuffer({ columnData: [{ name: 'id', data: [9007199254740993n, 2n], type: 'INT64' }] })
  const parquet = await opened(Buffer.from(bytes), 'ids.parquet')
  expect(parquet.types).toEqual(['text'])
  expect(parquet.csv).toBe('id\n9007199254740993\n2\n')
})
test('Parquet: types as they are written', async () => {
  const bytes = parquetWriteBuffer({
    columnData: [
      { name: 'id', data: [1n, 2n, null], type: 'INT64' },
      { name: 'fee', data: [1.5, 2, Number.NaN], type: 'DOUBLE' },
      { name: 'name', data: ['Oxbow', '', null], type: 'STRING' },
      { name: 'paid', data: [true, false, null], type: 'BOOLEAN' },
      { name: 'seen', data: [new Date(Date.UTC(2031, 4, 2, 9, 30)), null, null], type: 'TIMESTAMP' },
    ],
  })
  const { csv, types } = await opened(Buffer.from(bytes), 'v.parquet')
  expect(csv).toBe('id,fee,name,paid,seen\n1,1.5,Oxbow,true,2031-05-02T09:30:00\n2,2,,false,\n')
  expect(types).toEqual(['integer', 'decimal', 'text', 'boolean', 'datetime'])
  await expect(opened(Buffer.from(bytes).subarray(0, 60), 'v.parquet')).rejects.toThrow('damaged Parquet')
})
test('ODS: typed cells, repeated rows and cells, notes and hidden sheets set aside', async () => {
  const cell = (attributes: string, text = '') =>
    `<table:table-cell ${attributes}>${text ? `<text:p>${text}</text:p>` : ''}</table:table-cell>`
  const word = (text: string) => cell('office:value-type="string"', text)
  const content = `<office:document-content xmlns:office="o" xmlns:table="t" xmlns:text="x" xmlns:style="s"><style:style style:name="h" style:family="table"><style:table-properties table:display="false"/></style:style><office:spreadsheet>
    <table:table table:name="Lists" table:style-name="h"><table:table-row>${word('x')}</table:table-row></table:table>
    <table:table table:name="May"><table:table-row>${word('Day')}${word('Clinic')}${word('Fee')}${word('At')}<table:table-cell table:number-columns-repeated="16380"/></table:table-row>
    <table:table-row>${cell('office:value-type="date" office:date-value="2031-05-02"', '2 May')}<table:table-cell office:value-type="string"><office:annotation><text:p>a note</text:p></office:annotation><text:p>Ox<text:s text:c="2"/>bow</text:p><text:p>two</text:p></table:table-cell>${cell('office:value-type="currency" office:value="12.5"', '£12.50')}${cell('office:value-type="time" office:time-value="PT09H30M00S"', '9:30')}</table:table-row>
    <table:table-row table:number-rows-repeated="2"><table:table-cell/>${word('Tarn')}${cell('table:formula="of:=1/0" office:value-type="string"', '#DIV/0!')}</table:table-row>
    <table:table-row table:number-rows-repeated="1048570"><table:table-cell table:number-columns-repeated="16384"/></table:table-row></table:table></office:spreadsheet></office:document-content>`
  const bytes = Buffer.from(
    zipSync({
      mimetype: [strToU8('application/vnd.oasis.opendocument.spreadsheet'), { level: 0 }],
      'content.xml': strToU8(content),
    }),
  )
  const { csv, types, unreadable } = await opened(bytes, 'v.ods')
  expect(csv).toBe('Day,Clinic,Fee,At\n2031-05-02,"Ox  bow\ntwo",12.5,09:30:00\n,Tarn,,\n,Tarn,,\n')
  expect(types).toEqual(['date', 'text', 'decimal', 'time'])
  expect(unreadable.map(({ column, rows }) => [column, [...rows]])).toEqual([['Fee', [1, 2]]])
})
