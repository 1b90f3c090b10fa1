import {
  inputOf,
  originRows,
  ownValue,
  quoted,
  textOfCell,
  type ColumnAliases,
  type Origin,
  type PlacedStep,
  type ReadOptions,
  type Recipe,
} from '@fabula/core'
import { labelOf, partNamed, partsOf, type Part } from './parts.ts'
import {
  TraceProblem,
  type SourceName,
  type SourceRowsListed,
  type TracedFile,
  type TracedInput,
  type TraceRow,
} from './reports.ts'
import { openSourceRows, type SheetRows, type SourceRows } from './source-rows.ts'

/** Opens the rows of a file or of a sheet of it. */
export type OpenRows = (
  file: TracedFile,
  sheet: string | undefined,
  read: ReadOptions,
  known: ColumnAliases,
) => Promise<SourceRows | undefined>
/** Opens them at each question. */
export const openFresh: OpenRows = (file, sheet, read, known) => openSourceRows(file.load(), sheet, read, known)

/** A file of an input, or a sheet of it. */
export type SheetPlace = { readonly input: string; readonly file: string; readonly sheet?: string }
/** Some rows as they stand in a file, which they are of, and which others the input takes. */
export type SheetReport = SheetRows & { readonly shown: SheetPlace; readonly parts: readonly SheetPlace[] }

/** The rows of the inputs of a run as their files hold them. */
export class InputRows {
  private readonly recipe: Recipe
  private readonly inputs: Readonly<Record<string, TracedInput>>
  private readonly opened = new Map<Part, Promise<SourceRows | undefined>>()
  private readonly parts = new Map<string, readonly Part[]>()
  private readonly openRows: OpenRows
  constructor(recipe: Recipe, inputs: Readonly<Record<string, TracedInput>>, openRows: OpenRows) {
    this.recipe = recipe
    this.openRows = openRows
    this.inputs = inputs
    for (const [id, input] of Object.entries(inputs)) this.parts.set(id, partsOf(input))
  }

  partsOf(input: string): readonly Part[] {
    return this.parts.get(input) ?? []
  }
  labelOf(input: string, part: Part): string {
    return labelOf(ownValue(this.inputs, input) as TracedInput, part)
  }
  partNamed(input: string, file: string, sheet: string | undefined): Part {
    return partNamed(this.parts.get(input) ?? [], input, file, sheet)
  }
  rowsOf(input: string, part: Part): Promise<SourceRows | undefined> {
    const known = this.opened.get(part)
    if (known) return known
    const { read, known: aliases } = ownValue(this.inputs, input) as TracedInput
    const opened = this.openRows(part.file, part.sheet, read, aliases)
    this.opened.set(part, opened)
    return opened
  }
  private partAt(input: string, row: number): Part | undefined {
    return this.parts.get(input)?.find(({ from, rows }) => row >= from && row < from + rows)
  }

  /** A row of an origin as it is named and what it holds; of the columns that are named, else of all. */
  async sourceRow(
    placed: PlacedStep,
    row: number,
    columns: readonly string[],
  ): Promise<SourceName & { columns: readonly string[]; values: Record<string, string> }> {
    const { after } = placed.traced
    const input = inputOf(placed)
    const part = input === undefined ? undefined : this.partAt(input, row)
    if (input === undefined || !part) {
      const wanted = columns.length > 0 ? columns : after.names
      const values = Object.fromEntries(
        wanted.flatMap((name) => {
          const at = after.positionOf(name)
          const cell = at < 0 ? null : after.cell(at, row)
          return cell === null ? [] : [[name, textOfCell(after.schema[at]?.type ?? 'text', cell)]]
        }),
      )
      return { entered: placed.table, row: row + 1, columns, values }
    }
    const source = await this.rowsOf(input, part)
    const record = source?.recordOf(row - part.from) ?? row - part.from + 1
    const all = source?.textsOf(record) ?? {}
    // the name of a file or sheet, or a column that this part lacks, stands in no column of it
    const held = columns.filter((name) => (source?.texts.positionOf(name) ?? -1) >= 0)
    const wanted = held.length > 0 ? held : after.names
    const values = Object.fromEntries(
      wanted.flatMap((name) => {
        const text = ownValue(all, name)
        return text === undefined ? [] : [[name, text]]
      }),
    )
    return {
      input,
      file: this.labelOf(input, part),
      ...(part.sheet === undefined ? {} : { sheet: part.sheet }),
      row: record,
      columns: held,
      values,
    }
  }

  /** The rows of origins as they are named and what they hold: all counted, the first listed, in the order of the inputs in the recipe. */
  async sourcesOf(origins: readonly Origin[], limit: number): Promise<SourceRowsListed> {
    const order = this.recipe.inputs.map(({ id }) => id)
    const rank = (placed: PlacedStep): number => {
      const input = inputOf(placed)
      return input === undefined ? order.length : order.indexOf(input)
    }
    const found = origins.map((origin) => originRows(origin, limit))
    const count = found.reduce((sum, one) => sum + one.count, 0)
    const rows = found
      .sort((a, b) => rank(a.placed) - rank(b.placed) || a.placed.order - b.placed.order)
      .flatMap(({ placed, rows: first }) => first.map((one) => ({ placed, ...one })))
    const sources = await Promise.all(
      rows.slice(0, limit).map(async ({ placed, row: at, times, columns }): Promise<TraceRow> => {
        const { values, columns: held, ...name } = await this.sourceRow(placed, at, columns)
        return {
          ...name,
          ...(held.length > 0 ? { columns: held } : {}),
          ...(times > 1 ? { times } : {}),
          values,
        }
      }),
    )
    return { count, sources }
  }

  /** Rows of a file as they stand in it, from a record on; without a file or sheet, of the first that is taken. @throws TraceProblem */
  async sheet(
    input: string,
    { file, sheet }: { readonly file?: string | undefined; readonly sheet?: string | undefined },
    first: number,
    count: number,
  ): Promise<SheetReport> {
    const all = this.partsOf(input)
    const part =
      all.find(
        (one) =>
          (file === undefined || this.labelOf(input, one) === file) && (sheet === undefined || one.sheet === sheet),
      ) ?? (file === undefined ? undefined : this.partNamed(input, file, sheet))
    const rows = part && (await this.rowsOf(input, part))
    if (!rows) throw new TraceProblem(`${quoted(input)} has no file that can be read as text.`)
    return {
      ...rows.recordsFrom(first, count),
      shown: this.placeOf(input, part),
      parts: all.map((one) => this.placeOf(input, one)),
    }
  }
  private placeOf(input: string, part: Part): SheetPlace {
    return { input, file: this.labelOf(input, part), ...(part.sheet === undefined ? {} : { sheet: part.sheet }) }
  }
}
