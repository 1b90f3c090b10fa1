import { mostCharacters } from '../../table/limits.ts'
import { compilePattern, patternFor, patternProblem, replaceMatches, replacementFor } from '../../generate/regex.ts'
import { code, py, sql, type Code } from '../../generate/tag.ts'
import { numberReader } from '../../table/number.ts'
import { lower, titleCase } from '../../table/text.ts'
import { failed, type Argument, type FormulaFunction, type Outcome } from '../function-kind.ts'
import { args, define, signs, whole } from './define.ts'

const longest = mostCharacters

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
    sqlHelper: `create function fx_${name.toLowerCase()}(t text, n float8, f text default ' ') returns text immutable language sql as $$
  select case when trunc(n) <= ${longest} and f <> '' then case when trunc(n) <= char_length(t) then t else ${name === 'PADLEFT' ? 'lpad' : 'rpad'}(t, trunc(n)::int, f) end end $$;`,
    pythonHelper: `def ${name.toLowerCase()}(t, n, f=" "):
    missing = int(n) - len(t)
    if int(n) > ${longest} or f == "":
        return None
    more = (f * (missing // len(f) + 1))[:missing] if missing > 0 else ""
    return ${name === 'PADLEFT' ? 'more + t' : 't + more'}
fx_${name.toLowerCase()} = by_row(${name.toLowerCase()})`,
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
    sqlHelper: `create function fx_${name.toLowerCase()}(n float8) returns text immutable language sql as $$ select case when trunc(n) between 1 and ${most} and trunc(n) not between 55296 and 57343 then chr(trunc(n)::int) end $$;`,
    pythonHelper: `fx_${name.toLowerCase()} = by_row(lambda n: chr(int(n)) if 1 <= int(n) <= ${most} and not 55296 <= int(n) <= 57343 else None)`,
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
    sqlHelper: `create function fx_${name.toLowerCase()}(t text) returns bigint immutable language sql as $$ select ascii(t)::bigint $$;`,
    pythonHelper: `fx_${name.toLowerCase()} = by_row(lambda t: ord(t[0]))`,
    examples:
      name === 'CODE'
        ? [['CODE("Apple")', '65']]
        : [
            ['UNICODE("😀a")', '128512'],
            ['UNICODE("é")', '233'],
          ],
  })

const extract = (text: string, source: string, group: number): Outcome => {
  const matcher = compilePattern(source, false).matcher(text)
  if (!matcher.find() || group > matcher.groupCount()) return failed
  return matcher.group(group) ?? null
}

const splitPart = (text: string, separator: string, n: number): Outcome => {
  if (n === 0) return failed
  const parts = separator === '' ? [text] : text.split(separator)
  return parts[n > 0 ? n - 1 : parts.length + n] ?? null
}

const search = (text: string, what: string, from: number): Outcome => {
  if (from < 1 || from > signs(text).length + 1) return failed
  const rest = signs(text)
    .slice(from - 1)
    .join('')
  const at = lower(rest).indexOf(lower(what))
  return at < 0 ? failed : from + Array.from(lower(rest).slice(0, at)).length
}

export const textMore = [
  define({
    name: 'PROPER',
    group: 'text',
    about: 'Each word’s first letter large, the rest small.',
    args: 'text:text',
    result: 'text',
    call: ([t]) => titleCase(t as string),
    sql: ([t = code('')]) => sql`title_of(${t})`,
    pythonHelper: 'fx_proper = by_row(lambda t: title_of(t))',
    examples: [['PROPER("long ACRE o\'neil")', "Long Acre O'neil"]],
  }),
  define({
    name: 'CLEAN',
    group: 'text',
    about: 'Without the control signs that cannot be printed.',
    args: 'text:text',
    result: 'text',
    fails: 'never',
    call: ([t]) => (t as string).replace(/\p{Cc}/gu, ''),
    sqlHelper: `create function fx_clean(t text) returns text immutable language sql as $$ select nullif(regexp_replace(t, '${patternFor('sql', '\\p{Cc}')}', '', 'g'), '') $$;`,
    pythonHelper: 'fx_clean = by_row(lambda t: "".join(c for c in t if not (ord(c) < 32 or 127 <= ord(c) < 160)))',
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
    sqlHelper: `create function fx_replace(t text, s float8, n float8, w text) returns text immutable language sql as $$
  select case when trunc(s) >= 1 and trunc(n) >= 0 then nullif(left(t, least(trunc(s), 1000000000)::int - 1) || w || substr(t, least(trunc(s) + trunc(n), 1000000000)::int), '') end $$;`,
    pythonHelper:
      'fx_replace = by_row(lambda t, s, n, w: t[:int(s) - 1] + w + t[int(s) - 1 + int(n):] if int(s) >= 1 and int(n) >= 0 else None)',
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
    sqlHelper: `create function fx_search(w text, t text, f float8 default 1) returns bigint immutable language sql as $$
  select case when trunc(f) >= 1 and trunc(f) <= char_length(t) + 1 and strpos(lower_of(substr(t, trunc(f)::int)), lower_of(w)) > 0 then (strpos(lower_of(substr(t, trunc(f)::int)), lower_of(w)) + trunc(f) - 1)::bigint end $$;`,
    pythonHelper:
      'fx_search = by_row(lambda w, t, f=1: lower_of(t[int(f) - 1:]).index(lower_of(w)) + int(f) if 1 <= int(f) <= len(t) + 1 else None)',
    examples: [
      ['SEARCH("PIT"; "Marlpit")', '5'],
      ['SEARCH("x"; "abc")', ''],
      ['SEARCH("A"; "banana"; 3)', '4'],
    ],
  }),
  define({
    name: 'EXACT',
    group: 'text',
    about: 'Whether two texts are the same to the letter.',
    args: 'a:text b:text',
    result: 'boolean',
    call: ([a, b]) => a === b,
    sqlHelper: 'create function fx_exact(a text, b text) returns boolean immutable language sql as $$ select a = b $$;',
    pythonHelper: 'fx_exact = by_row(lambda a, b: a == b)',
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
    sqlHelper: `create function fx_rept(t text, n float8) returns text immutable language sql as $$ select case when trunc(n) >= 0 and trunc(n) * char_length(t) <= ${longest} then nullif(repeat(t, trunc(n)::int), '') end $$;`,
    pythonHelper: `fx_rept = by_row(lambda t, n: t * int(n) if int(n) >= 0 and int(n) * len(t) <= ${longest} else None)`,
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
    sql: ([t = code(''), d = sql`${'.'}`, g = sql`${','}`]) => sql`read_number(${t}, ${d}, ${g})`,
    pythonHelper: 'fx_numbervalue = by_row(lambda t, d=".", g=",": read_number(t, d, g))',
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
    sql: ([t = code('')], _types, [, p]) => sql`(${t} ~ ${patternFor('sql', String(p))})`,
    python: ([t = code('')], _types, [, p]) => py`fx_regextest(${t}, ${patternFor('python', String(p))})`,
    pythonHelper: 'fx_regextest = by_row(lambda t, p: re.search(p, t) is not None)',
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
      sql: ([t = code('')], [, p]) => sql`${t} !~ ${patternFor('sql', String(p))}`,
      python: ([, p]) => py`lambda t, p, g=0: re.search(${patternFor('python', String(p))}, t) is None`,
    },
    call: ([t, p, g = 0]) => extract(t as string, p as string, g as number),
    sql: ([t = code('')], _types, [, p, g = 0]) =>
      g === 0
        ? sql`nullif((regexp_match(${t}, ${`(${patternFor('sql', String(p))})`}))[1], '')`
        : sql`nullif((regexp_match(${t}, ${patternFor('sql', String(p))}))[${Number(g)}], '')`,
    python: ([t = code('')], _types, [, p, g = 0]) =>
      py`fx_regexextract(${t}, ${patternFor('python', String(p))}, ${Number(g)})`,
    pythonHelper: 'fx_regexextract = by_row(lambda t, p, g: re.search(p, t).group(g) if re.search(p, t) else None)',
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
    sql: ([t = code('')], _types, [, p, put]): Code =>
      sql`nullif(regexp_replace(${t}, ${patternFor('sql', String(p))}, ${replacementFor('sql', String(put ?? ''))}, 'g'), '')`,
    python: ([t = code('')], _types, [, p, put]) =>
      py`fx_regexreplace(${t}, ${patternFor('python', String(p))}, ${replacementFor('python', String(put ?? ''))})`,
    pythonHelper: 'fx_regexreplace = by_row(lambda t, p, w: re.sub(p, w, t))',
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
    sqlHelper: `create function fx_splitpart(t text, s text, n float8) returns text immutable language sql as $$
  select nullif(p[case when trunc(n) > 0 then trunc(n) else cardinality(p) + 1 + trunc(n) end::int], '') from (select string_to_array(t, nullif(s, ''))) x(q), lateral (select coalesce(case when s = '' then array[t] else q end, array[t])) y(p) where trunc(n) <> 0 $$;`,
    pythonHelper: `def splitpart(t, s, n):
    parts = t.split(s) if s else [t]
    at = int(n) - 1 if n > 0 else len(parts) + int(n)
    return None if int(n) == 0 or not 0 <= at < len(parts) else parts[at]
fx_splitpart = by_row(splitpart)`,
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
    sqlHelper:
      "create function fx_isnumber(t text) returns boolean immutable language sql as $$ select t is not null and read_number(t, '.', ',') is not null $$;",
    pythonHelper: 'fx_isnumber = by_row_own(lambda t: t is not None and read_number(t, ".", ",") is not None)',
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
    sqlHelper:
      'create function fx_xor(variadic c boolean[]) returns boolean immutable language sql as $$ select case when bool_or(v is null) then null else count(*) filter (where v) % 2 = 1 end from unnest(c) v $$;',
    pythonHelper: 'fx_xor = by_row(lambda *a: sum(x is True for x in a) % 2 == 1)',
    examples: [
      ['XOR(TRUE; FALSE)', 'true'],
      ['XOR(TRUE; TRUE)', 'false'],
      ['XOR(TRUE; EMPTY)', ''],
    ],
  }),
]
