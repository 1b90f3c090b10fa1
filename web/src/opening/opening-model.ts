import {
  headerRows,
  rectangleOf,
  wildcard,
  writeColumn,
  type NewStep,
  type ReadOptions,
  type Rectangle,
} from '@fabula/core'
import type { LookReply, OpenReply } from '@fabula/core/api'
import { without } from '../story/without.ts'

/** The options that decide how the raw rows of a file look; the others act on those rows. */
export const rawOptions = ({ format, encoding, delimiter, quote, path }: ReadOptions = {}): ReadOptions => ({
  ...(format ? { format } : {}),
  ...(encoding ? { encoding } : {}),
  ...(delimiter ? { delimiter } : {}),
  ...(quote ? { quote } : {}),
  ...(path ? { path } : {}),
})

/** Which sheets of a workbook the options read, by name; a hidden one only where it is named. */
export const sheetsRead = (all: LookReply['sheets'], sheets: ReadOptions['sheets']): string[] => {
  const names = all.map(({ name }) => name)
  if (sheets === undefined || sheets === 'first')
    return all
      .filter(({ hidden }) => !hidden)
      .slice(0, 1)
      .map(({ name }) => name)
  if (!('like' in sheets)) return [...sheets]
  const { like, unlike } = sheets
  return names.filter((name) => wildcard(like).test(name) && !(unlike && wildcard(unlike).test(name)))
}

/** The sheets with one more, or without it; in the order of the workbook, and never none. */
export const toggledSheet = (all: LookReply['sheets'], read: readonly string[], name: string): readonly string[] => {
  if (!read.includes(name)) return all.map((sheet) => sheet.name).filter((one) => one === name || read.includes(one))
  const rest = read.filter((one) => one !== name)
  return rest.length > 0 ? rest : read
}

/** The area that is read, in rows and columns of the sheet from 1. */
export const areaOf = ({ range }: ReadOptions): Rectangle | undefined => (range ? rectangleOf(range) : undefined)

/** The rows of column names as rows of the sheet from 1. */
export const namesRows = (read: ReadOptions): number[] => {
  const above = (areaOf(read)?.top ?? 1) - 1
  return headerRows(read).map((row) => row + above)
}

/**
 * The options after a click on a row's number: the names stand there.
 * @param row of the sheet, from 1; one above the area changes nothing
 * @param second with the row of names that is chosen already, as two rows of names
 */
export const withNamesRow = (read: ReadOptions, row: number, second: boolean): ReadOptions => {
  const inArea = row - ((areaOf(read)?.top ?? 1) - 1)
  const [first] = headerRows(read)
  if (inArea < 1) return read
  if (second && first !== undefined && first !== inArea)
    return { ...read, header: [Math.min(first, inArea), Math.max(first, inArea)] }
  return inArea === 1 ? without(read, 'header') : { ...read, header: inArea }
}

/** Columns with merged cells below the names that span several rows: only the first of each holds the value. */
export const mergedColumns = (
  merges: LookReply['merges'],
  columns: OpenReply['columns'],
  read: ReadOptions,
): string[] => {
  const names = Math.max(0, ...namesRows(read))
  const left = areaOf(read)?.left ?? 1
  const below = merges.filter(({ top, bottom }) => bottom > top && top > names)
  return [...new Set(below.map((merge) => columns[merge.left - left]?.name))].filter((name) => name !== undefined)
}

/** Columns that one file has in place of one that others have, each once. */
export const partnersOf = (partners: OpenReply['partners']): OpenReply['partners'] =>
  partners.filter(({ has }, i) => partners.findIndex((other) => other.has === has) === i)

/** The steps that follow the opening: merged cells filled down, columns of the same meaning made one. */
export const openingSteps = (
  filled: readonly string[],
  aligned: readonly { readonly lacks: string; readonly has: string }[],
): NewStep[] => [
  ...(filled.length > 0 ? [{ kind: 'fill' as const, columns: filled, direction: 'down' as const }] : []),
  ...aligned.flatMap(({ lacks, has }): NewStep[] => [
    { kind: 'derive', as: lacks, formula: `COALESCE(${writeColumn(lacks)}; ${writeColumn(has)})` },
    { kind: 'drop', columns: [has] },
  ]),
]
