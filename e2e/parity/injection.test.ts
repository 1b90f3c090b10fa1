import { execFileSync } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { PGlite } from '@electric-sql/pglite'
import fc from 'fast-check'
import { afterAll, beforeAll, expect, test } from 'vitest'
import { pythonScript, readRecipe, sqlScript, type Recipe } from '@fabula/core'
import { runPsql } from '@fabula/server/proof'

/** Texts that would be commands where they stood alone. */
const attack = fc.oneof(
  fc.constantFrom(
    '\\o /tmp/x',
    '\n\\o /tmp/x\n',
    "'\n\\! touch /tmp/x\n'",
    "'; drop table t; --",
    '$$; drop table t; $$',
    '`touch /tmp/x`',
    ':out_visits',
    ":'now'",
    '*/ \\q /*',
    '\\',
    "\\'",
    '"',
    '"""',
    '\n"""\nimport os\n',
    '{0}',
    '#\nimport os',
    '\r\\! id\r',
    '\u2028\\! id',
    '\u0085import os',
    '$fn$',
    '\\gset',
    '\\gexec',
  ),
  fc.string({
    unit: fc.constantFrom(
      '\\',
      "'",
      '"',
      '`',
      '$',
      ':',
      '\n',
      '\r',
      ';',
      '-',
      '#',
      'o',
      ' ',
      '/',
      '*',
      '{',
      '}',
      '\u2028',
      '\u0000',
    ),
    minLength: 1,
    maxLength: 12,
  }),
)
const line = attack.map((text) => text.replace(/[\n\r\u2028\u0085\u0000]/g, ' ').trim() || 'x')
/** The same story with a name, a value, a note and a formula's text of somebody else's choice. */
const story = (texts: {
  readonly column: string
  readonly value: string
  readonly note: string
  readonly literal: string
  readonly name: string
  readonly file: string
}): Recipe | undefined => {
  const read = readRecipe({
    fabula: 1,
    name: texts.name,
    about: texts.note,
    parameters: [{ name: 'Word', type: 'text', value: texts.value }],
    inputs: [
      {
        id: 'visits',
        name: texts.name,
        columns: [
          { name: 'Clinic', type: 'text' },
          { name: 'Fee', type: 'decimal' },
        ],
      },
    ],
    tables: [
      {
        id: 'visits',
        name: texts.name,
        steps: [
          { id: 's1', kind: 'open', input: 'visits', note: texts.note },
          {
            id: 's2',
            kind: 'derive',
            as: `New ${texts.column}`,
            formula: `Clinic & "${texts.literal.replaceAll('"', '""')}" & $Word`,
          },
          { id: 's3', kind: 'filter', where: { column: 'Clinic', op: 'is-not', value: texts.value } },
          { id: 's4', kind: 'replace', columns: ['Clinic'], find: `a${texts.value}`, with: texts.value, match: 'part' },
          { id: 's5', kind: 'check', rows: { 'at-least': 0 }, else: 'warn', say: texts.note || 'x' },
        ],
      },
    ],
    outputs: [{ table: 'visits', format: 'csv', file: texts.file }],
  })
  return 'recipe' in read ? read.recipe : undefined
}
const texts = fc.record({
  column: line,
  value: attack,
  note: attack,
  literal: attack,
  name: line,
  file: line.map((text) => `${text.replaceAll('/', '') || 'x'}.csv`),
})
const harmless = story({ column: 'x', value: 'x', note: 'x', literal: 'x', name: 'x', file: 'x.csv' }) as Recipe

/** The commands of a psql script as psql itself would find them: a lexer of quotes, dollar quotes and comments, apart from how the script was made (psql manual; PostgreSQL manual 4.1). */
const commandsIn = (script: string): string[] => {
  const found: string[] = []
  const rest =
    /'(?:[^']|'')*'|"(?:[^"]|"")*"|\$(\w*)\$[\s\S]*?\$\1\$|--[^\n]*|\\(\S+)((?:[ \t]+(?:'(?:[^'\\]|''|\\[^\n])*'|[^\s'])+)*)/g
  for (let match = rest.exec(script); match; match = rest.exec(script)) if (match[2] !== undefined) found.push(match[2])
  return found
}
const pythonShape = `
import ast, json, sys
for line in sys.stdin:
    tree = ast.parse(json.loads(line))
    for node in ast.walk(tree):
        if isinstance(node, ast.Constant) and isinstance(node.value, str): node.value = ''
    print(json.dumps(ast.dump(tree)), flush=True)
`
let db: PGlite
beforeAll(async () => {
  db = await PGlite.create()
})
afterAll(() => db.close())

test('no name, value, note or formula becomes a psql command', () => {
  const wanted = commandsIn(sqlScript(harmless).text)
  expect(wanted.filter((name) => name === 'o')).toHaveLength(2)
  fc.assert(
    fc.property(texts, (chosen) => {
      const recipe = story(chosen)
      if (!recipe) return
      const script = sqlScript(recipe)
      expect(commandsIn(script.text)).toEqual(wanted)
      expect(script.commands.flatMap((one) => (one.kind === 'command' ? [one.name] : []))).toEqual(wanted)
    }),
    { numRuns: 1500 },
  )
})

test('no name, value, note or formula becomes Python', () => {
  const chosen = fc.sample(texts, { numRuns: 300, seed: 11 }).flatMap((one) => story(one) ?? [])
  const scripts = [harmless, ...chosen].map((recipe) => JSON.stringify(pythonScript(recipe).text))
  const shapes = execFileSync('/usr/bin/python3', ['-c', pythonShape], {
    input: `${scripts.join('\n')}\n`,
    encoding: 'utf8',
    maxBuffer: 1 << 30,
  })
    .trim()
    .split('\n')
  expect(new Set(shapes).size).toBe(1)
  expect(chosen.length).toBeGreaterThan(200)
})

test('a formula that holds a line \\o writes no file when its script is proven', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'fabula-injection-'))
  const target = join(folder, 'written')
  const recipe = story({
    column: 'x',
    value: `\n\\o ${target}\n`,
    note: `\\o ${target}`,
    literal: `a'\n\\o ${target}\nb`,
    name: 'x',
    file: 'x.csv',
  }) as Recipe
  writeFileSync(join(folder, 'visits.csv'), 'Clinic,Fee\nOxbow,1\n')
  await runPsql(db, sqlScript(recipe).commands, {
    visits: join(folder, 'visits.csv'),
    out_visits: join(folder, 'out.csv'),
    quiet: '1',
  })
  expect(existsSync(target)).toBe(false)
  expect(readFileSync(join(folder, 'out.csv'), 'utf8')).toContain(`\\o ${target}`)
})
