import { describe, expect, test } from 'vitest'
import type { Schema } from '../table/table.ts'
import { checkFormula } from './check.ts'
import { FormulaError, formulaSentence, missingColumn, type FormulaProblemCode } from './problems.ts'

const schema: Schema = [
  { name: 'Fee', type: 'decimal' },
  { name: 'Clinic', type: 'text' },
  { name: 'Day', type: 'date' },
  { name: 'Tags', type: 'list' },
]
const problemOf = (formula: string) => {
  const checked = checkFormula(formula, schema, { Rate: 'decimal' })
  if (!('problem' in checked)) throw new Error(`${formula} is right`)
  return checked.problem
}

/** A formula for each problem, what of it is marked, and what is said. */
const cases: Readonly<Partial<Record<FormulaProblemCode, readonly [string, string, string]>>> = {
  'unclosed-text': ['Clinic & "Ox', '"Ox', 'This text is not closed: a " is missing.'],
  'unclosed-column': ["Fee + 'Visit", "'Visit", "This column name is not closed: a ' is missing."],
  'unclosed-comment': ['Fee /* net', '/* net', 'This comment is not closed: */ is missing.'],
  'unclosed-bracket': ['ROUND(Fee; 2', 'ROUND', 'A closing bracket ) is missing.'],
  'unknown-sign': ['Fee ! 2', '!', '! has no meaning here.'],
  'expected-operator': ['Fee Clinic', 'Clinic', 'An operator or the end was expected here, not Clinic.'],
  'expected-operand': ['Fee + * 2', '*', 'A column, a value or a function was expected here, not *.'],
  'stops-early': ['Fee +', '', 'The formula stops too early: a column, a value or a function is expected.'],
  'number-too-large': ['Fee + 1e999', '1e999', 'This number is too large.'],
  'missing-column': ['Fees + 1', 'Fees', 'There is no column “Fees” here. Did you mean “Fee”?'],
  'missing-parameter': ['Fee * $Rat', '$Rat', 'The recipe has no parameter “Rat”. Did you mean “Rate”?'],
  'missing-function': ['ROUNDS(Fee)', 'ROUNDS', 'There is no function ROUNDS. Did you mean ROUND, ROUNDUP or MROUND?'],
  'not-a-number': ['Clinic * 2', 'Clinic', 'Clinic is text; * needs numbers. VALUE reads a text as a number.'],
  'not-alike': ['Fee = Clinic', 'Clinic', 'Fee is a number and Clinic is text; only like can be compared with like.'],
  'wrong-form': ['IFS(Fee)', 'IFS(Fee)', 'IFS takes pairs of a condition and a value; it has 1 argument.'],
  'wrong-count': ['ABS(Fee; 2)', 'ABS(Fee; 2)', 'ABS takes 1 argument, and has 2.'],
  'wrong-argument': ['ABS(Day)', 'Day', 'Day is a date; ABS needs numbers here.'],
  'not-constant': ['TEXT(Fee; Clinic)', 'Clinic', 'The pattern of TEXT must be written out, not taken from a column.'],
  'result-types': [
    'IF(Fee > 1; Fee; Clinic)',
    'IF(Fee > 1; Fee; Clinic)',
    'IF would give a number or text; its values must be of one type.',
  ],
  'item-types': [
    'LIST(Fee; Clinic)',
    'LIST(Fee; Clinic)',
    'LIST would hold a number and text; the items of a list must be of one type.',
  ],
  'list-of-lists': ['LIST(Tags)', 'Tags', 'Tags is a list, and a list cannot hold lists.'],
}

describe('what is wrong with a formula', () => {
  test.each(Object.entries(cases))('%s', (code, [formula, marked, sentence]) => {
    const problem = problemOf(formula)
    expect([problem.code, formula.slice(problem.from, problem.to), formulaSentence(problem)]).toEqual([
      code,
      marked,
      sentence,
    ])
  })
  test('too deep, too long and of too many parts', () => {
    expect(problemOf(`${'('.repeat(300)}Fee${')'.repeat(300)}`).code).toBe('too-deep')
    expect(problemOf('1'.repeat(200_000)).code).toBe('too-long')
    expect(problemOf(Array.from({ length: 3000 }, () => '1').join(' + ')).code).toMatch(/^too-/)
  })
  test('a value that cannot become text says how it can', () => {
    expect(formulaSentence(problemOf('LEFT(Day; 4)'))).toBe(
      'Day is a date; LEFT needs text here. TEXT(Day; "yyyy-MM-dd") is its text.',
    )
    expect(formulaSentence(problemOf('LEFT(TRUE; 1)'))).toContain('TRUE & "" is its text.')
  })
  test('a pattern that cannot be read is refused with its reason', () => {
    const problem = problemOf('TEXT(Day; "yyyy-qq")')
    expect(problem.code).toBe('wrong-constant')
    expect(formulaSentence(problem)).toContain('q')
  })
  test('only a missing column names one', () => {
    expect(missingColumn(problemOf('Fees + 1'))).toBe('Fees')
    expect(missingColumn(problemOf('Fee * $Rat'))).toBeUndefined()
  })
  test('an error carries the problem and says it', () => {
    const problem = problemOf('Fees + 1')
    const error = new FormulaError(problem)
    expect([error.problem, error.message]).toEqual([problem, formulaSentence(problem)])
  })
})
