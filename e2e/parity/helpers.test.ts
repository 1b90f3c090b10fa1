import { spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { PGlite } from '@electric-sql/pglite'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { pythonScript, sparkScript, type Recipe } from '@fabula/core'
import { helpers } from '../../core/src/codegen/sql/helpers.generated.ts'
import { root } from '../browser/server.ts'
import { inEnvironment } from '../../scripts/python.mjs'
import { cases } from './cases.ts'

const codegen = join(root, 'core/src/codegen')

it('the helpers of Python scripts pass their own unit tests', () => {
  const { status, stderr } = spawnSync('/usr/bin/python3', ['-B', '-m', 'unittest', 'test_helpers'], {
    cwd: join(codegen, 'python'),
    encoding: 'utf8',
    env: { PATH: process.env.PATH, PYTHONUTF8: '1' },
  })
  expect(status, stderr).toBe(0)
})

/** What ruff finds by its own rules, wherever a file stands. */
const ruff = (place: string): string =>
  spawnSync(
    inEnvironment('pandas-3', 'ruff'),
    ['check', '--isolated', '--no-cache', '--output-format=concise', place],
    {
      encoding: 'utf8',
    },
  ).stdout

it.each(['python', 'spark'])(
  'the helpers of %s scripts have no fault that ruff finds, and are formatted by it',
  (dialect) => {
    const place = join(codegen, dialect)
    expect(ruff(place)).toBe('All checks passed!\n')
    const words = ['format', '--check', '--isolated', '--no-cache', '--line-length=120', place]
    const { status, stdout } = spawnSync(inEnvironment('pandas-3', 'ruff'), words, { encoding: 'utf8' })
    expect(status, `npm run format:python\n${stdout}`).toBe(0)
  },
)

it('ruff finds no fault in the scripts of the demo and of every example', () => {
  const folder = mkdtempSync(join(tmpdir(), 'fabula-ruff-'))
  const recipe = JSON.parse(readFileSync(join(root, 'demo/monthly-takings.fabula.json'), 'utf8')) as Recipe
  const write = (name: string, one: Recipe, trace = false): void =>
    writeFileSync(join(folder, `${name}.py`), pythonScript(one, undefined, { trace }).text)
  writeFileSync(join(folder, 'spark.py'), sparkScript(recipe).text)
  write('demo', recipe)
  write('traced', recipe, true)
  cases.forEach((one, i) => write(`example_${i}`, one.recipe))
  expect(ruff(folder)).toBe('All checks passed!\n')
})

describe('the helpers of SQL scripts', () => {
  const byName = new Map(helpers.map((helper) => [helper.name, helper]))
  /** A helper after all that it needs. */
  const withNeeds = (name: string, done = new Set<string>()): readonly string[] => {
    for (const needed of byName.get(name)?.needs ?? []) if (!done.has(needed)) withNeeds(needed, done)
    return [...done.add(name)]
  }
  let db: PGlite
  beforeAll(async () => void (db = await PGlite.create()))
  afterAll(() => db.close())

  it.each([...byName.keys()])('%s is created from what it says it needs, and nothing else', async (name) => {
    await db.transaction(async (made) => {
      await made.exec('set local search_path = pg_temp, pg_catalog')
      for (const one of withNeeds(name)) await made.exec(byName.get(one)?.source ?? '')
      await made.rollback()
    })
  })

  it.each([
    ['shown', 'shown(0.1::float8 + 0.2::float8)', '0.3'],
    ['shown', 'shown(true)', 'true'],
    ['read_number', "read_number('(1,204.5)', '.', ',')::text", '-1204.5'],
    ['read_number', "read_number('4 kg', '.', ',')::text", null],
    ['read_boolean', "read_boolean(' Yes ')::text", 'true'],
    ['read_date', "read_date('2031-05-02', '{}')::text", '2031-05-02'],
    ['read_date', "read_date('2031-02-30', '{}')::text", null],
    ['trim_of', "trim_of(E'\\u00a0 Oxbow\\t')", 'Oxbow'],
    ['title_of', "title_of('o''brien''s DOG')", "O'brien's Dog"],
    ['csv_cell', `csv_cell('say "so"')`, '"say ""so"""'],
    ['text_order', "text_order('ada', 'Bo')::text", '-1'],
    ['op_divide', 'op_divide(1, 0)::text', null],
  ])('%s: %s is %s', async (name, call, value) => {
    await db.transaction(async (made) => {
      await made.exec('set local search_path = pg_temp, pg_catalog')
      for (const one of withNeeds(name)) await made.exec(byName.get(one)?.source ?? '')
      const { rows } = await made.query<{ value: string | null }>(`select pg_temp.${call} as value`)
      expect(rows[0]?.value).toBe(value)
      await made.rollback()
    })
  })
})
