import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { By, Key } from 'selenium-webdriver'
import { afterAll, beforeAll, beforeEach, expect, test } from 'vitest'
import {
  accessible,
  click,
  element,
  give,
  holds,
  keep,
  keepOpened,
  labelled,
  named,
  press,
  see,
  still,
  text,
  tick,
} from './driver.ts'
import { startOData } from './server.ts'
import { session } from './session.ts'

const here = session({ FABULA_ALLOW_PRIVATE: '1' })
let odata: Awaited<ReturnType<typeof startOData>>
beforeAll(async () => {
  odata = await startOData()
})
afterAll(() => odata?.close())
beforeEach(async () => {
  await here.browser.driver.get(here.server.base)
  await see(here.browser.driver, 'Your stories')
})
const demo = async (): Promise<void> => {
  await click(here.browser.driver, 'Monthly takings by clinic')
  await see(here.browser.driver, 'Rows through the story')
  await click(here.browser.driver, '−92 rows')
  await named(here.browser.driver, '1,112 rows')
}
const sideBySide = (): Promise<void> =>
  click(here.browser.driver, By.xpath("//*[@role='radio'][contains(., 'column')]"))
const about = async (column: string): Promise<string> =>
  (await element(here.browser.driver, By.css(`section[aria-label="Column ${column}"]`))).getText()
const cells = async (row: number): Promise<string[]> =>
  Promise.all(
    (await here.browser.driver.findElements(By.css(`[role=row][aria-rowindex="${row + 1}"] [role=gridcell]`))).map(
      (cell) => cell.getText(),
    ),
  )

test('all columns side by side: facts, a bar that is clicked, what was before beside what is now', async () => {
  const { driver } = here.browser
  await demo()
  await sideBySide()
  const charged = await element(driver, By.css('section[aria-label="Column Charged"] canvas'))
  await see(driver, 'Middle half')
  const facts = await about('Charged')
  for (const words of ['Median', 'Middle half', 'Standard deviation', '1,108 of 1,112']) expect(facts).toContain(words)
  expect(await about('Service')).toContain('AAA-9')
  expect(await accessible(here.browser.driver)).toEqual([])
  await tick(driver, 'beside what was before')
  await holds(driver, async () => (await about('Status')).includes('1,204'), 'the figures before do not stand beside')
  await driver.executeScript("arguments[0].scrollIntoView({ block: 'center' })", charged)
  await still(driver, charged)
  await driver
    .actions()
    .move({ origin: charged as never, x: -100, y: 30 })
    .click()
    .perform()
  await see(driver, 'the rows where Charged is at least 200 and Charged is less than 400')
  await press(driver, Key.ESCAPE)
})

test('a finding is told in a sentence, and its verb mends it', async () => {
  const { driver, downloads } = here.browser
  const path = join(downloads, 'clinics.csv')
  writeFileSync(
    path,
    `Ref,Clinic,Fee\n${Array.from({ length: 60 }, (_, i) => `B${i === 59 ? 58 : i},${i % 9 === 8 ? 'MARLPIT' : i % 9 === 4 ? 'M\u0430rlpit' : 'Marlpit'},${i === 30 ? 9000 : 20 + (i % 11)}`).join('\n')}\n`,
  )
  await give(here.browser.driver, path)
  await see(driver, '60 rows · 3 columns')
  await keepOpened(driver)
  await see(driver, 'Open Clinics')
  await sideBySide()
  await see(driver, 'It looks like a key, but 1 value stands more than once, such as “B58”.')
  await see(driver, '1 value lies far from the rest, such as 9000')
  await see(driver, 'Some values differ only by case, spaces, marks or order: “Marlpit”, “M\u0430rlpit” and “MARLPIT”.')
  await click(driver, 'Give one spelling')
  await see(driver, 'values change')
  await keep(driver)
  await see(driver, 'In Clinic write “Marlpit” for')
})

test('found: a column by its name and a value anywhere; columns held still and out of sight; cells copied as a spreadsheet pastes them', async () => {
  const { driver } = here.browser
  await demo()
  await driver.actions().keyDown(Key.CONTROL).sendKeys('f').keyUp(Key.CONTROL).perform()
  await (await labelled(driver, 'Find a column or a value')).sendKeys('juniper')
  await click(driver, 'Next')
  await holds(driver, async () => /\d+ cells hold it/.test(await text(driver)), 'what is found is not counted')
  await holds(
    driver,
    async () => (await driver.findElements(By.css('[role=gridcell][aria-selected=true]'))).length === 1,
    'no cell is selected',
  )
  expect(await (await element(driver, By.css('[role=gridcell][aria-selected=true]'))).getText()).toBe('Juniper')
  await click(driver, 'Close the search')

  await click(driver, By.xpath("//*[@role='columnheader']//button[contains(., 'Clinic')]"))
  await click(driver, 'How the table is seen')
  await click(driver, 'Hold still up to the selected column')
  await driver.executeScript("document.querySelector('[role=grid]').scrollLeft = 400")
  const headOf = (name: string) =>
    element(driver, By.xpath(`//*[@role='columnheader'][.//button[contains(., '${name}')]]`))
  await still(driver, await headOf('Clinic'))
  const left = async (name: string) => (await (await headOf(name)).getRect()).x
  expect(await left('Visit date')).toBeLessThan(await left('Clinic'))
  expect(await left('Clinic')).toBeGreaterThan(440)
  await driver.executeScript("document.querySelector('[role=grid]').scrollLeft = 0")
  await click(driver, 'How the table is seen')
  await click(driver, 'Put the selected columns out of sight')
  await holds(
    driver,
    async () =>
      (await driver.findElements(By.xpath("//*[@role='columnheader']//button[contains(., 'Clinic')]"))).length === 0,
    'the column is still in sight',
  )

  await driver.executeScript(
    "window.copied = ''; navigator.clipboard.writeText = (text) => { window.copied = text; return Promise.resolve() }",
  )
  await click(driver, By.css('[role=row][aria-rowindex="2"] [role=gridcell]'))
  await driver.actions().keyDown(Key.SHIFT).sendKeys(Key.ARROW_DOWN, Key.ARROW_RIGHT).keyUp(Key.SHIFT).perform()
  await driver.actions().keyDown(Key.CONTROL).sendKeys('c').keyUp(Key.CONTROL).perform()
  await see(driver, 'Copied 2 rows × 2 columns.')
  const [first, second] = [await cells(1), await cells(2)]
  expect(await driver.executeScript('return window.copied')).toBe(
    `${first[0]}\t${first[1]}\n${second[0]}\t${second[1]}\n`,
  )
  expect(await accessible(here.browser.driver)).toEqual([])
})

test('an OData service is looked at, taken, and asked anew at replay; the shelf knows it', async () => {
  const { driver } = here.browser
  await click(driver, 'Other sources')
  await click(driver, 'OData')
  await (await labelled(driver, 'Address of the service')).sendKeys(odata.address)
  await click(driver, 'See what it offers')
  await click(driver, 'Clinics')
  await see(driver, 'Fernhollow')
  expect(await accessible(here.browser.driver)).toEqual([])
  await click(driver, 'Take it')
  await see(driver, 'the list at value')
  await see(driver, '5 rows · 6 columns')
  await keepOpened(driver)
  await see(driver, 'Rows through the story')
  await click(driver, 'Replay on new exports')
  await click(driver, 'Fetch it anew from where it came')
  await see(driver, '✓ fits')
  await driver.get(`${here.server.base}/shelf`)
  await see(driver, `OData: Clinics of ${odata.address}`)
  await (await labelled(driver, 'Find by name or column')).sendKeys('booking ref')
  await holds(
    driver,
    async () => !(await (await element(driver, By.css('main'))).getText()).includes('Clinics.json'),
    'what was not sought is still there',
  )
  await see(driver, 'visits-2031-05.csv')
  await click(driver, 'Delete visits-2031-05.csv')
  await see(driver, '“Monthly takings by clinic” has no file any more')
  expect(await accessible(here.browser.driver)).toEqual([])
  await click(driver, 'Keep it')
})

test('a hundred thousand rows of two hundred columns are scrolled to their very end', async () => {
  const { driver, downloads } = here.browser
  const path = join(downloads, 'wide.csv')
  const line = Array.from({ length: 199 }, (_, c) => c % 7).join(',')
  writeFileSync(
    path,
    `${['Row', ...Array.from({ length: 199 }, (_, c) => `Column ${c + 2}`)].join(',')}\n${Array.from({ length: 100_000 }, (_, i) => `${i + 1},${line}`).join('\n')}\n`,
  )
  await give(here.browser.driver, path)
  await holds(
    driver,
    async () => (await text(driver)).includes('100,000 rows · 200 columns'),
    'the rows are not counted',
    60_000,
  )
  await keepOpened(driver)
  await see(driver, 'Open Wide')
  await element(driver, By.css('[role=gridcell]'))
  const grid = await element(driver, By.css('[role=grid]'))
  await driver.executeScript('arguments[0].scrollTop = arguments[0].scrollHeight', grid)
  await element(driver, By.xpath("//*[@role='gridcell'][normalize-space(.)='100,000']"), 'the last row does not show')
  await driver.executeScript('arguments[0].scrollLeft = arguments[0].scrollWidth', grid)
  await element(
    driver,
    By.xpath("//*[@role='columnheader'][contains(., 'Column 200')]"),
    'the last column does not show',
  )
})
