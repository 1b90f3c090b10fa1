import { firstDifference } from '@fabula/server/proof'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { inEnvironment } from '../../scripts/python.mjs'
import { cases } from './cases.ts'
import { startPythonScripts, warningsAsErrors } from './runners.ts'

// Debian's pandas 1.5 runs them all in parity.test.ts; what 2 does otherwise 3 does too, so that 2 runs every third
const thirds = cases.filter((_, i) => i % 3 === 0)
describe.each([
  ['pandas-2', thirds],
  ['pandas-3', cases],
] as const)('by %s', (version, chosen) => {
  let python: ReturnType<typeof startPythonScripts>
  beforeAll(() => void (python = startPythonScripts(inEnvironment(version), warningsAsErrors)))
  afterAll(() => python.close())

  test.each(chosen)('$name', async ({ recipe, file, gives }) => {
    expect(firstDifference(gives, await python.table(recipe, { rows: file }))).toBeUndefined()
  })
})
