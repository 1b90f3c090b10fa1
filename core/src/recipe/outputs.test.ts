import { describe, expect, it } from 'vitest'
import {
  createStatement,
  databaseColumns,
  insertStatement,
  tableIn,
  uniqueIndexStatement,
  whyNotInto,
} from './database-output.ts'
import {
  byFile,
  fileClashes,
  formatOfPath,
  isFile,
  outputSchema,
  scriptOutputs,
  type DatabaseOutput,
  type Output,
} from './outputs.ts'

const csv = (table: string, file: string): Output => ({ table, format: 'csv', file })
const sheet = (table: string, file: string): Output => ({ table, format: 'xlsx', file })
const into = (more: Partial<DatabaseOutput> = {}): DatabaseOutput => ({
  table: 'takings',
  format: 'postgresql',
  connection: 'reporting',
  name: 'takings',
  mode: 'replace',
  ...more,
})

describe('an output in a recipe', () => {
  it.each([
    ['a file', { table: 'a', format: 'csv', file: 'a.csv' }, true],
    ['a file in a folder below', { table: 'a', format: 'csv', file: 'may/a.csv' }, true],
    ['a file outside of its folder', { table: 'a', format: 'csv', file: '../a.csv' }, false],
    ['an absolute path', { table: 'a', format: 'csv', file: '/etc/a.csv' }, false],
    ['a drive of Windows', { table: 'a', format: 'csv', file: 'C:\\a.csv' }, false],
    ['an unknown format', { table: 'a', format: 'pdf', file: 'a.pdf' }, false],
    ['a table of a database', into(), true],
    ['an upsert with keys', into({ mode: 'upsert', keys: ['Ref'] }), true],
    ['an upsert without keys', into({ mode: 'upsert' }), false],
  ])('may be %s: %s', (_what, output, valid) => {
    expect(outputSchema.safeParse(output).success).toBe(valid)
  })
})

describe('files', () => {
  it.each([
    ['takings.xlsx', 'xlsx'],
    ['TAKINGS.PARQUET', 'parquet'],
    ['takings.json', 'json'],
    ['takings.csv', 'csv'],
    ['takings', 'csv'],
    ['takings.txt', 'csv'],
  ])('the ending of %s says %s', (path, format) => {
    expect(formatOfPath(path)).toBe(format)
  })
  it('a workbook takes several tables, in the order of the outputs', () => {
    const outputs = [
      { table: 'a', path: 'all.xlsx', format: 'xlsx' as const },
      { table: 'b', path: 'b.csv', format: 'csv' as const },
      { table: 'c', path: 'all.xlsx', format: 'xlsx' as const },
    ]
    expect(byFile(outputs).map((made) => made.map(({ table }) => table))).toEqual([['a', 'c'], ['b']])
  })
  it.each([
    ['two tables in one CSV', [csv('a', 'x.csv'), csv('b', 'x.csv')], [1]],
    ['two tables in one workbook', [sheet('a', 'x.xlsx'), sheet('b', 'x.xlsx')], []],
    ['one table twice in a workbook', [sheet('a', 'x.xlsx'), sheet('a', 'x.xlsx')], [1]],
    ['a database beside a file', [csv('a', 'x.csv'), into()], []],
  ])('%s', (_what, outputs, clashes) => {
    expect(fileClashes(outputs).map(({ at }) => at)).toEqual(clashes)
  })
  it('is told from a database', () => {
    expect([isFile(csv('a', 'a.csv')), isFile(into())]).toEqual([true, false])
  })
})

describe('what a script writes', () => {
  const tables = [{ id: 'visits' }, { id: 'takings' }]
  it('is the last table where the recipe lists no outputs', () => {
    expect(scriptOutputs({ tables })).toEqual([{ table: 'takings', file: 'takings.csv' }])
  })
  it('is each table once, as CSV, whatever the recipe writes', () => {
    const outputs = [sheet('takings', 'may.xlsx'), csv('takings', 'plain.csv'), into({ table: 'visits' })]
    expect(scriptOutputs({ tables, outputs })).toEqual([
      { table: 'takings', file: 'plain.csv' },
      { table: 'visits', file: 'visits.csv' },
    ])
  })
})

describe('a table of a database', () => {
  const schema = [
    { name: 'Visit date', type: 'date' },
    { name: 'visitDate', type: 'text' },
    { name: '2nd fee', type: 'decimal' },
    { name: 'Ärzte!', type: 'list' },
    { name: '???', type: 'boolean' },
  ] as const
  it('takes names as they are', () => {
    expect(databaseColumns(into(), schema).map(({ name }) => name)).toEqual(schema.map(({ name }) => name))
  })
  it('takes names in snake case, told apart where two become one', () => {
    expect(databaseColumns(into({ names: 'snake_case' }), schema).map(({ name }) => name)).toEqual([
      'visit_date',
      'visit_date_2',
      'c_2nd_fee',
      'arzte',
      'column',
    ])
  })
  it('cuts names at 63 bytes, never inside a character', () => {
    const [column] = databaseColumns(into(), [{ name: 'ö'.repeat(40), type: 'text' }])
    expect(column?.name).toBe('ö'.repeat(31))
  })
  it('gives each type the one that loses nothing, unless another is asked for', () => {
    const columns = databaseColumns(into({ types: { 'Visit date': 'timestamp' } }), schema)
    expect(columns.map(({ type }) => type)).toEqual(['timestamp', 'text', 'double precision', 'jsonb', 'boolean'])
  })
  it('is named with its schema, quoted', () => {
    expect(tableIn(into({ schema: 'clinic "north"', name: 'takings' }))).toBe('"clinic ""north"""."takings"')
  })
  it('is created with its columns', () => {
    expect(createStatement(into({ names: 'snake_case' }), schema.slice(0, 1))).toMatch(
      /create table "takings" \(\s*"visit_date" date\s*\)/i,
    )
  })
  it('has an index over the keys of an upsert', () => {
    const output = into({ mode: 'upsert', keys: ['Visit date'], names: 'snake_case' })
    expect(uniqueIndexStatement(output, schema)).toContain('("visit_date")')
  })
  it('is filled by lists, one a column', () => {
    const statement = insertStatement(into({ names: 'snake_case' }), schema.slice(0, 2))
    expect(statement).toContain('$1::text[]')
    expect(statement).toContain('$2::text[]')
    expect(statement).not.toContain('$3')
  })
  it('says which column is missing there', () => {
    const there = [{ name: 'Visit date', type: 'date' }]
    expect(whyNotInto(into({ mode: 'append' }), schema.slice(0, 2), there)).toContain('visitDate')
    expect(whyNotInto(into({ mode: 'append' }), schema.slice(0, 1), there)).toBeUndefined()
  })
})
