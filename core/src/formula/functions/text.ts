import { code, joined, py, sql, sqlHelper, pyHelper } from '../../codegen/tag.ts'
import type { Cell, TextColumn } from '../../table/column.ts'
import { joinedTexts } from '../../table/joined-texts.ts'
import { textOfCell } from '../../table/cell-text.ts'
import { lower, space, trim, upper } from '../../table/text.ts'
import { failed, type FormulaFunction, type FormulaType } from '../function-kind.ts'
import { args, define, signs, whole } from './define.ts'

const textOf = (cell: Cell, type: FormulaType | undefined): string =>
  cell === null ? '' : textOfCell(type === undefined || type === 'empty' ? 'text' : type, cell)

const surrogate = /[\ud800-\udfff]/
/** The first characters of a text; those beyond the basic plane are two units each. */
const leading = (text: string, n: number): string =>
  surrogate.test(text) ? Array.from(text).slice(0, n).join('') : text.slice(0, n)
const trailing = (text: string, n: number): string => {
  const all = surrogate.test(text) ? Array.from(text) : text
  const from = Math.max(0, all.length - n)
  return typeof all === 'string' ? all.slice(from) : all.slice(from).join('')
}

/** Whether a constant is a number whose whole part is no less than this. */
const isAtLeast = (constant: Cell | undefined, least: number): boolean =>
  typeof constant === 'number' && Math.trunc(constant) >= least

const cut = (name: 'LEFT' | 'RIGHT', take: (text: string, n: number) => string): FormulaFunction =>
  define({
    name,
    group: 'text',
    about: `The ${name === 'LEFT' ? 'first' : 'last'} n characters, one where n is not given.`,
    args: 'text:text n:number?',
    result: 'text',
    total: (constants) => constants.length < 2 || isAtLeast(constants[1], 0),
    fails: {
      sql: ([, n]) => (n ? sql`trunc(${n}) < 0` : code('false')),
      python: () => code('lambda t, n=1: int(n) < 0'),
    },
    call: ([text, n]) => (whole(n, 1) < 0 ? failed : take(text as string, whole(n, 1))),
    examples:
      name === 'LEFT'
        ? [
            ['LEFT("abc"; 5)', 'abc'],
            ['LEFT("Äbc")', 'Ä'],
            ['LEFT("abc"; -1)', ''],
            ['LEFT("a😀b"; 2)', 'a😀'],
          ]
        : [
            ['RIGHT("abc"; 2)', 'bc'],
            ['RIGHT("abc"; 0)', ''],
            ['RIGHT("a😀"; 1)', '😀'],
          ],
  })

const letters = (
  name: 'UPPER' | 'LOWER',
  about: string,
  change: (text: string) => string,
  examples: FormulaFunction['examples'],
): FormulaFunction =>
  define({
    name,
    group: 'text',
    about,
    args: 'text:text',
    result: 'text',
    total: true,
    call: ([text]) => change(text as string),
    scripts: {
      sql: ([t = code('')]) => sql`${sqlHelper(name === 'LOWER' ? 'lower_of' : 'upper_of')}(${t})`,
    },
    examples,
  })

const holds = (
  name: string,
  about: string,
  test: (text: string, part: string) => boolean,
  examples: FormulaFunction['examples'],
): FormulaFunction =>
  define({
    name,
    group: 'text',
    about,
    args: 'text:text part:text',
    result: 'boolean',
    total: true,
    call: ([text, part]) => test(text as string, part as string),
    examples,
  })

const substitute = (text: string, old: string, next: string, which: number | undefined): string | typeof failed => {
  if (old === '') return text
  if (which === undefined) return text.replaceAll(old, () => next)
  if (which < 1) return failed
  const parts = text.split(old)
  return parts.length <= which ? text : parts.slice(0, which).join(old) + next + parts.slice(which).join(old)
}

const find = (text: string, what: string, from: number): number | typeof failed => {
  if (from < 1 || from > signs(text).length + 1) return failed
  const skipped = signs(text)
    .slice(0, from - 1)
    .join('').length
  const at = text.indexOf(what, skipped)
  return at < 0 ? failed : signs(text.slice(0, at)).length + 1
}

const joinAll = (cells: readonly Cell[], types: readonly FormulaType[]): string =>
  cells.map((cell, i) => textOf(cell, types[i])).join('')

/** The functions of text. */
export const text = [
  define({
    name: 'LEN',
    group: 'text',
    total: true,
    about: 'How many characters the text has.',
    args: 'text:text',
    result: 'integer',
    call: ([t]) => signs(t).length,
    scripts: {
      sql: ([t = code('')]) => sql`char_length(${t})::bigint`,
    },
    examples: [
      ['LEN("Marlpit")', '7'],
      ['LEN("a😀")', '2'],
      ['LEN(EMPTY)', ''],
    ],
  }),
  cut('LEFT', leading),
  cut('RIGHT', trailing),
  define({
    name: 'MID',
    group: 'text',
    about: 'n characters from a position on; the first is 1.',
    args: 'text:text start:number n:number',
    result: 'text',
    total: ([, start, n]) => isAtLeast(start, 1) && isAtLeast(n, 0),
    fails: {
      sql: ([, start = code(''), n = code('')]) => sql`trunc(${start}) < 1 or trunc(${n}) < 0`,
      python: () => code('lambda t, s, n: int(s) < 1 or int(n) < 0'),
    },
    call: ([t, start, n]) =>
      whole(start, 1) < 1 || whole(n, 0) < 0
        ? failed
        : signs(t)
            .slice(whole(start, 1) - 1, whole(start, 1) - 1 + whole(n, 0))
            .join(''),
    examples: [
      ['MID("VAC-2"; 1; 3)', 'VAC'],
      ['MID("abc"; 9; 2)', ''],
      ['MID("abc"; 0; 2)', ''],
    ],
  }),
  letters('UPPER', 'In large letters.', upper, [['UPPER("marlpit é")', 'MARLPIT É']]),
  letters('LOWER', 'In small letters.', lower, [['LOWER("Tarn END Ü")', 'tarn end ü']]),
  define({
    name: 'TRIM',
    group: 'text',
    total: true,
    about: 'Without white space at the ends; runs inside become one blank.',
    args: 'text:text',
    result: 'text',
    fails: 'never',
    call: ([t]) => trim(t as string).replace(new RegExp(`[${space}]+`, 'g'), ' '),
    scripts: { pandas: ([t = code('')]) => py`${pyHelper('trimmed')}(${t})` },
    examples: [
      ['TRIM("  Long   Acre ")', 'Long Acre'],
      ['TRIM("   ")', ''],
    ],
  }),
  define({
    name: 'CONCAT',
    group: 'text',
    total: true,
    about: 'Its arguments as one text; empties count as no text.',
    args: 'value:any+',
    result: 'text',
    seesEmpty: true,
    call: joinAll,
    vector: (parts, types, rowCount) => {
      const texts = parts.map((part, i) => {
        if (typeof part !== 'object' || part === null) return textOf(part, types[i])
        return part.type === 'text' ? (part as TextColumn) : undefined
      })
      const column = texts.includes(undefined) ? undefined : joinedTexts(texts as (TextColumn | string)[], rowCount)
      return column && { column, failures: new Int32Array(0) }
    },
    scripts: {
      sql: (parts) =>
        sql`nullif(${joined(
          parts.map((part) => sql`coalesce(${sqlHelper('shown')}(${part}), '')`),
          ' || ',
        )}, '')`,
    },
    examples: [
      ['CONCAT("a"; 1; EMPTY; TRUE)', 'a1true'],
      ['CONCAT(DATE(2031; 5; 2); " ok")', '2031-05-02 ok'],
      ['CONCAT(EMPTY)', ''],
    ],
  }),
  define({
    name: 'SUBSTITUTE',
    group: 'text',
    about: 'One text put for another, everywhere or only the which-th time.',
    args: 'text:text old:text new:text which:number?',
    result: 'text',
    fails: {
      sql: ([, , , which]) => (which ? sql`trunc(${which}) < 1` : code('false')),
      python: () => code('lambda t, o, n, w=1: o != "" and int(w) < 1'),
    },
    call: ([t, old, next, which]) =>
      substitute(
        t as string,
        old as string,
        next as string,
        which === undefined ? undefined : Math.trunc(which as number),
      ),
    examples: [
      ['SUBSTITUTE("a-b-c"; "-"; "")', 'abc'],
      ['SUBSTITUTE("a-b-c"; "-"; "+"; 2)', 'a-b+c'],
      ['SUBSTITUTE("--"; "-"; "")', ''],
      ['SUBSTITUTE("abc"; "x"; "y"; 1)', 'abc'],
    ],
  }),
  define({
    name: 'FIND',
    group: 'text',
    about: 'Where a text first stands in another, from 1; large and small letters differ.',
    args: 'what:text text:text from:number?',
    result: 'integer',
    call: ([what, t, from]) => find(t as string, what as string, whole(from, 1)),
    examples: [
      ['FIND("-"; "VAC-2")', '4'],
      ['FIND("z"; "abc")', ''],
      ['FIND("a"; "banana"; 3)', '4'],
      ['FIND("b"; "😀b")', '2'],
    ],
  }),
  holds('CONTAINS', 'Whether a text stands in another; large and small letters differ.', (t, p) => t.includes(p), [
    ['CONTAINS("Marlpit"; "pit")', 'true'],
    ['CONTAINS("Marlpit"; "PIT")', 'false'],
    ['CONTAINS(EMPTY; "a")', ''],
  ]),
  holds('STARTSWITH', 'Whether a text begins with another.', (t, p) => t.startsWith(p), [
    ['STARTSWITH("VAC-2"; "VAC")', 'true'],
    ['STARTSWITH("VAC-2"; "vac")', 'false'],
  ]),
  holds('ENDSWITH', 'Whether a text ends with another.', (t, p) => t.endsWith(p), [
    ['ENDSWITH("VAC-2"; "2")', 'true'],
    ['ENDSWITH("a"; "ba")', 'false'],
  ]),
  define({
    name: 'TEXTJOIN',
    group: 'text',
    about: 'Its arguments as one text with a separator between; empties are passed over where skip is TRUE.',
    args: [...args('separator:text skip:boolean'), ...args('value:any+')],
    result: 'text',
    seesEmpty: true,
    call: ([separator, skip, ...cells], types) =>
      cells
        .map((cell, i) => textOf(cell, types[i + 2]))
        .filter((part) => part !== '' || skip !== true)
        .join((separator ?? '') as string),
    scripts: {
      sql: ([separator = code(''), skip = code(''), ...parts]) =>
        sql`${sqlHelper('fx_textjoin')}(${separator}, ${skip}, ${joined(
          parts.map((part) => sql`${sqlHelper('shown')}(${part})`),
          ', ',
        )})`,
      python: (parts) => py`${pyHelper('fx_textjoin')}(${parts})`,
    },
    examples: [
      ['TEXTJOIN(", "; TRUE; "a"; EMPTY; 2)', 'a, 2'],
      ['TEXTJOIN("-"; FALSE; "a"; EMPTY; "b")', 'a--b'],
      ['TEXTJOIN(","; TRUE; EMPTY)', ''],
    ],
  }),
]
