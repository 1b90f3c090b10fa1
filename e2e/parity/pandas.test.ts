import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { pythonScript } from '@fabula/core'
import { firstDifference } from '@fabula/server/proof'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { inEnvironment } from '../../scripts/python.mjs'
import { cases } from './cases.ts'
import { startPython } from './runners.ts'

/** What pandas is about to change is an error here. */
const warnings = ['-W', 'error::FutureWarning', '-W', 'error::DeprecationWarning']

// Debian's pandas 1.5 runs them all in parity.test.ts; what 2 does otherwise 3 does too, so that 2 runs every third
const thirds = cases.filter((_, i) => i % 3 === 0)
describe.each([
  ['pandas-2', thirds],
  ['pandas-3', cases],
] as const)('by %s', (version, chosen) => {
  const folder = mkdtempSync(join(tmpdir(), 'fabula-pandas-'))
  let python: ReturnType<typeof startPython>
  beforeAll(() => void (python = startPython(inEnvironment(version), warnings)))
  afterAll(() => python.close())

  test.each(chosen)('$name', async ({ name, recipe, file, gives }) => {
    const at = (ending: string): string => join(folder, `${name.replace(/\W+/g, '-').slice(0, 60)}${ending}`)
    writeFileSync(at('.csv'), file)
    writeFileSync(at('.py'), pythonScript(recipe).text)
    await python.run(at('.py'), ['--input', `rows=${at('.csv')}`, '--output', `result=${at('.out.csv')}`, '--quiet'])
    expect(firstDifference(gives, readFileSync(at('.out.csv'), 'utf8'))).toBeUndefined()
  })
})
