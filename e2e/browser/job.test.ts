import { execFileSync } from 'node:child_process'
import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { By, Key } from 'selenium-webdriver'
import { expect, test } from 'vitest'
import { firstDifference } from '@fabula/server/proof'
import { accessible, click, give, head, keep, labelled, named, openBrowser, see, text } from './driver.ts'
import { demo, root } from './server.ts'
import { session } from './session.ts'

const here = session()

test('the whole job, as a new user would do it', async () => {
  const { driver, downloads } = here.browser
  await driver.get(here.server.base)
  await see(driver, 'Monthly takings by clinic')
  expect(await accessible(here.browser.driver)).toEqual([])

  // open an export
  await give(driver, demo('visits-2031-05.csv'))
  await see(driver, '1,204 rows · 9 columns')
  await click(driver, 'Keep')
  await see(driver, 'Open visits.')
  await see(driver, '1,204 rows')

  // 1: drop two columns
  await head(here.browser.driver, 'Booking ref')
  await head(here.browser.driver, 'Visit date', Key.CONTROL)
  await click(driver, 'Drop them')
  await see(driver, 'columns leave')
  await click(driver, 'columns: Booking ref and Visit date')
  await (await labelled(driver, 'Visit date')).click()
  await driver.actions().sendKeys(Key.ESCAPE).perform()
  await see(driver, 'Drop the column Booking ref.')
  await keep(here.browser.driver)

  // 2: read the dates, by what the card found
  await head(here.browser.driver, 'Visit date')
  await click(driver, 'Read as a date')
  await see(driver, '3 unreadable')
  await keep(here.browser.driver)

  // 3: read the amounts
  await head(here.browser.driver, 'Charged')
  await click(driver, 'Read as a number')
  await see(driver, 'Read Charged as a number.')
  await see(driver, '1,123 read')
  await keep(here.browser.driver)

  // 4: one spelling by taking the spaces off
  await head(here.browser.driver, 'Clinic')
  await click(driver, 'Take the spaces off')
  await see(driver, 'TRIM(')
  await keep(here.browser.driver)

  // 5: drop the cancelled, from a value in the card
  await head(here.browser.driver, 'Status')
  await click(driver, 'Cancelled')
  await click(driver, 'Drop rows where it is “Cancelled”')
  await see(driver, 'rows leave')
  await driver.actions().sendKeys(Key.ENTER).perform()
  await see(driver, 'Drop the rows where Status is Cancelled.')
  await driver.wait(async () => (await driver.findElements(By.css('[data-state=draft]'))).length === 0, 10_000)

  // 6: summarise, found by a word of the trade
  await head(here.browser.driver, 'Clinic')
  await head(here.browser.driver, 'Charged', Key.CONTROL)
  await driver.actions().sendKeys('/').perform()
  await driver.actions().sendKeys('group by', Key.ENTER).perform()
  await see(driver, 'Summarise by Clinic: the count of rows as Rows and the sum of Charged as Total Charged.')
  await keep(here.browser.driver)
  await named(driver, '5 rows')
  await named(driver, '3 columns')
  expect(await accessible(here.browser.driver)).toEqual([])

  // undo and redo, across a reload
  await click(driver, '↶ Undo')
  await driver.wait(async () => !(await text(driver)).includes('Summarise by Clinic:'), 10_000)
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
  expect(await accessible(here.browser.driver)).toEqual([])

  // hand over: the script, run outside, gives the table that Compose shows
  await click(driver, 'Hand over')
  await see(driver, '# s7')
  expect(await accessible(here.browser.driver)).toEqual([])
  await click(driver, 'Download')
  const script = join(downloads, 'visits.py')
  await driver.wait(() => { try { return readFileSync(script).length > 0 } catch { return false } }, 10_000, 'the script did not arrive')
  const out = join(downloads, 'out.csv')
  execFileSync('/usr/bin/python3', [script, '--input', `visits=${demo('visits-2031-05.csv')}`, '--output', `visits=${out}`], { stdio: 'pipe' })
  const id = (await driver.getCurrentUrl()).split('/').at(-2) ?? ''
  const recipe = await (await fetch(`${here.server.base}/api/flows/${id}/download/recipe`)).text()
  writeFileSync(join(downloads, 'flow.fabula.json'), recipe)
  const engine = execFileSync('node', [join(root, 'cli/bin/fabula.mjs'), 'run', join(downloads, 'flow.fabula.json'), '--input', `visits=${demo('visits-2031-05.csv')}`, '--output', 'visits=-'], { encoding: 'utf8' })
  expect(engine.split('\n')[0]).toBe('Clinic,Rows,Total Charged')
  expect(firstDifference(engine, readFileSync(out, 'utf8'))).toBeUndefined()

  // a colleague follows the link in a browser of their own
  await click(driver, 'Make a link')
  await click(driver, 'Make the link')
  const link = await (await labelled(driver, 'The link')).getAttribute('value')
  const other = await openBrowser()
  try {
    await other.driver.get(link ?? '')
    await see(other.driver, 'Drop the rows where Status is Cancelled.')
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
    await other.driver.quit()
  }
})

test('a broken sentence mends in place, and the sentences after it wait', async () => {
  const { driver } = here.browser
  await driver.get(here.server.base)
  await click(driver, 'Monthly takings by clinic')
  await see(driver, 'Rows through the story')
  await click(driver, 'columns: Booking ref and Desk')
  await (await labelled(driver, 'Clinic')).click()
  await driver.actions().sendKeys(Key.ESCAPE).perform()
  await keep(here.browser.driver)
  await see(driver, 'There is no column “Clinic” here.')
  await see(driver, 'waits for sentence')
  await click(driver, '↶ Undo')
  await driver.wait(async () => !(await text(driver)).includes('waits for sentence'), 10_000, 'undo did not mend it')
  await see(driver, '121 changed')
})

test('a figure in the margin shows exactly its rows', async () => {
  const { driver } = here.browser
  await driver.get(here.server.base)
  await click(driver, 'Monthly takings by clinic')
  await click(driver, '3 unreadable')
  await see(driver, '31/06/2031')
  const grid = await driver.findElement(By.css('[role=grid]'))
  await driver.wait(async () => (await grid.getAttribute('aria-rowcount')) === '4', 10_000, 'not just the three rows')
})

test('lamplight is as accessible as paper', async () => {
  const { driver } = here.browser
  await click(driver, 'Read by lamplight')
  expect(await accessible(here.browser.driver)).toEqual([])
  await click(driver, 'Read by paper')
})
