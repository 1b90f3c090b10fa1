import { ownValue, figure, type RawCell } from '@fabula/core'
import { CellBudget, claimed, mostMerges, sheetColumns, sheetRows } from '../budget.ts'
import { FileProblem } from '../problem.ts'
import { shownById, type ShownAs } from './number-format.ts'
import { day1900, day1904, momentOf, withoutValue, type Merge, type SheetInfo, type Workbook } from './workbook.ts'
import { readXml, walkXml } from './xml.ts'
import type { ZipParts } from './zip.ts'

type ZipEntry = SheetInfo & { readonly part: string }

const columnOf = (reference: string): number => {
  let n = 0
  for (let i = 0; i < reference.length; i++) {
    const code = reference.charCodeAt(i)
    if (code < 65 || code > 90) break
    n = n * 26 + code - 64
  }
  return n
}
const mostSheets = 1000

const rowOf = (reference: string): number => Number(/\d+$/.exec(reference)?.[0] ?? 0)
/** _x000D_ stands for a sign that XML cannot hold. */
const unescaped = (text: string): string =>
  text.includes('_x')
    ? text.replace(/_x([0-9A-Fa-f]{4})_/g, (_, hex: string) => String.fromCharCode(parseInt(hex, 16)))
    : text

const truth = (text: string | undefined): boolean => text === '1' || text === 'true'

const relations = (parts: Record<string, Uint8Array>, file: string): Map<string, string> => {
  const targets = new Map<string, string>()
  readXml(parts['xl/_rels/workbook.xml.rels'], file, {
    open: (name, { Id = '', Target = '' }) =>
      name === 'Relationship' && void targets.set(Id, Target.startsWith('/') ? Target.slice(1) : `xl/${Target}`),
  })
  return targets
}

const sharedStrings = (bytes: Uint8Array | undefined, file: string): string[] => {
  const strings: string[] = []
  let text = ''
  let inText = false
  let phonetic = 0
  readXml(bytes, file, {
    open: (name) => {
      if (name === 'si') text = ''
      else if (name === 'rPh') phonetic++
      else if (name === 't') inText = phonetic === 0
    },
    close: (name) => {
      if (name === 'si') strings.push(unescaped(text))
      else if (name === 'rPh') phonetic--
      else if (name === 't') inText = false
    },
    text: (piece) => {
      if (inText) text += piece
    },
  })
  return strings
}

/** What each cell style shows numbers as. */
const styleShows = (bytes: Uint8Array | undefined, file: string): ShownAs[] => {
  const codes = new Map<number, string>()
  const shows: ShownAs[] = []
  let inCells = false
  readXml(bytes, file, {
    open: (name, { numFmtId = '0', formatCode = '' }) => {
      if (name === 'numFmt') codes.set(Number(numFmtId), formatCode)
      else if (name === 'cellXfs') inCells = true
      else if (name === 'xf' && inCells) shows.push(shownById(Number(numFmtId), codes))
    },
    close: (name) => {
      if (name === 'cellXfs') inCells = false
    },
  })
  return shows
}

/** An XLSX workbook: ECMA-376 part 1, SpreadsheetML. Formulas give the value that was kept with them. */
// eslint-disable-next-line max-lines-per-function -- handlers of one XML walk, which share the state of the row they are in
export const openXlsx = (parts: ZipParts, file: string): Workbook => {
  const book = parts(
    (name) =>
      name === 'xl/workbook.xml' ||
      name === 'xl/_rels/workbook.xml.rels' ||
      name === 'xl/styles.xml' ||
      name === 'xl/sharedStrings.xml',
  )
  if (!book['xl/workbook.xml'])
    throw new FileProblem(`${file} is a zip, but no workbook is in it. Unfold it, and drop the files that it holds.`)
  const targets = relations(book, file)
  const entries: ZipEntry[] = []
  let first = day1900
  readXml(book['xl/workbook.xml'], file, {
    open: (name, attributes) => {
      if (name === 'workbookPr' && truth(attributes.date1904)) first = day1904
      if (name !== 'sheet') return
      const part =
        targets.get(attributes['r:id'] ?? Object.entries(attributes).find(([key]) => key.endsWith(':id'))?.[1] ?? '') ??
        ''
      if (entries.length >= mostSheets)
        throw new FileProblem(`${file} has more than ${figure(mostSheets)} sheets. Part it into several workbooks.`)
      if (/worksheets\//.test(part))
        entries.push({ name: attributes.name ?? '', hidden: (attributes.state ?? 'visible') !== 'visible', part })
    },
  })
  const strings = sharedStrings(book['xl/sharedStrings.xml'], file)
  const shows = styleShows(book['xl/styles.xml'], file)
  const bytesOf = (sheet: string): Uint8Array => {
    const part = entries.find(({ name }) => name === sheet)?.part ?? ''
    return (
      ownValue(
        parts((name) => name === part),
        part,
      ) ?? new Uint8Array(0)
    )
  }
  const cellOf = (type: string, style: number, value: string): RawCell => {
    if (value === '') return null
    switch (type) {
      case 's':
        return strings[Number(value)] ?? null
      case 'str':
      case 'inlineStr':
        return unescaped(value)
      case 'b':
        return truth(value)
      case 'e':
        return { error: value }
      case 'd': {
        const ms = Date.parse(`${value.replace(/Z$/, '')}Z`)
        if (Number.isNaN(ms)) return value
        if (value.length <= 10) return { type: 'date', value: Math.floor(ms / 86_400_000) }
        return { type: 'datetime', value: ms }
      }
      default: {
        const shown = shows[style] ?? 'number'
        return shown === 'number' ? Number(value) : momentOf(Number(value), shown, first)
      }
    }
  }
  function* rows(sheet: string, row: (cells: readonly RawCell[]) => void): Generator<number> {
    let cells: RawCell[] = []
    let at = 0
    let column = 0
    let type = 'n'
    let style = 0
    let value = ''
    let collects = false
    let computed = false
    let kept = false
    const bytes = bytesOf(sheet)
    const budget = new CellBudget(file, bytes.length)
    yield* walkXml(bytes, file, {
      open: (name, attributes) => {
        if (name === 'row') {
          const next = Math.max(1, claimed(attributes.r, at + 1, sheetRows, file, 'row'))
          budget.spend(Math.max(1, next - at))
          for (at++; at < next; at++) row([])
          at = next
          cells = []
          column = 0
        } else if (name === 'c') {
          column = attributes.r === undefined ? column + 1 : columnOf(attributes.r)
          if (column < 1 || column > sheetColumns)
            throw new FileProblem(
              `${file} is a damaged workbook: it speaks of cell ${(attributes.r ?? '').slice(0, 20)}, and a sheet ends at column XFD. Save it anew in the program it came from.`,
            )
          type = attributes.t ?? 'n'
          style = Number(attributes.s ?? 0)
          value = ''
          computed = false
          kept = false
        } else if (name === 'f') computed = true
        else if (name === 'v' || name === 't') {
          collects = true
          kept = true
        }
      },
      close: (name) => {
        if (name === 'v' || name === 't') collects = false
        else if (name === 'c') {
          budget.spend(Math.max(1, column - cells.length))
          while (cells.length < column - 1) cells.push(null)
          // a formula whose value was never worked out and saved has none that could be read
          cells[column - 1] = computed && !kept ? { error: withoutValue } : cellOf(type, style, value)
        } else if (name === 'row') row(cells)
      },
      text: (piece) => {
        if (collects) value += piece
      },
    })
  }
  const merges = (sheet: string): Merge[] => {
    const found: Merge[] = []
    readXml(bytesOf(sheet), file, {
      open: (name, { ref = '' }) => {
        if (name !== 'mergeCell') return
        const [a = '', b = a] = ref.split(':')
        if (found.length < mostMerges)
          found.push({ top: rowOf(a), left: columnOf(a), bottom: rowOf(b), right: columnOf(b) })
      },
    })
    return found
  }
  return { sheets: entries.map(({ name, hidden }) => ({ name, hidden })), rows, merges }
}
