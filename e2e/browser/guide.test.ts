import { By, Key, type WebElement } from 'selenium-webdriver'
import { expect, test } from 'vitest'
import { accessible, click, gone, grid, head, keep, see, tableShown } from './driver.ts'
import { session } from './session.ts'

const here = session()
const bar = By.css('[data-guide]')

/** The control that the card points at, once there is one. */
const pointed = async (): Promise<WebElement> => {
  const { driver } = here.browser
  return driver.wait(
    async () => (await driver.findElements(By.css('[data-pointed]'))).at(-1),
    20_000,
    'nothing is pointed at',
  ) as Promise<WebElement>
}
/** Uses what is pointed at, as somebody new would: with Ctrl where the card says so and one is selected already. */
const follow = async (): Promise<void> => {
  const { driver } = here.browser
  const control = await pointed()
  try {
    const card = await driver.findElement(bar).getText()
    const more =
      /→ Select \w+, then with Ctrl/.test(card) &&
      (await control.findElements(By.xpath('ancestor::*[@role="columnheader"]'))).length > 0 &&
      (await driver.findElements(By.css('[role=columnheader][aria-selected=true]'))).length > 0
    const acts = driver.actions()
    await (more ? acts.keyDown(Key.CONTROL).click(control).keyUp(Key.CONTROL) : acts.click(control)).perform()
  } catch (error) {
    // it was drawn anew meanwhile
    if (!String(error).includes('stale')) throw error
  }
}
const heading = async (): Promise<string> =>
  (await here.browser.driver.findElement(By.css('[data-guide] b')).getText()).trim()

test('the guided story, told by following what it points at, left once and gone on with', async () => {
  const { driver } = here.browser
  await driver.get(here.server.base)
  await click(driver, 'Begin')
  await see(driver, '1 of 7: Open an export')
  expect(await accessible(driver)).toEqual([])
  let left = false
  for (let act = 0; act < 80 && !(await heading()).includes('The story is told'); act++) {
    if (!left && (await heading()).startsWith('3 of 7')) {
      left = true
      await click(driver, 'Leave it for now')
      expect(await driver.findElements(bar)).toEqual([])
      await driver.get(here.server.base)
      await click(driver, 'Go on where you left it')
      await see(driver, '3 of 7: Match it with another table')
    }
    await follow()
    await driver.sleep(350)
  }
  await see(driver, 'The story is told')
  expect(left).toBe(true)
  await click(driver, 'Done')
  expect(await driver.findElements(bar)).toEqual([])
  await click(driver, 'Compose')
  await tableShown(driver)
  await see(driver, 'Make a column of each Category')
  const [first] = await grid(driver)
  expect(first?.[0]).toBe('Marlpit')
  await see(driver, '5 rows')
})

test.each([
  ['A crosstab of targets', 'Make one row for each clinic and month', ['Clinic', 'Jan']],
  ['A messy intake form', 'Give each clinic one spelling', ['Form', 'Received']],
  ['Ten monthly sheets', 'Lay the ten sheets under one another', ['Visit date', 'Clinic']],
  ['Visits and a price list', 'Bring the fee of the price list to each visit', ['Booking ref', 'Clinic']],
])('the sample “%s” opens with its task', async (name, task, columns) => {
  const { driver } = here.browser
  await driver.get(here.server.base)
  await click(driver, name)
  await see(driver, task)
  await tableShown(driver)
  for (const column of columns) await see(driver, column)
})

test('the task of a sample is done by clicking: the crosstab becomes a row for each clinic and month', async () => {
  const { driver } = here.browser
  await driver.get(here.server.base)
  await click(driver, 'A crosstab of targets')
  await tableShown(driver)
  await head(driver, 'Jan')
  await driver.executeScript("document.querySelector('[role=grid]').scrollLeft = 9999")
  await head(driver, 'Dec', Key.SHIFT)
  await click(driver, 'Turn columns into rows')
  await keep(driver)
  await see(driver, '60 rows')
  await gone(driver, 'Draft')
})
