import { By, Key, type WebDriver } from 'selenium-webdriver'
import { expect, test } from 'vitest'
import { accessible, click, element, give, head, holds, named, press, see, sized, tableShown } from './driver.ts'
import { demo } from './server.ts'
import { session } from './session.ts'

const here = session()

/** Nothing stands beside the page: it is as wide as the window. */
const sticksOut = (driver: WebDriver): Promise<number> =>
  driver.executeScript('return document.documentElement.scrollWidth - document.documentElement.clientWidth')

type View = readonly [name: string, open: (driver: WebDriver) => Promise<unknown>]
const story = async (driver: WebDriver): Promise<void> => {
  await driver.get(here.server.base)
  await click(driver, 'Monthly takings')
  await tableShown(driver)
}
const page = async (driver: WebDriver, words: string): Promise<void> => {
  await story(driver)
  await click(driver, By.xpath(`//nav//a[starts-with(., "${words}")]`))
}
/** Where there is room for one panel, its name brings it. */
const pane = async (driver: WebDriver, name: string): Promise<void> => {
  await holds(
    driver,
    async () => {
      const [choice] = await driver.findElements(By.xpath(`//*[@role="radio"][.="${name}"]`))
      if (!choice || (await choice.getAttribute('aria-checked')) === 'true') return true
      await choice.click()
      return false
    },
    `“${name}” does not come`,
  )
}
const views: readonly View[] = [
  ['first page', (driver) => driver.get(here.server.base).then(() => see(driver, 'Your stories'))],
  [
    'opening',
    async (driver) => {
      await driver.get(here.server.base)
      await give(driver, demo('visits-2031-06.csv'))
      await see(driver, '1,391 rows')
    },
  ],
  ['compose', story],
  [
    'a column, its card',
    async (driver) => {
      await story(driver)
      await pane(driver, 'The table')
      await head(driver, 'Clinic')
      await pane(driver, 'What is selected')
      await see(driver, 'Different values')
    },
  ],
  [
    'a draft with an open word',
    async (driver) => {
      await story(driver)
      await pane(driver, 'The table')
      await head(driver, 'Clinic')
      await press(driver, Key.DELETE)
      await see(driver, 'Drop the column Clinic.')
      await press(driver, Key.SPACE)
      await element(driver, By.css('[data-radix-popper-content-wrapper]'))
    },
  ],
  [
    'columns side by side',
    async (driver) => {
      await story(driver)
      await pane(driver, 'The table')
      await click(driver, By.xpath("//*[@role='radio'][contains(., 'column')]"))
      await see(driver, 'Different values')
    },
  ],
  [
    'which rows left',
    async (driver) => {
      await story(driver)
      await pane(driver, 'What is selected')
      await click(driver, 'Which rows of the files are not in it?')
      await see(driver, 'rows of Visits')
    },
  ],
  ['replay', (driver) => page(driver, 'Replay').then(() => see(driver, 'Tell it again with new exports'))],
  [
    'replay with questions',
    async (driver) => {
      await page(driver, 'Replay')
      await give(driver, demo('visits-2031-06.csv'))
      await see(driver, 'need')
      await named(driver, 'Read Booking status as Status')
    },
  ],
  ['hand over', (driver) => page(driver, 'Hand over').then(() => see(driver, 'Python'))],
  ['shelf', (driver) => driver.get(`${here.server.base}/shelf`).then(() => see(driver, 'visits-2031-05.csv'))],
  ['other sources', (driver) => driver.get(`${here.server.base}/sources`).then(() => see(driver, 'address'))],
  ['help', (driver) => driver.get(`${here.server.base}/help/verbs/pivot`).then(() => see(driver, 'From this'))],
]
/** From the smallest on: what has room for one panel has it for two later. */
const sizes = [
  [640, 400],
  [1024, 768],
  [1280, 800],
] as const

test.each(views)('%s is for everyone: three sizes, both palettes', { timeout: 240_000 }, async (_name, open) => {
  const { driver } = here.browser
  const wrong: string[] = []
  await sized(driver, ...sizes[0])
  await open(driver)
  for (const [width, height] of sizes) {
    await sized(driver, width, height)
    const out = await sticksOut(driver)
    if (out > 0) wrong.push(`${width}: ${out} pixels stick out`)
    // between the least and the largest only what sticks out; the size changes where things stand, not their colours: those are looked at once
    if (width === 1024) continue
    const palettes = width === 1280 ? 'both' : 'none'
    wrong.push(...(await accessible(driver, palettes)).map((found) => `${width}: ${found}`))
  }
  await press(driver, Key.ESCAPE)
  expect(wrong).toEqual([])
})
