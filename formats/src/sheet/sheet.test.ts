import { strToU8, zipSync } from 'fflate'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, test } from 'vitest'
import { writeCsv, type ReadOptions } from '@fabula/core'
import { fileFromBytes, fileFromPath, lookAtFile, openInput } from '../index.ts'
import { shownBy } from './number-format.ts'

const book = (cells: string, { workbook = '', strings = '', styles = '' } = {}): Buffer => {
  const part = (name: string, text: string) => [name, strToU8(text)] as const
  return Buffer.from(
    zipSync(
      Object.fromEntries([
        part(
          'xl/workbook.xml',
          `<workbook xmlns:r="r">${workbook}<sheets><sheet name="One" sheetId="1" r:id="rId1"/></sheets></workbook>`,
        ),
        part(
          'xl/_rels/workbook.xml.rels',
          '<Relationships><Relationship Id="rId1" Target="/xl/worksheets/sheet1.xml"/></Relationships>',
        ),
        part('xl/sharedStrings.xml', `<sst>${strings}</sst>`),
        part(
          'xl/styles.xml',
          `<styleSheet><numFmts><numFmt numFmtId="170" formatCode="dd/mm/yyyy hh:mm"/><numFmt numFmtId="171" formatCode="[h]:mm"/></numFmts><cellStyleXfs><xf numFmtId="14"/></cellStyleXfs><cellXfs>${styles || '<xf numFmtId="0"/><xf numFmtId="14"/><xf numFmtId="170"/><xf numFmtId="20"/><xf numFmtId="171"/>'}</cellXfs></styleSheet>`,
        ),
        part('xl/worksheets/sheet1.xml', `<worksheet><sheetData>${cells}</sheetData></worksheet>`),
      ]),
    ),
  )
}
const opened = (bytes: Buffer, read: ReadOptions = {}, name = 'b.xlsx') => openInput([fileFromBytes(name, bytes)], read)
const demo = (name: string) => fileFromPath(join(import.meta.dirname, '../../../demo', name))

describe('an XLSX workbook', () => {
  test('cells keep their type: dates by their format, shared and inline text, booleans, kept values of formulas', async () => {
    const strings =
      '<si><t>Day</t></si><si><r><t>At </t></r><r><t>noon</t></r><rPh><t>x</t></rPh></si><si><t>line_x000A_two</t></si>'
    const { table, unreadable } = await opened(
      book(
        '<row r="1"><c r="A1" t="s"><v>0</v></c><c r="B1" t="s"><v>1</v></c><c r="C1" t="inlineStr"><is><t>Text</t></is></c><c r="D1" t="str"><f>1</f><v>Paid</v></c><c r="E1" t="inlineStr"><is><t>Long</t></is></c><c r="F1" t="inlineStr"><is><t>Fee</t></is></c></row>' +
          '<row r="2"><c r="A2" s="1"><v>47970</v></c><c r="B2" s="3"><v>0.395833333333333</v></c><c r="C2" t="s"><v>2</v></c><c r="D2" t="b"><v>1</v></c><c r="E2" s="4"><v>1.5</v></c><c r="F2"><f>SUM(1)</f><v>12.5</v></c></row>' +
          '<row r="4"><c r="A4" s="2"><v>47971.25</v></c><c r="C4"><v>7</v></c><c r="D4" t="b"><v>0</v></c><c r="F4" t="e"><v>#DIV/0!</v></c></row>',
        { strings },
      ),
    )
    expect(table.schema.map(({ type }) => type)).toEqual(['datetime', 'time', 'text', 'boolean', 'decimal', 'decimal'])
    expect(writeCsv(table)).toBe(
      'Day,At noon,Text,Paid,Long,Fee\n2031-05-02T00:00:00,09:30:00,"line\ntwo",true,1.5,12.5\n2031-05-03T06:00:00,,7,false,,\n',
    )
    expect(unreadable.map(({ column, rows }) => [column, [...rows]])).toEqual([['Fee', [1]]])
  })
  test('a formula whose value was not saved is unreadable, one that gave an empty text is empty', async () => {
    const { table, unreadable } = await opened(
      book(
        '<row r="1"><c r="A1" t="inlineStr"><is><t>Fee</t></is></c><c r="B1" t="inlineStr"><is><t>Note</t></is></c></row>' +
          '<row r="2"><c r="A2"><f>SUM(1)</f></c><c r="B2" t="str"><f>""</f><v></v></c></row>' +
          '<row r="3"><c r="A3"><f>SUM(2)</f><v>2</v></c><c r="B3" t="str"><f>"x"</f><v>x</v></c></row>',
      ),
    )
    expect(writeCsv(table)).toBe('Fee,Note\n,\n2,x\n')
    expect(unreadable.map(({ column, rows, texts }) => [column, [...rows], texts])).toEqual([
      ['Fee', [0], ['(formula without a saved value)']],
    ])
  })
  test('days counted from 1904, and those before March 1900', async () => {
    const day = (serial: number) => `<row r="1"><c r="A1" s="1"><v>${serial}</v></c></row>`
    expect(
      writeCsv((await opened(book(day(1), { workbook: '<workbookPr date1904="1"/>' }), { header: 'none' })).table),
    ).toBe('Column 1\n1904-01-02\n')
    expect(
      writeCsv((await opened(book(day(0), { workbook: '<workbookPr date1904="1"/>' }), { header: 'none' })).table),
    ).toBe('Column 1\n1904-01-01\n')
    expect(writeCsv((await opened(book(day(59)), { header: 'none' })).table)).toBe('Column 1\n1900-02-28\n')
    expect(writeCsv((await opened(book(day(61)), { header: 'none' })).table)).toBe('Column 1\n1900-03-01\n')
  })
  test('what a number format shows', () => {
    expect(
      [
        'General',
        '0.00',
        '[Red]#,##0',
        '"day" 0',
        'd mmm yy',
        'mm:ss',
        '[h]:mm',
        'yyyy-mm-dd hh:mm',
        'mmm',
        'h:mm AM/PM',
        '0.0 \\d',
      ].map(shownBy),
    ).toEqual(['number', 'number', 'number', 'number', 'date', 'time', 'number', 'datetime', 'date', 'time', 'number'])
  })
  test('sheets by name, by pattern, the first that shows; what each lacks is told', async () => {
    const file = demo('regions-2031-05.xlsx')
    const rows = async (sheets: ReadOptions['sheets']) =>
      (await openInput([file], { header: 4, footer: 1, ...(sheets ? { sheets } : {}) })).parts.map(
        ({ sheet, rows: n, lacks }) => [sheet, n, lacks],
      )
    expect(await rows(undefined)).toEqual([['2031-01', 15, []]])
    expect(await rows(['2031-03', '2031-01', '2031-09'])).toEqual([
      ['2031-03', 15, ['Species']],
      ['2031-01', 15, ['Patient kind']],
    ])
    expect((await rows({ like: '2031-*', unlike: '*-05' })).map(([sheet]) => sheet)).toEqual([
      '2031-01',
      '2031-02',
      '2031-03',
      '2031-04',
    ])
    const { table, missingSheets } = await openInput([file], {
      header: 4,
      footer: 1,
      sheets: ['2031-03', '2031-09'],
      origin: { file: 'File', sheet: 'Month' },
    })
    expect(missingSheets).toEqual(['2031-09'])
    expect(table.names.slice(-2)).toEqual(['File', 'Month'])
    expect(table.cell(table.names.length - 1, 0)).toBe('2031-03')
  })
  test('where the table stands is found: titles, names, totals, merged cells, hidden sheets', () => {
    const look = lookAtFile(demo('regions-2031-05.xlsx'), {})
    expect(look).toMatchObject({ format: 'xlsx', sheet: '2031-01', header: 4, footer: 1, total: 20 })
    expect(look.sheets.map(({ name, hidden }) => [name, hidden])).toEqual([
      ['2031-01', false],
      ['2031-02', false],
      ['2031-03', false],
      ['2031-04', false],
      ['2031-05', false],
      ['Overview', false],
      ['Lists', true],
    ])
    expect(look.merges).toContainEqual({ top: 5, left: 1, bottom: 10, right: 1 })
  })
  test('a range, and two rows of names joined', async () => {
    const cells = (rows: readonly string[][]) =>
      rows
        .map(
          (row, r) =>
            `<row r="${r + 2}">${row.map((text, c) => (text ? `<c r="${'BCDE'[c]}${r + 2}" t="inlineStr"><is><t>${text}</t></is></c>` : '')).join('')}</row>`,
        )
        .join('')
    const bytes = book(
      cells([
        ['', '2030', '', '2031'],
        ['Clinic', 'Visits', 'Fees', 'Visits'],
        ['Oxbow', '1', '2', '3'],
        ['Total', '1', '2', '3'],
      ]),
    )
    expect(writeCsv((await opened(bytes, { range: 'B2:D5', header: [1, 2], footer: 1 })).table)).toBe(
      'Clinic,2030 Visits,2030 Fees\nOxbow,1,2\n',
    )
    expect(writeCsv((await opened(bytes, { range: 'B3:E', footer: 1 })).table)).toBe(
      'Clinic,Visits,Fees,Visits 2\nOxbow,1,2,3\n',
    )
    expect(lookAtFile(fileFromBytes('b.xlsx', bytes), {}).header).toEqual([2, 3])
  })
})

describe('what cannot be opened is said with a way on', () => {
  const refused = (bytes: Buffer, name: string, read: ReadOptions = {}) => opened(bytes, read, name)
  test('locked, old, broken, no workbook at all', async () => {
    const compound = Buffer.concat([Buffer.from([0xd0, 0xcf, 0x11, 0xe0, 0xa1, 0xb1, 0x1a, 0xe1]), Buffer.alloc(600)])
    await expect(
      refused(Buffer.concat([compound, Buffer.from('EncryptedPackage', 'utf16le')]), 'a.xlsx'),
    ).rejects.toThrow('locked with a password')
    await expect(refused(compound, 'a.xls')).rejects.toThrow('Save it as .xlsx')
    await expect(
      refused(
        readFileSync(join(import.meta.dirname, '../../../demo/regions-2031-05.xlsx')).subarray(0, 4000),
        'a.xlsx',
      ),
    ).rejects.toThrow('damaged workbook')
    await expect(refused(Buffer.from(zipSync({ 'a.txt': strToU8('x') })), 'a.xlsx')).rejects.toThrow(
      'no workbook is in it',
    )
    await expect(refused(Buffer.from('<html><table></table></html>'), 'a.xlsx')).rejects.toThrow('is a web page')
    await expect(refused(Buffer.from('A,B\n1,2\n'), 'a.xlsx')).rejects.toThrow('does not hold one')
    await expect(refused(Buffer.from('A,B\n1,2\n'), 'a.csv', { format: 'parquet' })).rejects.toThrow(
      'was to be opened as Parquet',
    )
    await expect(refused(book('<row r="1"><c r="A1"><v>1</v></c>'), 'a.xlsx')).rejects.toThrow('garbled')
  })
  test('a zip that unfolds without measure', async () => {
    const bomb = zipSync({
      'xl/workbook.xml': strToU8('<workbook/>'),
      'xl/sharedStrings.xml': new Uint8Array(80_000_000),
    })
    await expect(refused(Buffer.from(bomb), 'a.xlsx')).rejects.toThrow('would unfold to more than')
  })
  test('a text file with more columns than any table has', async () => {
    await expect(
      refused(Buffer.from(`${Array.from({ length: 100_000 }, (_, i) => `c${i}`).join(',')}\n`), 'a.csv'),
    ).rejects.toThrow('100,000 columns')
  })
})
