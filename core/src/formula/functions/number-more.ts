import { py, sql } from '../../codegen/tag.ts'
import { maxInteger, roundDown, roundTo } from '../../table/number.ts'
import { failed, type FormulaFunction, type CallResult } from '../function-kind.ts'
import { define } from './define.ts'

const finite = (x: number): CallResult => {
  if (Number.isFinite(x)) {
    if (x === 0) return 0
    return x
  }
  return failed
}
/** What is left of the 15 digits a person sees, so that 0.3 / 0.1 is 3 steps and not 2.9999. */
const steps = (x: number, step: number): number => Number((x / step).toPrecision(15))

const one = (
  name: string,
  about: string,
  compute: (x: number) => number,
  examples: FormulaFunction['examples'],
): FormulaFunction =>
  define({
    name,
    group: 'number',
    about,
    args: 'x:number',
    result: 'decimal',
    call: ([x]) => finite(compute(x as number)),
    examples,
  })

/** To a multiple of the size of a step. */
const toStep = (
  name: string,
  about: string,
  round: (n: number) => number,
  optional: boolean,
  examples: FormulaFunction['examples'],
): FormulaFunction =>
  define({
    name,
    group: 'number',
    about,
    args: optional ? 'x:number step:number?' : 'x:number step:number',
    result: 'decimal',
    call: ([x, step = 1]) => {
      if (step === 0) {
        if (x === 0) return 0
        return failed
      }
      return finite(
        Number((round(steps(x as number, Math.abs(step as number))) * Math.abs(step as number)).toPrecision(15)),
      )
    },
    examples,
  })

/** Further functions of numbers. */
export const numberMore = [
  define({
    name: 'SIGN',
    group: 'number',
    about: '1, 0 or -1, as the number is above, at or below zero.',
    args: 'x:number',
    result: 'integer',
    call: ([x]) => Math.sign(x as number) + 0,
    examples: [
      ['SIGN(-2.5)', '-1'],
      ['SIGN(0)', '0'],
      ['SIGN(7)', '1'],
    ],
  }),
  define({
    name: 'TRUNC',
    group: 'number',
    about: 'Cut to n places, towards zero.',
    args: 'x:number n:number?',
    result: 'decimal',
    call: ([x, n = 0]) => finite(roundDown(x as number, Math.trunc(n as number))),
    examples: [
      ['TRUNC(-2.99)', '-2'],
      ['TRUNC(2.999; 2)', '2.99'],
      ['TRUNC(1299; -2)', '1200'],
      ['TRUNC(2.999; 1000000)', '2.999'],
    ],
  }),
  toStep('CEILING', 'Up to a multiple of the step, 1 where none is given.', Math.ceil, true, [
    ['CEILING(7.2)', '8'],
    ['CEILING(7; 5)', '10'],
    ['CEILING(-7; 5)', '-5'],
    ['CEILING(0.3; 0.1)', '0.3'],
    ['CEILING(5; 0)', ''],
  ]),
  toStep('FLOOR', 'Down to a multiple of the step, 1 where none is given.', Math.floor, true, [
    ['FLOOR(7.8)', '7'],
    ['FLOOR(7; -5)', '5'],
    ['FLOOR(-7; 5)', '-10'],
    ['FLOOR(0.3; 0.1)', '0.3'],
  ]),
  toStep('MROUND', 'To the nearest multiple of the step, half away from zero.', (n) => roundTo(n, 0), false, [
    ['MROUND(7; 5)', '5'],
    ['MROUND(7.5; 5)', '10'],
    ['MROUND(-7.5; 5)', '-10'],
    ['MROUND(1.3; 0.2)', '1.4'],
  ]),
  define({
    name: 'QUOTIENT',
    group: 'number',
    about: 'How often a number goes into another, the rest left out.',
    args: 'x:number divisor:number',
    result: 'integer',
    call: ([x, d]) =>
      d === 0 || Math.abs((x as number) / (d as number)) > maxInteger
        ? failed
        : Math.trunc((x as number) / (d as number)) + 0,
    examples: [
      ['QUOTIENT(7; 2)', '3'],
      ['QUOTIENT(-7; 2)', '-3'],
      ['QUOTIENT(1; 0)', ''],
    ],
  }),
  one('EXP', 'e to the power of x.', Math.exp, [
    ['EXP(0)', '1'],
    ['ROUND(EXP(1); 6)', '2.718282'],
    ['EXP(1000)', ''],
  ]),
  one('LN', 'The natural logarithm.', Math.log, [
    ['LN(1)', '0'],
    ['LN(0)', ''],
    ['ROUND(LN(10); 6)', '2.302585'],
  ]),
  one('LOG10', 'The logarithm to base 10.', Math.log10, [
    ['LOG10(1000)', '3'],
    ['LOG10(-1)', ''],
  ]),
  define({
    name: 'LOG',
    group: 'number',
    about: 'The logarithm to a base, 10 where none is given.',
    args: 'x:number base:number?',
    result: 'decimal',
    call: ([x, base = 10]) =>
      (x as number) > 0 && (base as number) > 0 && base !== 1
        ? finite(base === 10 ? Math.log10(x as number) : Math.log(x as number) / Math.log(base as number))
        : failed,
    examples: [
      ['LOG(100)', '2'],
      ['ROUND(LOG(8; 2); 9)', '3'],
      ['LOG(8; 1)', ''],
      ['LOG(0)', ''],
    ],
  }),
  define({
    name: 'PI',
    group: 'number',
    about: 'The number pi.',
    args: '',
    result: 'decimal',
    call: () => Math.PI,
    scripts: {
      sql: () => sql`pi()`,
      python: () => py`${Math.PI}`,
    },
    examples: [['ROUND(PI(); 8)', '3.14159265']],
  }),
]
