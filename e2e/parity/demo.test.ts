import { execFileSync, spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { PGlite } from '@electric-sql/pglite'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { parseRecipe, pythonScript, sqlScript, type Recipe, type Step } from '@fabula/core'
import { odsBook, parquetFile } from './fixtures.ts'
import { startPostgres, type RealPostgres } from './postgres.ts'
import { firstDifference, runPsql } from '@fabula/server/proof'

const root = join(import.meta.dirname, '../..')
const folder = mkdtempSync(join(tmpdir(), 'fabula-demo-'))
const fabula = (...words: string[]): string =>
  execFileSync(process.execPath, [join(root, 'cli/bin/fabula.mjs'), ...words], { encoding: 'utf8' })
const at = (name: string): string => join(folder, name)
const recipeAt = (path: string): Recipe => {
  const read = parseRecipe(readFileSync(path, 'utf8'))
  if ('faults' in read) throw new Error(JSON.stringify(read.faults))
  return read.recipe
}
const demo = (name: string): string => join(root, 'demo', name)

/** A file with all that is hard: a title, a mark, quotes, line breaks, blanks, ragged rows, odd numbers and dates. */
const nasty =
  '\ufeffClinic export;;\r\n\r\nName;"Fee";Seen on;Name\r\n"Oxbow; north";"1,204.50";2/5/2031;a\r\n;;;\r\n Marlpit ;(3);31/02/2031;"line\r\nbreak"\r\n"say ""so""";£ 7;2031-05-03;İΣ;more\r\nTarn End;1e2\r\nTotal;;;\r\n'
const nastyRecipe = {
  fabula: 1,
  name: 'Nasty',
  parameters: [{ name: 'As of', type: 'date', value: '2031-06-30' }],
  inputs: [
    {
      id: 'the-file',
      name: 'The file',
      columns: ['Name', 'Fee', 'Seen on', 'Name 2', 'Column 5'].map((name) => ({ name, type: 'text' })),
    },
  ],
  tables: [
    {
      id: 'order',
      name: 'Order',
      steps: [
        { id: 's1', kind: 'open', input: 'the-file', read: { delimiter: ';', header: 3, footer: 1, types: 'text' } },
        { id: 's2', kind: 'cast', columns: ['Fee'], type: 'decimal' },
        { id: 's3', kind: 'cast', columns: ['Seen on'], type: 'date', formats: ['d/M/yyyy', 'yyyy-MM-dd'] },
        { id: 's4', kind: 'derive', as: 'Days', formula: "$'As of' - 'Seen on'" },
        { id: 's5', kind: 'derive', as: 'Small', formula: 'LOWER(\'Name 2\') & "|" & TRIM(Name)', after: 'Name' },
        {
          id: 's6',
          kind: 'filter',
          where: {
            any: [
              { column: 'Fee', op: 'less', value: 5 },
              { column: 'Name', op: 'matches', value: '^[A-Z\\"]?\\w' },
              { column: 'Days', op: 'is-empty' },
            ],
          },
        },
        { id: 's7', kind: 'sort', by: [{ column: 'Fee', descending: true }] },
      ],
    },
  ],
}

/** A workbook as made for reading, records with lists and objects, and a text file with two rows of names in a range. */
const regions = {
  fabula: 1,
  name: 'Regions',
  inputs: [
    {
      id: 'regions',
      name: 'Regions',
      files: 'regions-*.xlsx',
      columns: [
        ...['Region', 'Clinic', 'Species'].map((name) => ({ name, type: 'text' })),
        { name: 'Visits', type: 'integer' },
        { name: 'Takings', type: 'decimal' },
        { name: 'Latest visit', type: 'date' },
        ...['Patient kind', 'Month'].map((name) => ({ name, type: 'text' })),
      ],
    },
  ],
  tables: [
    {
      id: 'regions',
      name: 'Regions',
      steps: [
        {
          id: 's1',
          kind: 'open',
          input: 'regions',
          read: { sheets: { like: '2031-*' }, header: 4, footer: 1, origin: { sheet: 'Month' } },
        },
        { id: 's2', kind: 'fill', columns: ['Region'], direction: 'down' },
        { id: 's3', kind: 'derive', as: 'Species', formula: "COALESCE(Species; 'Patient kind')" },
        { id: 's4', kind: 'sort', by: [{ column: 'Takings', descending: true }] },
      ],
    },
  ],
}
writeFileSync(at('regions.fabula.json'), JSON.stringify(regions))
writeFileSync(
  at('bookings.json'),
  JSON.stringify({
    value: [
      {
        id: 1,
        when: '2031-05-02T09:30:00',
        owner: { name: 'Ada', since: '2030-01-01' },
        tags: ['a', 'é'],
        big: 9007199254740993,
      },
      { id: 2, fee: 1.5, vip: true, code: '007', owner: { name: ' Bo ' } },
      { fee: 3, vip: false, when: null },
    ],
  }),
)
writeFileSync(
  at('bookings.fabula.json'),
  JSON.stringify({
    fabula: 1,
    name: 'Bookings',
    inputs: [
      {
        id: 'bookings',
        name: 'Bookings',
        files: '*.json',
        columns: [
          ['id', 'integer'],
          ['when', 'datetime'],
          ['owner.name', 'text'],
          ['owner.since', 'date'],
          ['tags', 'list'],
          ['big', 'text'],
          ['fee', 'decimal'],
          ['vip', 'boolean'],
          ['code', 'text'],
        ].map(([name, type]) => ({ name, type })),
      },
    ],
    tables: [
      {
        id: 'bookings',
        name: 'Bookings',
        steps: [
          { id: 's1', kind: 'open', input: 'bookings', read: { path: 'value' } },
          { id: 's2', kind: 'filter', where: { column: 'vip', op: 'is-not', value: false } },
          { id: 's3', kind: 'derive', as: 'Said', formula: "tags & '!'".replaceAll("'", '"') },
          { id: 's4', kind: 'sort', by: [{ column: 'tags', descending: true }] },
          { id: 's5', kind: 'move', columns: { type: 'list' }, to: 'last' },
        ],
      },
    ],
  }),
)
writeFileSync(
  at('cross.csv'),
  'printed in May,,,,\n,,2030,,2031,\n,Clinic,Visits,Takings,Visits,Takings\n,Oxbow,1,2.5,3,4\n,Marlpit,5,,7,8\n,Total,6,2.5,10,12\n',
)
writeFileSync(
  at('cross.fabula.json'),
  JSON.stringify({
    fabula: 1,
    name: 'Cross',
    inputs: [
      {
        id: 'cross',
        name: 'Cross',
        columns: ['Clinic', '2030 Visits', '2030 Takings', '2031 Visits', '2031 Takings'].map((name, i) => ({
          name,
          type: i === 0 ? 'text' : i === 2 ? 'decimal' : 'integer',
        })),
      },
    ],
    tables: [
      {
        id: 'cross',
        name: 'Cross',
        steps: [
          {
            id: 's1',
            kind: 'open',
            input: 'cross',
            read: { delimiter: ',', range: 'B2:F6', header: [1, 2], footer: 1 },
          },
          { id: 's2', kind: 'unpivot', name: 'What', groups: [{ columns: { like: '203*' }, value: 'Figure' }] },
        ],
      },
    ],
  }),
)

const columnsOf = (pairs: readonly (readonly [string, string])[]) => pairs.map(([name, type]) => ({ name, type }))
const simple = (
  id: string,
  files: string,
  read: object,
  columns: readonly (readonly [string, string])[],
  step: object,
): void =>
  writeFileSync(
    at(`${id}.fabula.json`),
    JSON.stringify({
      fabula: 1,
      name: id,
      inputs: [{ id, name: id, files, columns: columnsOf(columns) }],
      tables: [
        {
          id,
          name: id,
          steps: [
            { id: 's1', kind: 'open', input: id, read },
            { id: 's2', ...step },
          ],
        },
      ],
    }),
  )
writeFileSync(at('may.ods'), odsBook())
simple(
  'may',
  '*.ods',
  { header: 2 },
  [
    ['Day', 'date'],
    ['Clinic', 'text'],
    ['Fee', 'decimal'],
    ['At', 'time'],
    ['Paid', 'boolean'],
    ['Seen', 'datetime'],
  ],
  { kind: 'derive', as: 'Days', formula: 'Seen - Day' },
)
writeFileSync(at('log.parquet'), parquetFile())
simple(
  'log',
  '*.parquet',
  {},
  [
    ['id', 'integer'],
    ['fee', 'decimal'],
    ['name', 'text'],
    ['paid', 'boolean'],
    ['seen', 'datetime'],
    ['more', 'text'],
  ],
  { kind: 'filter', where: { column: 'id', op: 'greater', value: 1 }, keep: false },
)

// names that the recipe keeps for good: Fees is Fee, Day stays Seen only where Seen is not there
writeFileSync(at('alias.csv'), 'Clinic,Fees,Day,Seen\nOxbow,"1,204.50",2/5/2031,3/5/2031\nTarn End,(3),4/5/2031,\n')
writeFileSync(
  at('alias.fabula.json'),
  JSON.stringify({
    fabula: 1,
    name: 'Alias',
    inputs: [
      {
        id: 'alias',
        name: 'Alias',
        columns: [
          { name: 'Clinic', type: 'text' },
          { name: 'Fee', type: 'decimal', also: ['Charge', 'Fees'] },
          { name: 'Seen', type: 'date', also: ['Day'] },
        ],
      },
    ],
    tables: [
      {
        id: 'alias',
        name: 'Alias',
        steps: [
          {
            id: 's1',
            kind: 'open',
            input: 'alias',
            read: {
              delimiter: ',',
              types: {
                Clinic: { type: 'text' },
                Fee: { type: 'decimal' },
                Seen: { type: 'date', formats: ['d/M/yyyy'] },
              },
            },
          },
          { id: 's2', kind: 'derive', as: 'Double', formula: 'Fee * 2' },
          { id: 's3', kind: 'select', columns: ['Clinic', 'Fee', 'Seen', 'Double'] },
        ],
      },
    ],
  }),
)

type Flow = {
  readonly name: string
  readonly recipe: string
  readonly inputs: Readonly<Record<string, string>>
  readonly tables: readonly string[]
  /** SQL reads what `fabula csv` makes of the inputs. */ readonly asCsv?: true
  /** Python does so too. */ readonly pythonToo?: true
}
writeFileSync(at('nasty.csv'), nasty)
writeFileSync(at('nasty.fabula.json'), JSON.stringify(nastyRecipe))
const flows: readonly Flow[] = [
  {
    name: 'the demo',
    recipe: demo('monthly-takings.fabula.json'),
    inputs: { visits: demo('visits-2031-05.csv'), targets: demo('targets-2031.csv') },
    tables: ['takings', 'targets'],
  },
  {
    name: 'a workbook',
    recipe: at('regions.fabula.json'),
    inputs: { regions: demo('regions-2031-07.xlsx') },
    tables: ['regions'],
    asCsv: true,
  },
  {
    name: 'records',
    recipe: at('bookings.fabula.json'),
    inputs: { bookings: at('bookings.json') },
    tables: ['bookings'],
    asCsv: true,
  },
  {
    name: 'an ODS workbook',
    recipe: at('may.fabula.json'),
    inputs: { may: at('may.ods') },
    tables: ['may'],
    asCsv: true,
  },
  {
    name: 'a Parquet file',
    recipe: at('log.fabula.json'),
    inputs: { log: at('log.parquet') },
    tables: ['log'],
    asCsv: true,
    pythonToo: true,
  },
  {
    name: 'two rows of names in a range',
    recipe: at('cross.fabula.json'),
    inputs: { cross: at('cross.csv') },
    tables: ['cross'],
  },
  {
    name: 'columns by other names',
    recipe: at('alias.fabula.json'),
    inputs: { alias: at('alias.csv') },
    tables: ['alias'],
  },
  { name: 'a nasty file', recipe: at('nasty.fabula.json'), inputs: { 'the-file': at('nasty.csv') }, tables: ['order'] },
]

let db: PGlite
let real: RealPostgres
beforeAll(async () => {
  db = await PGlite.create()
  real = startPostgres(folder)
})
afterAll(async () => {
  real.stop()
  await db.close()
})

describe.each(flows)('$name', ({ recipe, inputs, tables, asCsv, pythonToo }) => {
  const given = Object.entries(inputs).flatMap(([id, path]) => ['--input', `${id}=${path}`])
  const want = Object.fromEntries(
    tables.map((table) => [table, fabula('run', recipe, ...given, '--output', `${table}=-`)]),
  )
  const script = at(`flow-${tables[0] ?? ''}`)
  fabula('script', recipe, '--to', 'python', '--output', `${script}.py`)
  fabula('script', recipe, '--to', 'sql', '--output', `${script}.sql`)
  if (asCsv) fabula('csv', recipe, ...given, '--to', folder)
  const same = (kind: string): void => {
    for (const table of tables)
      expect(firstDifference(want[table] ?? '', readFileSync(at(`${kind}-${table}.csv`), 'utf8'))).toBeUndefined()
  }
  const variables = (kind: string) => ({
    ...Object.fromEntries(
      Object.entries(inputs).map(([id, path]) => [id.replaceAll('-', '_'), asCsv ? at(`${id}.csv`) : path]),
    ),
    ...Object.fromEntries(tables.map((table) => [`out_${table}`, at(`${kind}-${table}.csv`)])),
  })

  test('by python3 from the command line', () => {
    const { status, stderr } = spawnSync(
      '/usr/bin/python3',
      [
        `${script}.py`,
        ...(pythonToo ? Object.keys(inputs).flatMap((id) => ['--input', `${id}=${at(`${id}.csv`)}`]) : given),
        ...tables.flatMap((table) => ['--output', `${table}=${at(`python-${table}.csv`)}`]),
      ],
      { encoding: 'utf8' },
    )
    expect(status, stderr).toBe(0)
    same('python')
    expect(stderr).toMatch(/^ +[\d,]+ rows × \d+ columns {2}s1$/m)
  })
  test('in the embedded database', async () => {
    await runPsql(db, sqlScript(recipeAt(recipe)).commands, { ...variables('pglite'), quiet: '1' })
    same('pglite')
  })
  test('by psql on a PostgreSQL server, which is left as it was', () => {
    const psql = (...words: string[]) =>
      execFileSync(
        'psql',
        ['-X', '-h', folder, '-p', String(real.port), '-U', 'postgres', '-v', 'ON_ERROR_STOP=1', ...words, 'postgres'],
        { encoding: 'utf8' },
      )
    const { status, stderr } = spawnSync(
      'psql',
      [
        '-X',
        '-h',
        folder,
        '-p',
        String(real.port),
        '-U',
        'postgres',
        ...Object.entries(variables('psql')).flatMap(([name, value]) => ['-v', `${name}=${value}`]),
        '-f',
        `${script}.sql`,
        'postgres',
      ],
      { encoding: 'utf8' },
    )
    expect(status, stderr).toBe(0)
    expect(stderr).toMatch(/^\d+ rows s1 {2}Open /m)
    same('psql')
    expect(
      psql(
        '-At',
        '-c',
        "select count(*) from pg_namespace where nspname = 'fabula_run'",
        '-c',
        'select count(*) from pg_largeobject_metadata',
      ),
    ).toBe('0\n0\n')
  })
})

test('a script stops at a missing column with its name', () => {
  const { status, stderr } = spawnSync(
    '/usr/bin/python3',
    [
      at('flow-takings.py'),
      '--input',
      `visits=${demo('visits-2031-06.csv')}`,
      '--input',
      `targets=${demo('targets-2031.csv')}`,
    ],
    { encoding: 'utf8', cwd: folder },
  )
  expect(status).toBe(4)
  expect(stderr).toContain('The file for Visits has no column “Status”')
})

describe('a script says what it was not made for, and with strict it stops', () => {
  const recipe: Recipe = {
    fabula: 1,
    name: 'Fees by status',
    inputs: [
      {
        id: 'fees',
        name: 'Fees',
        columns: [
          { name: 'Clinic', type: 'text' },
          { name: 'Status', type: 'text' },
          { name: 'Fee', type: 'decimal' },
        ],
      },
    ],
    tables: [
      {
        id: 'fees',
        name: 'Fees',
        steps: [
          {
            id: 's1',
            kind: 'open',
            input: 'fees',
            read: { types: { Clinic: { type: 'text' }, Status: { type: 'text' }, Fee: { type: 'decimal' } } },
          },
          {
            id: 's2',
            kind: 'pivot',
            labels: 'Status',
            values: [{ column: 'Fee', how: 'sum' }],
            by: ['Clinic'],
            found: ['Done', 'Open'],
          },
        ],
      },
    ],
    outputs: [{ table: 'fees', format: 'csv', file: 'fees.csv' }],
  }
  const usual = 'Clinic,Status,Fee\nOxbow,Done,12\nMarlpit,Open,3\n'
  const grown = 'Clinic,Status,Fee,Vet\nOxbow,Done,12,Rusk\nMarlpit,Paid,free,Ines\nMarlpit,Paid,4,Ines\n'
  /** Fees read as numbers by a sentence, and matched with a list in which a clinic stands twice. */
  const matched: Recipe = {
    ...recipe,
    inputs: [
      {
        id: 'fees',
        name: 'Fees',
        columns: [...(recipe.inputs[0]?.columns ?? []).slice(0, 2), { name: 'Fee', type: 'text' }],
      },
    ],
    tables: [
      {
        id: 'regions',
        name: 'Regions',
        steps: [
          {
            id: 'r1',
            kind: 'enter',
            columns: [
              { name: 'Clinic', type: 'text' },
              { name: 'Region', type: 'text' },
            ],
            rows: [
              ['Marlpit', 'North'],
              ['Marlpit', 'South'],
            ],
          },
        ],
      },
      {
        id: 'fees',
        name: 'Fees',
        steps: [
          { id: 's1', kind: 'open', input: 'fees', read: { types: 'text' } },
          { id: 's2', kind: 'cast', columns: ['Fee'], type: 'decimal' },
          { id: 's3', kind: 'join', with: 'regions', on: [{ left: 'Clinic', right: 'Clinic' }], how: 'left' },
        ],
      },
    ],
  }
  const python = (content: string, ...words: string[]) => pythonOf(recipe, content, ...words)
  const psql = (content: string, ...words: string[]) => psqlOf(recipe, content, ...words)
  const pythonOf = (recipe: Recipe, content: string, ...words: string[]) => {
    writeFileSync(at('fees.py'), pythonScript(recipe).text)
    writeFileSync(at('fees-in.csv'), content)
    return spawnSync(
      '/usr/bin/python3',
      [at('fees.py'), '--input', `fees=${at('fees-in.csv')}`, '--output', `fees=${at('fees-out.csv')}`, ...words],
      { encoding: 'utf8', cwd: folder },
    )
  }
  const psqlOf = (recipe: Recipe, content: string, ...words: string[]) => {
    writeFileSync(at('fees.sql'), sqlScript(recipe).text)
    writeFileSync(at('fees-in.csv'), content)
    const server = ['-X', '-h', folder, '-p', String(real.port), '-U', 'postgres', '-v', 'ON_ERROR_STOP=1']
    return spawnSync(
      'psql',
      [
        ...server,
        '-v',
        `fees=${at('fees-in.csv')}`,
        '-v',
        `out_fees=${at('fees-out.csv')}`,
        ...words,
        '-f',
        at('fees.sql'),
        'postgres',
      ],
      { encoding: 'utf8', cwd: folder },
    )
  }
  test('in Python: more columns, labels without a column, cells that cannot be read', () => {
    expect(python(usual, '--strict', '--quiet')).toMatchObject({ status: 0, stderr: '' })
    const { status, stderr } = python(grown, '--quiet')
    expect(status).toBe(0)
    expect(stderr.trim().split('\n')).toEqual([
      '1 cell of “Fee” cannot be read as decimal; they are empty.',
      'The file for Fees has a column “Vet” that this script was not made with.',
      '“Status” has “Paid” in 2 rows, of which no column is made.',
    ])
    expect(python(grown, '--strict')).toMatchObject({ status: 4 })
    expect(python(usual, '--help').stdout).toContain('--strict')
  })
  test('in both: cells that a sentence cannot read, and rows that a match makes more of', () => {
    const content = 'Clinic,Status,Fee\nOxbow,Done,free\nMarlpit,Open,3\nMarlpit,Open,gratis\n'
    for (const run of [pythonOf, psqlOf]) {
      const quiet = run === pythonOf ? ['--quiet'] : ['-v', 'quiet=1']
      const { status, stderr } = run(matched, content, ...quiet)
      expect(status, stderr).toBe(0)
      expect(stderr).toContain('2 cells of “Fee” cannot be read as decimal; they are empty.')
      expect(stderr).toContain('Matching by Clinic makes 2 more rows by repeated keys.')
      const strict = run === pythonOf ? ['--strict'] : ['-v', 'strict=1']
      expect(run(matched, content, ...quiet, ...strict)).toMatchObject({ status: run === pythonOf ? 4 : 3 })
      expect(run(matched, 'Clinic,Status,Fee\nOxbow,Done,1\n', ...quiet, ...strict)).toMatchObject({
        status: 0,
        stderr: '',
      })
    }
  })
  test('in Python: a new column that a rule takes in, with which a sentence cannot run, in the engine’s words', () => {
    const fees: Recipe['inputs'] = [
      {
        id: 'fees',
        name: 'Fees',
        columns: [
          { name: 'Clinic', type: 'text' },
          { name: 'May', type: 'integer' },
          { name: 'June', type: 'integer' },
        ],
      },
    ]
    const rest = { except: ['Clinic'] }
    const told = (...steps: readonly object[]): Recipe => ({
      ...recipe,
      inputs: fees,
      tables: [
        {
          id: 'fees',
          name: 'Fees',
          steps: [{ kind: 'open', input: 'fees', read: { delimiter: ',' } }, ...steps].map(
            (step, i) => ({ id: `s${i + 1}`, ...step }) as Step,
          ),
        },
      ],
    })
    const long = told(
      { kind: 'unpivot', name: 'Month', groups: [{ columns: rest, value: 'Fee' }] },
      { kind: 'derive', as: 'Twice', formula: 'Fee * 2' },
    )
    const filled = told({ kind: 'fill-empty', columns: rest, with: 0 })
    const known = 'Clinic,May,June\nOxbow,1,\nTarn,,2\n'
    for (const story of [long, filled])
      expect(pythonOf(story, known, '--quiet')).toMatchObject({ status: 0, stderr: '' })
    const july = 'Clinic,May,June,July\nOxbow,1,2,3\n'
    for (const story of [long, filled]) expect(pythonOf(story, july, '--quiet')).toMatchObject({ status: 0 })
    const note = 'Clinic,May,June,Note\nOxbow,1,2,paid late\n'
    expect(pythonOf(long, note, '--quiet')).toMatchObject({
      status: 4,
      stderr: expect.stringContaining(
        'Fees 3 cannot run: Fee is text; * needs numbers. VALUE reads a text as a number.\n',
      ) as string,
    })
    // a column without values is text, as in the engine
    expect(pythonOf(filled, 'Clinic,May,June,Note\nOxbow,1,2,\n', '--quiet')).toMatchObject({ status: 4 })
    expect(pythonOf(filled, note, '--quiet')).toMatchObject({
      status: 4,
      stderr: expect.stringContaining('Fees 2 cannot run: “0” does not read as text, which “Note” is.') as string,
    })
  })
  test('in SQL: more columns, labels without a column, more files than it reads', () => {
    expect(psql(usual, '-v', 'strict=1', '-v', 'quiet=1')).toMatchObject({ status: 0, stderr: '' })
    const { status, stderr } = psql(grown, '-v', 'quiet=1')
    expect(status, stderr).toBe(0)
    expect(stderr).toContain('The file for Fees has a column “Vet” that this script was not made with')
    expect(stderr).toContain('“Status” has “Paid” in 2 rows, of which no column is made.')
    expect(stderr).toContain('1 cell of “Fee” cannot be read as decimal; they are empty.')
    expect(psql(grown, '-v', 'strict=1', '-v', 'quiet=1')).toMatchObject({ status: 3 })
    const many = psql(
      usual,
      ...Array.from({ length: 12 }, (_, i) => ['-v', `fees_F${i + 2}=${at('fees-in.csv')}`]).flat(),
    )
    expect(many.status).toBe(3)
    expect(many.stderr).toContain('More than 12 files are given for Fees')
  })
})
