import { spawnSync } from 'node:child_process'
import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, test } from 'vitest'

const folder = mkdtempSync(join(tmpdir(), 'fabula-trace-'))
const place = (name: string, content: string): string => {
  const path = join(folder, name)
  writeFileSync(path, content)
  return path
}
const visits = place('visits.csv', 'Clinic,Fee\nOxbow,12\nMarlpit,3\n')
const recipe = place(
  'recipe.json',
  JSON.stringify({
    fabula: 1,
    name: 'R',
    inputs: [{ id: 'visits', name: 'Visits' }],
    tables: [
      {
        id: 'visits',
        name: 'Visits',
        steps: [
          { id: 's1', kind: 'open', input: 'visits' },
          { id: 's2', kind: 'filter', where: { column: 'Fee', op: 'greater', value: 10 } },
        ],
      },
    ],
  }),
)
const words = (...more: string[]) => {
  const command = join(import.meta.dirname, '../bin/fabula.mjs')
  const { status, stdout, stderr } = spawnSync(
    process.execPath,
    [command, 'trace', recipe, '--input', `visits=${visits}`, ...more],
    { encoding: 'utf8' },
  )
  return { exit: status, out: stdout, err: stderr }
}

describe('trace', () => {
  test('back: the row of the file, as JSON and in words', () => {
    const { exit, out } = words('--table', 'visits', '--row', '1', '--json')
    expect(exit).toBe(0)
    expect(JSON.parse(out)).toMatchObject({
      table: 'visits',
      row: 1,
      count: 1,
      sources: [{ input: 'visits', file: 'visits.csv', row: 2, values: { Clinic: 'Oxbow', Fee: '12' } }],
    })
    expect(words('--table', 'visits', '--row', '1', '--column', 'Fee').out).toContain(
      'Row 1 of Visits, Fee comes from 1 row.',
    )
  })
  test('forward: where a row left and why, or where it is', () => {
    expect(JSON.parse(words('--from', `visits=${visits}:3`, '--json').out)).toMatchObject({
      row: 3,
      fates: [{ table: 'visits', left: { step: 's2' } }],
    })
    expect(words('--from', `visits=${visits}:2`).out).toContain('- Visits: in row 1')
  })
  test('2: what is not there, and words that are not understood', () => {
    for (const [more, err] of [
      [['--table', 'visits', '--row', '2'], 'has no row 2'],
      [['--from', 'visits'], '--from visits is not understood'],
      [['--row', '1'], 'Say what to trace'],
    ] as const)
      expect(words(...more)).toMatchObject({ exit: 2, err: expect.stringContaining(err) as string })
  })
})
