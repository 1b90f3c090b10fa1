import { rowsACopy } from './in-module.ts'
import type { Instance } from './instance.ts'
import { operations, type NumberFormula } from './table-kernels.ts'

/** Formulas over columns of numbers, some thousand rows at a time. A column that several of them read is copied into the module once. */
export class FormulaBlocks {
  private readonly instance: Instance
  private readonly columns = new Map<Float64Array, number>()
  private readonly alone: (readonly [column: Float64Array, at: number])[] = []
  private readonly calls: (readonly [code: number, left: number, right: number, made: number])[] = []
  private readonly constants: (readonly [value: number, at: number])[] = []
  private given: readonly { readonly from: Float64Array; readonly view: Float64Array }[] | undefined
  constructor(instance: Instance) {
    this.instance = instance
  }
  /** The address of the block that the numbers of a formula come to stand in. All are asked for before the first block is filled. */
  placeOf(part: NumberFormula): number {
    const known = part instanceof Float64Array ? this.columns.get(part) : undefined
    if (known !== undefined) return known
    const at = this.instance.run.allocate(rowsACopy * 8)
    if (typeof part === 'number') this.constants.push([part, at])
    else if (part instanceof Float64Array) this.columns.set(part, at)
    else this.calls.push([operations.indexOf(part.operation), this.placeOf(part.left), this.placeOf(part.right), at])
    return at
  }
  /** As `placeOf`, of a block that nobody else reads, so that it may be written to. */
  ownPlaceOf(part: NumberFormula): number {
    // the block of a constant is filled once alone
    if (typeof part === 'number') return this.placeOf({ operation: '+', left: part, right: 0 })
    if (!(part instanceof Float64Array)) return this.placeOf(part)
    const at = this.instance.run.allocate(rowsACopy * 8)
    this.alone.push([part, at])
    return at
  }
  /** Views last from here on, as no memory is asked for any more. */
  private begin() {
    for (const [value, at] of this.constants) this.instance.float64s(at, rowsACopy).fill(value)
    return [...this.columns, ...this.alone].map(([from, at]) => ({ from, view: this.instance.float64s(at, rowsACopy) }))
  }
  /** Computes the rows from `from` up to `end`, of which there are no more than `rowsACopy`. */
  fill(from: number, end: number): void {
    this.given ??= this.begin()
    for (const one of this.given) one.view.set(one.from.subarray(from, end))
    // what an odd count leaves of the block before is computed too
    for (const [code, left, right, at] of this.calls)
      this.instance.run.arithmetic(code, left, right, at, (end - from + 1) & ~1, Infinity)
  }
}
