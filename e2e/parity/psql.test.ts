import { execFile } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { sqlScript, type Recipe } from '@fabula/core'
import { afterAll, beforeAll, expect, test } from 'vitest'
import { startPostgres, type RealPostgres } from './postgres.ts'

const folder = mkdtempSync(join(tmpdir(), 'fabula-psql-'))
const at = (name: string): string => join(folder, name)
const file = (name: string, content: string | Buffer): string => (writeFileSync(at(name), content), at(name))
let real: RealPostgres
const psql = (role: string, ...words: string[]) =>
  promisify(execFile)('psql', ['-X', '-h', folder, '-p', String(real.port), '-U', role, '-d', 'work', ...words])
beforeAll(async () => {
  real = startPostgres(folder)
  const words = ['-X', '-h', folder, '-p', String(real.port), '-U', 'postgres', '-d', 'postgres']
  await promisify(execFile)('psql', [...words, '-c', 'create role analyst login', '-c', 'create database work'])
})
afterAll(() => {
  real.stop()
  rmSync(folder, { recursive: true, force: true })
})

const recipe: Recipe = {
  fabula: 1,
  name: 'Fees',
  inputs: [
    {
      id: 'fees',
      name: 'Fees',
      columns: [
        { name: 'Clinic', type: 'text' },
        { name: 'Fee', type: 'decimal' },
      ],
    },
  ],
  parameters: [
    { name: 'Rate', type: 'decimal', value: 2 },
    { name: 'Rate %', type: 'decimal', value: 50 },
  ],
  tables: [
    {
      id: 'result',
      name: 'Result',
      steps: [
        { id: 's1', kind: 'open', input: 'fees', read: { encoding: 'utf-8', delimiter: ',' } },
        { id: 's2', kind: 'derive', as: 'Sum', formula: "Fee * $Rate + $'Rate %'" },
      ],
    },
  ],
}
const script = file('flow.sql', sqlScript(recipe).text)
const run = (out: string, ...given: string[]) =>
  psql(
    'analyst',
    '-v',
    'ON_ERROR_STOP=1',
    ...given.flatMap((one) => ['-v', one]),
    '-v',
    `out_result=${at(out)}`,
    '-f',
    script,
  )
const text = (name: string): string => readFileSync(at(name), 'utf8')

test('a role that may only make temporary tables runs it, twice at once, and parameters of like names stay apart', async () => {
  const fees = file('fees.csv', 'Clinic,Fee\nOxbow,10\n"Marlpit, North","1,204.50"\n')
  await Promise.all([run('a.csv', `fees=${fees}`), run('b.csv', `fees=${fees}`, 'p_rate=3', 'p_rate__=1')])
  expect(text('a.csv')).toBe('Clinic,Fee,Sum\nOxbow,10,70\n"Marlpit, North",1204.5,2459\n')
  expect(text('b.csv')).toBe('Clinic,Fee,Sum\nOxbow,10,31\n"Marlpit, North",1204.5,3614.5\n')
  expect(
    (await psql('postgres', '-At', '-c', "select count(*) from pg_class where relname like 'result%'")).stdout,
  ).toBe('0\n')
})

test('no row is lost: a line \\., line breaks in cells, ragged rows, mixed line ends, control signs, stray quotes', async () => {
  file('nasty.csv', 'Clinic,Fee\r\n\\.\n"two\nlines",1\n"with \r\n both",2\r\n\nshort\nbell\u0001\u0002,3\n5" nail,4\n')
  await run('nasty-out.csv', `fees=${at('nasty.csv')}`)
  expect(text('nasty-out.csv')).toBe(
    'Clinic,Fee,Sum\n\\.,,\n"two\nlines",1,52\n"with \r\n both",2,54\nshort,,\nbell\u0001\u0002,3,56\n"5"" nail",4,58\n',
  )
})

test('a path may hold blanks, quotes and backslashes, and the file may be UTF-16', async () => {
  const path = file("it's a \\n $HOME file.csv", Buffer.from('\ufeffClinic,Fee\nŁąka,1\n', 'utf16le'))
  await run('wide.csv', `fees=${path}`)
  expect(text('wide.csv')).toBe('Clinic,Fee,Sum\nŁąka,1,52\n')
})

test('further files are fees_F2 and on; a file that is not there stops it', async () => {
  const first = file('one.csv', 'Clinic,Fee\nOxbow,1\n')
  const second = file('two.csv', 'Clinic\nMarlpit\n')
  await run('both.csv', `fees=${first}`, `fees_F2=${second}`)
  expect(text('both.csv')).toBe('Clinic,Fee,Sum\nOxbow,1,52\nMarlpit,,\n')
  await expect(run('none.csv', `fees=${at('missing.csv')}`)).rejects.toMatchObject({ code: 3 })
})

test('a missing column ends with the names most like it', async () => {
  const other = file('other.csv', 'Clinics,Feee,Note\nOxbow,1,x\n')
  await expect(run('other-out.csv', `fees=${other}`)).rejects.toMatchObject({
    code: 3,
    stderr: expect.stringContaining(
      'The file for Fees has no column “Clinic”, “Fee”. Did you mean “Clinics”? Did you mean “Feee”?',
    ) as string,
  })
})

/** What the database answers. */
const asked = async (query: string): Promise<string> =>
  (await psql('analyst', '-At', '-v', 'ON_ERROR_STOP=1', '-c', query)).stdout
const plainRun = (...given: string[]) =>
  psql('analyst', '-v', 'ON_ERROR_STOP=1', ...given.flatMap((one) => ['-v', one]), '-f', script)

test('it starts from a table of the database and leaves its result as one', async () => {
  await psql('postgres', '-c', 'create schema warehouse authorization analyst')
  await asked(
    `create table warehouse."Fees 2031" ("Fee" numeric, "Clinic" text, "More" int[]);
     insert into warehouse."Fees 2031" values (1204.50, 'Oxbow'), (null, 'it''s "North"'), (3, E'two\nlines'), (null, null)`,
  )
  const given = ['fees_table=warehouse."Fees 2031"', 'out_result_table=warehouse.takings']
  const { stderr } = await plainRun(...given)
  expect(stderr).toContain('has a column “More” that this script was not made with')
  expect(await asked('select * from warehouse.takings')).toBe('Oxbow|1204.5|2459\nit\'s "North"||\ntwo\nlines|3|56\n')
  expect(
    await asked(
      "select string_agg(data_type, ',' order by ordinal_position) from information_schema.columns where table_name = 'takings'",
    ),
  ).toBe('text,double precision,double precision\n')
  // what is there is not written over, and a table that is not there is named
  await expect(plainRun(...given)).rejects.toMatchObject({
    code: 3,
    stderr: expect.stringContaining('"takings" already exists') as string,
  })
  await expect(run('none.csv', 'fees_table=warehouse.nothing')).rejects.toMatchObject({
    code: 3,
    stderr: expect.stringContaining('There is no table warehouse.nothing for Fees.') as string,
  })
  // both at once: the file too where it is asked for
  await run('with-table.csv', 'fees_table=warehouse."Fees 2031"', 'out_result_table=warehouse.again')
  expect(text('with-table.csv')).toContain('Oxbow,1204.5,2459\n')
  expect(await asked('select count(*) from warehouse.again')).toBe('3\n')
})

test('a file in another encoding is read, and one that is not in its encoding stops the script instead of losing rows', async () => {
  const read = { encoding: 'windows-1252', delimiter: ',' }
  const western: Recipe = {
    ...recipe,
    tables: [{ id: 'result', name: 'Result', steps: [{ id: 's1', kind: 'open', input: 'fees', read }] }],
  }
  writeFileSync(script, sqlScript(western).text)
  const row = Buffer.from([0x4d, 0xfc, 0x68, 0x6c, 0x65, 0x2c, 0x31, 0x0a])
  await run('western.csv', `fees=${file('western-in.csv', Buffer.concat([Buffer.from('Clinic,Fee\n'), row]))}`)
  expect(text('western.csv')).toBe('Clinic,Fee\nMühle,1\n')
  // 0x81 is no sign of Windows-1252
  const broken = file('broken.csv', Buffer.concat([Buffer.from('Clinic,Fee\n'), row, Buffer.from([0x81, 0x0a]), row]))
  await expect(run('broken-out.csv', `fees=${broken}`)).rejects.toMatchObject({ code: 3 })
})
