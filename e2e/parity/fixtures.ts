import { strToU8, zipSync } from 'fflate'
import { parquetWriteBuffer } from 'hyparquet-writer'

const cell = (attributes: string, text = ''): string =>
  `<table:table-cell ${attributes}>${text ? `<text:p>${text}</text:p>` : ''}</table:table-cell>`
const word = (text: string): string => cell('office:value-type="string"', text)

/** An ODS workbook with a title, typed cells, repeats, an error and a hidden sheet before the one that shows. */
export const odsBook = (): Buffer => {
  const rows = [
    word('Visits in May'),
    ['Day', 'Clinic', 'Fee', 'At', 'Paid', 'Seen'].map(word).join('') +
      '<table:table-cell table:number-columns-repeated="16378"/>',
    cell('office:value-type="date" office:date-value="2031-05-02"', '2 May') +
      '<table:table-cell office:value-type="string"><office:annotation><text:p>a note</text:p></office:annotation><text:p>Ox<text:s text:c="2"/>bow</text:p><text:p>two</text:p></table:table-cell>' +
      cell('office:value-type="currency" office:value="12.5"', '£12.50') +
      cell('office:value-type="time" office:time-value="PT09H30M00S"') +
      cell('office:value-type="boolean" office:boolean-value="true"') +
      cell('office:value-type="date" office:date-value="2031-05-02T09:30:00.250000"'),
    '<table:table-cell/>' +
      word('Tarn') +
      cell('table:formula="of:=1/0" office:value-type="string"', '#DIV/0!') +
      '<table:table-cell table:number-columns-repeated="2"/>' +
      cell('office:value-type="date" office:date-value="2031-05-03"'),
  ].map((row) => `<table:table-row>${row}</table:table-row>`)
  const content = `<office:document-content xmlns:office="o" xmlns:table="t" xmlns:text="x" xmlns:style="s"><office:automatic-styles><style:style style:name="h" style:family="table"><style:table-properties table:display="false"/></style:style></office:automatic-styles><office:body><office:spreadsheet><table:table table:name="Lists" table:style-name="h"><table:table-row>${word('x')}</table:table-row></table:table><table:table table:name="May">${rows.join('\n')}<table:table-row table:number-rows-repeated="1048570"><table:table-cell table:number-columns-repeated="16384"/></table:table-row></table:table></office:spreadsheet></office:body></office:document-content>`
  return Buffer.from(
    zipSync({
      mimetype: [strToU8('application/vnd.oasis.opendocument.spreadsheet'), { level: 0 }],
      'content.xml': strToU8(content),
    }),
  )
}

/** A Parquet file with each plain type, empties, and something nested. */
export const parquetFile = (): Buffer =>
  Buffer.from(
    parquetWriteBuffer({
      columnData: [
        { name: 'id', data: [1n, 2n, 3n], type: 'INT64' },
        { name: 'fee', data: [1.5, 2, Number.NaN], type: 'DOUBLE' },
        { name: 'name', data: ['Oxbow, "north"', '', null], type: 'STRING' },
        { name: 'paid', data: [true, false, null], type: 'BOOLEAN' },
        { name: 'seen', data: [new Date(Date.UTC(2031, 4, 2, 9, 30)), null, null], type: 'TIMESTAMP' },
        { name: 'more', data: [{ a: [1] }, null, { b: 'x' }], type: 'JSON' },
      ],
    }),
  )
