import { formulaSentence, missingColumn, type FormulaProblem } from '../../formula/problems.ts'
import { capital, counted, figure, offerOf, quoted, typeWords } from '../../messages/words.ts'
import type { ColumnType } from '../../table/column.ts'

/** What a user can cause in a step: data, worded in the table of sentences below. */
type ProblemData = {
  'missing-column': { column: string; nearest: readonly string[] }
  'unknown-parameter': { parameter: string; nearest: readonly string[] }
  'unknown-input': { input: string }
  'no-columns-left': Record<never, never>
  'no-columns-chosen': { selector: string }
  'twice-named': { column: string }
  'twice-labelled': { label: string }
  'keys-differ': { left: string; leftType: ColumnType; right: string; rightType: ColumnType }
  'unknown-column-of': { table: string; column: string; nearest: readonly string[] }
  'not-in-union': { table: string }
  'refused-data': { sentence: string }
  'wrong-type': { column: string; type: ColumnType; needs: string }
  'wrong-value': { value: string; column: string; type: ColumnType }
  'cannot-cast': { column: string; from: ColumnType; to: ColumnType }
  'bad-date-pattern': { pattern: string; why: string }
  'bad-pattern': { pattern: string; why: string }
  formula: { problem: FormulaProblem }
  'widths-with-at': Record<never, never>
  'empty-name': Record<never, never>
  'wrong-order': { from: string; to: string }
  'off-start': Record<never, never>
  'too-many-columns': { columns: number; most: number }
  'too-many-cells': { row: number; cells: number; columns: number }
}
/** The code of a problem. */
export type ProblemCode = keyof ProblemData
/** What a user can cause, as data: a code, what it is about, and `path` into the params. */
export type Problem = {
  [C in ProblemCode]: { readonly code: C; readonly path: readonly (string | number)[] } & Readonly<ProblemData[C]>
}[ProblemCode]

const sentences: { readonly [C in ProblemCode]: (data: ProblemData[C]) => string } = {
  'missing-column': ({ column, nearest: near }) => `There is no column ${quoted(column)} here.${offerOf(near)}`,
  'unknown-parameter': ({ parameter, nearest: near }) =>
    `The recipe has no parameter ${quoted(parameter)}.${offerOf(near)}`,
  'unknown-input': ({ input }) => `The recipe has no input ${quoted(input)}.`,
  'no-columns-left': () => 'No column would be left. Keep at least one.',
  'no-columns-chosen': ({ selector }) => `No column here is meant by ${selector}. Choose at least one.`,
  'twice-named': ({ column }) => `The column ${quoted(column)} is named twice. Name it once.`,
  'twice-labelled': ({ label }) =>
    `Two columns of one group get the label ${quoted(label)}. Take less off the names, or leave one column out.`,
  'keys-differ': ({ left, leftType, right, rightType }) =>
    `${quoted(left)} is ${typeWords[leftType]} and ${quoted(right)} is ${typeWords[rightType]}; keys must be of one type. Read one of them as the other is first.`,
  'unknown-column-of': ({ table, column, nearest: near }) =>
    `${table} has no column ${quoted(column)}.${offerOf(near)}`,
  'not-in-union': ({ table }) =>
    `${table} is not among the tables that are laid underneath. Add it, or take it out here.`,
  'refused-data': ({ sentence }) => sentence,
  'wrong-type': ({ column, type, needs }) =>
    `${quoted(column)} is ${typeWords[type]}; this needs ${needs}. Change its type first.`,
  'wrong-value': ({ value, column, type }) =>
    `${quoted(value)} does not read as ${typeWords[type]}, which ${quoted(column)} is. Give another value.`,
  'cannot-cast': ({ column, from, to }) =>
    `${quoted(column)} is ${typeWords[from]}, and that cannot become ${typeWords[to]}. Choose another type.`,
  'bad-date-pattern': ({ why }) => `${capital(why)}. Write days as d, months as M, years as yyyy.`,
  'bad-pattern': ({ pattern, why }) => `The pattern ${quoted(pattern)} cannot be read: ${why}.`,
  formula: ({ problem }) => formulaSentence(problem),
  'widths-with-at': () => 'By length every piece is cut; first or last does not go with it. Take it out.',
  'empty-name': () => 'A column needs a name. Type one.',
  'wrong-order': ({ from, to }) => `${quoted(from)} stands after ${quoted(to)}. Swap the two.`,
  'off-start': () => 'The first sentence of a table cannot be switched off.',
  'too-many-columns': ({ columns, most }) =>
    `This would make ${figure(columns)} columns, more than the ${figure(most)} that a table can have. Keep fewer columns before it.`,
  'too-many-cells': ({ row, cells, columns }) =>
    `Row ${figure(row)} has ${figure(cells)} cells for ${counted(columns, 'column')}. Take cells out, or add a column.`,
}

/** The column that a problem is about; nothing where it is about none. */
export const columnOfProblem = (problem: Problem): string | undefined => {
  if (problem.code === 'formula') return missingColumn(problem.problem)
  return 'column' in problem ? problem.column : undefined
}

/** What happened, where, and what to do. */
export const sentenceOf = (problem: Problem): string => (sentences[problem.code] as (data: unknown) => string)(problem)
