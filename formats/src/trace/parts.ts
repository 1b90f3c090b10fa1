import { quoted } from '@fabula/core'
import { TraceProblem, type TracedInput } from './reports.ts'

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

/** How a file is named: by its name, or where two of an input have the same, as it was given. */
export const labelOf = ({ files }: TracedInput, { file }: Part): string =>
  files.filter(({ name }) => name === file.name).length > 1 ? (file.label ?? file.name) : file.name

/** The part of an input that a file, and a sheet of it, name. @throws TraceProblem where there is none, or several */
export const partNamed = (all: readonly Part[], input: string, file: string, sheet: string | undefined): Part => {
  const base = file.slice(file.lastIndexOf('/') + 1)
  const matching = all.filter((part) => part.file.label === file)
  const named =
    matching.length > 0 ? matching : all.filter((part) => part.file.name === file || part.file.name === base)
  if (named.length === 0)
    throw new TraceProblem(
      `${quoted(input)} has no file ${quoted(file)}. It has ${[...new Set(all.map((part) => part.file.name))].map(quoted).join(', ')}.`,
    )
  if (sheet === undefined) {
    if (named.length > 1 && new Set(named.map((part) => part.file)).size > 1)
      throw new TraceProblem(`Several files are called ${quoted(file)}. Give the path of one.`)
    if (named.length > 1)
      throw new TraceProblem(
        `Several sheets of ${file} are taken. Say which: ${named.map((part) => quoted(part.sheet ?? '')).join(', ')}.`,
      )
    return named[0] as Part
  }
  const one = named.find((part) => part.sheet === sheet)
  if (!one) throw new TraceProblem(`No sheet ${quoted(sheet)} of ${file} is taken.`)
  return one
}
