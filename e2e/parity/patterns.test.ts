import fc from 'fast-check'
import { afterAll, beforeAll, expect, test } from 'vitest'
import { refusals, writeCsv, type Recipe, type Step } from '@fabula/core'
import { patternProblem } from '@fabula/core/testing'
import { firstDifference } from '@fabula/server/proof'
import { runOn } from './chains.ts'
import { startRunners, type Runners } from './runners.ts'
import { storySeed } from './random.ts'

let runners: Runners
beforeAll(async () => {
  runners = await startRunners()
})
afterAll(() => runners.close())

/** Patterns of every construct of RE2, over few signs, so that they meet in the texts below. */
const { pattern } = fc.letrec<{ pattern: string; sign: string }>((tie) => ({
  sign: fc.constantFrom(
    ...['a', 'b', 'k', 's', '1', '_', ' ', 'é', 'İ', 'ſ', '.', '-', '\\.', '\\n', '\\x41', '\\x{e9}', '\\Q.\\E'],
    ...['\\d', '\\D', '\\w', '\\W', '\\s', '\\S', '\\pL', '\\p{Lu}', '\\P{Latin}', '\\p{^Greek}'],
    ...['[ab]', '[^a]', '[a-c1]', '[\\w-]', '[[:alpha:]]', '[^[:digit:]]', '[^\\n\\W]'],
  ),
  pattern: fc.oneof(
    { maxDepth: 4 },
    tie('sign'),
    fc.constantFrom('^', '$', '\\A', '\\z', '\\b', '\\B', '(?m:^)', '(?m:$)'),
    fc
      .tuple(tie('sign'), fc.constantFrom('*', '+', '?', '*?', '+?', '??', '{2}', '{1,2}', '{0,2}?', '{2,}'))
      .map((parts) => parts.join('')),
    fc.tuple(tie('pattern'), tie('pattern')).map((parts) => parts.join('')),
    fc.tuple(tie('pattern'), tie('pattern')).map((ways) => `(?:${ways.join('|')})`),
    fc.tuple(tie('pattern'), tie('pattern')).map((ways) => `(${ways.join('|')})`),
    fc
      .tuple(fc.constantFrom('', '?:', '?P<x>', '?i:', '?s:', '?m:', '?U:', '?i-s:'), tie('pattern'))
      .map(([how, one]) => `(${how}${one})`),
    fc.tuple(fc.constantFrom('(?i)', '(?U)', '(?ms)'), tie('pattern')).map((parts) => parts.join('')),
    fc.tuple(tie('pattern'), fc.constantFrom('*', '+', '?', '*?', '{2}')).map(([one, often]) => `(${one})${often}`),
  ),
}))
const texts = fc.array(
  fc
    .array(fc.constantFrom(...Array.from('aabbk\u212asſSAB1_ éÉİi\n-.xß😀')), { minLength: 1, maxLength: 9 })
    .map((signs) => signs.join('')),
  { minLength: 12, maxLength: 12 },
)

/** What a pattern finds in a text: whether, its first and last match, a group, what is put in its place, and the pieces between. */
const stepsFor = (p: string, i: number): object[] => {
  const groups = (p.match(/\((?!\?)|\(\?P</g) ?? []).length
  return [
    { kind: 'extract', column: 'Text', as: `First ${i}`, take: { pattern: p } },
    { kind: 'extract', column: 'Text', as: `Last ${i}`, take: { pattern: p }, occurrence: 'last' },
    ...(groups > 0 ? [{ kind: 'extract', column: 'Text', as: `Group ${i}`, take: { pattern: p, group: groups } }] : []),
    { kind: 'duplicate', column: 'Text', as: `Put ${i}` },
    { kind: 'replace', columns: [`Put ${i}`], match: 'pattern', find: p, with: groups > 0 ? '<$1|$0>' : '<$0>' },
    { kind: 'duplicate', column: 'Text', as: `Any ${i}` },
    { kind: 'replace', columns: [`Any ${i}`], match: 'pattern', ignoreCase: true, find: p, with: '-' },
    { kind: 'derive', as: `Found ${i}`, formula: `REGEXTEST(Text; "${p.replaceAll('"', '""')}")` },
    {
      kind: 'split',
      column: 'Text',
      by: { pattern: p },
      into: { columns: [`P ${i}`, `Q ${i}`, `R ${i}`] },
      keep: true,
    },
  ]
}

test('random patterns find the same by engine, SQL and Python', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(pattern, { minLength: 8, maxLength: 8 }), texts, async (patterns, rows) => {
      const usable = patterns.filter((p) => patternProblem(p) === undefined)
      const steps = usable.flatMap(stepsFor).map((step, i) => ({ id: `s${i + 2}`, ...step }) as Step)
      const recipe: Recipe = {
        fabula: 1,
        name: 'Patterns',
        inputs: [{ id: 'rows', name: 'Rows', columns: [{ name: 'Text', type: 'text' }] }],
        tables: [
          {
            id: 'result',
            name: 'Result',
            steps: [
              { id: 's1', kind: 'open', input: 'rows', read: { delimiter: ',', types: { Text: { type: 'text' } } } },
              ...steps,
            ],
          },
        ],
      }
      const file = `Text\n${rows.map((text) => `"${text}"`).join('\n')}\n`
      const { tables, plan } = await runOn(recipe, { rows: file })
      const table = tables[0]?.table
      expect(refusals(plan)).toEqual([])
      const engine = writeCsv(table as NonNullable<typeof table>)
      const told = `${JSON.stringify(usable)}\n${JSON.stringify(rows)}`
      const sql = await runners.sql(recipe, plan, { rows: file }).catch((error: unknown) => (error as Error).message)
      expect(firstDifference(engine, sql), `SQL\n${told}\n${sql.slice(0, 300)}`).toBeUndefined()
      const python = await runners
        .python(recipe, { rows: file }, plan)
        .catch((error: unknown) => (error as Error).message)
      expect(firstDifference(engine, python), `Python\n${told}\n${sql.slice(0, 300)}`).toBeUndefined()
    }),
    {
      endOnFailure: true,
      numRuns: Number(process.env.FABULA_RANDOM_PATTERNS ?? 8),
      seed: storySeed,
    },
  )
})
