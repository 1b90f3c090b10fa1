import { By, Key } from 'selenium-webdriver'
import { expect, test } from 'vitest'
import { accessible, click, element, fill, gone, head, press, see, tableShown } from './driver.ts'
import { session } from './session.ts'

const here = session()

test('the help is found by words, its pages show what a verb makes of a table', async () => {
  const { driver } = here.browser
  await driver.get(`${here.server.base}/help`)
  await see(driver, 'From an export to a tidy table')
  expect(await accessible(driver)).toEqual([])
  await fill(driver, 'Find in the help', 'crosstab')
  await click(driver, 'Turn rows into columns')
  await see(driver, 'Make a column of each Month')
  await see(driver, 'From this')
  expect(await accessible(driver)).toEqual([])
  await fill(driver, 'Find in the help', 'networkdays')
  await click(driver, 'NETWORKDAYS')
  await see(driver, 'NETWORKDAYS(start; end)')
  await fill(driver, 'Find in the help', 'zebra crossing')
  await see(driver, 'Nothing is found by these words.')
})

test('? on a verb opens its help beside the work, Escape closes it; ? elsewhere lists the keys', async () => {
  const { driver } = here.browser
  await driver.get(here.server.base)
  await click(driver, 'Monthly takings')
  await tableShown(driver)
  await head(driver, 'Clinic')
  const verb = await element(driver, By.xpath('//aside//button[starts-with(., "Give one spelling")]'))
  await verb.sendKeys('?')
  await see(driver, 'Gives one spelling to values that mean the same.')
  await see(driver, '112,622.75')
  expect(await accessible(driver)).toEqual([])
  await press(driver, Key.ESCAPE)
  await gone(driver, 'Gives one spelling to values that mean the same.')
  await driver.findElement(By.css('[role=grid]')).sendKeys('?')
  await see(driver, 'find a verb')
  expect(await accessible(driver)).toEqual([])
  await press(driver, Key.ESCAPE)
  await gone(driver, 'find a verb')
})

test('dates and numbers are written as the reader wants, and stay so', async () => {
  const { driver } = here.browser
  await driver.get(here.server.base)
  await click(driver, 'Monthly takings')
  await tableShown(driver)
  await see(driver, '112,622.75')
  await see(driver, '2031-05-01')
  await click(driver, By.css('[aria-label="How pages read"]'))
  await click(driver, By.xpath('//*[@role="radio"][contains(., "May")]'))
  await press(driver, Key.ESCAPE)
  await see(driver, 'May 1, 2031')
  await driver.navigate().refresh()
  await tableShown(driver)
  await see(driver, 'May 1, 2031')
  await click(driver, By.css('[aria-label="How pages read"]'))
  await click(driver, By.xpath('//*[@role="radio"][contains(., "2031-05-02")]'))
  await press(driver, Key.ESCAPE)
  await see(driver, '2031-05-01')
})
