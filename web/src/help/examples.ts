import { columnTypes, sentenceText, stepKinds, type ColumnType, type Step, type StepKindName } from '@fabula/core'
import { kindExamples, type StepExample } from '@fabula/core/examples'
import Papa from 'papaparse'
import { titleOf } from '../story/names.ts'

/** A small table as the help shows it; null is an empty cell. */
export type SmallTable = {
  readonly names: readonly string[]
  readonly types: readonly ColumnType[]
  readonly rows: readonly (readonly (string | null)[])[]
}
/** What a sentence makes of a table. */
export type ShownExample = {
  readonly name: string
  readonly sentence: string
  readonly from: SmallTable
  readonly to: SmallTable
  readonly others: readonly { readonly name: string; readonly table: SmallTable }[]
}

/** Records of CSV (RFC 4180), without the line that a break at the end would begin. */
const records = (csv: string): string[][] => Papa.parse<string[]>(csv.replace(/\n$/, '')).data

const typeOf = (header: string): readonly [string, ColumnType] => {
  const at = header.lastIndexOf(':')
  const type = columnTypes.find((one) => one === header.slice(at + 1))
  return at > 0 && type ? [header.slice(0, at), type] : [header, 'text']
}

/** A table written as CSV, whose heads may give the types of columns (`Fee:decimal`). */
export const smallTable = (csv: string): SmallTable => {
  const [header = [], ...rows] = records(csv)
  const fields = header.map(typeOf)
  return {
    names: fields.map(([name]) => name),
    types: fields.map(([, type]) => type),
    rows: rows.map((row) => row.map((cell) => (cell === '' ? null : cell))),
  }
}

const numberForm = /^-?\d+(?:\.\d+)?(?:e[-+]?\d+)?$/
/** What a result holds is told by its cells: columns of numbers are numbers. */
const withNumbers = (table: SmallTable): SmallTable => ({
  ...table,
  types: table.types.map((type, c) => {
    const cells = table.rows.flatMap((row) => row[c] ?? [])
    return cells.length > 0 && cells.every((cell) => numberForm.test(cell)) ? 'decimal' : type
  }),
})

const shown = (kind: string, { name, input, step, gives, others = {} }: StepExample): ShownExample => ({
  name,
  sentence: sentenceText({ ...step, id: 's', kind } as unknown as Step, titleOf),
  from: smallTable(input),
  to: withNumbers(smallTable(gives)),
  others: Object.entries(others).map(([id, csv]) => ({ name: titleOf(id), table: smallTable(csv) })),
})

/** So many examples of a kind are shown: the first ones say what it is for. */
const mostShown = 5
const widest = 7

/** The examples of a kind that are small enough to be read, in their order. */
export const examplesOf = (kind: StepKindName): readonly ShownExample[] =>
  kindExamples
    .filter((one) => one.kind === kind)
    .flatMap(({ examples }) => examples)
    .filter(({ gives }) => gives !== '')
    .map((example) => shown(kind, example))
    .filter(({ from, to }) => Math.max(from.names.length, to.names.length) <= widest && from.rows.length <= 9)
    .slice(0, mostShown)

/** The kinds that have something to show, by the name of their verb; every example is read for it. */
export const kindsWithExamples = (): readonly StepKindName[] =>
  (Object.keys(stepKinds) as StepKindName[])
    .filter((kind) => examplesOf(kind).length > 0)
    .sort((a, b) => stepKinds[a].verb.localeCompare(stepKinds[b].verb))
