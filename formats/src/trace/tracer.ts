import {
  chainOf,
  conservation,
  fatesOf,
  inputOf,
  isOrigin,
  leftWords,
  reasonsAt,
  originRows,
  placeSteps,
  quoted,
  rowBack,
  sentenceText,
  stepsOnTheWay,
  tableNames,
  writtenTables,
  passedOver,
  traceBack,
  type BackTrace,
  type Conservation,
  type Fate,
  type Leaving,
  type PlacedStep,
  type TracedRun,
} from '@fabula/core'
import { InputRows, openFresh, type OpenRows } from './input-rows.ts'
import type { LeftOut } from './source-rows.ts'
import {
  sourceWords,
  TraceProblem,
  type BackReport,
  type FateReport,
  type ForwardReport,
  type LostReason,
  type LostRows,
  type SourceRowsListed,
  type StepSpan,
  type TracedInput,
} from './reports.ts'

const whyLeftOut: Readonly<Record<LeftOut, string>> = {
  blank: 'blank row',
  names: 'it gives the names of the columns',
  'above-names': 'it stands above the names of the columns',
  skipped: 'it is skipped, below the names of the columns',
  'outside-range': 'it is outside the range that is read',
  foot: 'it is of the foot, which is left out',
}

const noSources: SourceRowsListed = { count: 0, sources: [] }

/** Answers where rows and cells of a run come from and what became of rows of its inputs; every answer is worked out when asked. */
export class Tracer {
  private readonly run: TracedRun
  private readonly steps
  /** The rows of the inputs as their files hold them. */
  readonly rows: InputRows
  /** @param openRows gives the rows of a file; a caller that asks often keeps them */
  constructor(run: TracedRun, inputs: Readonly<Record<string, TracedInput>>, openRows: OpenRows = openFresh) {
    this.run = run
    this.rows = new InputRows(run.recipe, inputs, openRows)
    this.steps = placeSteps(run)
  }

  private tableOf(table: string): PlacedStep[] {
    const steps = this.steps.get(table)
    if (!steps || steps.length === 0) throw new TraceProblem(`The recipe has no table ${quoted(table)} that was made.`)
    return [...steps]
  }

  /** The step after which a row, and a column of it, are asked about. @throws TraceProblem where one of them is not there */
  private placeOf(
    table: string,
    row: number | undefined,
    { column, after }: { readonly column: string | undefined; readonly after: string | undefined },
  ): PlacedStep {
    const steps = this.tableOf(table)
    const at = after === undefined ? steps.at(-1) : steps.find(({ step }) => step.id === after)
    if (!at) throw new TraceProblem(`The table ${quoted(table)} has no step ${quoted(after ?? '')} that ran.`)
    const made = at.traced.after
    if (row !== undefined && (!Number.isInteger(row) || row < 1 || row > made.rowCount))
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
    return this.backReport({ table, row, column }, this.wayBack(table, row, column, after), limit)
  }

  /** Where a row or a cell comes from, and of a figure the rows of its group that it passed over, with their texts in the files. @throws TraceProblem */
  async backWithPassedOver(
    table: string,
    row: number,
    {
      column,
      after,
      limit,
    }: { readonly column?: string | undefined; readonly after?: string | undefined; readonly limit: number },
  ): Promise<BackReport & { readonly passedOver: SourceRowsListed }> {
    const way = this.wayBack(table, row, column, after)
    const report = await this.backReport({ table, row, column }, way, limit)
    const passed = passedOver(this.steps, way)
    if (!passed) return { ...report, passedOver: noSources }
    const { origins } = traceBack(this.steps, chainOf(this.run, passed.at.table), passed.at, passed.rows, [
      passed.column,
    ])
    return { ...report, passedOver: await this.rows.sourcesOf(origins, limit) }
  }

  private wayBack(table: string, row: number, column: string | undefined, after: string | undefined): BackTrace {
    const at = this.placeOf(table, row, { column, after })
    return rowBack(this.steps, chainOf(this.run, table), at, row - 1, column)
  }
  private async backReport(
    { table, row, column }: { readonly table: string; readonly row: number; readonly column: string | undefined },
    { origins, visits }: BackTrace,
    limit: number,
  ): Promise<BackReport> {
    const { count, sources } = await this.rows.sourcesOf(origins, limit)
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
    const source = await this.rows.sourceRow(placed, row, [])
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
    const source = await this.rows.sourceRow(origin.placed, first.row, [])
    const input = inputOf(origin.placed)
    const several = input !== undefined && this.rows.partsOf(input).length > 1
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
    const { values, columns: _columns, ...name } = await this.rows.sourceRow(placed, row - 1, [])
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
    const part = this.rows.partNamed(input, file, sheet)
    const source = await this.rows.rowsOf(input, part)
    const found = source?.rowOf(record)
    const label = this.rows.labelOf(input, part)
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

  /** Where the rows of an input went that a table is made from; between two steps of it, where they are given. @throws TraceProblem */
  conservation(table: string, input: string, { since, until }: StepSpan = {}): Conservation | undefined {
    const own = this.tableOf(table)
    const stepOf = (id: string | undefined): PlacedStep | undefined =>
      id === undefined ? undefined : this.placeOf(table, undefined, { column: undefined, after: id })
    const last = stepOf(until)
    const kept = last ? own.slice(0, own.indexOf(last) + 1) : own
    const { recipe } = this.run
    const cut = recipe.tables.map((one) => (one.id === table ? { ...one, steps: kept.map(({ step }) => step) } : one))
    // what comes in after the second step does not count
    const tables = chainOf({ ...this.run, recipe: { ...recipe, tables: cut } }, table)
    const steps = new Map(this.steps).set(table, kept)
    return conservation({ steps, tables }, table, input, stepOf(since))
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
            const { values: _values, columns: _columns, ...name } = await this.rows.sourceRow(origin, row, [])
            return 'entered' in name
              ? { file: name.entered, row: name.row }
              : { file: name.file, row: name.row, ...(name.sheet === undefined ? {} : { sheet: name.sheet }) }
          }),
        ),
      })),
    )
  }

  /** Of every input that a table is made from, how many of its rows are in it, and where and why the others left; between two of its steps, where they are given. @throws TraceProblem */
  async lost(table: string, limit: number, span: StepSpan = {}): Promise<readonly LostRows[]> {
    this.tableOf(table)
    const found: LostRows[] = []
    for (const { id, name } of this.run.recipe.inputs) {
      const count = this.conservation(table, id, span)
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
