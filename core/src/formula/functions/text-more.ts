import { maxCellCharacters } from '../../table/limits.ts'
import { compilePattern, patternProblem, replaceMatches } from '../../codegen/regex/engine.ts'
import { foundSql, partSql, patternPython, replacedSql, replacementPython } from '../../codegen/regex/scripts.ts'
import { code, py, sql, type Code, sqlHelper, pyHelper } from '../../codegen/tag.ts'
import { numberReader } from '../../table/number.ts'
import { lower, titleCase } from '../../table/text.ts'
import { failed, type Argument, type FormulaFunction, type CallResult } from '../function-kind.ts'
import { args, define, signs, whole } from './define.ts'

const longest = maxCellCharacters

const patternArgument: Argument = {
  name: 'pattern',
  need: 'text',
  constant: (value) =>
    patternProblem(String(value)) === undefined
      ? undefined
      : `The pattern cannot be read: ${patternProblem(String(value)) ?? ''}.`,
}
const groupArgument: Argument = {
  name: 'group',
  need: 'number',
  optional: true,
  constant: (value) =>
    Number.isInteger(value) && (value as number) >= 0 && (value as number) <= 9
      ? undefined
      : 'The group is a whole number from 0 to 9.',
}

const pad = (name: 'PADLEFT' | 'PADRIGHT'): FormulaFunction =>
  define({
    name,
    group: 'text',
    about: `At least n characters long, filled up ${name === 'PADLEFT' ? 'before' : 'behind'} the text; nothing is cut.`,
    args: 'text:text n:number fill:text?',
    result: 'text',
    call: ([t, n, fill = ' ']) => {
      const missing = whole(n, 0) - signs(t).length
      if (whole(n, 0) > longest || fill === '' || fill === null) return failed
      if (missing <= 0) return t as string
      const filling = signs(fill)
      const more = Array.from({ length: missing }, (_, i) => filling[i % filling.length]).join('')
      return name === 'PADLEFT' ? more + (t as string) : (t as string) + more
    },
    examples:
      name === 'PADLEFT'
        ? [
            ['PADLEFT("7"; 3; "0")', '007'],
            ['PADLEFT("Marlpit"; 3)', 'Marlpit'],
            ['PADLEFT("a"; 4; "xy")', 'xyxa'],
          ]
        : [
            ['PADRIGHT("7"; 3; "0")', '700'],
            ['PADRIGHT("a"; 3) & "|"', 'a  |'],
          ],
  })

const character = (name: 'CHAR' | 'UNICHAR', most: number): FormulaFunction =>
  define({
    name,
    group: 'text',
    about: name === 'CHAR' ? 'The character of a number from 1 to 255.' : 'The character of a Unicode number.',
    args: 'n:number',
    result: 'text',
    call: ([n]) =>
      whole(n, 0) >= 1 && whole(n, 0) <= most && !(whole(n, 0) >= 0xd800 && whole(n, 0) <= 0xdfff)
        ? String.fromCodePoint(whole(n, 0))
        : failed,
    examples:
      name === 'CHAR'
        ? [
            ['CHAR(65)', 'A'],
            ['CHAR(233)', 'é'],
            ['CHAR(0)', ''],
            ['CHAR(300)', ''],
          ]
        : [
            ['UNICHAR(128512)', '😀'],
            ['UNICHAR(55296)', ''],
          ],
  })

const codeOf = (name: 'CODE' | 'UNICODE'): FormulaFunction =>
  define({
    name,
    group: 'text',
    about: 'The Unicode number of the first character.',
    args: 'text:text',
    result: 'integer',
    call: ([t]) => (t as string).codePointAt(0) ?? failed,
    examples:
      name === 'CODE'
        ? [['CODE("Apple")', '65']]
        : [
            ['UNICODE("😀a")', '128512'],
            ['UNICODE("é")', '233'],
          ],
  })

const extract = (text: string, source: string, group: number): CallResult => {
  const matcher = compilePattern(source, false).matcher(text)
  if (!matcher.find() || group > matcher.groupCount()) return failed
  return matcher.group(group) ?? null
}

const splitPart = (text: string, separator: string, n: number): CallResult => {
  if (n === 0) return failed
  const parts = separator === '' ? [text] : text.split(separator)
  return parts[n > 0 ? n - 1 : parts.length + n] ?? null
}

const search = (text: string, what: string, from: number): CallResult => {
  if (from < 1 || from > signs(text).length + 1) return failed
  const rest = signs(text)
    .slice(from - 1)
    .join('')
  const at = lower(rest).indexOf(lower(what))
  return at < 0 ? failed : from + Array.from(lower(rest).slice(0, at)).length
}

/** Further functions of text. */
export const textMore = [
  define({
    name: 'PROPER',
    group: 'text',
    total: true,
    about: 'Each word’s first letter large, the rest small.',
    args: 'text:text',
    result: 'text',
    call: ([t]) => titleCase(t as string),
    scripts: {
      sql: ([t = code('')]) => sql`${sqlHelper('title_of')}(${t})`,
    },
    examples: [['PROPER("long ACRE o\'neil")', "Long Acre O'neil"]],
  }),
  define({
    name: 'CLEAN',
    group: 'text',
    total: true,
    about: 'Without the control signs that cannot be printed.',
    args: 'text:text',
    result: 'text',
    fails: 'never',
    call: ([t]) => (t as string).replace(/\p{Cc}/gu, ''),
    examples: [['CLEAN("a" & CHAR(7) & "b" & CHAR(10))', 'ab']],
  }),
  define({
    name: 'REPLACE',
    group: 'text',
    about: 'n characters from a position on, put another text for.',
    args: 'text:text start:number n:number new:text',
    result: 'text',
    fails: {
      sql: ([, start = code(''), n = code('')]) => sql`trunc(${start}) < 1 or trunc(${n}) < 0`,
      python: () => code('lambda t, s, n, w: int(s) < 1 or int(n) < 0'),
    },
    call: ([t, start, n, next]) =>
      whole(start, 1) < 1 || whole(n, 0) < 0
        ? failed
        : [...signs(t).slice(0, whole(start, 1) - 1), next, ...signs(t).slice(whole(start, 1) - 1 + whole(n, 0))].join(
            '',
          ),
    examples: [
      ['REPLACE("VAC-2"; 1; 3; "CON")', 'CON-2'],
      ['REPLACE("abc"; 2; 0; "-")', 'a-bc'],
      ['REPLACE("abc"; 9; 1; "x")', 'abcx'],
      ['REPLACE("abc"; 1; 3; "")', ''],
    ],
  }),
  define({
    name: 'SEARCH',
    group: 'text',
    about: 'Where a text first stands in another, from 1, whatever the case.',
    args: 'what:text text:text from:number?',
    result: 'integer',
    call: ([what, t, from]) => search(t as string, what as string, whole(from, 1)),
    examples: [
      ['SEARCH("PIT"; "Marlpit")', '5'],
      ['SEARCH("x"; "abc")', ''],
      ['SEARCH("A"; "banana"; 3)', '4'],
    ],
  }),
  define({
    name: 'EXACT',
    group: 'text',
    total: true,
    about: 'Whether two texts are the same to the letter.',
    args: 'a:text b:text',
    result: 'boolean',
    call: ([a, b]) => a === b,
    examples: [
      ['EXACT("a"; "a")', 'true'],
      ['EXACT("a"; "A")', 'false'],
      ['EXACT("a"; EMPTY)', ''],
    ],
  }),
  define({
    name: 'REPT',
    group: 'text',
    about: 'The text n times over.',
    args: 'text:text n:number',
    result: 'text',
    fails: { sql: ([, n = code('')]) => sql`trunc(${n}) <> 0`, python: () => code('lambda t, n: int(n) != 0') },
    call: ([t, n]) =>
      whole(n, 0) < 0 || whole(n, 0) * (t as string).length > longest ? failed : (t as string).repeat(whole(n, 0)),
    examples: [
      ['REPT("ab"; 3)', 'ababab'],
      ['REPT("ab"; 0)', ''],
      ['REPT("ab"; -1)', ''],
    ],
  }),
  character('CHAR', 255),
  codeOf('CODE'),
  codeOf('UNICODE'),
  character('UNICHAR', 0x10ffff),
  define({
    name: 'NUMBERVALUE',
    group: 'number',
    about: 'The number that a text reads as, with the signs that it uses.',
    args: [
      ...args('text:text'),
      {
        name: 'decimal',
        need: 'text',
        optional: true,
        constant: (value) =>
          typeof value === 'string' && Array.from(value).length === 1
            ? undefined
            : 'The decimal sign is one character.',
      },
      {
        name: 'group',
        need: 'text',
        optional: true,
        constant: (value) =>
          value === null || (typeof value === 'string' && Array.from(value).length <= 1)
            ? undefined
            : 'The group sign is one character or none.',
      },
    ],
    result: 'decimal',
    call: ([t, decimal = '.', group = ',']) =>
      numberReader({ decimal: String(decimal), group: group === null ? '' : String(group) })(t as string) ?? failed,
    scripts: {
      sql: ([t = code(''), d = sql`${'.'}`, g = sql`${','}`]) => sql`${sqlHelper('read_number')}(${t}, ${d}, ${g})`,
    },
    examples: [
      ['NUMBERVALUE("1.204,50"; ","; ".")', '1204.5'],
      ['NUMBERVALUE("1 204,5"; ","; " ")', '1204.5'],
      ['NUMBERVALUE("x"; ","; ".")', ''],
    ],
  }),
  define({
    name: 'REGEXTEST',
    group: 'text',
    about: 'Whether a pattern (RE2) is found in the text.',
    args: [...args('text:text'), patternArgument],
    result: 'boolean',
    call: ([t, p]) => compilePattern(p as string, false).test(t as string),
    scripts: {
      sql: ([t = code('')], _types, [, p]) => sql`(${foundSql(t, String(p))})`,
      python: ([t = code('')], _types, [, p]) => py`${pyHelper('fx_regextest')}(${t}, ${patternPython(String(p))})`,
    },
    examples: [
      ['REGEXTEST("VAC-12"; "^[A-Z]+-\\d+$")', 'true'],
      ['REGEXTEST("VAC"; "\\d")', 'false'],
      ['REGEXTEST(EMPTY; "a")', ''],
    ],
  }),
  define({
    name: 'REGEXEXTRACT',
    group: 'text',
    about: 'What a pattern finds first, or one of its groups.',
    args: [...args('text:text'), patternArgument, groupArgument],
    result: 'text',
    fails: {
      sql: ([t = code('')], [, p]) => sql`not ${foundSql(t, String(p))}`,
      python: ([, p]) => py`lambda t, p, g=0: re.search(${patternPython(String(p))}, t) is None`,
    },
    call: ([t, p, g = 0]) => extract(t as string, p as string, g as number),
    scripts: {
      sql: ([t = code('')], _types, [, p, g = 0]) => sql`nullif(${partSql(t, String(p), Number(g), false)}, '')`,
      python: ([t = code('')], _types, [, p, g = 0]) =>
        py`${pyHelper('fx_regexextract')}(${t}, ${patternPython(String(p))}, ${Number(g)})`,
    },
    examples: [
      ['REGEXEXTRACT("VAC-12 ok"; "\\d+")', '12'],
      ['REGEXEXTRACT("VAC-12"; "([A-Z]+)-(\\d+)"; 2)', '12'],
      ['REGEXEXTRACT("VAC"; "\\d+")', ''],
    ],
  }),
  define({
    name: 'REGEXREPLACE',
    group: 'text',
    about: 'Everything that a pattern finds, put another text for; $1 stands for a group.',
    fails: 'never',
    args: [...args('text:text'), patternArgument, { name: 'new', need: 'text', constant: () => undefined }],
    result: 'text',
    call: ([t, p, put]) => replaceMatches(t as string, compilePattern(p as string, false), (put ?? '') as string),
    scripts: {
      sql: ([t = code('')], _types, [, p, put]): Code =>
        sql`nullif(${replacedSql(t, String(p), String(put ?? ''))}, '')`,
      python: ([t = code('')], _types, [, p, put]) =>
        py`${pyHelper('fx_regexreplace')}(${t}, ${patternPython(String(p))}, ${replacementPython(String(put ?? ''))})`,
    },
    examples: [
      ['REGEXREPLACE("a1b22"; "\\d+"; "#")', 'a#b#'],
      ['REGEXREPLACE("Ada Moss"; "(\\w+) (\\w+)"; "$2, $1")', 'Moss, Ada'],
      ['REGEXREPLACE("12"; "\\d"; "")', ''],
    ],
  }),
  define({
    name: 'SPLITPART',
    group: 'text',
    about: 'The n-th piece between separators, from 1; negative from the end.',
    args: 'text:text separator:text n:number',
    result: 'text',
    fails: { sql: ([, , n = code('')]) => sql`trunc(${n}) = 0`, python: () => code('lambda t, s, n: int(n) == 0') },
    call: ([t, s, n]) => splitPart(t as string, s as string, whole(n, 0)),
    examples: [
      ['SPLITPART("a-b-c"; "-"; 2)', 'b'],
      ['SPLITPART("a-b-c"; "-"; -1)', 'c'],
      ['SPLITPART("a--c"; "-"; 2)', ''],
      ['SPLITPART("a"; "-"; 2)', ''],
      ['SPLITPART("a-b"; "-"; 0)', ''],
    ],
  }),
  pad('PADLEFT'),
  pad('PADRIGHT'),
  define({
    name: 'ISNUMBER',
    group: 'logic',
    about: 'Whether a text reads as a number.',
    args: 'text:text',
    result: 'boolean',
    seesEmpty: true,
    call: ([t]) => t !== null && numberReader()(t as string) !== null,
    examples: [
      ['ISNUMBER("1,204.50")', 'true'],
      ['ISNUMBER("dog")', 'false'],
      ['ISNUMBER(EMPTY)', 'false'],
    ],
  }),
  define({
    name: 'XOR',
    group: 'logic',
    about: 'Whether an odd number of conditions holds.',
    args: 'condition:boolean+',
    result: 'boolean',
    call: (cells) => cells.filter((cell) => cell === true).length % 2 === 1,
    examples: [
      ['XOR(TRUE; FALSE)', 'true'],
      ['XOR(TRUE; TRUE)', 'false'],
      ['XOR(TRUE; EMPTY)', ''],
    ],
  }),
]
