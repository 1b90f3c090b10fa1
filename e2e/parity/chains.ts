import {
  parameterCells,
  runRecipe,
  writeCsv,
  type Recipe,
  type Step,
  openedInputs,
  type RecipeTable,
} from '@fabula/core'
import { fileFromBytes, openInput } from '@fabula/formats'

/** Sayings of the engine that both scripts must repeat: stories of several steps over an export with everything wrong in it. */
const clinics = [
  'Fernhollow',
  ' fernhollow',
  'FERNHOLLOW ',
  'Oxbow',
  'Óxbow',
  'Oxbow\u00a0',
  'Tarn  End',
  '',
  'Marlpit "North"',
  'Long, Acre',
  'Größe',
  '😀 Ward',
  'two\nlines',
  'NaN',
  'None',
  'null',
  '0012',
  '\\N',
  '%s',
  '$1',
  "O'Neil",
]
const fees = ['12.50', '0.1', '0.2', '-0', '', '1e3', '1000000000000', '0.000001', '-17.005', '2.675', '99999.995']
const dates = ['2031-05-01', '2031-12-31', '2032-02-29', '', '2030-01-01', '1900-03-01', '9999-12-31']
const names = ['Clinic', 'Fee', 'Owner\'s "ref"', 'select', 'Größe', 'day']
const cell = (text: string): string => (/[",\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text)
const pick = <T>(list: readonly T[], n: number): T => list[n % list.length] as T
const rows = Array.from({ length: 180 }, (_, i) => [
  pick(clinics, i * 7 + (i >> 3)),
  pick(fees, i * 5 + (i >> 4)),
  pick(clinics, i * 11 + 3),
  String((i * 37) % 23),
  pick(['', 'true', 'false', 'true'], i * 3 + (i >> 2)),
  pick(dates, i * 3 + (i >> 5)),
])
export const chainFile = `${[names, ...rows].map((row) => row.map(cell).join(',')).join('\n')}\n`
const types = {
  Clinic: { type: 'text' },
  Fee: { type: 'decimal' },
  'Owner\'s "ref"': { type: 'text' },
  select: { type: 'integer' },
  Größe: { type: 'boolean' },
  day: { type: 'date', formats: ['yyyy-MM-dd'] },
} as const

type Acts = readonly (Readonly<Record<string, unknown>> & { kind: string })[]
const chains: Record<string, Acts> = {
  'spellings cleaned, then counted': [
    { kind: 'clean-text', columns: ['Clinic'], do: ['trim', 'collapse-spaces', 'lower'] },
    {
      kind: 'summarise',
      by: ['Clinic'],
      measures: [
        { as: 'Rows', how: 'count' },
        { as: 'Sum', how: 'sum', column: 'Fee' },
        { as: 'First', how: 'first', column: 'day' },
        { as: 'Kinds', how: 'distinct', column: 'Owner\'s "ref"' },
      ],
    },
    { kind: 'sort', by: [{ column: 'Rows', descending: true }, { column: 'Clinic' }] },
  ],
  'gaps filled, rows numbered in groups, the first kept': [
    { kind: 'fill', columns: ['Clinic', 'Fee'], direction: 'down' },
    { kind: 'number', as: 'No', within: ['Clinic'] },
    { kind: 'filter', where: { column: 'No', op: 'at-most', value: 2 } },
    { kind: 'drop', columns: ['No'] },
  ],
  'formulas on formulas, a column renamed between': [
    { kind: 'derive', as: 'Net', formula: 'ROUND(Fee * 0.8; 2)' },
    { kind: 'rename', names: { 'Owner\'s "ref"': "it's" } },
    { kind: 'derive', as: 'Label', formula: 'UPPER(LEFT(\'it\'\'s\'; 3)) & "-" & select & IF(ISBLANK(Net); "?"; "")' },
    { kind: 'derive', as: 'Late', formula: 'day > "2031-06-30"' },
    {
      kind: 'filter',
      keep: false,
      where: {
        all: [
          { column: 'Late', op: 'is', value: true },
          { column: 'Net', op: 'less', value: 1 },
        ],
      },
    },
  ],
  'columns to rows, empties left out, summarised again': [
    { kind: 'cast', columns: ['select'], type: 'decimal' },
    { kind: 'unpivot', name: 'What', groups: [{ columns: ['Fee', 'select'], value: 'Value' }], empty: 'drop' },
    {
      kind: 'summarise',
      by: ['What', 'Größe'],
      measures: [
        { as: 'Median', how: 'median', column: 'Value' },
        { as: 'Least', how: 'min', column: 'Value' },
        { as: 'n', how: 'filled', column: 'Value' },
      ],
    },
  ],
  'parts replaced by a pattern, then kept apart': [
    { kind: 'replace', columns: ['Clinic', 'Owner\'s "ref"'], match: 'pattern', find: '(\\w)(\\w*)$', with: '$2$$$1' },
    { kind: 'distinct', columns: ['Clinic'] },
    { kind: 'sort', by: [{ column: 'Clinic', descending: true }] },
  ],
  'blanked, filled with a value, combined': [
    { kind: 'blank', columns: ['Clinic'], values: ['NaN', 'None', 'null', '\\N'] },
    { kind: 'fill-empty', columns: ['Clinic'], with: "$1 'none' %s" },
    { kind: 'combine', columns: ['Clinic', 'select', 'Größe', 'day'], as: 'Key', with: ' | ' },
    { kind: 'slice', skip: 5 },
    { kind: 'slice', first: 90 },
  ],
  'text functions on text of every sort': [
    'PROPER(Clinic)',
    'TRIM(Clinic) & "|" & LEN(Clinic)',
    'LEFT(Clinic; 2) & RIGHT(Clinic; 2) & MID(Clinic; 3; 4)',
    'SUBSTITUTE(Clinic; "o"; "0"; 1)',
    'SEARCH("O"; Clinic)',
    'FIND("o"; Clinic)',
    'SPLITPART(Clinic; " "; -1)',
    'PADLEFT(Clinic; 8; "·")',
    'REGEXEXTRACT(Clinic; "[a-z]+")',
    'REGEXREPLACE(Clinic; "[^A-Za-z]"; "_")',
    'CODE(Clinic)',
    'VALUE(Clinic)',
    'ISNUMBER(Clinic)',
    "LOWER(Clinic) = LOWER('Owner''s \"ref\"')",
    "EXACT(Clinic; 'Owner''s \"ref\"')",
    'TEXTJOIN("/"; TRUE; Clinic; Fee; day; Größe)',
  ].map((formula, i) => ({ kind: 'derive', as: `T${i}`, formula })),
  'number functions on numbers of every size': [
    'ROUND(Fee; 2)',
    'ROUNDUP(Fee; 1)',
    'ROUNDDOWN(Fee; -1)',
    'INT(Fee)',
    'TRUNC(Fee; 1)',
    'CEILING(Fee; 0.5)',
    'FLOOR(Fee; 3)',
    'MROUND(Fee; 0.05)',
    'MOD(Fee; 7)',
    'QUOTIENT(Fee; 4)',
    'SQRT(Fee)',
    'LN(Fee)',
    'LOG10(Fee)',
    'Fee ^ 2',
    'Fee / select',
    'Fee % + select',
    'MAX(Fee; select) - MIN(Fee; select)',
    'AVERAGE(Fee; select)',
    'Fee & ""',
    'SIGN(Fee) * ABS(Fee) = Fee',
  ].map((formula, i) => ({ kind: 'derive', as: `N${i}`, formula })),
  'date functions from one end of the calendar to the other': [
    'YEAR(day) * 100 + MONTH(day)',
    'WEEKDAY(day)',
    'WEEKDAY(day; 2)',
    'ISOWEEKNUM(day)',
    'WEEKNUM(day)',
    'QUARTER(day)',
    'EDATE(day; select)',
    'EDATE(day; -13)',
    'EOMONTH(day; 1)',
    'day + select',
    'day - DATE(2031; 2; 30)',
    'NETWORKDAYS(day; day + select)',
    'WORKDAY(day; select)',
    'DATEDIF(DATE(1900; 1; 31); day; "md")',
    'DATEDIF(DATE(1900; 1; 31); day; "ym")',
    'DATETRUNC(day; "week")',
    'DATETRUNC(day; "quarter")',
    'MONTHNAME(day) & " " & DAYNAME(day)',
    'DATETIME(day; TIME(25; 61; 1))',
    'day >= "2031-05-01"',
  ].map((formula, i) => ({ kind: 'derive', as: `D${i}`, formula })),
  'sorted by numbers inside, the last of each kept, columns moved': [
    {
      kind: 'sort',
      by: [{ column: 'Clinic', natural: true }, { column: 'day', descending: true }, { column: 'select' }],
    },
    { kind: 'distinct', columns: ['Clinic', 'Größe'], keep: 'last' },
    { kind: 'duplicate', column: 'day', as: 'Day "2"' },
    { kind: 'move', columns: ['Größe'], to: 'first' },
    { kind: 'fill', columns: ['Fee'], direction: 'up', within: ['Größe'] },
  ],
  'types there and back': [
    { kind: 'cast', columns: ['Fee', 'select', 'Größe', 'day'], type: 'text' },
    { kind: 'cast', columns: ['Fee'], type: 'decimal' },
    { kind: 'cast', columns: ['day'], type: 'date', formats: ['yyyy-MM-dd'] },
    { kind: 'cast', columns: ['Clinic'], type: 'decimal' },
    { kind: 'sort', by: [{ column: 'day' }, { column: 'Fee', descending: true }] },
  ],
}

Object.assign(chains, {
  'rows to columns by the nastiest labels, and back': [
    { kind: 'summarise', by: ['Clinic', 'select'], measures: [{ as: 'Fees', how: 'sum', column: 'Fee' }] },
    { kind: 'pivot', labels: 'Clinic', values: [{ column: 'Fees', how: 'only' }] },
    { kind: 'unpivot', name: 'Clinic', groups: [{ columns: { except: ['select'] }, value: 'Fees' }], empty: 'drop' },
    { kind: 'sort', by: [{ column: 'Clinic' }, { column: 'select', descending: true }] },
  ],
  'no rows, and so no labels to make columns of': [
    { kind: 'filter', where: { column: 'select', op: 'at-most', value: -1 } },
    { kind: 'pivot', labels: 'Clinic', values: [{ column: 'Fee', how: 'sum' }], by: [] },
  ],
  'several figures in columns, gaps filled, dates as labels': [
    { kind: 'filter', where: { column: 'day', op: 'is-filled' } },
    {
      kind: 'pivot',
      labels: 'day',
      values: [
        { column: 'Fee', how: 'mean', as: 'Mean' },
        { column: 'Clinic', how: 'distinct', as: 'Clinics' },
      ],
      by: ['Größe'],
      gaps: 0,
    },
  ],
  'pieces of text to rows, lists collected and unrolled': [
    { kind: 'split', column: 'Clinic', by: { pattern: '[\\s,]+' }, into: 'rows' },
    {
      kind: 'summarise',
      by: ['Größe'],
      measures: [
        { as: 'Words', how: 'list', column: 'Clinic', order: [{ column: 'Clinic' }, { column: 'select' }] },
        { as: 'Text', how: 'join', column: 'select', separator: '|' },
        { as: 'Dev', how: 'deviation', column: 'select' },
        { as: 'Share', how: 'share', column: 'select' },
      ],
    },
    { kind: 'derive', as: 'Different', formula: 'LISTJOIN(LISTSORT(LISTDISTINCT(Words)); "; ")' },
    { kind: 'unroll', column: 'Words' },
    { kind: 'distinct', columns: ['Größe', 'Words'] },
  ],
  'figures of the group, running, ranked, before and after': [
    {
      kind: 'window',
      by: ['Clinic'],
      order: [{ column: 'select' }, { column: 'Fee', descending: true }],
      measures: [
        { how: 'running-sum', column: 'Fee', as: 'Run' },
        { how: 'rank', as: 'Rank' },
        { how: 'dense-rank', as: 'Dense' },
        { how: 'previous', column: 'day', as: 'Before' },
        { how: 'next', column: 'Owner\'s "ref"', as: 'After', offset: 2 },
        { how: 'last', column: 'Größe', as: 'Last' },
        { how: 'median', column: 'select', as: 'Median' },
        { how: 'share', column: 'select', as: 'Share' },
        { how: 'list', column: 'select', as: 'All' },
      ],
    },
    { kind: 'filter', where: { column: 'Rank', op: 'at-most', value: 3 } },
  ],
  'one spelling, bands by cases, a part of the text': [
    {
      kind: 'unify',
      column: 'Clinic',
      groups: [
        { into: 'Fernhollow', from: [' fernhollow', 'FERNHOLLOW ', 'Fernhollow'] },
        { into: 'O\'Neil "x"', from: ["O'Neil", '😀 Ward'] },
      ],
      judged: 'spelling',
    },
    {
      kind: 'cases',
      as: 'Band',
      cases: [
        { when: { column: 'Fee', op: 'less', value: 0.5 }, then: "it's small" },
        {
          when: {
            any: [
              { column: 'Fee', op: 'is-empty' },
              { column: 'day', op: 'greater', value: '2032-01-01' },
            ],
          },
          then: { column: 'Clinic' },
        },
      ],
      otherwise: '%s',
    },
    {
      kind: 'extract',
      column: 'Band',
      as: 'Part',
      take: { pattern: '(\\w)(\\w+)', group: 2 },
      occurrence: 'last',
      after: 'Band',
    },
    {
      kind: 'derive',
      as: 'Or',
      formula: 'IFERROR(VALUE(Clinic) / select; IFERROR(DATEVALUE(Clinic; "dd.MM.yyyy") - day; LEN(Clinic)))',
    },
    {
      kind: 'derive',
      as: 'Written',
      formula: 'TEXT(Fee; "#,##0.00;(0.0)") & " | " & TEXT(day; "EEE d MMMM yy") & " | " & TEXT(select; "000 %")',
    },
  ],
  'the first rows on their side': [
    { kind: 'slice', first: 9 },
    { kind: 'transpose', names: 'Clinic' },
    { kind: 'header', row: 'none' },
    { kind: 'header', row: 1 },
  ],
} satisfies Record<string, Acts>)

const ref = 'Owner\'s "ref"'
const conditions: readonly object[] = [
  { column: 'Clinic', op: 'is', value: 'oxbow', ignoreCase: true, trim: true },
  { column: 'Clinic', op: 'is-not', value: 'Oxbow' },
  { column: 'Clinic', op: 'is', value: { column: ref } },
  { column: 'Clinic', op: 'is-none-of', values: ['FERNHOLLOW', 'größe', null], ignoreCase: true, trim: true },
  { column: 'Clinic', op: 'contains', value: 'O', ignoreCase: true },
  { column: 'Clinic', op: 'starts-not-with', value: 'F' },
  { column: 'Clinic', op: 'ends-with', value: '"' },
  { column: 'Clinic', op: 'matches', value: '^[^a-z]|\\d$' },
  { column: 'Clinic', op: 'between', from: 'g', to: 'O' },
  { column: 'Fee', op: 'at-most', value: { column: 'select' } },
  {
    not: {
      any: [
        { column: 'Fee', op: 'between', from: 0, to: 100 },
        { column: 'Fee', op: 'is-empty' },
      ],
    },
  },
  { column: 'day', op: 'greater', value: '2031-05-01' },
  { column: 'Größe', op: 'is-not', value: true },
  { formula: `IF(select > 10; LEN(Clinic) > 5; ISBLANK(Fee))` },
]
chains['lists in order, by the text that stands for them'] = [
  {
    kind: 'summarise',
    by: ['day'],
    measures: [
      { how: 'list', column: 'Clinic', as: 'Clinics' },
      { how: 'max', column: 'Clinic', as: 'Most' },
    ],
  },
  { kind: 'sort', by: [{ column: 'Clinics', descending: true }] },
]
conditions.forEach((where, i) => {
  chains[`rows kept by condition ${i + 1}, numbered`] = [
    { kind: 'filter', where },
    { kind: 'number', as: 'No' },
  ]
})

/** A recipe run by the engine on the texts of its files. */
export const runOn = async (recipe: Recipe, files: Readonly<Record<string, string | Uint8Array>>) => {
  const reads = new Map(openedInputs(recipe).map(({ input, read }) => [input, read] as const))
  const opened = new Map<string, Awaited<ReturnType<typeof openInput>>>()
  for (const [input, read] of reads)
    opened.set(input, await openInput([fileFromBytes(`${input}.csv`, Buffer.from(files[input] ?? ''))], read))
  const sources = (input: string) => {
    const one = opened.get(input)
    if (!one) throw new Error(`no file for ${input}`)
    return { ...one, key: input }
  }
  return runRecipe(recipe, { sources, parameters: parameterCells(recipe, {}).cells, now: 0 })
}

const stepsOf = (acts: Acts): Step[] => [
  { id: 's1', kind: 'open', input: 'rows', read: { delimiter: ',', types } },
  ...acts.map((act, i) => ({ id: `s${i + 2}`, ...act }) as Step),
]
/** Stories of two tables: the other is typed in. */
const other: RecipeTable = {
  id: 'towns',
  name: 'Towns',
  steps: [
    {
      id: 't1',
      kind: 'enter',
      columns: [
        { name: 'Name', type: 'text' as const },
        { name: 'select', type: 'decimal' as const },
        { name: 'Since', type: 'date' as const },
      ],
      rows: [
        ['oxbow', 1.5, '2031-05-01'],
        ['Oxbow ', 3, null],
        ['größe', null, '2030-01-01'],
        [null, 7, '2031-12-31'],
        ['Two\nLines', 5, null],
        ['FERNHOLLOW', 2, '2031-05-01'],
      ],
    },
  ],
}
const pairs: Record<string, Acts> = {
  ...Object.fromEntries(
    (['left', 'inner', 'right', 'full', 'left-only', 'right-only'] as const).map((how) => [
      `matched with another table, ${how}`,
      [
        {
          kind: 'join',
          with: 'towns',
          how,
          on: [{ left: 'Clinic', right: 'Name' }],
          ignoreCase: true,
          trim: true,
          prefix: 'their ',
        },
      ],
    ]),
  ),
  'matched by a whole number with a decimal, the first only': [
    { kind: 'join', with: 'towns', how: 'full', on: [{ left: 'select', right: 'select' }], matches: 'first' },
    { kind: 'check', rows: { 'at-least': 1 }, else: 'stop', say: "it's there" },
  ],
  'laid underneath, columns laid together and kept apart': [
    {
      kind: 'union',
      with: ['towns', 'towns'],
      pairs: [
        {
          into: 'Place',
          from: [
            { table: 'result', column: 'Clinic' },
            { table: 'towns', column: 'Name' },
          ],
        },
      ],
      apart: [{ column: 'select', table: 'towns', as: 'their select' }],
      origin: 'Where',
    },
    {
      kind: 'summarise',
      by: ['Where', 'Place'],
      measures: [
        { how: 'count', as: 'n' },
        { how: 'max', column: 'Since', as: 'latest' },
      ],
    },
  ],
}
Object.assign(chains, pairs)

export const chainCases = await Promise.all(
  Object.entries(chains).map(async ([name, acts]) => {
    const recipe: Recipe = {
      fabula: 1,
      name,
      inputs: [
        {
          id: 'rows',
          name: 'Rows',
          columns: names.map((one) => ({ name: one, type: types[one as keyof typeof types].type })),
        },
      ],
      tables: [...(Object.hasOwn(pairs, name) ? [other] : []), { id: 'result', name: 'Result', steps: stepsOf(acts) }],
    }
    const table = (await runOn(recipe, { rows: chainFile })).tables.at(-1)?.table
    if (!table || table.rowCount === 0) throw new Error(`the story “${name}” does not run`)
    return { name: `story: ${name}`, recipe, file: chainFile, gives: writeCsv(table) }
  }),
)
