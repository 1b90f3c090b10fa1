import type { Language } from '../codegen/dialect.ts'
import type { Code } from '../codegen/tag.ts'
import type { Cell, Column, ColumnType } from '../table/column.ts'
import type { NumberFormula } from '../kernels/table-kernels.ts'
import type { Bounds } from '../table/ranges.ts'

/** The type of a formula's part; `empty` is what only EMPTY has, and it fits anywhere. */
export type FormulaType = ColumnType | 'empty'

/** What a function takes in a place: `moment` is a date or date-time, `clock` a date-time or time, `written` a number or moment that a pattern can write. */
export type ArgumentType = 'number' | 'text' | 'boolean' | 'moment' | 'clock' | 'list' | 'written' | 'any'

/** A place of a function: its name, what it takes, whether it may be left out or repeated. */
export type Argument = {
  readonly name: string
  readonly need: ArgumentType
  readonly optional?: true
  /** This and any number more of it. */
  readonly rest?: true
  /** Must stand in the formula as a constant; refused before the run with this reason where it cannot be right beside arguments of these types. */
  readonly constant?: (value: Cell, types: readonly FormulaType[]) => string | undefined
}

/** The moment of the run, the same in every cell: milliseconds of the wall clock. */
export type RunClock = { readonly now: number }

/** A cell that could not be computed: it becomes empty and is counted. */
export const failed = Symbol('failed')
/** A cell, or `failed`. */
export type CallResult = Cell | typeof failed

/** Writes a call in a dialect from its written arguments, their types, and those arguments that are constants. */
export type WriteCall = (
  args: readonly Code[],
  types: readonly FormulaType[],
  constants: readonly (Cell | undefined)[],
) => Code

/** Bounds of results, `least` where it is known; `failsAtZero`: the place of the argument at whose 0 there is none. */
export type ResultBounds = Pick<Bounds, 'low' | 'high'> & { readonly least?: number; readonly failsAtZero?: number }

/** A function of the formula language: its types, how it is computed, how each dialect writes it, and examples. */
export type FormulaFunction = {
  readonly name: string
  readonly group: 'logic' | 'number' | 'text' | 'date and time' | 'list' | 'operator'
  readonly about: string
  readonly args: readonly Argument[]
  /** `same`: the one type that all arguments from place `sameFrom` on agree in. */
  readonly result: ColumnType | 'same' | ((types: readonly FormulaType[]) => ColumnType)
  readonly sameFrom?: number
  /** Its arguments agree in one type, as items of a list. */
  readonly gathers?: true
  /**
   * When an empty result of filled arguments is a failure: always where nothing is said, `never`, or where this holds.
   * IFERROR asks for it, as in scripts a cell that failed and one that is empty look alike.
   */
  readonly fails?:
    | 'never'
    | {
        readonly sql: (args: readonly Code[], constants: readonly (Cell | undefined)[]) => Code
        /** A lambda over the arguments. */ readonly python: (constants: readonly (Cell | undefined)[]) => Code
      }
  /** Sees its empty arguments. All others give empty where one is empty. */
  readonly seesEmpty?: true
  readonly call: (args: readonly Cell[], types: readonly FormulaType[], moment: RunClock) => CallResult
  /** A faster way over whole columns for some types; undefined where there is none. The result may be written to `spare`, the values of an argument that nobody else holds. */
  readonly vector?: (
    args: readonly (Column | Cell)[],
    types: readonly FormulaType[],
    rowCount: number,
    spare: Float64Array | undefined,
  ) => { column: Column; failures: Int32Array } | undefined
  /** The bounds of its results for arguments within these; undefined where one of them could fail, but at 0 of `failsAtZero`. */
  readonly bounds?: (args: readonly Bounds[]) => ResultBounds | undefined
  /** Whether no call fails, whatever its arguments; or none with these constants among them. */
  readonly total?: true | ((constants: readonly (Cell | undefined)[]) => boolean)
  /** The call as a formula over whole columns of numbers, where `bounds` are had. */
  readonly numbers?: (args: readonly NumberFormula[]) => NumberFormula
  /** The call in each dialect; by a helper of the dialect unless the language has the function itself. */
  readonly scripts: { readonly [L in Language]: WriteCall } & {
    /** The call by what pandas has for whole columns, where one argument at least is a column; undefined where it would not give the same. */
    readonly pandas?: (...call: Parameters<WriteCall>) => Code | undefined
  }
  /** Formulas without columns and what they give, as CSV writes it ("" is empty). Run three ways. */
  readonly examples: readonly (readonly [formula: string, gives: string])[]
}
