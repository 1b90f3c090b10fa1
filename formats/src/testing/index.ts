export { tracerOf } from './tracer.ts'
import { strToU8, zipSync } from 'fflate'

/** An XLSX workbook of these sheets, each a list of rows, of as few parts as a reader takes. ECMA-376. */
export const workbook = (sheets: Readonly<Record<string, readonly (readonly (string | number)[])[]>>): Uint8Array => {
  const all = Object.entries(sheets)
  const cell = (value: string | number): string =>
    typeof value === 'number' ? `<c><v>${value}</v></c>` : `<c t="inlineStr"><is><t>${value}</t></is></c>`
  const part = (path: string, xml: string): [string, Uint8Array] => [path, strToU8(`<?xml version="1.0"?>${xml}`)]
  const main = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main'
  const relations = 'http://schemas.openxmlformats.org/package/2006/relationships'
  const office = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships'
  const content = 'application/vnd.openxmlformats-officedocument.spreadsheetml'
  return zipSync(
    Object.fromEntries([
      part(
        '[Content_Types].xml',
        `<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Override PartName="/xl/workbook.xml" ContentType="${content}.sheet.main+xml"/>${all.map((_, i) => `<Override PartName="/xl/worksheets/sheet${i + 1}.xml" ContentType="${content}.worksheet+xml"/>`).join('')}</Types>`,
      ),
      part(
        '_rels/.rels',
        `<Relationships xmlns="${relations}"><Relationship Id="rId1" Type="${office}/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
      ),
      part(
        'xl/workbook.xml',
        `<workbook xmlns="${main}" xmlns:r="${office}"><sheets>${all.map(([name], i) => `<sheet name="${name}" sheetId="${i + 1}" r:id="rId${i + 1}"/>`).join('')}</sheets></workbook>`,
      ),
      part(
        'xl/_rels/workbook.xml.rels',
        `<Relationships xmlns="${relations}">${all.map((_, i) => `<Relationship Id="rId${i + 1}" Type="${office}/worksheet" Target="worksheets/sheet${i + 1}.xml"/>`).join('')}</Relationships>`,
      ),
      ...all.map(([, rows], i) =>
        part(
          `xl/worksheets/sheet${i + 1}.xml`,
          `<worksheet xmlns="${main}"><sheetData>${rows.map((row) => `<row>${row.map(cell).join('')}</row>`).join('')}</sheetData></worksheet>`,
        ),
      ),
    ]),
  )
}
