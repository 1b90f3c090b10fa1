import { strToU8, zipSync, type Zippable } from 'fflate'
import { sheetColumns, sheetRows } from '../budget.ts'
import { columnLetters, figure, guarded, quoted, type Table } from '@fabula/core'
import { textAt, UnwritableTable } from './cells.ts'

/** A table as a sheet under this name. */
export type Sheet = { readonly name: string; readonly table: Table }

const mostCharacters = 32_767
const day = 86_400_000
/** Days from 1899-12-30 to 1970-01-01; from March 1900 on a workbook counts so. */
const shift = 25_569

// what XML 1.0 cannot hold is written _x001F_, and what looks so already is guarded (ECMA-376, part 1, 22.9.2.19)
const escaped = (text: string): string =>
  text
    .replace(/_x[0-9A-Fa-f]{4}_/g, (run) => `_x005F${run}`)
    .replace(
      /[\u0000-\u0008\u000B\u000C\u000D\u000E-\u001F\uFFFE\uFFFF]/g,
      (sign) => `_x${sign.charCodeAt(0).toString(16).toUpperCase().padStart(4, '0')}_`,
    )
    .replaceAll('&', '&amp;')
    .replaceAll('<', '&lt;')
    .replaceAll('>', '&gt;')

const textCell = (ref: string, text: string): string =>
  `<c r="${ref}" t="inlineStr"><is><t xml:space="preserve">${escaped(text)}</t></is></c>`

/** Names that a workbook takes: 31 signs, none of []:*?/\, each once whatever the case. */
export const sheetNames = (names: readonly string[]): string[] => {
  const taken = new Set<string>()
  return names.map((name) => {
    const plain =
      name
        .replace(/[[\]:*?/\\]/g, ' ')
        .replace(/^'+|'+$/g, '')
        .trim() || 'Sheet'
    let made = plain.slice(0, 31)
    for (let n = 2; taken.has(made.toLowerCase()); n++) made = `${plain.slice(0, 30 - String(n).length)} ${n}`
    taken.add(made.toLowerCase())
    return made
  })
}

/** Serial of a day; undefined where a workbook has none. It takes 1900 for a leap year, so days before March count one less. */
const serialOf = (days: number): number | undefined => {
  const serial = days + shift
  if (serial >= 61) return serial
  if (serial >= 2) return serial - 1
  return undefined
}

const styles = { date: 1, datetime: 2, time: 3 } as const
// eslint-disable-next-line complexity -- one case for each type of cell
const cellXml = (table: Table, column: number, row: number, ref: string, guard: boolean): string => {
  const cell = table.cell(column, row)
  if (cell === null) return ''
  const type = table.schema[column]?.type ?? 'text'
  if (type === 'integer' || type === 'decimal') return `<c r="${ref}"><v>${String(cell)}</v></c>`
  if (type === 'boolean') return `<c r="${ref}" t="b"><v>${cell ? 1 : 0}</v></c>`
  if (type === 'time') return `<c r="${ref}" s="${styles.time}"><v>${(cell as number) / day}</v></c>`
  if (type === 'date' || type === 'datetime') {
    const days = type === 'date' ? (cell as number) : Math.floor((cell as number) / day)
    const serial = serialOf(days)
    if (serial !== undefined)
      return `<c r="${ref}" s="${styles[type]}"><v>${type === 'date' ? serial : serial + ((cell as number) - days * day) / day}</v></c>`
  }
  const text = textAt(table, column, row) ?? ''
  if (text.length > mostCharacters)
    throw new UnwritableTable(
      `A cell of a workbook holds ${figure(mostCharacters)} characters; ${quoted(table.names[column] ?? '')} in row ${figure(row + 1)} has ${figure(text.length)}. Write CSV, JSON or Parquet, or shorten the column.`,
    )
  return textCell(ref, guard && type === 'text' ? guarded(text) : text)
}

/** As wide as the longest of the first rows, within reason; in characters. */
const widthOf = (table: Table, column: number): number => {
  let longest = (table.names[column] ?? '').length
  for (let row = 0; row < Math.min(300, table.rowCount); row++)
    longest = Math.max(longest, textAt(table, column, row)?.split('\n')[0]?.length ?? 0)
  return Math.min(60, Math.max(8, longest + 2))
}

const declaration = '<?xml version="1.0" encoding="UTF-8" standalone="yes"?>\n'
const sheetXml = ({ name, table }: Sheet, guard: boolean): Uint8Array => {
  if (table.rowCount + 1 > sheetRows)
    throw new UnwritableTable(
      `A sheet of a workbook holds ${figure(sheetRows - 1)} rows; ${name} has ${figure(table.rowCount)}. Write CSV or Parquet.`,
    )
  if (table.names.length > sheetColumns)
    throw new UnwritableTable(
      `A sheet of a workbook holds ${figure(sheetColumns)} columns; ${name} has ${figure(table.names.length)}. Write CSV or Parquet.`,
    )
  const letters = table.names.map((_, column) => columnLetters(column + 1))
  const pieces = [
    `${declaration}<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetViews><sheetView workbookViewId="0"><pane ySplit="1" topLeftCell="A2" activePane="bottomLeft" state="frozen"/></sheetView></sheetViews>`,
    table.names.length > 0
      ? `<cols>${table.names.map((_, column) => `<col min="${column + 1}" max="${column + 1}" width="${widthOf(table, column)}" customWidth="1"/>`).join('')}</cols>`
      : '',
    `<sheetData><row r="1">${table.names.map((one, column) => textCell(`${letters[column] ?? ''}1`, guard ? guarded(one) : one).replace('<c ', '<c s="4" ')).join('')}</row>`,
  ]
  for (let row = 0; row < table.rowCount; row++)
    pieces.push(
      `<row r="${row + 2}">${letters.map((letter, column) => cellXml(table, column, row, `${letter}${row + 2}`, guard)).join('')}</row>`,
    )
  pieces.push('</sheetData></worksheet>')
  return Buffer.from(pieces.join(''))
}

/** A workbook with a sheet for each table: cells of their own types, the row of names bold and held in view, columns wide enough. Format: ECMA-376. */
export const workbookBytes = (sheets: readonly Sheet[], guard: boolean): Uint8Array => {
  const office = 'http://schemas.openxmlformats.org/officeDocument/2006'
  const names = sheetNames(sheets.map(({ name }) => name))
  const part = (kind: string): string => `application/vnd.openxmlformats-officedocument.spreadsheetml.${kind}+xml`
  const parts: Record<string, string> = {
    '[Content_Types].xml': `${declaration}<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="xml" ContentType="application/xml"/><Override PartName="/xl/workbook.xml" ContentType="${part('sheet.main')}"/><Override PartName="/xl/styles.xml" ContentType="${part('styles')}"/>${names.map((_, i) => `<Override PartName="/xl/worksheets/sheet${i + 1}.xml" ContentType="${part('worksheet')}"/>`).join('')}</Types>`,
    '_rels/.rels': `${declaration}<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" Type="${office}/relationships/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
    'xl/workbook.xml': `${declaration}<workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" xmlns:r="${office}/relationships"><sheets>${names.map((name, i) => `<sheet name="${escaped(name).replaceAll('"', '&quot;')}" sheetId="${i + 1}" r:id="rId${i + 1}"/>`).join('')}</sheets></workbook>`,
    'xl/_rels/workbook.xml.rels': `${declaration}<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">${names.map((_, i) => `<Relationship Id="rId${i + 1}" Type="${office}/relationships/worksheet" Target="worksheets/sheet${i + 1}.xml"/>`).join('')}<Relationship Id="rId${names.length + 1}" Type="${office}/relationships/styles" Target="styles.xml"/></Relationships>`,
    'xl/styles.xml': `${declaration}<styleSheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><numFmts count="3"><numFmt numFmtId="164" formatCode="yyyy\\-mm\\-dd"/><numFmt numFmtId="165" formatCode="yyyy\\-mm\\-dd\\ hh:mm:ss"/><numFmt numFmtId="166" formatCode="hh:mm:ss"/></numFmts><fonts count="2"><font><sz val="11"/><name val="Calibri"/></font><font><b/><sz val="11"/><name val="Calibri"/></font></fonts><fills count="2"><fill><patternFill patternType="none"/></fill><fill><patternFill patternType="gray125"/></fill></fills><borders count="1"><border><left/><right/><top/><bottom/><diagonal/></border></borders><cellStyleXfs count="1"><xf/></cellStyleXfs><cellXfs count="5"><xf/><xf numFmtId="164" applyNumberFormat="1"/><xf numFmtId="165" applyNumberFormat="1"/><xf numFmtId="166" applyNumberFormat="1"/><xf fontId="1" applyFont="1"/></cellXfs><cellStyles count="1"><cellStyle name="Normal" xfId="0" builtinId="0"/></cellStyles></styleSheet>`,
  }
  const files: Zippable = Object.fromEntries(Object.entries(parts).map(([name, text]) => [name, strToU8(text)]))
  sheets.forEach((sheet, i) => (files[`xl/worksheets/sheet${i + 1}.xml`] = sheetXml(sheet, guard)))
  // the moment of writing is left out, so that the same table is the same file
  return zipSync(files, { level: 6, mtime: new Date('2000-01-01T12:00:00Z') })
}
