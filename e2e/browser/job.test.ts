import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { By, Key } from 'selenium-webdriver'
import { expect, test } from 'vitest'
import { firstDifference } from '@fabula/server/proof'
import {
  accessible,
  click,
  element,
  give,
  gone,
  head,
  holds,
  keep,
  keepOpened,
  labelled,
  named,
  closeBrowser,
  openBrowser,
  press,
  see,
  settled,
  text,
  tick,
  verb,
} from './driver.ts'
import { demo } from './server.ts'
import { replayed, session } from './session.ts'

const here = session()

test('the whole job, as a new user would do it', async () => {
  const { driver, downloads } = here.browser
  await driver.get(here.server.base)
  await see(driver, 'Monthly takings by clinic')
  expect(await accessible(driver)).toEqual([])

  // open an export
  await give(driver, demo('visits-2031-05.csv'))
  await see(driver, '1,204 rows · 9 columns')
  await keepOpened(driver)
  await see(driver, 'Open Visits.')
  await see(driver, '1,204 rows')

  // 1: drop two columns
  await head(driver, 'Booking ref')
  await head(driver, 'Visit date', Key.CONTROL)
  await click(driver, 'Drop them')
  await see(driver, 'columns leave')
  await click(driver, 'columns: Booking ref and Visit date')
  await tick(driver, 'Visit date')
  await press(driver, Key.ESCAPE)
  await see(driver, 'Drop the column Booking ref.')
  await keep(driver)

  // 2: read the dates, by what the card found
  await head(driver, 'Visit date')
  await click(driver, 'Read as a date')
  await see(driver, '3 unreadable')
  await keep(driver)

  // 3: read the amounts
  await head(driver, 'Charged')
  await click(driver, 'Read as a number')
  await see(driver, 'Read Charged as a number.')
  await see(driver, '1,123 read')
  await keep(driver)

  // 4: one spelling by taking the spaces off
  await head(driver, 'Clinic')
  await click(driver, 'Take the spaces off')
  await see(driver, 'TRIM(')
  await keep(driver)

  // 5: drop the cancelled, from a value in the card
  await head(driver, 'Status')
  await click(driver, 'Cancelled')
  await click(driver, 'Drop rows where it is “Cancelled”')
  await see(driver, 'rows leave')
  await press(driver, Key.ENTER)
  await see(driver, 'Drop the rows where Status is “Cancelled”.')
  await settled(driver)

  // 6: summarise, found by a word of the trade
  await head(driver, 'Clinic')
  await head(driver, 'Charged', Key.CONTROL)
  await verb(driver, 'group by')
  await see(driver, 'Summarise by Clinic: the count of rows as Rows and the sum of Charged as Total Charged.')
  await keep(driver)
  await named(driver, '5 rows')
  await named(driver, '3 columns')
  expect(await accessible(driver)).toEqual([])

  // undo and redo, across a reload
  await click(driver, '↶ Undo')
  await gone(driver, 'Summarise by Clinic:')
  await driver.navigate().refresh()
  await click(driver, '↷ Redo')
  await see(driver, 'Summarise by Clinic:')

  // replay on June, whose status column has another name
  await click(driver, 'Replay on new exports')
  await (await labelled(driver, 'New exports')).getTagName()
  await give(driver, demo('visits-2031-06.csv'))
  await see(driver, 'does not fit yet')
  await see(driver, 'new column “Payment”')
  await click(driver, 'Read Booking status as Status')
  await see(driver, '✓ fits')
  await click(driver, 'Replay the story')
  await see(driver, 'What came out')
  await see(driver, 'visits-2031-06.csv, 1,391 rows')
  expect(await accessible(driver)).toEqual([])

  // hand over: the script, run outside, gives the table that Compose shows
  await click(driver, 'Hand over')
  await see(driver, '# s7')
  expect(await accessible(driver)).toEqual([])
  await click(driver, 'Download')
  const script = join(downloads, 'visits.py')
  await holds(driver, () => readFileSync(script).length > 0, 'the script did not arrive')
  const out = join(downloads, 'out.csv')
  execFileSync(
    '/usr/bin/python3',
    [script, '--input', `visits=${demo('visits-2031-05.csv')}`, '--output', `visits=${out}`],
    { stdio: 'pipe' },
  )
  const engine = await replayed(here, 'visits', { visits: demo('visits-2031-05.csv') })
  expect(engine.split('\n')[0]).toBe('Clinic,Rows,Total Charged')
  expect(firstDifference(engine, readFileSync(out, 'utf8'))).toBeUndefined()

  // a colleague follows the link in a browser of their own
  await click(driver, 'Make a link')
  await click(driver, 'Make the link')
  const link = await (await labelled(driver, 'The link')).getAttribute('value')
  const other = await openBrowser()
  try {
    await other.driver.get(link ?? '')
    await see(other.driver, 'Drop the rows where Status is “Cancelled”.')
    expect(await text(other.driver)).not.toContain('Hand over')
    await click(other.driver, 'Replay on your own export')
    await give(other.driver, demo('visits-2031-05.csv'))
    await see(other.driver, '✓ fits')
    await click(other.driver, 'Replay the story')
    await see(other.driver, 'What came out')
    // ended with one click, the link opens nothing any more
    await click(driver, 'End it')
    await named(driver, 'Make a link')
    await other.driver.get(link ?? '')
    await see(other.driver, 'This link has ended')
  } finally {
    await closeBrowser(other)
  }
})

test('a broken sentence mends in place, and the sentences after it wait', async () => {
  const { driver } = here.browser
  await driver.get(here.server.base)
  await click(driver, 'Monthly takings by clinic')
  await see(driver, 'Rows through the story')
  await click(driver, 'columns: Booking ref and Desk')
  await tick(driver, 'Clinic')
  await press(driver, Key.ESCAPE)
  await keep(driver)
  await see(driver, 'There is no column “Clinic” here.')
  await see(driver, 'waits for sentence')
  await click(driver, '↶ Undo')
  await gone(driver, 'waits for sentence')
  await see(driver, '121 changed')
})

test('a figure in the margin shows exactly its rows', async () => {
  const { driver } = here.browser
  await driver.get(here.server.base)
  await click(driver, 'Monthly takings by clinic')
  await click(driver, '3 unreadable')
  await see(driver, '31/06/2031')
  await holds(
    driver,
    async () => (await (await element(driver, By.css('[role=grid]'))).getAttribute('aria-rowcount')) === '4',
    'not just the three rows',
  )
})

test('lamplight is as accessible as paper', async () => {
  const { driver } = here.browser
  await click(driver, By.css('[aria-label="How pages read"]'))
  await click(driver, 'lamplight')
  await press(driver, Key.ESCAPE)
  expect(await driver.executeScript('return document.documentElement.dataset.theme')).toBe('lamplight')
  expect(await accessible(driver)).toEqual([])
  await click(driver, By.css('[aria-label="How pages read"]'))
  await click(driver, 'daylight')
  await press(driver, Key.ESCAPE)
})
