import { ownValue } from '../table/own.ts'
import {
  asDictionary,
  cellAt,
  columnWriter,
  lengthOf,
  type Cell,
  type Column,
  type ColumnType,
  type TextColumn,
} from '../table/column.ts'
import { gather } from '../table/gather.ts'
import { bitmap, uint8s, isSet, IntList, int32s, set, type Bitmap } from '../kernels/memory.ts'
import type { Table } from '../table/table.ts'
import type { TypedNode } from './check.ts'
import { failed, type RunClock, type FormulaType } from './function-kind.ts'

/** What a formula is computed in beside its table: parameters and the clock of the run. */
export type Environment = RunClock & { readonly parameters: Readonly<Record<string, Cell>> }

/** A value per row, or one for all; with the rows that could not be computed. */
type EvaluatedPart = { readonly given: Column | Cell; readonly failures: Int32Array }
const none = new Int32Array(0)

const isColumn = (given: Column | Cell): given is Column => typeof given === 'object' && given !== null
const cellOf = (given: Column | Cell, row: number): Cell => (isColumn(given) ? cellAt(given, row) : given)

const union = (lists: readonly Int32Array[], rowCount: number): Int32Array => {
  const some = lists.filter((list) => list.length > 0)
  if (some.length <= 1) return some[0] ?? none
  const marks = bitmap(rowCount)
  for (const list of some) for (const row of list) set(marks, row)
  return marked(marks, rowCount)
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
    this.writer = columnWriter(type === 'empty' ? 'text' : type, length)
  }
  set(row: number, outcome: Cell | typeof failed): void {
    if (outcome === failed) this.failures.push(row)
    else this.writer.set(row, outcome === '' ? null : outcome)
  }
  done(): EvaluatedPart {
    return { given: this.writer.done(), failures: this.failures.done() }
  }
}

type CallNode = Extract<TypedNode, { kind: 'call' }>

class Evaluator {
  private readonly table: Table
  private readonly environment: Environment
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
    const fast = node.fn.vector?.(given, types, this.table.rowCount)
    if (fast) return this.reported(fast.column, [...inherited, fast.failures])
    const columns = given.filter(isColumn)
    const [only] = columns
    const byWord =
      columns.length === 1 &&
      only?.type === 'text' &&
      only.form === 'dictionary' &&
      only.dictionary.length < this.table.rowCount
    const own = byWord ? this.perWord(node, given, types, only) : this.perRow(node, given, types)
    return this.reported(own.given, [...inherited, own.failures])
  }

  /** A row whose part failed is a failure where its result is empty: COALESCE(1 / 0; 5) is 5. */
  private reported(given: Column | Cell, failures: readonly Int32Array[]): EvaluatedPart {
    return { given, failures: union(failures, this.table.rowCount).filter((row) => cellOf(given, row) === null) }
  }

  private compute(node: CallNode, cells: Cell[], types: readonly FormulaType[]): Cell | typeof failed {
    if (!node.fn.seesEmpty && cells.includes(null)) return null
    return node.fn.call(cells, types, this.environment)
  }

  private once(node: CallNode, cells: Cell[], types: readonly FormulaType[]): EvaluatedPart {
    const outcome = this.compute(node, cells, types)
    if (outcome !== failed) return { given: outcome === '' ? null : outcome, failures: none }
    return { given: null, failures: Int32Array.from({ length: this.table.rowCount }, (_, i) => i) }
  }

  private perRow(node: CallNode, given: readonly (Column | Cell)[], types: readonly FormulaType[]): EvaluatedPart {
    const results = new Results(node.type, this.table.rowCount)
    for (let i = 0; i < this.table.rowCount; i++)
      results.set(
        i,
        this.compute(
          node,
          given.map((one) => cellOf(one, i)),
          types,
        ),
      )
    return results.done()
  }

  /** One text column among constants: worked out once per distinct word. */
  private perWord(
    node: CallNode,
    given: readonly (Column | Cell)[],
    types: readonly FormulaType[],
    text: TextColumn,
  ): EvaluatedPart {
    const { indices, dictionary } = asDictionary(text)
    const results = new Results(node.type, dictionary.length)
    dictionary.forEach((word, code) =>
      results.set(
        code,
        this.compute(
          node,
          given.map((one) => (isColumn(one) ? word || null : one)),
          types,
        ),
      ),
    )
    const { given: perWord, failures } = results.done()
    const bad = uint8s(dictionary.length)
    for (const code of failures) bad[code] = 1
    const index = int32s(indices.length)
    const rows = new IntList()
    for (let i = 0; i < indices.length; i++) {
      index[i] = indices[i]!
      if (bad[indices[i]!]) rows.push(i)
    }
    return { given: gather(perWord as Column, index), failures: rows.done() }
  }
}

/** A column with the rows in which it could not be computed. */
export type Evaluated = { readonly column: Column; readonly failures: Int32Array }

/** The formula's column over a table, with the rows whose cell could not be computed. */
export const evaluateFormula = (
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
