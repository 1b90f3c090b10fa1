import { spawnSync } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, test } from 'vitest'

const root = join(import.meta.dirname, '../..')
const folder = mkdtempSync(join(tmpdir(), 'fabula-cli-'))
const place = (name: string, content: string | Buffer): string => {
  const path = join(folder, name)
  writeFileSync(path, content)
  return path
}
const fabula = (...words: string[]) => {
  const { status, stdout, stderr } = spawnSync(process.execPath, [join(root, 'cli/bin/fabula.mjs'), ...words], {
    encoding: 'utf8',
  })
  return { exit: status, out: stdout, err: stderr }
}
const recipe = (
  over: object = {},
  steps: readonly object[] = [{ id: 's2', kind: 'filter', where: { column: 'Fee', op: 'greater', value: 10 } }],
) =>
  place(
    `r${Math.random()}.json`,
    JSON.stringify({
      fabula: 1,
      name: 'R',
      inputs: [
        {
          id: 'visits',
          name: 'Visits',
          columns: [
            { name: 'Clinic', type: 'text' },
            { name: 'Fee', type: 'integer' },
          ],
        },
      ],
      tables: [{ id: 'visits', name: 'Visits', steps: [{ id: 's1', kind: 'open', input: 'visits' }, ...steps] }],
      outputs: [{ table: 'visits', format: 'csv', file: 'out/visits.csv' }],
      ...over,
    }),
  )
const visits = place('visits.csv', 'Clinic,Fee\nOxbow,12\nMarlpit,3\n')

describe('exit codes', () => {
  test('0: a table on standard output', () => {
    expect(fabula('run', recipe(), '--input', `visits=${visits}`, '--output', 'visits=-')).toEqual({
      exit: 0,
      out: 'Clinic,Fee\nOxbow,12\n',
      err: '',
    })
  })
  test('2: words that are wrong', () => {
    const path = recipe()
    expect(fabula('run', path)).toMatchObject({ exit: 2, err: 'Say which file is “visits”: --input visits=FILE.\n' })
    expect(fabula('run', path, '--input', `visit=${visits}`)).toMatchObject({ exit: 2 })
    expect(fabula('run', path, '--input', `visits=${visits}`, '--param', 'As of=2031-01-01').exit).toBe(2)
    expect(fabula('run', path, '--input', `visits=${visits}`, '--now', 'yesterday').exit).toBe(2)
    expect(fabula('rum', path).exit).toBe(2)
    expect(fabula('script', path, '--to', 'cobol').exit).toBe(2)
  })
  test('3: a recipe that is not valid, with the place', () => {
    expect(fabula('validate', place('not.json', '{ "fabula": 1,')).exit).toBe(3)
    expect(fabula('validate', recipe({ fabula: 2 }))).toMatchObject({
      exit: 3,
      err: expect.stringContaining('version 2; expected 1') as string,
    })
    expect(fabula('validate', recipe({}, [{ id: 's2', kind: 'fliter', where: {} }]), '--json').err).toContain(
      '$.tables[0].steps[1].kind',
    )
    expect(
      fabula(
        'validate',
        recipe({}, [{ id: 's2', kind: 'filter', where: { column: 'Fee', op: 'is-empty' }, colour: 1 }]),
      ).err,
    ).toContain('“colour” is not a key known here')
    expect(
      fabula('run', recipe({}, [{ id: 's2', kind: 'drop', columns: ['Fees'] }]), '--input', `visits=${visits}`),
    ).toMatchObject({ exit: 3, err: expect.stringContaining('Did you mean “Fee”?') as string })
    expect(fabula('validate', recipe())).toMatchObject({ exit: 0 })
  })
  test('4: files that do not fit, and nothing is written', () => {
    const path = recipe()
    const lost = place('lost.csv', 'Clinic,Charge\nOxbow,12\n')
    const retyped = place('retyped.csv', 'Clinic,Fee\nOxbow,12.5\n')
    expect(fabula('run', path, '--input', `visits=${lost}`, '--to', folder)).toMatchObject({
      exit: 4,
      err: expect.stringContaining('Visits has no column “Fee”') as string,
    })
    expect(fabula('run', path, '--input', `visits=${retyped}`, '--output', 'visits=-').exit).toBe(4)
    expect(
      fabula('run', path, '--input', `visits=${retyped}`, '--output', 'visits=-', '--allow-changes'),
    ).toMatchObject({ exit: 0, out: 'Clinic,Fee\nOxbow,12.5\n' })
    expect(existsSync(join(folder, 'out/visits.csv'))).toBe(false)
  })
  test('5: data that is refused, and nothing is written; a check that warns only says so', () => {
    const twice = place('twice.csv', 'Clinic,Fee\nOxbow,12\nOxbow,3\n')
    const pivot = recipe({}, [{ id: 's2', kind: 'pivot', labels: 'Clinic', values: [{ column: 'Fee', how: 'only' }] }])
    expect(fabula('run', pivot, '--input', `visits=${twice}`, '--to', folder)).toMatchObject({
      exit: 5,
      err: expect.stringContaining('Two values of “Fee” meet in one cell, for Clinic Oxbow: 12 and 3.') as string,
    })
    const check = (way: string) =>
      recipe({}, [{ id: 's2', kind: 'check', unique: ['Clinic'], else: way, say: 'One row a clinic' }])
    expect(fabula('run', check('stop'), '--input', `visits=${twice}`, '--to', folder)).toMatchObject({
      exit: 5,
      err: 'The check Visits 2 stops the run: One row a clinic (2).\n',
    })
    expect(existsSync(join(folder, 'out/visits.csv'))).toBe(false)
    expect(fabula('run', check('warn'), '--input', `visits=${twice}`, '--output', 'visits=-')).toEqual({
      exit: 0,
      out: 'Clinic,Fee\nOxbow,12\nOxbow,3\n',
      err: 'A check does not hold: One row a clinic (2).\n',
    })
  })
  test('a script of typed-in rows alone needs no files, whatever its columns are made from', () => {
    const columns = [
      { name: 'Clinic', type: 'text' },
      { name: 'Fee', type: 'integer' },
    ]
    const rows = [
      ['Oxbow', 12],
      ['Tarn', 3],
    ]
    const steps = [
      { id: 's1', kind: 'enter', columns, rows },
      { id: 's2', kind: 'pivot', labels: 'Clinic', values: [{ column: 'Fee', how: 'sum' }] },
    ]
    const fees = { id: 'fees', name: 'Fees', steps }
    const typed = recipe({ inputs: [], tables: [fees], outputs: [] })
    for (const language of ['sql', 'python', 'spark'])
      expect(fabula('script', typed, '--to', language)).toMatchObject({
        exit: 0,
        out: expect.stringContaining('Tarn') as string,
        err: '',
      })
    // beside a table of a file, and joined to it
    const inputs = [{ id: 'visits', name: 'Visits', columns: [{ name: 'Clinic', type: 'text' }] }]
    const visitSteps = [
      { id: 'v1', kind: 'open', input: 'visits', read: {} },
      { id: 'v2', kind: 'join', with: 'fees', on: [], how: 'cross' },
    ]
    const beside = recipe({ inputs, tables: [{ id: 'visits', name: 'Visits', steps: visitSteps }, fees], outputs: [] })
    expect(fabula('script', beside, '--to', 'sql')).toMatchObject({
      exit: 0,
      out: expect.stringContaining('"Tarn"') as string,
      err: '',
    })
  })
  test('tables that use each other in a circle are told, and columns that only data can tell need the files for SQL', () => {
    const circle = recipe({
      tables: [
        { id: 'a', name: 'A', steps: [{ id: 's1', kind: 'start-from', table: 'b' }] },
        { id: 'b', name: 'B', steps: [{ id: 's2', kind: 'start-from', table: 'a' }] },
      ],
      outputs: [],
    })
    expect(fabula('validate', circle)).toMatchObject({
      exit: 3,
      err: expect.stringContaining('“a”, “b”, “a” use each other in a circle') as string,
    })
    const pivot = recipe({}, [{ id: 's2', kind: 'pivot', labels: 'Clinic', values: [{ column: 'Fee', how: 'sum' }] }])
    expect(fabula('script', pivot, '--to', 'sql')).toMatchObject({
      exit: 3,
      err: expect.stringContaining('Give the files too') as string,
    })
    expect(fabula('script', pivot, '--to', 'sql', '--input', `visits=${visits}`)).toMatchObject({
      exit: 0,
      out: expect.stringContaining('are pinned to those of the files this script was made with') as string,
    })
  })
  test('6: a file that cannot be read', () => {
    const path = recipe()
    expect(fabula('run', path, '--input', `visits=${join(folder, 'none.csv')}`).exit).toBe(6)
    expect(fabula('run', path, '--input', `visits=${place('open.csv', 'Clinic,Fee\n"Oxbow,1\n')}`)).toMatchObject({
      exit: 6,
      err: expect.stringContaining('opens a quote in row 2') as string,
    })
    expect(
      fabula('run', path, '--input', `visits=${place('nul.csv', Buffer.from('Clinic,Fee\nOx\0bow,1\n'))}`),
    ).toMatchObject({ exit: 6, err: expect.stringContaining('zero bytes') as string })
  })
})

test('outputs and accounts are written', () => {
  const accounts = join(folder, 'accounts.json')
  expect(
    fabula(
      'run',
      recipe(),
      '--input',
      `visits=${visits}`,
      '--input',
      `visits=${place('more.csv', 'Fee,Clinic,New\n40,Tarn,x\n')}`,
      '--to',
      folder,
      '--accounts',
      accounts,
      '--now',
      '2031-06-30T08:00:00',
    ).exit,
  ).toBe(0)
  expect(readFileSync(join(folder, 'out/visits.csv'), 'utf8')).toBe('Clinic,Fee,New\nOxbow,12,\nTarn,40,x\n')
  expect(JSON.parse(readFileSync(accounts, 'utf8'))).toMatchObject({
    recipe: 'R',
    startedAt: '2031-06-30T08:00:00',
    inputs: [
      {
        id: 'visits',
        files: [
          { name: 'visits.csv', rows: 2 },
          { name: 'more.csv', rows: 1 },
        ],
      },
    ],
    tables: [
      {
        id: 'visits',
        steps: [
          { id: 's1', rowsOut: 3, rowsCame: 3 },
          {
            id: 's2',
            kind: 'filter',
            sentence: 'Keep the rows where Fee is more than 10.',
            rowsIn: 3,
            rowsOut: 2,
            rowsLeft: 1,
          },
        ],
      },
    ],
    outputs: [{ table: 'visits', rows: 2, columns: 3 }],
  })
})

test('fit tells what is found in sentences, with what would answer it', () => {
  expect(
    fabula('fit', recipe(), '--input', `visits=${place('drift.csv', 'Clinic,Fees,Vet\nOxbow,12,Ada\n')}`).out,
  ).toMatch(
    /^The files do not fit\.\n- Visits has no column “Fee”\.[^\n]*\n {4}Read “Fees” as “Fee”: the names are alike\.\n- /,
  )
})

test('fit tells verdict and findings as data', () => {
  const report = JSON.parse(
    fabula('fit', recipe(), '--input', `visits=${place('drift.csv', 'Clinic,Fees,Vet\nOxbow,12,Ada\n')}`, '--json').out,
  ) as object
  expect(report).toMatchObject({
    verdict: 'does-not-fit',
    findings: [
      {
        code: 'missing-column',
        input: 'visits',
        column: 'Fee',
        step: 's2',
        offers: [{ do: 'rename', column: 'Fees' }],
      },
      { code: 'new-column', column: 'Fees' },
      { code: 'new-column', column: 'Vet' },
    ],
  })
})

test('the story, a sentence a line; steps that are off are kept and skipped', () => {
  const path = recipe({}, [
    { id: 's2', kind: 'slice', first: 1, off: true },
    { id: 's3', kind: 'sort', by: [{ column: 'Fee' }] },
  ])
  expect(fabula('tell', path).out).toBe('Open Visits.\nKeep the first 1 row. (off)\nSort the rows by Fee.\n')
  expect(fabula('run', path, '--input', `visits=${visits}`, '--output', 'visits=-').out).toBe(
    'Clinic,Fee\nMarlpit,3\nOxbow,12\n',
  )
})

describe('a run beside the last accepted one', () => {
  const named = recipe({}, [{ id: 's2', kind: 'filter', where: { column: 'Clinic', op: 'is', value: 'Oxbow' } }])
  const accounts = join(folder, 'accounts.json')
  const grown = place('grown.csv', 'Clinic,Fee\nOxbow,12\nTarn End,3\n')
  test('accounts tell the sheets of each file, keys, the values that steps decide by, and medians', () => {
    expect(fabula('run', named, '--input', `visits=${visits}`, '--to', folder, '--accounts', accounts).exit).toBe(0)
    const made = JSON.parse(readFileSync(accounts, 'utf8')) as {
      inputs: { files: { sheets: unknown[] }[] }[]
      tables: { steps: { id: string; key: string; decides?: unknown; medians?: unknown }[] }[]
    }
    expect(made.inputs[0]?.files[0]?.sheets).toEqual([
      {
        rows: 2,
        columns: [
          { name: 'Clinic', type: 'text' },
          { name: 'Fee', type: 'integer' },
        ],
      },
    ])
    const [open, filter] = made.tables[0]?.steps ?? []
    expect(open?.key).toMatch(/^[0-9a-f]{16}$/)
    expect(open?.medians).toEqual({ Fee: 7.5 })
    expect(filter?.decides).toEqual({ Clinic: ['Oxbow', 'Marlpit'] })
  })
  test('what is new beside it is asked about: fit says it and ends with 0, run ends with 4 or goes on with changes', () => {
    const words = ['--input', `visits=${grown}`, '--last', accounts]
    const { exit, out } = fabula('fit', named, ...words, '--json')
    expect(exit).toBe(0)
    expect(JSON.parse(out)).toMatchObject({
      verdict: 'fits-with-changes',
      findings: [
        {
          code: 'new-value',
          input: 'visits',
          column: 'Clinic',
          step: 's2',
          rows: 1,
          values: ['Tarn End'],
          asks: true,
          sentence: '“Tarn End” is new in “Clinic”, in 1 row. Visits 2 does not name it, so this row leaves.',
        },
      ],
    })
    expect(fabula('fit', named, '--input', `visits=${grown}`).out).toBe('The files fit.\n')
    expect(fabula('run', named, ...words, '--output', 'visits=-')).toMatchObject({ exit: 4, out: '' })
    expect(fabula('run', named, ...words, '--output', 'visits=-', '--allow-changes')).toMatchObject({
      exit: 0,
      out: 'Clinic,Fee\nOxbow,12\n',
    })
  })
  test('accounts that cannot be read are said with what is wrong', () => {
    const fit = (path: string) => fabula('fit', named, '--input', `visits=${grown}`, '--last', path)
    expect(fit(join(folder, 'none.json'))).toMatchObject({ exit: 6 })
    expect(fit(visits).err).toContain('cannot be read: they are not JSON.')
    expect(fit(named).err).toContain('they are not accounts of a run')
  })
})
