import type { Figure, StepStatistics } from './statistics.ts'
import type { z } from 'zod'
import type { ParameterTypes } from '../../formula/check.ts'
import type { Environment } from '../../formula/evaluate.ts'
import type { RowSet } from '../../table/row-set.ts'
import type { Language, StepCode } from '../../codegen/dialect.ts'
import type { Code } from '../../codegen/tag.ts'
import type { Groups } from '../../kernels/table-kernels.ts'
import type { ColumnType } from '../../table/column.ts'
import type { Selection } from '../../table/selection.ts'
import type { Schema, Table } from '../../table/table.ts'
import type { StepDrafts } from './draft.ts'
import type { Problem } from './problems.ts'
import type { Format, ReadOptions } from '../../reading/read-options.ts'
import { type UnreadableCells, type OpenedInput } from '../../reading/table-builder.ts'

/** A place in the params. */
export type ParamPath = readonly (string | number)[]

/** The editors a sentence can open. The page has one for each; a kind names them by slot. */
export const editors = [
  'columns',
  'column',
  'name',
  'value',
  'condition',
  'formula',
  'choice',
  'number',
  'text',
  'measures',
  'sortKeys',
  'types',
  'renames',
  'change',
  'formats',
  'open',
  'slice',
  'grid',
  'pairs',
  'oneColumn',
  'values',
  'cleanings',
  'groups',
  'cases',
  'separator',
  'pieces',
  'take',
  'labels',
  'labelsFound',
  'windowMeasures',
  'pivotValues',
  'table',
  'join',
  'union',
  'check',
] as const
/** The editor of a slot. */
export type Editor = (typeof editors)[number]

/** An underlined part of a sentence: its words, where in the params it stands, and what edits it. */
export type SentenceSlot = {
  readonly text: string
  readonly path: ParamPath
  readonly editor: Editor
  readonly choices?: readonly (readonly [value: string, words: string])[]
  /** The table that it names. */ readonly table?: string
}
/** Texts and slots, in order. */
export type Sentence = readonly (string | SentenceSlot)[]

/** Takes a problem and its place in the params. */
export type Report = (
  problem: { [C in Problem['code']]: Omit<Extract<Problem, { code: C }>, 'path'> }[Problem['code']],
  ...path: ParamPath
) => void

/** What a step is checked against, without any data. */
export type CheckContext = {
  readonly parameters: ParameterTypes
  readonly report: Report
  readonly inputColumns: (input: string) => Schema | undefined
  /** The finished columns of another table, and whether only data can tell all of them. */ readonly tableColumns: (
    table: string,
  ) => Schema
  readonly tableUnsure: (table: string) => boolean
  readonly names: TableNames
  /** The id of the step's own table. */ readonly own: string
}
/** What tables are called; "" is the step's own table. */
export type TableNames = (id: string, of?: 'table' | 'input') => string

/** Where the rows of a result came from. `index`: the input row of each output row. `groups`: the output row of each input row. */
export type RowLineage =
  | { readonly kind: 'same' }
  | {
      readonly kind: 'index'
      readonly index: Int32Array
      /** How many different rows the index names, where that is known. */
      readonly kept?: number
      /** Of a match, the row of the other table of each output row; -1 where there is none. */
      readonly other?: Selection
      /** Of a match that keeps only rows that match none. */
      readonly keepsUnmatchedOnly?: true
      /** Of rows made of several columns, which of them each was made of. */
      readonly turn?: Int32Array
    }
  | { readonly kind: 'groups'; readonly groups: Groups }
  | { readonly kind: 'source' }

/** Data that a step must not take: a second value where one is allowed, a check that says stop. */
export class DataRefused extends Error {}

/** A way to read more of a column's texts. */
export type ReadingFix = {
  readonly params: Readonly<Record<string, unknown>>
  /** How the texts are written, such as year.month.day. */
  readonly words: string
  /** How many of the texts that could not be read are read so. */
  readonly reads: number
}

/** A column by whose values a step decides. */
export type DecidingColumn = {
  readonly column: string
  /** What becomes of a value that it does not name: its own spelling stays, its rows leave or stay, it gets no column. */
  readonly unnamed: 'own-spelling' | 'leaves' | 'stays' | 'no-column'
  /** The values that it names, as text. */
  readonly named: readonly string[]
  readonly ignoreCase?: boolean
  readonly trim?: boolean
  /** The groups of values that are given one spelling. */
  readonly groups?: readonly { readonly into: string; readonly from: readonly string[] }[]
  /** What of its params would be otherwise, were these values named too: in the group, with the rows that stay or leave, as columns. */
  readonly naming?: (values: readonly string[], group?: string) => Readonly<Record<string, unknown>>
}

/** The result of a `check` step. */
export type CheckResult = {
  readonly passed: boolean
  readonly stop: boolean
  readonly say: string
  readonly figure: number | null
  readonly against?: Int32Array
}

/** What a step gives: the table, its row lineage, and what is to be reported. */
export type StepResult = {
  readonly table: Table
  readonly lineage: RowLineage
  /** Filled cells of kept columns that hold another value than before. */
  readonly cellsChanged?: number
  readonly unreadable?: readonly UnreadableCells[]
  /** Whether what was asked of the rows holds, the figure it went by, and the rows that are against it. */
  readonly check?: CheckResult
  /** Figures of this kind alone, by name. */
  readonly notes?: Readonly<Record<string, number>>
}
/** What a step is run with beside its table. */
export type RunContext = Environment & {
  readonly parameterTypes: ParameterTypes
  readonly opened: (input: string, read: unknown) => OpenedInput
  /** Another table, finished. */ readonly table: (table: string) => Table
  readonly names: TableNames
  readonly own: string
}

/** A step that ran, as it is traced through. */
export type TracedStep = {
  /** The table before it; without columns where it is a start. */
  readonly before: Table
  readonly after: Table
  readonly context: RunContext
  readonly lineage: RowLineage
  /** The rows before it that rows after it were made of, by its row lineage. */
  readonly back: (rows: RowSet) => RowSet
}

/** Rows that a row or a cell was made of. `table`: another table, finished; absent for the table before the step. `column`: absent for the row as a whole. */
export type TraceSource = {
  readonly table?: string | undefined
  readonly column?: string | undefined
  readonly rows: RowSet
}

/** Why a row left at a step. `rowName` names a row of the table before it as its file does. */
export type LeftContext = TracedStep & { readonly rowName: (row: number) => string }

/** How a kind of step is traced through; what it leaves out follows from its row and column lineage. */
export type StepTrace<P> = {
  /** What rows after it were made of, where row lineage does not say it. */
  readonly rows?: (params: P, step: TracedStep, rows: RowSet) => readonly TraceSource[]
  /** What the cells of a column in these rows were made of; undefined where column lineage says it. */
  readonly cells?: (params: P, step: TracedStep, column: string, rows: RowSet) => readonly TraceSource[] | undefined
  /** The rows after it that were made of rows of another table. */
  readonly fromTable?: (params: P, step: TracedStep, table: string, rows: RowSet) => RowSet
  /** Why a row before it, or of another table, is in no row after it, in words of its own values. */
  readonly left?: (params: P, step: LeftContext, row: number, table: string | undefined) => string | undefined
  /** The columns by whose values alone `left` says why; rows alike in them left for the same reason. Without it every row is asked about. */
  readonly leftBy?: (params: P, step: TracedStep, table: string | undefined) => readonly string[]
  /** Why a row before it that it could have taken away stays, or what it did with it. */
  readonly did?: (params: P, step: TracedStep, row: number) => string | undefined
  /** What it made of a cell, where “a became b” does not say it well. */
  readonly changed?: (before: string, after: string) => string
}

/** What the code of a step is written with in every dialect. */
type ScriptContext = {
  readonly input: Schema
  readonly output: Schema
  readonly parameters: ParameterTypes
  readonly parameter: (name: string) => Code
  readonly names: TableNames
  /** The id of the table that the step is of. */
  readonly own: string
}
/** How an input comes in, in every dialect. */
type ScriptSource = {
  readonly columns: Schema
  readonly format: Format
  /** Other names by which columns may come, to their names. */
  readonly known: Readonly<Record<string, string>>
}
/** What a block of SQL is written with. */
export type SqlContext = ScriptContext & {
  /** The view that holds the table before the step. */
  readonly from: Code
  /** A column's quoted identifier. */
  readonly column: (name: string) => Code
  /** Another table's last view and its columns. */
  readonly table: (table: string) => { readonly rows: Code; readonly columns: Schema }
  /** The table that the step makes, which what stands after its query may read. */
  readonly made: Code
  /** How an input comes in; what is no text file is first written as CSV. */
  readonly source: (input: string) => ScriptSource & {
    readonly rows: Code
    /** The columns of its CSV; a row of it has their places in this order, from 1. */
    readonly inFile: readonly string[]
  }
}
/** A query of "¶", of a row after a step, and "was", of a row before it that it was made of. `table`: that row is of another table. */
export type SqlRowMap = { readonly table?: string; readonly rows: Code }
/** What a step’s Python is written with. */
export type PythonContext = ScriptContext & {
  /** The variable that holds the table before and after the step. */
  readonly frame: Code
  /** Chosen rows of the frame, numbered anew. */
  readonly renumbered: (rows: Code) => Code
  /** The variable that holds another table, finished, and its columns. */
  readonly table: (table: string) => { readonly frame: Code; readonly columns: Schema }
  readonly source: (input: string) => ScriptSource & {
    readonly files: Code
    /** Whether a column that the recipe does not know makes a difference. */ readonly open: boolean
  }
  /**
   * Whether no file changes the types of `input`'s columns and rows need not be followed: then pandas' own calls do where
   * they give what the engine gives.
   */
  readonly plain: boolean
  /** Whether no column that the recipe does not list reaches the step. */
  readonly closed: boolean
  /** Whether rows are followed to their sources, or the code runs on Spark: then all is done by helpers that know of it. */
  readonly follows: boolean
}

/** What a step's code is written with, by dialect. */
export type LanguageContexts = { readonly sql: SqlContext; readonly python: PythonContext }

/**
 * How the Python of a step runs on Spark. `rows`: the step looks at one row, its Python runs over some rows at a time;
 * `repeats`: so it does, and may make several of one. `table`: its Python is called with the whole table of Spark, and
 * what it calls is there under the same names.
 */
export type SparkWay = 'rows' | 'repeats' | 'table'
/** Code that is written for Spark alone, or how the step's Python runs there. */
export type SparkForm<P> = SparkWay | ((params: P, context: PythonContext) => Code | SparkWay)

/** The types that a column which only data can tell may have, by its name, the likeliest first; at least one. */
export type DynamicColumns = (name: string) => readonly [ColumnType, ...ColumnType[]]

/** A kind of step: all that is known of it. `P` are its params. */
export type StepKind<P = never> = {
  readonly kind: string
  /** The verb as the page lists it, and any word an analyst might look for it by. */
  readonly verb: string
  readonly words: readonly string[]
  readonly start?: true
  /** The figures beside its sentence; without it those of any step (`engine/statistics.ts`). */
  readonly figures?: (statistics: StepStatistics) => readonly Figure[]
  /** What cells that hold another value are called in a figure; `changed` without it. */
  readonly changeWord?: string
  /** Rows leave by intent: the share that leaves is compared with the last run. */
  readonly dropsRows?: true
  /** One row may become several by matching: more rows out than in are compared with the last run. */
  readonly multipliesRows?: true
  /** The sides whose rows should find a match, and whether a row without one is lost. */
  readonly unmatchedSides?: (params: P) => readonly { readonly side: 'here' | 'there'; readonly loses: boolean }[]
  /** The shape of the table changes: before and after are shown side by side while it is a draft. */
  readonly reshapes?: true
  /** No row stands for a row before it, so the result is shown first, not what changed. */
  readonly shownAfter?: true
  /** Where its draft is decided: on pages of several tables, or beside the values of a column. */
  readonly workbench?: 'tables' | 'values'
  /** Columns that it does not name leave. */
  readonly dropsUnnamed?: true
  /** A column that it takes in (`absorbs`) is no column of the result. */
  readonly consumes?: true
  /** Its selector of columns may be empty: then all rows are one group. */
  readonly groupsByNone?: true
  /** First versions of it for what is selected in a table. */
  readonly drafts?: StepDrafts<unknown>
  /** The input that a start reads, and how. */
  readonly opens?: (params: P) => { readonly input: string; readonly read: ReadOptions }
  /** Ways out where data was refused (`DataRefused`): what else the params may say, with the words of its button. */
  readonly refusalFixes?: (
    params: P,
    input: Schema,
  ) => readonly { readonly name: string; readonly words: string; readonly params: Readonly<Record<string, unknown>> }[]
  readonly params: z.ZodObject | z.ZodUnion<readonly z.ZodObject[]>
  readonly sentence: (params: P, names: TableNames) => Sentence
  /** The schema that comes out; problems are reported, all of them at once, and a best guess is returned. */
  readonly output: (params: P, input: Schema, context: CheckContext) => Schema
  /**
   * Where names of columns stand in the data (a row that becomes the header, pieces as many as there are): the types that
   * a column of a name may have, the likeliest first. `output` then gives what is sure, and the planner believes later
   * steps that name others until data is seen.
   */
  readonly dynamicColumns?: (params: P, input: Schema) => DynamicColumns | undefined
  /** Columns whose type only data can tell; `output` guesses text, and without data later steps may take them for another. */
  readonly dynamicTypes?: (params: P) => readonly string[]
  /** Other ways to read a column of which it could not read these texts: what its params would be, and in words. */
  readonly readingFixes?: (params: P, column: string, texts: readonly string[]) => readonly ReadingFix[]
  /** The columns by whose values it decides, with the values that it names. */
  readonly decides?: (params: P, input: Schema) => readonly DecidingColumn[]
  readonly run: (params: P, table: Table, context: RunContext) => StepResult
  /** Output column to the input column that it carries on; default: those of the same name. */
  readonly columnLineage?: (params: P, input: Schema, output: Schema) => Readonly<Record<string, string>>
  /** How rows and cells are followed through it, where row and column lineage do not say it. */
  readonly trace?: StepTrace<P>
  /** The other tables that it needs. */
  readonly uses?: (params: P) => readonly string[]
  /** The step in each language, and how its Python runs on Spark. `sqlRows`: what its rows were made of, where they are not the rows before it that have the same "¶". */
  readonly scripts: { readonly [L in Language]: (params: P, context: LanguageContexts[L]) => StepCode } & {
    /** Without it `rows`. */
    readonly spark?: SparkForm<P>
    readonly sqlRows?: (params: P, context: SqlContext) => readonly SqlRowMap[] | undefined
  }
  /** What takes in a column that was not there before: asked for the fit report. */
  readonly absorbs?: (params: P, column: string, input: Schema) => boolean
}

/** The params are what their schema says they are. */
export const defineStep = <P>(
  kind: StepKind<P> & { readonly params: z.ZodType<P>; readonly drafts?: StepDrafts<P> },
): StepKind<P> => kind

/** An open word of a sentence. */
export const slot = (
  text: string,
  editor: Editor,
  path: ParamPath,
  choices?: SentenceSlot['choices'],
): SentenceSlot => ({
  text,
  editor,
  path,
  ...(choices ? { choices } : {}),
})
/** A table in a sentence, by its name. */
export const tableSlot = (table: string, editor: Editor, path: ParamPath, names: TableNames): SentenceSlot => ({
  text: names(table),
  editor,
  path,
  table,
})
