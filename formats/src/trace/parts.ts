import type { TracedInput } from './reports.ts'

/** A part of an input: a file or a sheet, and where its rows begin in the opened table. */
export type Part = {
  readonly file: TracedInput['files'][number]
  readonly sheet: string | undefined
  readonly from: number
  readonly rows: number
}

/** The parts of an input in the order of their rows. A text file is one part, a workbook one for each sheet taken. */
export const partsOf = ({ files, parts }: TracedInput): Part[] => {
  const found: Part[] = []
  let from = 0
  let next = 0
  for (const file of files) {
    const sheets = new Set<string | undefined>()
    for (let part = parts[next]; part?.file === file.name && !sheets.has(part.sheet); part = parts[++next]) {
      sheets.add(part.sheet)
      found.push({ file, sheet: part.sheet, from, rows: part.rows })
      from += part.rows
    }
  }
  return found
}
