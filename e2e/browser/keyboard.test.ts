import { By, Key } from 'selenium-webdriver'
import { expect, test } from 'vitest'
import { accessible, give, grid, holds, press, see, settled } from './driver.ts'
import { demo } from './server.ts'
import { kept, session } from './session.ts'

const here = session()

/** What has the focus: its name, or its words. */
const focused = (): Promise<string> =>
  here.browser.driver.executeScript(
    "const one = document.activeElement; return one.getAttribute('aria-label') ?? (one.textContent ?? '').trim()",
  )
/** Presses Tab until what has the focus is called so. */
const tabTo = async (words: string | RegExp, most = 60): Promise<void> => {
  const seen: string[] = []
  for (let i = 0; i < most; i++) {
    const here_ = await focused()
    if (typeof words === 'string' ? here_.startsWith(words) : words.test(here_)) return
    seen.push(here_.slice(0, 30))
    await press(here.browser.driver, Key.TAB)
  }
  throw new Error(`Tab does not reach ${String(words)}, but ${seen.join(' | ')}`)
}
const type = (...keys: string[]): Promise<void> => press(here.browser.driver, ...keys)
/** A verb by its everyday name, begun with Enter. */
const verb = async (words: string): Promise<void> => {
  await type('/')
  const { driver } = here.browser
  await holds(
    driver,
    () => driver.executeScript<boolean>("return document.activeElement.matches('[cmdk-input]')"),
    'the verbs have no focus',
  )
  await type(words, Key.ENTER)
}
/** Enter keeps the draft once it may be kept. */
const keepByEnter = async (sentence: string): Promise<void> => {
  await see(here.browser.driver, sentence)
  await type(Key.ENTER)
  await settled(here.browser.driver)
}
/** The focus into the table, on the head of a column. */
const toHead = async (name: string): Promise<void> => {
  const { driver } = here.browser
  // what was kept gives the focus back to the table a moment later
  await holds(
    driver,
    async () => {
      await driver.executeScript("document.querySelector('[role=grid]').focus()")
      await type(Key.HOME, Key.ARROW_UP)
      for (let i = 0; i < 15 && !(await focused()).startsWith(name); i++) await type(Key.ARROW_RIGHT)
      return (await focused()).startsWith(name)
    },
    `arrows do not lead to the head of ${name}`,
  )
}

test(
  'the whole job by keyboard alone: open, clean, compute, summarise, replay on June, hand over',
  { timeout: 300_000 },
  async () => {
    const { driver } = here.browser
    await driver.get(here.server.base)
    await see(driver, 'Your stories')
    // the first thing that Tab reaches leads past the header
    await type(Key.TAB)
    expect(await focused()).toBe('Skip to the page')
    await type(Key.ENTER)
    await tabTo('Choose files')
    // the dialog of the system is not the page's: the file is given as it would be by it
    await give(driver, demo('visits-2031-05.csv'))
    await see(driver, '1,204 rows · 9 columns')
    await tabTo('Keep')
    await type(Key.ENTER)
    await settled(driver)

    await toHead('Clinic')
    await type(Key.SPACE)
    await see(driver, 'Different values')
    await verb('trim')
    await keepByEnter('Clinic')
    await toHead('Charged')
    await type(Key.SPACE)
    await verb('text to number')
    await keepByEnter('Read Charged as a number.')

    // two columns with Shift and arrows, then both dropped by the key
    await toHead('Patient')
    await type(Key.SPACE)
    await driver.actions().keyDown(Key.SHIFT).sendKeys(Key.ARROW_RIGHT).keyUp(Key.SHIFT).perform()
    await see(driver, '2 columns')
    await type(Key.DELETE)
    await see(driver, 'Drop the columns Patient and Species.')
    await type(Key.ESCAPE)
    await settled(driver)

    await toHead('Clinic')
    await type(Key.SPACE)
    await verb('group by')
    await see(driver, 'Summarise by Clinic')
    await type(Key.ENTER)
    await settled(driver)
    expect((await grid(driver)).length).toBe(5)

    // the story is walked by arrows, a sentence is looked at, and one goes back
    await tabTo(/^Sentence \d$/)
    await type(Key.ARROW_UP)
    expect(await accessible(driver)).toEqual([])
    const { tables } = await kept(here)
    expect(tables[0]?.steps.map(({ kind }) => kind)).toEqual(['open', expect.any(String), 'cast', 'summarise'])

    await verb('replay')
    await see(driver, 'Tell it again with new exports')
    await tabTo('Choose files')
    await give(driver, demo('visits-2031-06.csv'))
    await see(driver, 'Read Booking status as Status')
    await tabTo('Read Booking status as Status')
    await type(Key.ENTER)
    await holds(
      driver,
      async () =>
        (await driver.findElements(By.xpath('//button[.="Replay the story" and not(@disabled)]'))).length === 1,
      'it cannot be replayed',
    )
    await tabTo('Replay the story')
    await type(Key.ENTER)
    await see(driver, 'visits-tidy.csv')
    await tabTo('Hand over', 120)
    await type(Key.ENTER)
    await see(driver, 'Python')
  },
)
