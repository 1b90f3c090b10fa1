import { By, Key } from 'selenium-webdriver'
import { expect, test } from 'vitest'
import { accessible, cell, click, give, gone, press, see, settled } from './driver.ts'
import { fileIn, session, storyWith } from './session.ts'

const here = session()
const visits = [
  'Visits of May',
  'Ref,Patient,Day,Status,Fee',
  'A-1,Biscuit,2031-05-01,Done,£ 12.50',
  'A-2,Hazel,2031-05-01,Test,7',
  '',
  'A-3,Biscuit,2031-05-01,Done,£ 12.50',
  'A-4,Otis,2031-05-02,Cancelled,30',
  'A-5,Hazel,2031-05-03,Done,8',
  'A-6,Otis,2031-05-04,Done,4',
  '',
].join('\n')
/** The first visit of each patient and day, then the fees of each patient. */
const recipe = {
  fabula: 1,
  name: 'First visits',
  inputs: [{ id: 'visits', name: 'Visits' }],
  tables: [
    {
      id: 'visits',
      name: 'First visits',
      steps: [
        { id: 's1', kind: 'open', input: 'visits', read: { header: 2, types: 'text' } },
        { id: 's2', kind: 'filter', where: { column: 'Status', op: 'is', value: 'Done' } },
        { id: 's3', kind: 'distinct', columns: ['Patient', 'Day'] },
        { id: 's4', kind: 'cast', columns: ['Fee'], type: 'decimal' },
        {
          id: 's5',
          kind: 'summarise',
          by: ['Patient'],
          measures: [{ how: 'sum', column: 'Fee', as: 'Fees' }],
        },
      ],
    },
  ],
  outputs: [{ table: 'visits', format: 'csv', file: 'first.csv' }],
}
const begin = async (path: string): Promise<string> => {
  const id = await storyWith(here, recipe, { visits: [['visits-2031-05.csv', visits]] })
  await here.browser.driver.get(`${here.server.base}/flows/${id}${path}`)
  return id
}

test('which did I lose: answered by clicking alone, every row counted', async () => {
  const { driver } = here.browser
  await begin('')
  await settled(driver)
  await click(driver, 'Which rows of the files are not in it?')
  await see(driver, '3 of 6 rows of Visits are in it; 3 left.')
  await see(driver, 'at First visits 2: Status is Cancelled')
  await see(driver, 'at First visits 2: Status is Test')
  await see(driver, 'at First visits 3: the same Patient and Day as another row, which stays')
  expect(await accessible(driver)).toEqual([])
  await click(driver, By.xpath('//li[contains(., "the same Patient")]//button[contains(., "see them")]'))
  await click(driver, 'What became of row 6 of visits-2031-05.csv')
  await see(driver, 'What became of row 6 of visits-2031-05.csv')
  await see(driver, 'the same Patient and Day as row 3, which stays')
  await click(driver, '← Back')
  await see(driver, '3 of 6 rows of Visits')
  await click(driver, 'Close')
  await see(driver, 'Likely here')
})

test('a total goes back to the rows of the file with their texts, and a row of those forward', async () => {
  const { driver } = here.browser
  await begin('')
  await settled(driver)
  await (await cell(driver, '12.5')).click()
  await see(driver, 'Where does this come from?')
  await press(driver, 'w')
  await see(driver, 'It comes from 1 row.')
  await see(driver, 'Fees is 12.5, the sum of 1 row')
  await see(driver, '£ 12.50 read as 12.5')
  await see(driver, 'visits-2031-05.csv · 1 row')
  expect(await accessible(driver)).toEqual([])
  await click(driver, 'What became of row 3')
  await see(driver, 'in 1 row')
  await click(driver, 'Where row 1 of First visits comes from')
  await see(driver, 'First visits, row 1')
  await see(driver, 'kept, Status is Done')
})

test('between two sentences, from a figure, and from the raw sheet', async () => {
  const { driver } = here.browser
  await begin('')
  await settled(driver)
  await click(driver, By.css('button[aria-label="Sentence 3"]'))
  await settled(driver)
  await click(driver, 'Why did 1 row leave here?')
  await see(driver, '3 of 4 rows of Visits are in it; 1 left.')
  await gone(driver, 'Status is Test')
  const since = await driver.findElement(By.xpath('//label[contains(., "Of the rows")]/select'))
  await since.sendKeys('that were')
  await see(driver, '3 of 6 rows of Visits are in it; 3 left.')
  await see(driver, 'at First visits 2: Status is Test')
  await click(driver, 'Close')
  await click(driver, By.css('button[aria-label="Sentence 1"]'))
  await settled(driver)
  await click(driver, 'See the sheet')
  await see(driver, 'Visits of May')
  await see(driver, '£ 12.50')
  expect(await accessible(driver)).toEqual([])
  await click(driver, 'What became of row 5')
  await see(driver, 'blank row')
  await click(driver, 'Open the sheet here')
  await see(driver, 'Visits of May')
  const marked = await driver.findElement(By.css('tr[aria-current="true"]'))
  expect(await marked.getText()).toMatch(/^5/)
  await click(driver, 'What became of row 4')
  await see(driver, 'Status is Test')
})

test('a past replay is traced on its own files, and a link sees those of its own replays alone', async () => {
  const { driver } = here.browser
  const flow = await begin('/replay')
  await give(driver, fileIn(here, 'visits-2031-06.csv', Buffer.from(visits.replaceAll('2031-05', '2031-06'))))
  await gone(driver, 'to go')
  await click(driver, 'Replay the story')
  await see(driver, 'What came out')
  await see(driver, '3 of 6 rows of Visits are in First visits; 3 left.')
  await see(driver, '1 at First visits 2, Status is Cancelled')
  await click(driver, 'Which rows are not in First visits?')
  await see(driver, '3 of 6 rows of Visits are in it; 3 left.')
  await click(driver, By.xpath('//li[contains(., "Cancelled")]//button[contains(., "see them")]'))
  await click(driver, 'What became of row 7 of visits-2031-06.csv')
  await see(driver, '2031-06-02')
  await driver.actions().sendKeys(Key.ESCAPE).perform()
  await click(driver, '−2 removed at 2')
  await click(driver, 'Where row 2 comes from')
  await see(driver, 'opened from visits-2031-06.csv, row 4')

  const reply = await fetch(`${here.server.base}/api/flows/${flow}/links`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ rights: 'replay', note: 'Marlpit', endsAt: null, follows: 'story' }),
  })
  const { links } = (await reply.json()) as { links: readonly { token: string }[] }
  const asked = { recipe, table: 'visits', limit: 10 }
  const lost = (data: object) =>
    fetch(`${here.server.base}/api/shared/${links[0]?.token ?? ''}/lost`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ ...asked, ...data }),
    })
  expect((await lost({})).status).toBe(403)
  const { runs } = (await (await fetch(`${here.server.base}/api/flows/${flow}/runs`)).json()) as {
    runs: { id: string }[]
  }
  expect((await lost({ data: { run: runs[0]?.id } })).status).toBe(404)
})
