// Writes a small XLSX workbook for the demo: sheets of texts, numbers, dates and errors, with merged cells. Dates make the file the same each time.
import { strToU8, zipSync } from 'fflate'

const escaped = (text) => text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;')
const letters = (n) => (n > 26 ? letters(Math.floor((n - 1) / 26)) : '') + String.fromCharCode(65 + ((n - 1) % 26))
const serial = (iso) => Math.round(Date.parse(`${iso}T00:00:00Z`) / 86_400_000) + 25_569

const cellXml = (value, ref) => {
  if (value === null || value === undefined || value === '') return ''
  if (typeof value === 'number') return `<c r="${ref}"><v>${value}</v></c>`
  if (value.date) return `<c r="${ref}" s="1"><v>${serial(value.date)}</v></c>`
  if (value.percent !== undefined) return `<c r="${ref}" s="2"><v>${value.percent}</v></c>`
  if (value.error) return `<c r="${ref}" t="e"><v>${value.error}</v></c>`
  return `<c r="${ref}" t="inlineStr"><is><t xml:space="preserve">${escaped(value)}</t></is></c>`
}
const sheetXml = ({ rows, merges = [] }) =>
  `<?xml version="1.0" encoding="UTF-8" standalone="yes"?><worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>${rows.map((row, r) => `<row r="${r + 1}">${row.map((value, c) => cellXml(value, `${letters(c + 1)}${r + 1}`)).join('')}</row>`).join('')}</sheetData>${merges.length > 0 ? `<mergeCells count="${merges.length}">${merges.map((ref) => `<mergeCell ref="${ref}"/>`).join('')}</mergeCells>` : ''}</worksheet>`
const head = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>'

export const workbook = (sheets) => {
  const office = 'http://schemas.openxmlformats.org/officeDocument/2006'
  const parts = {
    '[Content_Types].xml': `${head}<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/xl/workbook.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/><Override PartName="/xl/styles.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.styles+xml"/>${sheets.map((_, i) => `<Override PartName="/xl/worksheets/sheet${i + 1}.xml" ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml"/>`).join('')}</Types>`,
    '_rels/.rels': `${head}<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="${office}/relationships/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
    'xl/workbook.xml': `${head}<workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" xmlns:r="${office}/relationships"><sheets>${sheets.map(({ name, hidden }, i) => `<sheet name="${escaped(name)}" sheetId="${i + 1}"${hidden ? ' state="hidden"' : ''} r:id="rId${i + 1}"/>`).join('')}</sheets></workbook>`,
    'xl/_rels/workbook.xml.rels': `${head}<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">${sheets.map((_, i) => `<Relationship Id="rId${i + 1}" Type="${office}/relationships/worksheet" Target="worksheets/sheet${i + 1}.xml"/>`).join('')}<Relationship Id="rId${sheets.length + 1}" Type="${office}/relationships/styles" Target="styles.xml"/></Relationships>`,
    'xl/styles.xml': `${head}<styleSheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><fonts count="1"><font><sz val="11"/><name val="Calibri"/></font></fonts><fills count="2"><fill><patternFill patternType="none"/></fill><fill><patternFill patternType="gray125"/></fill></fills><borders count="1"><border><left/><right/><top/><bottom/><diagonal/></border></borders><cellStyleXfs count="1"><xf/></cellStyleXfs><cellXfs count="3"><xf numFmtId="0"/><xf numFmtId="14" applyNumberFormat="1"/><xf numFmtId="9" applyNumberFormat="1"/></cellXfs></styleSheet>`,
    ...Object.fromEntries(sheets.map((sheet, i) => [`xl/worksheets/sheet${i + 1}.xml`, sheetXml(sheet)])),
  }
  return Buffer.from(
    zipSync(Object.fromEntries(Object.entries(parts).map(([name, text]) => [name, strToU8(text)])), {
      mtime: new Date('2031-01-01T12:00:00Z'),
      level: 6,
    }),
  )
}
