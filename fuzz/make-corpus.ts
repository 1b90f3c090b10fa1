// npx tsx fuzz/make-corpus.ts: writes the seed corpus. Files called hostile-… must be refused with a sentence or opened harmlessly.
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { strToU8, zipSync } from 'fflate'
import { parquetWriteBuffer } from 'hyparquet-writer'

const corpus = join(import.meta.dirname, 'corpus')
const put = (folder: string, name: string, bytes: Uint8Array | string): void => {
  mkdirSync(join(corpus, folder), { recursive: true })
  writeFileSync(join(corpus, folder, name), bytes)
}
const zip = (parts: Readonly<Record<string, string>>): Uint8Array =>
  zipSync(
    Object.fromEntries(
      Object.entries(parts).map(([name, text]): [string, [Uint8Array, { level: 0 | 6 }]] => [
        name,
        [strToU8(text), { level: name === 'mimetype' ? 0 : 6 }],
      ]),
    ),
    { mtime: '2031-05-02' },
  )

const xlsx = (rows: string, strings = ''): Uint8Array =>
  zip({
    'xl/workbook.xml':
      '<workbook xmlns:r="r"><sheets><sheet name="Visits" sheetId="1" r:id="rId1"/><sheet name="Lists" state="hidden" sheetId="2" r:id="rId1"/></sheets></workbook>',
    'xl/_rels/workbook.xml.rels':
      '<Relationships><Relationship Id="rId1" Target="worksheets/sheet1.xml"/></Relationships>',
    'xl/sharedStrings.xml': `<sst>${strings}</sst>`,
    'xl/styles.xml':
      '<styleSheet><numFmts><numFmt numFmtId="170" formatCode="dd/mm/yyyy hh:mm"/></numFmts><cellXfs><xf numFmtId="0"/><xf numFmtId="14"/><xf numFmtId="170"/></cellXfs></styleSheet>',
    'xl/worksheets/sheet1.xml': `<worksheet><sheetData>${rows}</sheetData><mergeCells><mergeCell ref="A1:B1"/></mergeCells></worksheet>`,
  })
const ods = (rows: string): Uint8Array =>
  zip({
    mimetype: 'application/vnd.oasis.opendocument.spreadsheet',
    'content.xml': `<office:document-content xmlns:office="o" xmlns:table="t" xmlns:text="x" xmlns:style="s"><office:body><office:spreadsheet><table:table table:name="Visits">${rows}</table:table></office:spreadsheet></office:body></office:document-content>`,
  })
const odsCell = (text: string, more = ''): string =>
  `<table:table-cell${more} office:value-type="string"><text:p>${text}</text:p></table:table-cell>`

put('csv', 'plain.csv', 'Visit,Clinic,Fee\n2031-05-02,Oxbow,12.50\n2031-05-03,"Tarn Lane, north",£ 8.00\n')
put(
  'csv',
  'titles.csv',
  '\ufeffTakings of May;;\r\n;;\r\nClinic;Fee;Note\r\nMarlpit;1.234,50;"two\r\nlines"\r\nTotal;1.234,50;\r\n',
)
put('csv', 'utf16.csv', Buffer.from('\ufeffClinic\tFee\nÖxbow\t2\n', 'utf16le'))
put('csv', 'hostile-columns.csv', `${'A,'.repeat(100_000)}\n${'1,'.repeat(100_000)}\n`)
put('csv', 'hostile-open-quote.csv', `Clinic,Fee\n"Oxbow,1\n${'Marlpit,2\n'.repeat(5000)}`)

put(
  'json',
  'plain.json',
  '[{"Clinic":"Oxbow","Fee":12.5,"Tags":["a",1,null],"Owner":{"Name":"Ada"}},{"Clinic":null,"Fee":"x"}]',
)
put('json', 'path.json', '{"data":{"items":[{"a":1},{"b":[{"c":2}]}]}}')
put('json', 'hostile-deep.json', `[{"a":${'['.repeat(100_000)}${']'.repeat(100_000)}}]`)
put('json', 'hostile-deep-records.json', `[${'{"a":'.repeat(100_000)}1${'}'.repeat(100_000)}]`)
put('json', 'hostile-names.json', `[${Array.from({ length: 21_000 }, (_, i) => `{"n${i}":1}`).join(',')}]`)
put(
  'json',
  'prototype.json',
  '[{"__proto__":1,"constructor":"Oxbow","toString":2},{"__proto__":3,"hasOwnProperty":true}]',
)

put(
  'xlsx',
  'plain.xlsx',
  xlsx(
    '<row r="1"><c r="A1" t="s"><v>0</v></c><c r="B1" t="inlineStr"><is><t>Fee</t></is></c></row><row r="2"><c r="A2" s="1"><v>47970</v></c><c r="B2"><v>12.5</v></c></row><row r="4"><c r="A4" s="2"><v>47971.25</v></c><c r="B4" t="e"><v>#N/A</v></c></row>',
    '<si><t>Day</t></si>',
  ),
)
put('xlsx', 'hostile-column.xlsx', xlsx('<row r="1"><c r="ZZZZZZ1"><v>1</v></c></row>'))
put('xlsx', 'hostile-row.xlsx', xlsx('<row r="99999999999"><c r="A99999999999"><v>1</v></c></row>'))
put(
  'xlsx',
  'hostile-corner.xlsx',
  xlsx(
    Array.from({ length: 3000 }, (_, i) => `<row r="${i * 300 + 1}"><c r="XFD${i * 300 + 1}"><v>1</v></c></row>`).join(
      '',
    ),
  ),
)
put(
  'xlsx',
  'hostile-back-and-forth.xlsx',
  xlsx('<row r="1"><c r="A1"><v>1</v></c></row><row r="1048576"><c r="A1048576"><v>1</v></c></row>'.repeat(500)),
)
put(
  'xlsx',
  'hostile-diagonal.xlsx',
  xlsx(
    `<row r="1"><c r="XFD1"><v>1</v></c></row>${Array.from({ length: 700 }, (_, i) => `<row r="${(i + 2) * 1400}"><c r="${String.fromCharCode(65 + Math.floor(i / 26 / 26), 65 + (Math.floor(i / 26) % 26), 65 + (i % 26))}${(i + 2) * 1400}"><v>1</v></c></row>`).join('')}`,
  ),
)

put(
  'ods',
  'plain.ods',
  ods(
    `<table:table-row>${odsCell('Clinic')}${odsCell('Fee')}</table:table-row><table:table-row table:number-rows-repeated="2">${odsCell('Oxbow<text:s text:c="2"/>x')}<table:table-cell office:value-type="float" office:value="12.5"/></table:table-row><table:table-row table:number-rows-repeated="1048570"><table:table-cell table:number-columns-repeated="16384"/></table:table-row>`,
  ),
)
put(
  'ods',
  'hostile-columns.ods',
  ods(`<table:table-row>${odsCell('x', ' table:number-columns-repeated="2147483647"')}</table:table-row>`),
)
put(
  'ods',
  'hostile-rows.ods',
  ods(`<table:table-row table:number-rows-repeated="4294967296">${odsCell('x')}</table:table-row>`),
)
put(
  'ods',
  'hostile-many-rows.ods',
  ods(
    `<table:table-row table:number-rows-repeated="1048576">${odsCell('x', ' table:number-columns-repeated="16384"')}</table:table-row>`,
  ),
)
put('ods', 'hostile-blanks.ods', ods(`<table:table-row>${odsCell('a<text:s text:c="999999999"/>b')}</table:table-row>`))

const parquet = Buffer.from(
  parquetWriteBuffer({
    columnData: [
      { name: 'Clinic', data: ['Oxbow', 'Marlpit', null], type: 'STRING' },
      { name: 'Fee', data: [1.5, 2, 3], type: 'DOUBLE' },
    ],
  }),
)
put('parquet', 'plain.parquet', parquet)
/** The foot's count of rows, a zigzag varint in thrift's compact protocol, made 2^32. */
const claim = (bytes: Buffer): Buffer => {
  const foot = bytes.length - 8 - bytes.readUInt32LE(bytes.length - 8)
  const at = bytes.lastIndexOf(Buffer.from([0x16, 0x06]), bytes.length - 8)
  if (at < foot) throw new Error('the count of rows was not found')
  const more = Buffer.concat([
    bytes.subarray(0, at + 1),
    Buffer.from([0x80, 0x80, 0x80, 0x80, 0x20]),
    bytes.subarray(at + 2, bytes.length - 8),
  ])
  const tail = Buffer.alloc(8)
  tail.writeUInt32LE(more.length - foot)
  tail.write('PAR1', 4)
  return Buffer.concat([more, tail])
}
put('parquet', 'hostile-rows.parquet', claim(parquet))

const recipe = JSON.parse(
  readFileSync(join(import.meta.dirname, '../demo/monthly-takings.fabula.json'), 'utf8'),
) as Record<string, unknown>
put('recipe', 'takings.json', JSON.stringify(recipe))
const fields = [
  { name: 'Fee', type: 'decimal' },
  { name: 'Name', type: 'text' },
  { name: 'Day', type: 'date' },
  { name: 'Tags', type: 'text' },
]
const story = (steps: readonly Record<string, unknown>[]): string =>
  JSON.stringify({
    fabula: 1,
    name: 'Seed',
    parameters: [{ name: 'Rate', type: 'decimal', value: 2 }],
    inputs: [{ id: 'visits', name: 'Visits', columns: fields }],
    tables: [
      {
        id: 'visits',
        name: 'Visits',
        steps: [{ id: 's1', kind: 'open', input: 'visits' }, ...steps.map((step, i) => ({ id: `s${i + 2}`, ...step }))],
      },
      { id: 'other', name: 'Other', steps: [{ id: 'o1', kind: 'start-from', table: 'visits' }] },
    ],
    outputs: [{ table: 'visits', format: 'csv', file: 'visits.csv' }],
  })
put(
  'recipe',
  'values.json',
  story([
    { kind: 'replace', columns: ['Name'], find: '(O)x', with: '$1y', match: 'pattern' },
    {
      kind: 'cases',
      as: 'Kind',
      cases: [{ when: { column: 'Fee', op: 'greater', value: 1 }, then: 'dear' }],
      otherwise: 'cheap',
    },
    { kind: 'split', column: 'Name', by: { delimiter: ' ' }, into: { columns: 'found' } },
    { kind: 'extract', column: 'Tags', as: 'T', take: { pattern: '([0-9]+)', group: 1 } },
  ]),
)
put(
  'recipe',
  'shape.json',
  story([
    { kind: 'unpivot', name: 'Part', groups: [{ columns: ['Name', 'Tags'], value: 'Text' }] },
    { kind: 'pivot', labels: 'Part', values: [{ column: 'Text', how: 'first' }] },
    { kind: 'window', measures: [{ how: 'running-sum', column: 'Fee', as: 'So far' }] },
    { kind: 'summarise', by: ['Day'], measures: [{ how: 'sum', column: 'Fee', as: 'Sum' }] },
  ]),
)
put(
  'recipe',
  'doubling.json',
  story(Array.from({ length: 40 }, () => ({ kind: 'derive', as: 'Name', formula: 'Name & Name' }))),
)
