import { join } from 'node:path'
import { By, Key, type WebDriver } from 'selenium-webdriver'
import type { Step } from '@fabula/core'
import type { FlowReply } from '@fabula/core/api'
import {
  cell,
  click,
  give,
  head,
  keep,
  keepOpened,
  labelled,
  closeBrowser,
  openBrowser,
  press,
  see,
  shoot,
} from './browser/driver.ts'
import { demo, root, startServer } from './browser/server.ts'

/** npm run screenshots: the main views as they are now, from the demo, into docs/screenshots. */
const picture = (name: string): string => join(root, 'docs/screenshots', `${name}.png`)

const opening = async (driver: WebDriver): Promise<void> => {
  await give(driver, demo('regions-2031-05.xlsx'))
  await see(driver, '75 rows · 7 columns')
  await driver.sleep(600)
  await shoot(driver, picture('opening'))
}
const compose = async (driver: WebDriver): Promise<void> => {
  await click(driver, 'Monthly takings')
  await see(driver, '121 changed')
  await click(driver, '−92 rows')
  await driver.sleep(300)
  await click(driver, 'Show all rows')
  await driver.sleep(500)
  await head(driver, 'Clinic')
  await driver.sleep(1200)
  await shoot(driver, picture('compose'))
  await (await driver.findElement(By.xpath("//*[@role='radio'][contains(., 'column')]"))).click()
  await driver.wait(async () => (await driver.findElements(By.css('canvas'))).length >= 4, 15_000)
  await driver.sleep(800)
  await shoot(driver, picture('columns'))
  await (await driver.findElement(By.xpath("//*[@role='radio'][contains(., 'row')]"))).click()
}
/** Where a total of the demo comes from. */
const trace = async (driver: WebDriver): Promise<void> => {
  await driver.navigate().refresh()
  await see(driver, '121 changed')
  // it opens where it was left
  await click(driver, By.css('button[aria-label="Sentence 9"]'))
  await (await driver.findElement(By.xpath("//*[@role='radio'][contains(., 'After')]"))).click()
  await (await cell(driver, '10,598.25')).click()
  await press(driver, 'w')
  await see(driver, 'the sum of')
  await driver.sleep(600)
  await shoot(driver, picture('trace'))
  await click(driver, 'Close')
}
const replay = async (driver: WebDriver): Promise<void> => {
  await driver.get(`${await driver.getCurrentUrl()}/replay`)
  await see(driver, 'Tell it again')
  await give(driver, demo('visits-2031-06.csv'))
  await see(driver, 'does not fit yet')
  await driver.sleep(500)
  await shoot(driver, picture('replay'))
  await click(driver, 'Read Booking status as Status')
  await driver.sleep(900)
  await click(driver, 'Replay the story')
  await see(driver, 'What came out')
  await driver.sleep(600)
  await driver.executeScript('document.querySelector(\'section[aria-label="What happened"]\').scrollTop = 640')
  await driver.sleep(300)
  await shoot(driver, picture('replay-done'))
}
/** What an analyst changed after the edition: another status leaves, and one sentence is new. */
const laterChange = async (base: string, id: string): Promise<void> => {
  const flow = (await (await fetch(`${base}/api/flows/${id}`)).json()) as FlowReply
  const tables = flow.recipe.tables.map((table) =>
    table.id !== 'takings'
      ? table
      : {
          ...table,
          steps: table.steps.flatMap((step): Step[] =>
            step.kind === 'filter'
              ? [
                  { ...step, where: { column: 'Status', op: 'is-none-of', values: ['Cancelled', 'Test', 'No show'] } },
                  { id: 's90', kind: 'distinct', columns: ['Patient', 'Visit date'] },
                ]
              : [step],
          ),
        },
  )
  await fetch(`${base}/api/flows/${id}/edit`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ recipe: { ...flow.recipe, tables }, what: 'a later change', after: flow.edit }),
  })
}
const handOver = async (driver: WebDriver): Promise<void> => {
  await click(driver, 'Hand over')
  await click(driver, 'Editions')
  await (await labelled(driver, 'Name of the edition')).sendKeys('For the May close')
  await (await labelled(driver, 'What to know about it')).sendKeys('As the clinics know it.')
  await click(driver, 'Freeze as an edition')
  await see(driver, 'Word for word the same.')
  await (await driver.findElement(By.linkText('Compose'))).click()
  await see(driver, '121 changed')
  const id = (await driver.getCurrentUrl()).split('/').at(-1) ?? ''
  const { origin } = new URL(await driver.getCurrentUrl())
  await laterChange(origin, id)
  await driver.navigate().refresh()
  await click(driver, 'Hand over')
  await click(driver, 'Editions')
  await see(driver, 'No show')
  await driver.sleep(400)
  const { edit } = (await (await fetch(`${origin}/api/flows/${id}`)).json()) as { edit: number }
  await fetch(`${origin}/api/flows/${id}/undo`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ after: edit }),
  })
  await driver.navigate().refresh()
  await click(driver, 'Make a link')
  await (await labelled(driver, 'For whom')).sendKeys('Ines at Marlpit')
  await click(driver, 'Make the link')
  await click(driver, 'Prove it')
  await see(driver, 'every cell the same')
  await driver.sleep(600)
  await shoot(driver, picture('hand-over'))
  const link = await (await labelled(driver, 'The link')).getAttribute('value')
  await driver.get(link ?? '')
  await see(driver, '121 changed')
  await driver.sleep(500)
  await shoot(driver, picture('reader'))
}
const elsewhere = async (driver: WebDriver, base: string): Promise<void> => {
  await driver.get(`${base}/shelf`)
  await see(driver, 'regions-2031-05.xlsx')
  await driver.sleep(500)
  await shoot(driver, picture('shelf'))
}

/** The intake forms: dates in every form, one clinic spelled many ways, a formula, a picture. */
const intake = async (driver: WebDriver): Promise<void> => {
  await give(driver, demo('intake-2031-05.csv'))
  await see(driver, '260 rows · 9 columns')
  await keepOpened(driver)
  await see(driver, 'Another table')
  await head(driver, 'Born')
  await see(driver, 'Read as a date')
  await driver.sleep(900)
  await shoot(driver, picture('dates'))
  await head(driver, 'Clinic')
  await click(driver, 'Give one spelling…')
  await see(driver, 'Take it')
  await click(driver, 'Take it')
  await driver.sleep(1200)
  await shoot(driver, picture('spelling'))
  await driver.actions().sendKeys(Key.ESCAPE).perform()
  await driver.sleep(500)
  await head(driver, 'Weight')
  await click(driver, 'Compute a column from it')
  await click(driver, 'formula: ')
  await (
    await labelled(driver, 'Formula')
  ).sendKeys(Key.chord(Key.CONTROL, 'a'), 'IFERROR(VALUE(SUBSTITUTE(Weight; "kg"; "")); ')
  await driver.sleep(900)
  await shoot(driver, picture('formula'))
  await driver.actions().sendKeys(Key.ESCAPE, Key.ESCAPE).perform()
  await driver.sleep(400)
  await head(driver, 'Breed')
  await click(driver, 'Draw it…')
  await driver.wait(async () => (await driver.findElements(By.css('canvas'))).length >= 1, 15_000)
  await driver.sleep(1200)
  await shoot(driver, picture('picture'))
}
/** The demo's story with a price list beside it, and the year before under one another. */
const tables = async (driver: WebDriver, base: string): Promise<void> => {
  await driver.get(base)
  await click(driver, 'Monthly takings')
  await see(driver, '121 changed')
  await (await labelled(driver, 'Files for another table')).sendKeys(demo('price-list-2031.csv'))
  await see(driver, '12 rows · 4 columns')
  await keepOpened(driver)
  await see(driver, 'Another table')
  await click(driver, 'Takings')
  await see(driver, '−92 rows')
  await (await driver.findElement(By.xpath("//li[contains(., 'Compute Clinic')]//button[@data-sentence]"))).click()
  await driver.sleep(600)
  await head(driver, 'Service')
  await click(driver, 'Match with another table…')
  await see(driver, 'Service is its Code')
  await driver.sleep(900)
  await shoot(driver, picture('match'))
  await driver.actions().sendKeys(Key.ESCAPE).perform()
  await driver.executeScript('arguments[0].focus()', await labelled(driver, 'More for sentence 6'))
  await driver.actions().sendKeys(Key.ENTER).perform()
  await click(driver, 'Explain the difference')
  await see(driver, 'rows have other values')
  await driver.sleep(600)
  await driver.get(base)
  await give(driver, demo('visits-2030.xlsx'))
  await see(driver, 'Oct 2030')
  for (const month of ['Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct'])
    await (await driver.findElement(By.xpath(`//li[contains(., '${month} 2030')]//input`))).click()
  await see(driver, '25 rows · 5 columns')
  await keepOpened(driver)
  await see(driver, 'Another table')
  await click(driver, 'Lay other tables underneath…')
  await (await labelled(driver, 'Files to lay underneath')).sendKeys(demo('visits-2030.xlsx'))
  await see(driver, 'may be Animal')
  await driver.sleep(600)
  await shoot(driver, picture('union'))
  await click(driver, 'Lay them together')
  await keep(driver)
  await click(driver, 'See how the 10 tables hang together')
  await driver.sleep(1200)
  await shoot(driver, picture('map'))
}

/** The guided story at its second card, and the help on a verb. */
const firstMinutes = async (driver: WebDriver, base: string): Promise<void> => {
  await driver.get(`${base}/help/verbs/unpivot`)
  await see(driver, 'From this')
  await driver.sleep(600)
  await shoot(driver, picture('help'))
  await driver.get(base)
  await click(driver, 'Begin')
  await see(driver, '1 of 7')
  await keepOpened(driver)
  await see(driver, '2 of 7')
  await head(driver, 'Clinic')
  await see(driver, 'Take the spaces off')
  await driver.sleep(900)
  await shoot(driver, picture('guide'))
  await click(driver, 'Leave it for now')
}

const server = await startServer(undefined, 4311, { FABULA_ALLOW_PRIVATE: '1' })
const { driver } = await openBrowser()
try {
  await driver.get(server.base)
  await see(driver, 'Monthly takings')
  await driver.sleep(600)
  await shoot(driver, picture('home'))
  await opening(driver)
  await driver.get(server.base)
  await compose(driver)
  await trace(driver)
  await replay(driver)
  await handOver(driver)
  await elsewhere(driver, server.base)
  await driver.get(server.base)
  await intake(driver)
  await tables(driver, server.base)
  await firstMinutes(driver, server.base)
} finally {
  await closeBrowser({ driver })
  await server.stop()
}
