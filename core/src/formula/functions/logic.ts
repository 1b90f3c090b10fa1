import { code, joined, py, sql, pyHelper } from '../../codegen/tag.ts'
import { define } from './define.ts'

/** The functions of conditions and empty cells. */
export const logic = [
  define({
    name: 'IF',
    group: 'logic',
    total: true,
    about: 'One value where the condition holds, another where it does not. An empty condition counts as false.',
    args: 'condition:boolean then:any else:any?',
    result: 'same',
    sameFrom: 1,
    seesEmpty: true,
    call: ([condition, yes = null, no = null]) => (condition === true ? yes : no),
    scripts: {
      sql: ([c = code(''), yes = code('null'), no = code('null')]) => sql`case when ${c} then ${yes} else ${no} end`,
    },
    examples: [
      ['IF(2 > 1; "more"; "less")', 'more'],
      ['IF(EMPTY; 1; 2)', '2'],
      ['IF(FALSE; 1)', ''],
      ['IF(TRUE; DATE(2031; 5; 2); EMPTY)', '2031-05-02'],
    ],
  }),
  define({
    name: 'AND',
    group: 'logic',
    total: true,
    about: 'Whether all hold. Empty, unless one is false.',
    args: 'condition:boolean+',
    result: 'boolean',
    seesEmpty: true,
    call: (cells) => {
      if (cells.includes(false)) return false
      if (cells.includes(null)) return null
      return true
    },
    scripts: {
      sql: (parts) => sql`(${joined(parts, ' and ')})`,
    },
    examples: [
      ['AND(TRUE; 1 < 2)', 'true'],
      ['AND(FALSE; EMPTY)', 'false'],
      ['AND(TRUE; EMPTY)', ''],
    ],
  }),
  define({
    name: 'OR',
    group: 'logic',
    total: true,
    about: 'Whether any holds. Empty, unless one is true.',
    args: 'condition:boolean+',
    result: 'boolean',
    seesEmpty: true,
    call: (cells) => {
      if (cells.includes(true)) return true
      if (cells.includes(null)) return null
      return false
    },
    scripts: {
      sql: (parts) => sql`(${joined(parts, ' or ')})`,
    },
    examples: [
      ['OR(FALSE; 1 < 2)', 'true'],
      ['OR(TRUE; EMPTY)', 'true'],
      ['OR(FALSE; EMPTY)', ''],
    ],
  }),
  define({
    name: 'NOT',
    group: 'logic',
    total: true,
    about: 'The opposite.',
    args: 'condition:boolean',
    result: 'boolean',
    call: ([condition]) => condition === false,
    scripts: {
      sql: ([c = code('')]) => sql`(not ${c})`,
    },
    examples: [
      ['NOT(TRUE)', 'false'],
      ['NOT(1 > 2)', 'true'],
      ['NOT(EMPTY)', ''],
    ],
  }),
  define({
    name: 'ISBLANK',
    group: 'logic',
    total: true,
    about: 'Whether the cell is empty.',
    args: 'value:any',
    result: 'boolean',
    seesEmpty: true,
    call: ([value = null]) => value === null,
    scripts: {
      sql: ([x = code('')]) => sql`(${x} is null)`,
    },
    examples: [
      ['ISBLANK(EMPTY)', 'true'],
      ['ISBLANK("")', 'true'],
      ['ISBLANK(" ")', 'false'],
      ['ISBLANK(0)', 'false'],
    ],
  }),
  define({
    name: 'COALESCE',
    group: 'logic',
    total: true,
    about: 'The first that is not empty.',
    args: 'value:any+',
    result: 'same',
    seesEmpty: true,
    call: (cells) => cells.find((cell) => cell !== null) ?? null,
    scripts: {
      sql: (parts) => sql`coalesce(${parts})`,
      python: (parts) => py`${pyHelper('fx_coalesce')}(${parts})`,
    },
    examples: [
      ['COALESCE(EMPTY; 3; 4)', '3'],
      ['COALESCE(""; "x")', 'x'],
      ['COALESCE(EMPTY)', ''],
    ],
  }),
  define({
    name: 'IFERROR',
    group: 'logic',
    about: 'Another value where the first could not be computed; what is merely empty stays empty.',
    args: 'x:any otherwise:any',
    result: 'same',
    seesEmpty: true,
    call: ([x = null]) => x,
    scripts: {
      sql: ([x = code(''), otherwise = code(''), failing = code('')]) =>
        sql`case when ${failing} then ${otherwise} else ${x} end`,
      python: ([x = code(''), otherwise = code(''), failing = code('')]) =>
        py`${pyHelper('fx_iferror')}(${x}, ${otherwise}, ${failing})`,
    },
    examples: [
      ['IFERROR(1 / 0; 9)', '9'],
      ['IFERROR(VALUE("dog") + 1; 0)', '0'],
      ['IFERROR(10 / 4; 0)', '2.5'],
      ['IFERROR(EMPTY / 2; 9)', ''],
      ['IFERROR(MID("abc"; 9; 2); "none")', ''],
      ['IFERROR(MID("abc"; 0; 2); "none")', 'none'],
      ['IFERROR(COALESCE(1 / 0; 5); 9)', '5'],
      ['IFERROR(IF(TRUE; 1; 1 / 0); 9)', '1'],
      ['IFERROR(IF(FALSE; 1; 1 / 0); 9)', '9'],
      ['IFERROR(IFERROR(1 / 0; SQRT(-1)); 3)', '3'],
      ['IFERROR(LEFT("abc"; 0); "none")', ''],
      ['IFERROR(DATE(2031; 2; 30); EMPTY)', '2031-03-02'],
    ],
  }),
]
