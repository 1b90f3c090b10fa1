import { spawn, type ChildProcessWithoutNullStreams } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createInterface, type Interface } from 'node:readline'
import { PGlite } from '@electric-sql/pglite'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { pythonScript, sqlScript, type Recipe } from '@fabula/core'
import { functionRecipes, kindExamples, recipeOf } from '@fabula/core/testing'
import { chainCases, runOn } from './chains.ts'
import { firstDifference } from './compare.ts'
import { runPsql } from './psql.ts'

type Case = { readonly name: string; readonly recipe: Recipe; readonly file: string; readonly gives: string }
const cases: readonly Case[] = [
  ...kindExamples.flatMap(({ kind, examples }) => examples.map((example) => ({ name: `${kind}: ${example.name}`, gives: example.gives, ...recipeOf(example, kind) }))),
  ...functionRecipes,
  ...chainCases,
]

let db: PGlite
let python: ChildProcessWithoutNullStreams
let answers: Interface
const folder = mkdtempSync(join(tmpdir(), 'fabula-parity-'))

beforeAll(async () => {
  db = await PGlite.create()
  python = spawn('/usr/bin/python3', [join(import.meta.dirname, 'python-runner.py')])
  answers = createInterface({ input: python.stdout })
})
afterAll(async () => {
  python.kill()
  await db.close()
})

const ask = (job: object): Promise<{ exit: number; error?: string }> =>
  new Promise((resolve) => {
    answers.once('line', (line) => resolve(JSON.parse(line) as { exit: number }))
    python.stdin.write(`${JSON.stringify(job)}\n`)
  })

describe.each(cases.map((one, i) => ({ ...one, i })))('$name', ({ recipe, file, gives, i }) => {
  const input = join(folder, `rows-${i}.csv`)
  writeFileSync(input, file)

  test('in SQL', async () => {
    const out = join(folder, `sql-${i}.csv`)
    try {
      await runPsql(db, sqlScript(recipe, (await runOn(recipe, file)).plan).text, { rows: input, out_result: out })
    } catch (error) {
      await db.exec('rollback')
      throw error
    }
    expect(firstDifference(gives, readFileSync(out, 'utf8'))).toBeUndefined()
  })

  test('in Python', async () => {
    const out = join(folder, `py-${i}.csv`)
    const script = join(folder, `flow-${i}.py`)
    writeFileSync(script, pythonScript(recipe).text)
    expect(await ask({ script, args: ['--input', `rows=${input}`, '--output', `result=${out}`] })).toEqual({ exit: 0 })
    expect(firstDifference(gives, readFileSync(out, 'utf8'))).toBeUndefined()
  })
})
