import { figure, maybeIsoDate, maybeIsoDateTime, type RawCell } from '@fabula/core'
import { CellBudget, cellCharacters, claimed, mostMerges, sheetColumns, sheetRows } from '../budget.ts'
import { FileProblem } from '../problem.ts'
import { withoutValue, type Merge, type SheetInfo, type Workbook } from './workbook.ts'
import { walkXml, type XmlAttributes } from './xml.ts'
import type { ZipParts } from './zip.ts'

/** Repeats beyond this are the empty rest of the sheet. */
const mostRepeats = 100_000

/** PT09H30M00S as milliseconds of the day; beyond a day it is a number of days. ISO 8601. */
const timeOf = (text: string): RawCell => {
  const match = /^PT(\d+)H(\d+)M(\d+(?:\.\d+)?)S$/.exec(text)
  if (!match) return text
  const ms = Math.round((Number(match[1]) * 3600 + Number(match[2]) * 60 + Number(match[3])) * 1000)
  return ms < 86_400_000 ? { type: 'time', value: ms } : ms / 86_400_000
}

const dateOf = (text: string): RawCell => {
  const days = maybeIsoDate(text)
  if (days !== null) return { type: 'date', value: days }
  const ms = maybeIsoDateTime(text.replace(/(\.\d{3})\d+$/, '$1'))
  return ms === null ? text : { type: 'datetime', value: ms }
}

/** A formula that was saved without its value: no type says what it gave. */
const unsaved = (attributes: XmlAttributes): boolean =>
  attributes['table:formula'] !== undefined && attributes['office:value-type'] === undefined

const cellOf = (attributes: XmlAttributes, text: string): RawCell => {
  switch (attributes['office:value-type']) {
    case 'float':
    case 'percentage':
    case 'currency':
      return Number(attributes['office:value'])
    case 'boolean':
      return attributes['office:boolean-value'] === 'true'
    case 'date':
      return dateOf(attributes['office:date-value'] ?? '')
    case 'time':
      return timeOf(attributes['office:time-value'] ?? '')
    default:
      if (text === '') return unsaved(attributes) ? { error: withoutValue } : null
      if (/^(?:#[A-Z/0!?]+|Err:\d+)$/.test(text) && attributes['table:formula'] !== undefined) return { error: text }
      return text
  }
}

type OdsContent = { readonly info: SheetInfo; readonly merges: Merge[] }

/** An ODS workbook: OpenDocument 1.3 part 3, table:table. */
// eslint-disable-next-line max-lines-per-function -- handlers of one XML walk, which share the state of the row they are in
export const openOds = (parts: ZipParts, file: string): Workbook => {
  const content = parts((name) => name === 'content.xml')['content.xml']
  if (!content)
    throw new FileProblem(`${file} is a zip, but no workbook is in it. Unfold it, and drop the files that it holds.`)
  const seen = new Map<string, OdsContent>()
  // eslint-disable-next-line max-lines-per-function -- handlers of one XML walk, which share the state of the row they are in
  const walk = (sheet: string | undefined, row: (cells: readonly RawCell[]) => void): Generator<number> => {
    let current: string | undefined
    let here = false
    let attributes: XmlAttributes = {}
    let depth = 0
    let text = ''
    let paragraphs = 0
    let inParagraph = 0
    let nothing = 0
    let cells: RawCell[] = []
    let rowRepeats = 1
    let at = 0
    let inNote = 0
    const hidden = new Set<string>()
    const budget = new CellBudget(file, content.length)
    return walkXml(content, file, {
      // eslint-disable-next-line complexity -- handlers of one XML walk, which share the state of the row they are in
      open: (name, given) => {
        if (name === 'style' && given['style:family'] === 'table') attributes = given
        else if (name === 'table-properties' && given['table:display'] === 'false')
          hidden.add(attributes['style:name'] ?? '')
        else if (name === 'table' && depth++ === 0) {
          current = given['table:name'] ?? ''
          here = sheet === current
          at = 0
          if (sheet === undefined)
            seen.set(current, {
              info: { name: current, hidden: hidden.has(given['table:style-name'] ?? '') },
              merges: [],
            })
        } else if (name === 'table-row') {
          cells = []
          nothing = 0
          rowRepeats = claimed(given['table:number-rows-repeated'], 1, sheetRows, file, 'repeated rows')
          at++
        } else if (name === 'table-cell' || name === 'covered-table-cell') {
          attributes = given
          text = ''
          paragraphs = 0
          const down = Number(given['table:number-rows-spanned'] ?? 1)
          const across = Number(given['table:number-columns-spanned'] ?? 1)
          if (
            sheet === undefined &&
            (down > 1 || across > 1) &&
            (seen.get(current ?? '')?.merges.length ?? 0) < mostMerges
          )
            seen.get(current ?? '')?.merges.push({
              top: at,
              left: cells.length + nothing + 1,
              bottom: at + down - 1,
              right: cells.length + nothing + across,
            })
        } else if (name === 'annotation') inNote++
        else if (name === 'p' && inNote === 0) {
          inParagraph++
          if (paragraphs++ > 0) text += '\n'
        } else if (inNote === 0 && name === 's') {
          const blanks = claimed(given['text:c'], 1, cellCharacters, file, 'repeated blanks')
          budget.spend(blanks)
          text += ' '.repeat(blanks)
        } else if (inNote === 0 && name === 'tab') text += '\t'
        else if (inNote === 0 && name === 'line-break') text += '\n'
      },
      // eslint-disable-next-line complexity -- handlers of one XML walk, which share the state of the row they are in
      close: (name) => {
        if (name === 'table') depth--
        else if (name === 'annotation') inNote--
        else if (name === 'p' && inNote === 0) inParagraph--
        else if (name === 'table-cell' || name === 'covered-table-cell') {
          const cell = name === 'covered-table-cell' ? null : cellOf(attributes, text)
          const repeats = claimed(
            attributes['table:number-columns-repeated'],
            1,
            sheetColumns,
            file,
            'repeated columns',
          )
          // a row ends in thousands of empty cells: they are made only when a filled one follows
          if (cell === null) nothing += repeats
          else {
            budget.spend(nothing + repeats)
            if (cells.length + nothing + repeats > sheetColumns)
              throw new FileProblem(
                `${file} is a damaged workbook: a row of it has more than ${figure(sheetColumns)} columns. Save it anew in the program it came from.`,
              )
            for (; nothing > 0; nothing--) cells.push(null)
            for (let i = 0; i < repeats; i++) cells.push(cell)
          }
        } else if (name === 'table-row') {
          if (here && !(cells.length === 0 && rowRepeats > mostRepeats)) {
            budget.spend(Math.max(1, cells.length) * rowRepeats)
            for (let i = 0; i < rowRepeats; i++) row(cells)
          }
          at += rowRepeats - 1
        }
      },
      text: (piece) => {
        if (inNote === 0 && inParagraph > 0) text += piece
      },
    })
  }
  for (const _ of walk(undefined, () => undefined)) void _
  return {
    sheets: [...seen.values()].map(({ info }) => info),
    rows: walk,
    merges: (sheet) => seen.get(sheet)?.merges ?? [],
  }
}
