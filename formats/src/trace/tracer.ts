import {
  chainOf,
  conservation,
  fatesOf,
  inputOf,
  isOrigin,
  leftWords,
  reasonsAt,
  originRows,
  ownValue,
  placeSteps,
  quoted,
  rowBack,
  sentenceText,
  stepsOnTheWay,
  tableNames,
  textOfCell,
  writtenTables,
  type BackTrace,
  type ColumnAliases,
  type Conservation,
  type Fate,
  type Leaving,
  type PlacedStep,
  type ReadOptions,
  type TracedRun,
} from '@fabula/core'
import { openSourceRows, type LeftOut, type SourceRows } from './source-rows.ts'
import { partsOf, type Part } from './parts.ts'
import {
  sourceWords,
  TraceProblem,
  type BackReport,
  type FateReport,
  type ForwardReport,
  type LostReason,
  type LostRows,
  type SourceName,
  type TracedFile,
  type TracedInput,
  type TraceRow,
} from './reports.ts'

const whyLeftOut: Readonly<Record<LeftOut, string>> = {
  blank: 'blank row',
  names: 'it gives the names of the columns',
  'above-names': 'it stands above the names of the columns',
  skipped: 'it is skipped, below the names of the columns',
  'outside-range': 'it is outside the range that is read',
  foot: 'it is of the foot, which is left out',
}

/** Opens the rows of a file or of a sheet of it. */
export type OpenRows = (
  file: TracedFile,
  sheet: string | undefined,
  read: ReadOptions,
  known: ColumnAliases,
) => Promise<SourceRows | undefined>
const openFresh: OpenRows = (file, sheet, read, known) => openSourceRows(file.load(), sheet, read, known)

/** Answers where rows and cells of a run come from and what became of rows of its inputs; every answer is worked out when asked. */
export class Tracer {
  private readonly run: TracedRun
  private readonly inputs: Readonly<Record<string, TracedInput>>
  private readonly steps
  private readonly opened = new Map<Part, Promise<SourceRows | undefined>>()
  private readonly parts = new Map<string, readonly Part[]>()
  private readonly openRows: OpenRows
  /** @param openRows gives the rows of a file; a caller that asks often keeps them */
  constructor(run: TracedRun, inputs: Readonly<Record<string, TracedInput>>, openRows: OpenRows = openFresh) {
    this.run = run
    this.openRows = openRows
    this.inputs = inputs
    this.steps = placeSteps(run)
    for (const [id, input] of Object.entries(inputs)) this.parts.set(id, partsOf(input))
  }

  private labelOf(input: string, { file }: Part): string {
    const same = (ownValue(this.inputs, input)?.files ?? []).filter(({ name }) => name === file.name)
    return same.length > 1 ? (file.label ?? file.name) : file.name
  }
  private rowsOf(input: string, part: Part): Promise<SourceRows | undefined> {
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

  private tableOf(table: string): PlacedStep[] {
    const steps = this.steps.get(table)
    if (!steps || steps.length === 0) throw new TraceProblem(`The recipe has no table ${quoted(table)} that was made.`)
    return [...steps]
  }

  /** A row of an origin as it is named and what it holds; of the columns that are named, else of all. */
  private async sourceRow(
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

  /** The step after which a row, and a column of it, are asked about. @throws TraceProblem where one of them is not there */
  private placeOf(
    table: string,
    row: number,
    { column, after }: { readonly column: string | undefined; readonly after: string | undefined },
  ): PlacedStep {
    const steps = this.tableOf(table)
    const at = after === undefined ? steps.at(-1) : steps.find(({ step }) => step.id === after)
    if (!at) throw new TraceProblem(`The table ${quoted(table)} has no step ${quoted(after ?? '')} that ran.`)
    const made = at.traced.after
    if (!Number.isInteger(row) || row < 1 || row > made.rowCount)
      throw new TraceProblem(`The table ${quoted(table)} has no row ${row}: it has ${made.rowCount}.`)
    if (column !== undefined && made.positionOf(column) < 0)
      throw new TraceProblem(
        `The table ${quoted(table)} has no column ${quoted(column)}. It has ${made.names.map(quoted).join(', ')}.`,
      )
    return at
  }

  /** Where a row of a table, or a cell of it, comes from. Rows count from 1. @throws TraceProblem */
  async back(
    table: string,
    row: number,
    {
      column,
      after,
      limit = 100,
    }: { readonly column?: string | undefined; readonly after?: string | undefined; readonly limit?: number } = {},
  ): Promise<BackReport> {
    const at = this.placeOf(table, row, { column, after })
    const { origins, visits } = rowBack(this.steps, chainOf(this.run, table), at, row - 1, column)
    const order = this.run.recipe.inputs.map(({ id }) => id)
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
    return {
      table,
      row,
      ...(column === undefined ? {} : { column }),
      count,
      sources,
      steps: stepsOnTheWay(
        this.run.recipe,
        visits,
        column !== undefined,
        // of a cell the step that opened it is not listed
        column === undefined ? await this.openedSteps(visits) : new Map(),
      ),
    }
  }

  /** Of each step that opened rows, or holds typed-in ones, from where its first row on the way came. */
  private async openedSteps(visits: BackTrace['visits']): Promise<ReadonlyMap<PlacedStep, string>> {
    const opened = new Map<PlacedStep, string>()
    for (const { placed, rows } of visits)
      if (isOrigin(placed) && !opened.has(placed)) opened.set(placed, await this.openedWords(placed, rows.rows[0] ?? 0))
    return opened
  }
  private async openedWords(placed: PlacedStep, row: number): Promise<string> {
    const source = await this.sourceRow(placed, row, [])
    return 'entered' in source ? `typed in, row ${source.row}` : `opened from ${sourceWords(source)}`
  }

  /** The tables that are written; of a recipe that writes none, all. */
  private written(): ReadonlySet<string> {
    const { recipe } = this.run
    const written = writtenTables(recipe)
    return new Set(written.length > 0 ? written : recipe.tables.map(({ id }) => id))
  }

  /** How a row of a table is named after a step: by the first row of a file that it comes from. */
  private async rowName(placed: PlacedStep, row: number): Promise<string> {
    const [origin] = rowBack(this.steps, chainOf(this.run, placed.table), placed, row, undefined).origins
    const first = origin && originRows(origin, 1).rows[0]
    if (!origin || !first) return `row ${row + 1}`
    const source = await this.sourceRow(origin.placed, first.row, [])
    const input = inputOf(origin.placed)
    const several = input !== undefined && (this.parts.get(input)?.length ?? 0) > 1
    if ('entered' in source || !several) return `row ${source.row}`
    return `row ${source.row} of ${source.sheet ?? source.file}`
  }

  /** Why a row left, in words of its own values. */
  async whyLeft(leaving: Leaving): Promise<string> {
    const own = this.steps.get(leaving.placed.table) ?? []
    const before = own[own.indexOf(leaving.placed) - 1]
    // which rows it names is known once it was said
    const names = new Map<number, string>()
    leftWords(leaving, (row) => {
      names.set(row, '')
      return ''
    })
    for (const row of before ? names.keys() : []) names.set(row, await this.rowName(before as PlacedStep, row))
    return leftWords(leaving, (row) => names.get(row) ?? `row ${row + 1}`)
  }

  private async fateReport(table: string, fate: Fate, limit: number): Promise<FateReport> {
    if ('rows' in fate)
      return { table, rows: [...fate.rows.subarray(0, limit)].map((row) => row + 1), count: fate.rows.length }
    return { table, left: { ...this.sentenceOf(fate.left.placed), why: await this.whyLeft(fate.left) } }
  }
  private sentenceOf({ step }: PlacedStep): { step: string; sentence: string } {
    return { step: step.id, sentence: sentenceText(step, tableNames(this.run.recipe)) }
  }
  private async fates(origin: PlacedStep, row: number, limit: number): Promise<FateReport[]> {
    const written = this.written()
    const found = [...fatesOf(this.steps, origin, row)].filter(([table]) => written.has(table))
    return Promise.all(found.map(([table, fate]) => this.fateReport(table, fate, limit)))
  }
  private originOf(input: string): PlacedStep {
    const placed = [...this.steps.values()].flat().find((one) => isOrigin(one) && inputOf(one) === input)
    if (!placed) throw new TraceProblem(`No table opens ${quoted(input)}.`)
    return placed
  }

  /** What became of a typed-in row. Rows count from 1. @throws TraceProblem */
  async forwardEntered(table: string, row: number, limit = 100): Promise<ForwardReport> {
    const [placed] = this.tableOf(table)
    if (!placed || !isOrigin(placed) || inputOf(placed) !== undefined)
      throw new TraceProblem(`The rows of ${quoted(table)} are not typed in.`)
    if (!Number.isInteger(row) || row < 1 || row > placed.traced.after.rowCount)
      throw new TraceProblem(`${quoted(table)} has no row ${row}: it has ${placed.traced.after.rowCount}.`)
    const { values, columns: _columns, ...name } = await this.sourceRow(placed, row - 1, [])
    return { ...name, values, fates: await this.fates(placed, row - 1, limit) }
  }

  /** What became of a row of a file, counted as a person counts rows. @throws TraceProblem */
  async forward(
    input: string,
    file: string,
    sheet: string | undefined,
    record: number,
    limit = 100,
  ): Promise<ForwardReport> {
    const part = this.partNamed(input, file, sheet)
    const source = await this.rowsOf(input, part)
    const found = source?.rowOf(record)
    const label = this.labelOf(input, part)
    const of = part.sheet === undefined ? label : `the sheet ${quoted(part.sheet)} of ${label}`
    if (!source || !found) throw new TraceProblem(`There is no row ${record} in ${of}.`)
    const origin = this.originOf(input)
    const name = { input, file: label, ...(part.sheet === undefined ? {} : { sheet: part.sheet }), row: record }
    const values = source.textsOf(record)
    if ('row' in found) return { ...name, values, fates: await this.fates(origin, part.from + found.row, limit) }
    const written = this.written()
    const left = { ...this.sentenceOf(origin), why: whyLeftOut[found.leftOut] }
    const reached = [...this.steps.keys()].filter(
      (table) => written.has(table) && chainOf(this.run, table).includes(origin.table),
    )
    return { ...name, values, fates: reached.map((table) => ({ table, left })) }
  }

  private partNamed(input: string, file: string, sheet: string | undefined): Part {
    const all = this.parts.get(input) ?? []
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

  /** Where the rows of an input went that a table is made from. */
  conservation(table: string, input: string): Conservation | undefined {
    return conservation({ steps: this.steps, tables: chainOf(this.run, table) }, table, input)
  }

  /** The rows that left at a step, by why they did; of each reason the first are named. */
  private async reasonsOf(
    { placed, rows, lastRows }: Conservation['left'][number],
    input: string,
    limit: number,
  ): Promise<LostReason[]> {
    const reasons = new Map<string, number[]>()
    const reasonOf = reasonsAt(placed)
    rows.forEach((row, i) => {
      const why = reasonOf(lastRows[i] as { row: number; table: string | undefined })
      const known = reasons.get(why)
      if (known) known.push(row)
      else reasons.set(why, [row])
    })
    const origin = this.originOf(input)
    const place = `${tableNames(this.run.recipe)(placed.table)} ${placed.number}`
    return Promise.all(
      [...reasons].map(async ([why, all]) => ({
        ...this.sentenceOf(placed),
        place,
        why,
        count: all.length,
        rows: await Promise.all(
          all.slice(0, limit).map(async (row) => {
            const { values: _values, columns: _columns, ...name } = await this.sourceRow(origin, row, [])
            return 'entered' in name
              ? { file: name.entered, row: name.row }
              : { file: name.file, row: name.row, ...(name.sheet === undefined ? {} : { sheet: name.sheet }) }
          }),
        ),
      })),
    )
  }

  /** Of every input that a table is made from, how many of its rows are in it, and where and why the others left. */
  async lost(table: string, limit: number): Promise<readonly LostRows[]> {
    this.tableOf(table)
    const found: LostRows[] = []
    for (const { id, name } of this.run.recipe.inputs) {
      const count = this.conservation(table, id)
      if (!count) continue
      const left: LostReason[] = []
      for (const one of count.left) left.push(...(await this.reasonsOf(one, id, limit)))
      found.push({
        input: id,
        name,
        opened: count.opened,
        inResult: count.inResult,
        withoutFigure: count.withoutFigure ?? null,
        left: left.sort((a, b) => b.count - a.count),
      })
    }
    return found
  }
}
