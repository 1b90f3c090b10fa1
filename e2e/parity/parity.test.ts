import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { cases } from './cases.ts'
import { runOn } from './chains.ts'
import { firstDifference } from '@fabula/server/proof'
import { startRunners, type Runners } from './runners.ts'

let runners: Runners
beforeAll(async () => {
  runners = await startRunners()
})
afterAll(() => runners.close())

describe.each(cases)('$name', ({ recipe, file, gives }) => {
  test('in SQL', async () => {
    expect(
      firstDifference(gives, await runners.sql(recipe, (await runOn(recipe, { rows: file })).plan, { rows: file })),
    ).toBeUndefined()
  })
  test('in Python', async () => {
    expect(firstDifference(gives, await runners.python(recipe, { rows: file }))).toBeUndefined()
  })
})
