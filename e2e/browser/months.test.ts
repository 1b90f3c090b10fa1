import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { By, Key } from 'selenium-webdriver'
import { expect, test } from 'vitest'
import type { RunReply } from '@fabula/core/api'
import type { Recipe } from '@fabula/core'
import { workbook } from '@fabula/formats/testing'
import { accessible, click, fill, give, gone, holds, named, closeBrowser, openBrowser, see, text } from './driver.ts'
import { fileIn, session, storyWith } from './session.ts'

const here = session()

/** A story with the files it was built on, its replay page open. */
const replayPage = async (recipe: Recipe, files: Parameters<typeof storyWith>[2]): Promise<string> => {
  const id = await storyWith(here, recipe, files)
  await here.browser.driver.get(`${here.server.base}/flows/${id}/replay`)
  await named(here.browser.driver, 'Choose files')
  return id
}
const giveFile = (name: string, content: string | Uint8Array): Promise<void> =>
  give(here.browser.driver, fileIn(here, name, typeof content === 'string' ? content : Buffer.from(content)))
/** The rows that the last replay wrote, as the file holds them. */
const written = async (flow: string): Promise<string> => {
  const { runs } = (await (await fetch(`${here.server.base}/api/flows/${flow}/runs`)).json()) as { runs: RunReply[] }
  return (await fetch(`${here.server.base}/api/flows/${flow}/runs/${runs[0]?.id ?? ''}/outputs/0`)).text()
}
const replay = async (): Promise<void> => {
  const { driver } = here.browser
  await gone(driver, 'to go')
  await click(driver, 'Replay the story')
  await see(driver, 'What came out')
}

const clinics = ['Oxbow', 'Marlpit', 'Tarn End', 'Quarry Lane']
const intake = (
  days: readonly string[],
  {
    clinic = 'Clinic',
    spell = (name: string) => name,
  }: { clinic?: string; spell?: (name: string, i: number) => string } = {},
): string =>
  [
    `Ref,${clinic},Day,Status,Fee`,
    ...days.map(
      (day, i) =>
        `A-${i + 1},${spell(clinics[i % 4] ?? '', i)},${day},${i % 10 === 9 ? 'Cancelled' : 'Done'},${12 + (i % 7)}.5`,
    ),
  ].join('\n') + '\n'
const daysOf = (month: string, n = 40): string[] =>
  Array.from({ length: n }, (_, i) => `2031-${month}-${String((i % 28) + 1).padStart(2, '0')}`)

const intakeRecipe: Recipe = {
  fabula: 1,
  name: 'Intake of the month',
  inputs: [
    {
      id: 'intake',
      name: 'Intake',
      files: 'intake-*.csv',
      columns: [
        { name: 'Ref', type: 'text' },
        { name: 'Clinic', type: 'text' },
        { name: 'Day', type: 'text' },
        { name: 'Status', type: 'text' },
        { name: 'Fee', type: 'decimal' },
      ],
    },
  ],
  tables: [
    {
      id: 'intake',
      name: 'Intake',
      steps: [
        {
          id: 's1',
          kind: 'open',
          input: 'intake',
          read: {
            types: {
              Ref: { type: 'text' },
              Clinic: { type: 'text' },
              Day: { type: 'text' },
              Status: { type: 'text' },
              Fee: { type: 'decimal' },
            },
          },
        },
        {
          id: 's2',
          kind: 'unify',
          column: 'Clinic',
          groups: clinics.map((into) => ({ into, from: [into] })),
          judged: 'spelling',
        },
        { id: 's3', kind: 'filter', where: { column: 'Status', op: 'is', value: 'Done' } },
        { id: 's4', kind: 'cast', columns: ['Day'], type: 'date' },
      ],
    },
  ],
  outputs: [{ table: 'intake', format: 'csv', file: 'intake-clean.csv' }],
}
const builtOn = { intake: [['intake-2031-05.csv', intake(daysOf('05'))]] } as const

test('an ordinary month fits without a question and is done with nothing to look at', async () => {
  const { driver } = here.browser
  const flow = await replayPage(intakeRecipe, builtOn)
  await see(driver, 'No new file is given yet.')
  await giveFile('intake-2031-06.csv', `${intake(daysOf('06', 44))}\n,,,,\n`)
  await see(driver, 'Nothing needs an answer.')
  await see(driver, 'Tried: 40 rows would come out.')
  await replay()
  await see(driver, 'Done: 40 rows, nothing to look at.')
  // the slots are empty again, and last time is said with its date
  await see(driver, 'No new file is given yet.')
  await see(driver, 'intake-2031-06.csv, kept from')
  expect((await written(flow)).trim().split('\n')).toHaveLength(41)
})

test('the drifted intake month: a renamed column, a new spelling and a new form of date are asked about and answered', async () => {
  const { driver } = here.browser
  const flow = await replayPage(intakeRecipe, builtOn)
  const drifted = daysOf('06').map((day, i) => (i % 8 === 3 ? day.split('-').reverse().join('.') : day))
  await giveFile(
    'intake-2031-06.csv',
    intake(drifted, { clinic: 'Practice', spell: (name, i) => (i === 2 || i === 6 ? 'Tarnend' : name) }),
  )
  await see(driver, 'Intake has no column “Clinic”. “Practice” may be it')
  await see(driver, 'does not fit yet')
  await click(driver, 'Read Practice as Clinic')
  await see(driver, '“Tarnend” is new in “Clinic”, in 2 rows and looks like “Tarn End”. Intake 2 leaves it as it is.')
  await see(driver, 'Intake 4 cannot read')
  await see(driver, '2 answers to go')
  expect(await accessible(driver)).toEqual([])
  await click(driver, 'Write “Tarn End” for “Tarnend”')
  await gone(driver, '“Tarnend” is new')
  await click(driver, 'Read them as day.month.year: it reads 4 more cells')
  await replay()
  await see(driver, 'Done: 36 rows, nothing to look at.')
  const rows = (await written(flow)).trim().split('\n')
  expect(rows).toHaveLength(37)
  expect(rows.join('\n')).not.toContain('Tarnend')
  expect(rows.slice(1).every((row) => /,2031-06-\d\d,Done,/.test(row))).toBe(true)
  // what was accepted is what the next month is held against
  await giveFile('intake-2031-07.csv', intake(daysOf('07')))
  await see(driver, 'Nothing needs an answer.')
})

test('a kept file beside a new one is asked about once, and the answer is remembered', async () => {
  const { driver } = here.browser
  await replayPage(intakeRecipe, builtOn)
  await giveFile('intake-2031-06.csv', intake(daysOf('06')))
  await see(driver, 'Nothing needs an answer.')
  await click(driver, 'Keep it too')
  await see(driver, 'Intake has “intake-2031-05.csv” kept from before and “intake-2031-06.csv” given now')
  await click(driver, 'Both belong to this run')
  await replay()
  await see(driver, 'Done: 72 rows, nothing to look at.')
  await giveFile('intake-2031-07.csv', intake(daysOf('07')))
  await click(driver, 'Keep it too')
  await see(driver, 'Both belong to this run: Intake has')
  await see(driver, 'Tried: 108 rows would come out.')
})

test('an answer is taken back, and a replay without the answers is no green tick', async () => {
  const { driver } = here.browser
  await replayPage(intakeRecipe, builtOn)
  await giveFile('intake-2031-06.csv', intake(daysOf('06'), { spell: (name, i) => (i === 2 ? 'Tarnend' : name) }))
  await click(driver, 'It is a value of its own')
  await see(driver, 'Answers given')
  await gone(driver, 'to go')
  await click(driver, 'Take back')
  await see(driver, '1 answer to go')
  await click(driver, 'Replay without these answers')
  await see(driver, 'Done, 1 thing to look at.')
  await see(driver, '≈ 1 thing to look at')
})

/** The link to the rows of a finding. */
const rowsLink = (sentence: string): By =>
  By.xpath(`//*[@role="group"][contains(@aria-label, "${sentence}")]//button[. = "See its rows"]`)
/** The rows in the dialog, which come after its words: so many. */
const dialogRows = async (count: number): Promise<string[]> => {
  const { driver } = here.browser
  const rows = () => driver.findElements(By.css('[role=dialog] tbody tr'))
  await holds(driver, async () => (await rows()).length === count, `${count} rows are not in the dialog`)
  return Promise.all((await rows()).map((row) => row.getText()))
}

test('figures and things to look at open their rows, of a trial and of a past replay', async () => {
  const { driver } = here.browser
  await replayPage(intakeRecipe, builtOn)
  const drifted = daysOf('06').map((day, i) => (i % 8 === 3 ? day.split('-').reverse().join('.') : day))
  await giveFile('intake-2031-06.csv', intake(drifted, { spell: (name, i) => (i === 2 ? 'Tarnend' : name) }))
  await see(driver, '“Tarnend” is new')
  await click(driver, rowsLink('“Tarnend” is new in “Clinic”'))
  await see(driver, 'Intake 2: Clinic is Tarnend')
  await see(driver, '1 row')
  expect(await dialogRows(1)).toEqual([expect.stringContaining('Tarnend')])
  await click(driver, 'Close')
  await click(driver, rowsLink('Intake 4 cannot read'))
  await see(driver, '4 rows')
  for (const row of await dialogRows(4)) expect(row).toMatch(/\d\d\.06\.2031\s*, now\s*unreadable/)
  expect(await accessible(driver)).toEqual([])
  await driver.actions().sendKeys(Key.ESCAPE).perform()
  // the sentence that an answer changes is shown before it is kept there
  await click(driver, 'Write “Tarn End” for “Tarnend”')
  await click(driver, 'Keep it for good…')
  await see(driver, 'What changes in the story')
  await see(driver, 'Write “Tarn End” for “Tarnend” from now on.')
  await click(driver, 'Leave it')
  await see(driver, 'Answers given')
  await click(driver, 'Keep it for good…')
  await click(driver, 'Keep it in the story')
  await gone(driver, 'Answers given')
  await click(driver, 'These cells stay empty')
  await replay()
  await see(driver, 'Done: 36 rows')
  // the next month runs on other files; the rows of this replay stay those of its own
  await giveFile('intake-2031-07.csv', intake(daysOf('07')))
  await replay()
  await click(driver, By.css('section[aria-label="Past replays"] li:nth-child(2) button'))
  await click(driver, '4 unreadable at 4')
  await see(driver, '4 rows')
  for (const row of await dialogRows(4)) expect(row).toMatch(/\d\d\.06\.2031\s*, now\s*unreadable/)
})

test('the folder month: a column renamed in one of several files is asked about for that file alone', async () => {
  const { driver } = here.browser
  const born = (name: string, month: string): string =>
    [`Ref,${name}`, ...Array.from({ length: 20 }, (_, i) => `${month}-${i},2020-0${(i % 9) + 1}-11`)].join('\n') + '\n'
  const recipe: Recipe = {
    fabula: 1,
    name: 'Births',
    inputs: [
      {
        id: 'patients',
        name: 'Patients',
        files: 'patients-*.csv',
        columns: [
          { name: 'Ref', type: 'text' },
          { name: 'Born', type: 'date' },
        ],
      },
    ],
    tables: [
      {
        id: 'patients',
        name: 'Patients',
        steps: [
          { id: 's1', kind: 'open', input: 'patients' },
          { id: 's2', kind: 'derive', as: 'Year', formula: 'YEAR(Born)' },
        ],
      },
    ],
    outputs: [{ table: 'patients', format: 'csv', file: 'patients.csv' }],
  }
  const flow = await replayPage(recipe, {
    patients: [
      ['patients-04.csv', born('Born', '04')],
      ['patients-05.csv', born('Born', '05')],
    ],
  })
  await give(
    driver,
    fileIn(here, 'patients-05.csv', born('Born', '05')),
    fileIn(here, 'patients-06.csv', born('Birthday', '06')),
  )
  await see(driver, 'In patients-06.csv alone there is no “Born”.')
  await see(driver, '20 cells would be empty. Patients 2 needs it.')
  await named(driver, 'Leave 20 cells empty')
  await named(driver, 'Leave the file out')
  await click(driver, 'Read Birthday as Born')
  await replay()
  await see(driver, 'Done: 40 rows, nothing to look at.')
  expect(
    (await written(flow))
      .trim()
      .split('\n')
      .slice(1)
      .every((row) => row.endsWith(',2020')),
  ).toBe(true)
})

test('a shifted header does not fit, an inner join that loses rows is asked about, an empty answer too', async () => {
  const { driver } = here.browser
  await replayPage(intakeRecipe, builtOn)
  await giveFile('intake-2031-06.csv', `Intake of June\n${intake(daysOf('06'))}`)
  await see(driver, 'does not fit yet')
  await see(driver, 'Intake has no column “Clinic”.')
  await named(driver, 'Choose files')
  const prices = (codes: readonly string[]): string => `Code,Price\n${codes.map((code) => `${code},10`).join('\n')}\n`
  const visits = (codes: readonly string[]): string =>
    `Clinic,Code\n${codes.map((code, i) => `${clinics[i % 4] ?? ''},${code}`).join('\n')}\n`
  const column = (name: string, type: 'text' | 'integer') => ({ name, type })
  const joined: Recipe = {
    fabula: 1,
    name: 'Priced visits',
    parameters: [{ name: 'Clinic here', type: 'text', value: 'Oxbow' }],
    inputs: [
      {
        id: 'visits',
        name: 'Visits',
        files: 'visits-*.csv',
        columns: [column('Clinic', 'text'), column('Code', 'text')],
      },
      {
        id: 'prices',
        name: 'Prices',
        files: 'prices-*.csv',
        columns: [column('Code', 'text'), column('Price', 'integer')],
      },
    ],
    tables: [
      {
        id: 'visits',
        name: 'Visits',
        steps: [
          { id: 's1', kind: 'open', input: 'visits' },
          { id: 's2', kind: 'join', with: 'prices', how: 'inner', on: [{ left: 'Code', right: 'Code' }] },
          { id: 's3', kind: 'filter', where: { column: 'Clinic', op: 'is', value: { parameter: 'Clinic here' } } },
        ],
      },
      { id: 'prices', name: 'Prices', steps: [{ id: 's4', kind: 'open', input: 'prices' }] },
    ],
    outputs: [{ table: 'visits', format: 'csv', file: 'priced.csv' }],
  }
  const codes = Array.from({ length: 40 }, (_, i) => `VAC-${i % 3}`)
  await replayPage(joined, {
    visits: [['visits-05.csv', visits(codes)]],
    prices: [['prices-2031.csv', prices(['VAC-0', 'VAC-1', 'VAC-2'])]],
  })
  await giveFile('visits-06.csv', visits(codes.map((code, i) => (i % 4 === 1 ? 'GRM-9' : code))))
  await see(driver, '10 rows (25 %) find no match in Visits 2; last time none.')
  await see(driver, 'prices-2031.csv, which the story was built on')
  await click(driver, 'It is right as it is')
  await gone(driver, 'to go')
  await fill(driver, 'Clinic here', Key.BACK_SPACE)
  await see(driver, '“Clinic here” is asked and has no answer.')
  await fill(driver, 'Clinic here', 'Oxboww')
  await see(driver, 'which no row has in “Clinic” where Visits 3 looks for it.')
  // a value that is there answers it
  await click(driver, 'Tarn End')
  await gone(driver, 'which no row has')
})

test('the by-hand union month: one workbook fills every input by its sheets, and a sheet that nothing takes is asked about', async () => {
  const { driver } = here.browser
  const sheet = (year: number): readonly (readonly (string | number)[])[] => [
    ['Clinic', 'Visits'],
    ...clinics.map((clinic, i) => [clinic, year - 2000 + i]),
  ]
  const columns = [
    { name: 'Clinic', type: 'text' as const },
    { name: 'Visits', type: 'integer' as const },
  ]
  const years = ['2031', '2032']
  const recipe: Recipe = {
    fabula: 1,
    name: 'Visits by year',
    inputs: years.map((year) => ({ id: `y-${year}`, name: `Year ${year}`, files: 'years*.xlsx', columns })),
    tables: [
      {
        id: 'y-2031',
        name: 'Year 2031',
        steps: [
          { id: 's1', kind: 'open', input: 'y-2031', read: { sheets: ['2031'], origin: { sheet: 'Year' } } },
          { id: 's3', kind: 'union', with: ['y-2032'] },
        ],
      },
      {
        id: 'y-2032',
        name: 'Year 2032',
        steps: [{ id: 's2', kind: 'open', input: 'y-2032', read: { sheets: ['2032'], origin: { sheet: 'Year' } } }],
      },
    ],
    outputs: [{ table: 'y-2031', format: 'csv', file: 'years.csv' }],
  }
  const old = workbook({ '2031': sheet(2031), '2032': sheet(2032) })
  const flow = await replayPage(recipe, { 'y-2031': [['years.xlsx', old]], 'y-2032': [['years.xlsx', old]] })
  await giveFile('years-new.xlsx', workbook({ '2031': sheet(2031), '2032': sheet(2032), '2033': sheet(2033) }))
  await see(driver, 'The sheet “2033” of years-new.xlsx has the columns of')
  await click(driver, 'Take it in like the others')
  await see(driver, 'Open Year 2031, the sheets “2031” and “2033”')
  await click(driver, 'Keep it in the story')
  await see(driver, 'Tried: 12 rows would come out.')
  await replay()
  await see(driver, 'Done: 12 rows, nothing to look at.')
  expect((await written(flow)).match(/,2033\n/g)).toHaveLength(4)
})

test('a colleague who never saw the story handles the drifted month by link, without a wrong row', async () => {
  const flow = await replayPage(intakeRecipe, builtOn)
  const link = (await (
    await fetch(`${here.server.base}/api/flows/${flow}/links`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ rights: 'replay', note: 'Marlpit', endsAt: null, follows: 'story' }),
    })
  ).json()) as { links: readonly { token: string }[] }
  const token = link.links[0]?.token ?? ''
  const other = await openBrowser()
  try {
    await other.driver.get(`${here.server.base}/r/${token}/replay`)
    await give(
      other.driver,
      fileIn(
        here,
        'intake-2031-08.csv',
        intake(daysOf('08'), { clinic: 'Practice', spell: (name, i) => (i === 2 ? 'Tarnend' : name) }),
      ),
    )
    await click(other.driver, 'Read Practice as Clinic')
    await click(other.driver, 'Write “Tarn End” for “Tarnend”')
    await gone(other.driver, 'to go')
    expect(await text(other.driver)).not.toContain('Keep it for good')
    await click(other.driver, 'Replay the story')
    await see(other.driver, 'Done: 36 rows, nothing to look at.')
    await click(other.driver, 'Download intake-clean.csv')
    const file = join(other.downloads, 'intake-clean.csv')
    await holds(other.driver, () => readFileSync(file).length > 0, 'the result did not arrive')
    expect(readFileSync(file, 'utf8')).not.toContain('Tarnend')
    expect(readFileSync(file, 'utf8').trim().split('\n')).toHaveLength(37)
  } finally {
    await closeBrowser(other)
  }
})
