import { expect, test } from 'vitest'
import { cellAt, columnOf } from '../table/column.ts'
import { Table } from '../table/table.ts'
import { checkFormula } from './check.ts'
import { evaluateFormula } from './evaluate.ts'
import { renameInFormula, writeColumn } from './parse.ts'
import { formulaSentence } from './problems.ts'

const schema = [
  { name: 'Fee', type: 'decimal' },
  { name: 'Visits', type: 'integer' },
  { name: 'Clinic', type: 'text' },
  { name: 'Visit date', type: 'date' },
  { name: 'Seen at', type: 'datetime' },
  { name: 'Paid', type: 'boolean' },
] as const
const parameters = { 'As of': 'date', Rate: 'decimal' } as const
const typeOf = (formula: string): string => {
  const checked = checkFormula(formula, schema, parameters)
  return 'problem' in checked ? `refused: ${formulaSentence(checked.problem)}` : checked.type
}
/** What a formula is refused for, and the words that are underlined. */
const refused = (formula: string): [string, string] | undefined => {
  const checked = checkFormula(formula, schema, parameters)
  return 'problem' in checked
    ? [formulaSentence(checked.problem), formula.slice(checked.problem.from, checked.problem.to)]
    : undefined
}

test.each([
  ['Fee * Visits', 'decimal'],
  ['Visits + 1', 'integer'],
  ['Visits / 2', 'decimal'],
  ["'Visit date' - DATE(2031; 1; 1)", 'integer'],
  ["'Visit date' + 30", 'date'],
  ["'Seen at' - 'Seen at'", 'decimal'],
  ["$'As of' - 'Visit date'", 'integer'],
  ["'Visit date' & 1", 'text'],
  ['\'Visit date\' < "2031-05-01"', 'boolean'],
  ["'Seen at' > 'Visit date'", 'boolean'],
  ['IF(Paid; Fee; 0)', 'decimal'],
  ['Fee /* the charge */ *\n $Rate', 'decimal'],
  ['len(Clinic)', 'integer'],
])('%s is %s', (formula, type) => {
  expect(typeOf(formula)).toBe(type)
})

test.each([
  ['Fee + Clinic', 'Clinic is text; + needs numbers', 'Clinic'],
  ['LEN(5)', 'TEXT(5; "0") is its text', '5'],
  ['LEN(Paid)', 'Paid & "" is its text', 'Paid'],
  ['TEXT(Fee; "dd.MM")', 'a number', '"dd.MM"'],
  ['TEXT(\'Visit date\'; "dd/mm/yyyy")', 'months are MM', '"dd/mm/yyyy"'],
  ['LIST(1; "a")', 'of one type', 'LIST(1; "a")'],
  ['LISTCOUNT(Clinic)', 'needs a list', 'Clinic'],
  ['Fee * Clinik', '“Clinic”', 'Clinik'],
  ['LENGHT(Clinic)', 'LENGHT', 'LENGHT'],
  ['Fee = Clinic', 'text', 'Clinic'],
  ['\'Visit date\' > "1 May"', '1 May', '"1 May"'],
  ['ROUND(Fee; 1; 2; 3)', 'ROUND', 'ROUND(Fee; 1; 2; 3)'],
  ['DATETRUNC(\'Visit date\'; "fortnight")', '"quarter", "month"', '"fortnight"'],
  ['REGEXTEST(Clinic; "[a-")', '', '"[a-"'],
  ['$Rat * 2', '“Rate”', '$Rat'],
  ['IF(Paid; Fee', 'bracket', 'IF'],
])('%s is refused, and the place underlined', (formula, says, place) => {
  const [sentence, underlined] = refused(formula) ?? ['', '']
  expect(sentence).toContain(says)
  expect(underlined).toBe(place)
})

test('a text that is not closed, a stray sign, nothing at all: each has its place', () => {
  expect(refused('Fee & "abc')?.[1]).toBe('"abc')
  expect(refused('Fee # 2')?.[1]).toBe('#')
  expect(refused('Fee *')?.[0]).not.toBe('')
  expect(refused('')?.[0]).not.toBe('')
})

test('a column keeps its meaning when its name is written, whatever the name', () => {
  for (const name of ['Fee', 'Visit date', "Owner's name", '2031', 'TRUE', 'Größe', 'a"b', 'x\ny']) {
    const checked = checkFormula(`${writeColumn(name)} & "!"`, [{ name, type: 'text' }], {})
    expect('problem' in checked ? checked.problem : checked.columns).toEqual([name])
  }
})

test('a renamed column is renamed in formulas and nothing else is touched', () => {
  expect(
    renameInFormula('Fee * 1.2 /* Fee */ & "Fee" & \'Visit date\'', (name) => (name === 'Fee' ? 'Net fee' : name)),
  ).toBe("'Net fee' * 1.2 /* Fee */ & \"Fee\" & 'Visit date'")
})

test('a cell that cannot be computed is empty and counted; one that is only empty is not', () => {
  const table = Table.of(['Fee'], [columnOf('decimal', [10, 0, null, -4])])
  const fee = [{ name: 'Fee', type: 'decimal' }] as const
  const run = (formula: string) => {
    const checked = checkFormula(formula, fee, {})
    if ('problem' in checked) throw new Error(formulaSentence(checked.problem))
    const { column, failures } = evaluateFormula(checked.formula, checked.type, table, { parameters: {}, now: 0 })
    return { cells: [0, 1, 2, 3].map((i) => cellAt(column, i)), failures: [...failures] }
  }
  expect(run('100 / Fee')).toMatchObject({ cells: [10, null, null, -25], failures: [1] })
  expect(run('SQRT(Fee)').failures).toEqual([3])
  expect(run('Fee + 1')).toMatchObject({ cells: [11, 1, null, -3], failures: [] })
})
