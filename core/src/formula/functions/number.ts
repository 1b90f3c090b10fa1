import { py, sql, sqlHelper, pyHelper } from '../../codegen/tag.ts'
import { compensatedSum, maxInteger, modulo, numberReader, roundDown, roundTo, roundUp } from '../../table/number.ts'
import type { Cell } from '../../table/column.ts'
import { failed, type FormulaFunction, type CallResult, type FormulaType } from '../function-kind.ts'
import { define } from './define.ts'

const finite = (x: number): CallResult => {
  if (Number.isFinite(x)) {
    if (x === 0) return 0
    return x
  }
  return failed
}
const numbers = (cells: readonly Cell[]): number[] => cells.filter((cell) => cell !== null) as number[]
const wholeIfAll = (types: readonly FormulaType[]) =>
  types.every((type) => type === 'integer' || type === 'empty') ? 'integer' : 'decimal'
const places = (cell: Cell | undefined): number => Math.trunc((cell ?? 0) as number)

const rounding = (
  name: string,
  about: string,
  round: (x: number, n: number) => number,
  examples: FormulaFunction['examples'],
) =>
  define({
    name,
    group: 'number',
    about,
    args: 'x:number n:number?',
    result: 'decimal',
    call: ([x, n]) => finite(round(x as number, places(n))),
    examples,
  })

const least = (name: 'MIN' | 'MAX'): FormulaFunction =>
  define({
    name,
    group: 'number',
    about: `The ${name === 'MIN' ? 'least' : 'greatest'} of its arguments in one row; empties are passed over.`,
    args: 'x:number+',
    result: wholeIfAll,
    seesEmpty: true,
    call: (cells) => {
      const known = numbers(cells)
      if (known.length === 0) return null
      if (name === 'MIN') return Math.min(...known)
      return Math.max(...known)
    },
    examples:
      name === 'MIN'
        ? [
            ['MIN(3; EMPTY; 1.5)', '1.5'],
            ['MIN(EMPTY)', ''],
          ]
        : [
            ['MAX(3; EMPTY; 1.5)', '3'],
            ['MAX(EMPTY)', ''],
          ],
  })

const readNumber = numberReader()

/** The functions of numbers. */
export const number = [
  define({
    name: 'ABS',
    group: 'number',
    about: 'The size without the sign.',
    args: 'x:number',
    result: wholeIfAll,
    call: ([x]) => Math.abs(x as number),
    examples: [
      ['ABS(-2.5)', '2.5'],
      ['ABS(3)', '3'],
      ['ABS(EMPTY)', ''],
    ],
  }),
  rounding('ROUND', 'Rounded to n places, half away from zero.', roundTo, [
    ['ROUND(2.675; 2)', '2.68'],
    ['ROUND(1.005; 2)', '1.01'],
    ['ROUND(-2.5)', '-3'],
    ['ROUND(1234; -2)', '1200'],
    ['ROUND(0.1 + 0.2; 1)', '0.3'],
    ['ROUND(2.675; 20)', '2.675'],
    ['ROUND(2.675; 1000000)', '2.675'],
    ['ROUND(2.675; -1000000)', '0'],
    ['ROUND(2; EMPTY)', ''],
  ]),
  rounding('ROUNDUP', 'Rounded to n places, away from zero.', roundUp, [
    ['ROUNDUP(2.001; 2)', '2.01'],
    ['ROUNDUP(-2.1)', '-3'],
    ['ROUNDUP(2.3; 1)', '2.3'],
    ['ROUNDUP(2.3; 400)', '2.3'],
    ['ROUNDUP(2.3; -300)', '1e300'],
    ['ROUNDUP(2.3; -1000000)', ''],
    ['ROUNDUP(2; EMPTY)', ''],
  ]),
  rounding('ROUNDDOWN', 'Rounded to n places, towards zero.', roundDown, [
    ['ROUNDDOWN(2.999; 2)', '2.99'],
    ['ROUNDDOWN(2.999; 1000000)', '2.999'],
    ['ROUNDDOWN(2.999; -1000000)', '0'],
    ['ROUNDDOWN(-2.9)', '-2'],
  ]),
  define({
    name: 'INT',
    group: 'number',
    about: 'The next whole number below, or the number itself where it is whole.',
    args: 'x:number',
    result: 'integer',
    call: ([x]) => (Math.abs(Math.floor(x as number)) <= maxInteger ? Math.floor(x as number) : failed),
    examples: [
      ['INT(2.9)', '2'],
      ['INT(-2.1)', '-3'],
      ['INT(1e300)', ''],
    ],
  }),
  define({
    name: 'MOD',
    group: 'number',
    about: 'What is left after dividing; it has the sign of the divisor.',
    args: 'x:number divisor:number',
    result: wholeIfAll,
    call: ([x, d]) => (d === 0 ? failed : finite(modulo(x as number, d as number))),
    examples: [
      ['MOD(7; 3)', '1'],
      ['MOD(-7; 3)', '2'],
      ['MOD(7.5; 2)', '1.5'],
      ['MOD(1; 0)', ''],
      ['MOD(1e17; 3)', '1'],
      ['MOD(-1e17; 3)', '2'],
      ['MOD(7.5; -2)', '-0.5'],
      ['MOD(9007199254740991; -10)', '-9'],
      ['MOD(5.3; 0.1)', '0.0999999999999995'],
    ],
  }),
  define({
    name: 'POWER',
    group: 'number',
    about: 'x to the power of y.',
    args: 'x:number y:number',
    result: 'decimal',
    call: ([x, y]) => finite((x as number) ** (y as number)),
    scripts: {
      sql: (parts) => sql`${sqlHelper('op_power')}(${parts})`,
      python: (parts) => py`${pyHelper('op_power')}(${parts})`,
    },
    examples: [
      ['POWER(2; 10)', '1024'],
      ['POWER(-8; 0.5)', ''],
    ],
  }),
  define({
    name: 'SQRT',
    group: 'number',
    about: 'The square root.',
    args: 'x:number',
    result: 'decimal',
    call: ([x]) => finite(Math.sqrt(x as number)),
    examples: [
      ['SQRT(16)', '4'],
      ['SQRT(-1)', ''],
    ],
  }),
  least('MIN'),
  least('MAX'),
  define({
    name: 'SUM',
    group: 'number',
    about: 'The sum of its arguments in one row; empties are passed over.',
    args: 'x:number+',
    result: wholeIfAll,
    seesEmpty: true,
    call: (cells, types) => {
      const known = numbers(cells)
      if (known.length === 0) return null
      const total = compensatedSum(known)
      return wholeIfAll(types) === 'integer' && Math.abs(total) > maxInteger ? failed : finite(total)
    },
    examples: [
      ['SUM(1; 2; EMPTY)', '3'],
      ['SUM(1.5; 2)', '3.5'],
      ['SUM(0.1; 0.1; 0.1; 0.1; 0.1; 0.1; 0.1; 0.1; 0.1; 0.1) = 1', 'true'],
      ['SUM(EMPTY)', ''],
    ],
  }),
  define({
    name: 'AVERAGE',
    group: 'number',
    about: 'The mean of its arguments in one row; empties are passed over.',
    args: 'x:number+',
    result: 'decimal',
    seesEmpty: true,
    call: (cells) => {
      const known = numbers(cells)
      return known.length === 0 ? null : finite(compensatedSum(known) / known.length)
    },
    examples: [
      ['AVERAGE(1; 2; EMPTY)', '1.5'],
      ['AVERAGE(EMPTY)', ''],
      ['AVERAGE(0.1; 0.1; 0.1; 0.1; 0.1; 0.1; 0.1; 0.1; 0.1; 0.1) = 0.1', 'true'],
    ],
  }),
  define({
    name: 'COUNT',
    group: 'number',
    about: 'How many of its arguments are filled.',
    args: 'x:any+',
    result: 'integer',
    seesEmpty: true,
    call: (cells) => cells.filter((cell) => cell !== null).length,
    scripts: {
      sql: (parts) => sql`num_nonnulls(${parts})::bigint`,
    },
    examples: [
      ['COUNT(1; EMPTY; 3)', '2'],
      ['COUNT(EMPTY)', '0'],
    ],
  }),
  define({
    name: 'VALUE',
    group: 'number',
    about: 'The number that a text reads as.',
    args: 'text:text',
    result: 'decimal',
    call: ([text]) => readNumber(text as string) ?? failed,
    examples: [
      ['VALUE("1,204.50")', '1204.5'],
      ['VALUE("£ 180.00")', '180'],
      ['VALUE("(12%)")', '-0.12'],
      ['VALUE("dog")', ''],
      ['VALUE("1,20")', ''],
    ],
  }),
]
