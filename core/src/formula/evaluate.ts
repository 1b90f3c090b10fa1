import { ownValue } from '../table/own.ts'
import {
  cellAt,
  columnWriter,
  isTextColumn,
  lengthOf,
  rowWriter,
  type Cell,
  type Column,
  type ColumnType,
} from '../table/column.ts'
import { rowReader } from '../table/stored-text.ts'
import { gather, layOut } from '../table/gather.ts'
import { kernels } from '../kernels/kernels.ts'
import { bitmap, uint8s, int32s, isSet, IntList, set, type Bitmap } from '../kernels/memory.ts'
import type { DenseCodes } from '../kernels/table-kernels.ts'
import { product, readyCodes } from '../table/codes.ts'
import type { Table } from '../table/table.ts'
import type { TypedNode } from './check.ts'
import { failed, type FormulaFunction, type FormulaType, type RunClock } from './function-kind.ts'

/** What a formula is computed in beside its table: parameters and the clock of the run. */
export type Environment = RunClock & { readonly parameters: Readonly<Record<string, Cell>> }

/** A value per row, or one for all; with the rows that could not be computed. */
type EvaluatedPart = { readonly given: Column | Cell; readonly failures: Int32Array }
const none = new Int32Array(0)

const isColumn = (given: Column | Cell): given is Column => typeof given === 'object' && given !== null
const cellOf = (given: Column | Cell, row: number): Cell => (isColumn(given) ? cellAt(given, row) : given)

/** Rows of two ascending lists, each once. */
export const mergedRows = (a: Int32Array, b: Int32Array): Int32Array => {
  if (a.length === 0 || b.length === 0) return a.length === 0 ? b : a
  const rows = int32s(a.length + b.length)
  let n = 0
  for (let i = 0, k = 0; i < a.length || k < b.length;) {
    const row = k >= b.length || (i < a.length && a[i]! <= b[k]!) ? a[i]! : b[k]!
    if (a[i] === row) i++
    if (b[k] === row) k++
    rows[n++] = row
  }
  return rows.subarray(0, n)
}
/** Of some rows those whose bit is so; without a bitmap none is set. */
export const rowsOfBit = (rows: Int32Array, bits: Bitmap | undefined, wanted: 0 | 1): Int32Array => {
  if (!bits) return wanted === 0 ? rows : none
  const found = int32s(rows.length)
  let n = 0
  for (let i = 0; i < rows.length; i++) {
    const row = rows[i]!
    found[n] = row
    n += ((bits[row >> 3]! >> (row & 7)) & 1) ^ wanted ^ 1
  }
  return found.subarray(0, n)
}
const marked = (marks: Bitmap, rowCount: number): Int32Array => {
  const rows = new IntList()
  for (let i = 0; i < rowCount; i++) if (isSet(marks, i)) rows.push(i)
  return rows.done()
}

/** A result written cell by cell: "" is empty, what failed is empty and listed. */
class Results {
  readonly failures = new IntList()
  private readonly writer
  constructor(type: FormulaType, length: number) {
    this.writer = rowWriter(type === 'empty' ? 'text' : type, length)
  }
  set(row: number, outcome: Cell | typeof failed): void {
    if (outcome === failed) this.failures.push(row)
    else this.writer.set(row, outcome === '' ? null : outcome)
  }
  done(): EvaluatedPart {
    return { given: this.writer.done(), failures: this.failures.done() }
  }
}

/** Reads the cells of a column one after another. */
const reader = (column: Column): ((row: number) => Cell) => {
  if (!isTextColumn(column) || column.form === 'dictionary') return (row) => cellAt(column, row)
  const text = rowReader(column)
  return (row) => text(row) || null
}

/** The numbers of a column of such. */
const valuesOf = (column: Column): Float64Array | undefined =>
  !isTextColumn(column) && column.values instanceof Float64Array ? column.values : undefined

/** The outcome of one call. */
export const compute = (
  fn: FormulaFunction,
  cells: readonly Cell[],
  types: readonly FormulaType[],
  clock: RunClock,
): Cell | typeof failed => (!fn.seesEmpty && cells.includes(null) ? null : fn.call(cells, types, clock))

type CallNode = Extract<TypedNode, { kind: 'call' }>

class Evaluator {
  private readonly table: Table
  private readonly environment: Environment
  private readonly codes = new Map<Column, DenseCodes>()
  /** Columns that a vector function made of values of its own. */
  private readonly made = new Set<Column>()
  constructor(table: Table, environment: Environment) {
    this.table = table
    this.environment = environment
  }

  value(node: TypedNode): EvaluatedPart {
    if (node.kind === 'constant') return { given: node.value, failures: none }
    if (node.kind === 'parameter')
      return { given: ownValue(this.environment.parameters, node.name) ?? null, failures: none }
    if (node.kind === 'column') return { given: this.table.named(node.name), failures: none }
    if (node.fn.name === 'IF') return this.choice(node)
    return node.fn.name === 'IFERROR' ? this.instead(node) : this.call(node)
  }

  /** The second value where the first could not be computed; it counts its own failures there. */
  private instead(node: CallNode): EvaluatedPart {
    const [first, second] = node.args.map((arg) => this.value(arg)) as [EvaluatedPart, EvaluatedPart]
    if (first.failures.length === 0) return first
    const results = new Results(node.type, this.table.rowCount)
    const failing = bitmap(this.table.rowCount)
    for (const row of first.failures) set(failing, row)
    for (let i = 0; i < this.table.rowCount; i++)
      results.set(i, cellOf(isSet(failing, i) ? second.given : first.given, i))
    return { ...results.done(), failures: second.failures.filter((row) => isSet(failing, row)) }
  }

  /** A branch that is not taken does not count its failures. */
  private choice(node: CallNode): EvaluatedPart {
    const [condition, yes, no] = node.args.map((arg) => this.value(arg)) as [
      EvaluatedPart,
      EvaluatedPart,
      EvaluatedPart | undefined,
    ]
    const results = new Results(node.type, this.table.rowCount)
    const counts = bitmap(this.table.rowCount)
    const taken = uint8s(this.table.rowCount)
    for (let i = 0; i < this.table.rowCount; i++) {
      taken[i] = cellOf(condition.given, i) === true ? 1 : 0
      results.set(i, cellOf(taken[i] ? yes.given : (no?.given ?? null), i))
    }
    const { given } = results.done()
    for (const row of condition.failures) if (cellOf(given, row) === null) set(counts, row)
    for (const row of yes.failures) if (taken[row]) set(counts, row)
    for (const row of no?.failures ?? none) if (!taken[row]) set(counts, row)
    return { given, failures: marked(counts, this.table.rowCount) }
  }

  private call(node: CallNode): EvaluatedPart {
    const args = node.args.map((arg) => this.value(arg))
    const types = node.args.map((arg) => arg.type)
    const inherited = args.map(({ failures }) => failures)
    const given = args.map((arg) => arg.given)
    if (given.every((one) => !isColumn(one))) {
      const own = this.once(node, given as Cell[], types)
      return this.reported(own.given, [...inherited, own.failures])
    }
    const spare = this.spare(node, given)
    const fast = node.fn.vector?.(given, types, this.table.rowCount, spare)
    if (fast) {
      const values = valuesOf(fast.column)
      if (values && (values === spare || !given.some((one) => isColumn(one) && valuesOf(one) === values)))
        this.made.add(fast.column)
      return this.reported(fast.column, [...inherited, fast.failures])
    }
    const most = this.table.rowCount >> 1
    // what is equal is computed once
    const codes = codesTogether(given.filter(isColumn), most, (column) => this.codesOfColumn(column, most))
    const own = codes ? this.perCode(node, given, types, codes) : this.perRow(node, given, types)
    return this.reported(own.given, [...inherited, own.failures])
  }

  /** The values of an argument that nobody else holds, as they were just computed: the result may be written over them. */
  private spare(node: CallNode, given: readonly (Column | Cell)[]): Float64Array | undefined {
    for (const [i, one] of given.entries())
      if (isColumn(one) && node.args[i]?.kind === 'call' && this.made.has(one)) return valuesOf(one)
    return undefined
  }

  private codesOfColumn(column: Column, most: number): DenseCodes | undefined {
    const known = this.codes.get(column)
    if (known) return known
    const codes = readyCodes(column, most)
    if (codes) this.codes.set(column, codes)
    return codes
  }

  /** A row whose part failed is a failure where its result is empty: COALESCE(1 / 0; 5) is 5. */
  private reported(given: Column | Cell, failures: readonly Int32Array[]): EvaluatedPart {
    const all = failures.reduce(mergedRows, none)
    if (all.length > 0 && isColumn(given) && !isTextColumn(given))
      return { given, failures: rowsOfBit(all, given.nulls, 1) }
    return { given, failures: all.length === 0 ? all : all.filter((row) => cellOf(given, row) === null) }
  }

  private once(node: CallNode, cells: Cell[], types: readonly FormulaType[]): EvaluatedPart {
    const outcome = compute(node.fn, cells, types, this.environment)
    if (outcome !== failed) return { given: outcome === '' ? null : outcome, failures: none }
    return { given: null, failures: Int32Array.from({ length: this.table.rowCount }, (_, i) => i) }
  }

  private perRow(node: CallNode, given: readonly (Column | Cell)[], types: readonly FormulaType[]): EvaluatedPart {
    const results = new Results(node.type, this.table.rowCount)
    const cells = given.map((one) => (isColumn(one) ? null : one))
    const columns = given.flatMap((one, at) => (isColumn(one) ? [{ at, cell: reader(one) }] : []))
    for (let i = 0; i < this.table.rowCount; i++) {
      for (const { at, cell } of columns) cells[at] = cell(i)
      results.set(i, compute(node.fn, cells, types, this.environment))
    }
    return results.done()
  }
  /** Once for each code that is met, by the first row that has it. */
  private perCode(
    node: CallNode,
    given: readonly (Column | Cell)[],
    types: readonly FormulaType[],
    { codes, bound }: DenseCodes,
  ): EvaluatedPart {
    const results = new Results(node.type, bound)
    const first = kernels().firstRows({ codes, bound })
    for (let code = 0; code < bound; code++)
      if (first[code]! >= 0) {
        const cells = given.map((one) => cellOf(one, first[code]!))
        results.set(code, compute(node.fn, cells, types, this.environment))
      }
    const { given: perCode, failures } = results.done()
    return {
      given: layOut(
        withoutUnmet(perCode as Column, () => first),
        codes,
      ),
      failures: rowsOf(failures, codes, bound),
    }
  }
}

/** Codes that no row has leave empty cells, which are none of the column's. */
export const withoutUnmet = (perCode: Column, firstRows: () => Int32Array): Column => {
  if (isTextColumn(perCode) || !perCode.nulls) return perCode
  const first = firstRows()
  for (let code = 0; code < first.length; code++) if (first[code]! >= 0 && isSet(perCode.nulls, code)) return perCode
  return { ...perCode, nulls: undefined }
}

/** The rows of some codes. */
const rowsOf = (failing: Int32Array, codes: Uint32Array, bound: number): Int32Array => {
  if (failing.length === 0) return none
  const bad = uint8s(bound)
  for (const code of failing) bad[code] = 1
  return kernels().rowsOfCodes(codes, bad, 1)
}

/** A column with the rows in which it could not be computed. */
export type Evaluated = { readonly column: Column; readonly failures: Int32Array }

/** The formula's column computed row by row, whatever its columns hold. */
export const evaluateRows = (
  formula: TypedNode,
  type: ColumnType,
  table: Table,
  environment: Environment,
): Evaluated => {
  const { given, failures } = new Evaluator(table, environment).value(formula)
  if (isColumn(given) && lengthOf(given) === table.rowCount) return { column: given, failures }
  const writer = columnWriter(type, table.rowCount)
  for (let i = 0; i < table.rowCount; i++) writer.set(i, given === '' ? null : (given as Cell))
  return { column: writer.done(), failures }
}

/** The columns that a formula names, and whether some of its functions are computed a cell at a time. */
export const readsOf = (node: TypedNode): { readonly columns: readonly string[]; readonly byCell: boolean } => {
  if (node.kind !== 'call') return { columns: node.kind === 'column' ? [node.name] : [], byCell: false }
  const args = node.args.map(readsOf)
  return {
    columns: [...new Set(args.flatMap(({ columns }) => columns))],
    byCell: !node.fn.vector || args.some(({ byCell }) => byCell),
  }
}

/** The formula's column over a table, with the rows whose cell could not be computed. Where its columns have few values together it is computed once for each. */
export const evaluateFormula = (
  formula: TypedNode,
  type: ColumnType,
  table: Table,
  environment: Environment,
): Evaluated => {
  const { columns, byCell } = readsOf(formula)
  const codes = byCell
    ? codesTogether(
        columns.map((name) => table.named(name)),
        table.rowCount >> 1,
        readyCodes,
      )
    : undefined
  if (!codes) return evaluateRows(formula, type, table, environment)
  const first = kernels().firstRows(codes)
  const met = first.filter((row) => row >= 0)
  const places = int32s(codes.bound)
  for (let code = 0, place = 0; code < codes.bound; code++) if (first[code]! >= 0) places[code] = place++
  const positions = columns.map((name) => table.positionOf(name))
  const { column, failures } = evaluateRows(formula, type, table.select(positions).rows(met), environment)
  return {
    column: layOut(gather(column, places), codes.codes),
    failures: rowsOf(
      failures.map((row) => codes.codes[met[row]!]!),
      codes.codes,
      codes.bound,
    ),
  }
}

/** Codes of rows by several columns together; undefined where there are none below `most`. */
const codesTogether = (
  columns: readonly Column[],
  most: number,
  codesOfOne: (column: Column, most: number) => DenseCodes | undefined,
): DenseCodes | undefined => {
  let all: DenseCodes | undefined
  for (const column of columns) {
    const codes = codesOfOne(column, most)
    if (!codes || (all && all.bound * codes.bound > most)) return undefined
    all = all ? product(all, codes) : codes
  }
  return all
}
