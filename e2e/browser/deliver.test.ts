import { copyFileSync, mkdtempSync, readFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { strFromU8, unzipSync } from 'fflate'
import { By, type WebDriver } from 'selenium-webdriver'
import { expect, test } from 'vitest'
import {
  accessible,
  choose,
  click,
  element,
  fill,
  give,
  gone,
  holds,
  named,
  closeBrowser,
  openBrowser,
  see,
  text,
  still,
} from './driver.ts'
import { demo } from './server.ts'
import { session } from './session.ts'

const here = session({ FABULA_WATCH_SECONDS: '0.3' })

const page = (driver: WebDriver, words: string): Promise<void> => click(driver, By.linkText(words))
/** A copy of the demo's story, which no other test has changed. */
const demoFlow = async (driver: WebDriver): Promise<void> => {
  const { flows } = (await (await fetch(`${here.server.base}/api/flows`)).json()) as {
    flows: { id: string; name: string }[]
  }
  const { id } = (await (
    await fetch(
      `${here.server.base}/api/flows/${flows.find(({ name }) => name === 'Monthly takings by clinic')?.id ?? ''}/copy`,
      { method: 'POST' },
    )
  ).json()) as { id: string }
  await driver.get(`${here.server.base}/flows/${id}`)
  await see(driver, 'Rows through the story')
}
const arrived = async (driver: WebDriver, name: string): Promise<Uint8Array> => {
  const path = join(here.browser.downloads, name)
  const read = (): Uint8Array | undefined => {
    try {
      return readFileSync(path)
    } catch {
      return undefined
    }
  }
  await holds(driver, () => (read()?.length ?? 0) > 0, `${name} did not arrive`)
  return read() ?? new Uint8Array()
}
/** Opens the editor of a slot, found by its label: while the demo's figures come it may still move from beneath the pointer. */
const slot = async (driver: WebDriver, label: string, at: number): Promise<void> => {
  const where = By.xpath(`(//*[@role='button'][starts-with(@aria-label, '${label}')])[${at + 1}]`)
  await still(driver, await element(driver, where))
  await click(driver, where)
}
const pick = (driver: WebDriver, words: string): Promise<void> =>
  click(driver, By.xpath(`//*[@role='dialog']//button[starts-with(normalize-space(.), '${words}')]`))

test('two tables go into one workbook, each a sheet, and everything comes as one zip', async () => {
  const { driver } = here.browser
  await demoFlow(driver)
  const story = await driver.getCurrentUrl()
  await slot(driver, 'written as', 0)
  await pick(driver, 'a workbook')
  await see(driver, 'takings.xlsx')
  await slot(driver, 'written as', 1)
  await pick(driver, 'a workbook')
  await see(driver, 'targets.xlsx')
  await slot(driver, 'file: targets.xlsx', 0)
  await fill(driver, 'Name of the file', 'takings.xlsx', '\n')
  await gone(driver, 'targets.xlsx')
  expect(await accessible(driver)).toEqual([])
  await page(driver, 'Replay')
  await named(driver, 'Choose files')
  await give(driver, demo('visits-2031-05.csv'))
  await see(driver, '✓ fits')
  await click(driver, 'Replay the story')
  await see(driver, 'What came out')
  await click(driver, 'Download takings.xlsx')
  const book = unzipSync(await arrived(driver, 'takings.xlsx'))
  expect(strFromU8(book['xl/workbook.xml'] ?? new Uint8Array())).toMatch(/name="Takings".*name="Targets"/s)
  // back to text files: two of them come as a zip
  await driver.get(story)
  await see(driver, 'Rows through the story')
  await click(driver, '↶ Undo')
  await see(driver, 'targets.xlsx')
  await page(driver, 'Replay')
  await named(driver, 'Choose files')
  await give(driver, demo('visits-2031-05.csv'))
  await see(driver, '✓ fits')
  await click(driver, 'Replay the story')
  await click(driver, 'Download all as a zip')
  expect(Object.keys(unzipSync(await arrived(driver, 'outputs.zip'))).sort()).toEqual(['takings.xlsx', 'targets.xlsx'])
})

test('an answer is kept for good, a past replay is told again to the byte', async () => {
  const { driver } = here.browser
  await demoFlow(driver)
  await page(driver, 'Replay')
  await named(driver, 'Choose files')
  await give(driver, demo('visits-2031-06.csv'))
  await see(driver, 'does not fit yet')
  await click(driver, 'Read Booking status as Status')
  await click(driver, 'Keep it for good…')
  await click(driver, 'Keep it in the story')
  await see(driver, '“Booking status” in Visits is read as “Status”, as the recipe says.')
  await click(driver, 'Replay the story')
  await see(driver, 'visits-2031-06.csv, 1,391 rows')
  await click(driver, 'Tell it again exactly')
  await see(driver, '✓ The same to the byte as the replay of')
  expect(await accessible(driver)).toEqual([])
  // next time nothing is asked
  await driver.navigate().refresh()
  await named(driver, 'Choose files')
  await give(driver, demo('visits-2031-06.csv'))
  await see(driver, 'as the recipe says')
  await see(driver, '✓ fits')
  await click(driver, 'Read Booking status as itself again')
  await see(driver, 'does not fit yet')
})

test('both scripts are proven, an edition is frozen and what changed since is said', async () => {
  const { driver } = here.browser
  await demoFlow(driver)
  await page(driver, 'Hand over')
  await click(driver, 'Prove it')
  await holds(
    driver,
    async () => ((await text(driver)).match(/every cell the same/g) ?? []).length === 4,
    'the proof did not come',
    300_000,
  )
  await click(driver, 'Editions')
  await fill(driver, 'Name of the edition', 'May close')
  await click(driver, 'Freeze as an edition')
  await see(driver, 'Word for word the same.')
  await page(driver, 'Compose')
  await see(driver, 'Rows through the story')
  await slot(driver, 'written as', 0)
  await pick(driver, 'JSON records')
  await see(driver, 'takings.json')
  await page(driver, 'Hand over')
  await click(driver, 'Editions')
  await see(driver, 'Takings is written as takings.json.')
  await see(driver, 'No more: Takings is written as takings.csv.')
  expect(await accessible(driver)).toEqual([])
})

test(
  'whoever has only the link replays drifted exports, and may do what the link says and no more',
  { timeout: 180_000 },
  async () => {
    const { driver } = here.browser
    await demoFlow(driver)
    await page(driver, 'Hand over')
    const make = async (whom: string, may: string): Promise<string> => {
      await click(driver, 'Make a link')
      await fill(driver, 'For whom', whom)
      await choose(driver, 'May', may)
      await click(driver, 'Make the link')
      return (
        (await (await element(driver, By.css(`[aria-label="Link for ${whom}"] input`))).getAttribute('value')) ?? ''
      )
    }
    const replaying = await make('Ines', 'read and replay')
    const editing = await make('Tomas', 'read, replay, copy and change')
    const other = await openBrowser()
    try {
      const began = Date.now()
      await other.driver.get(replaying)
      await click(other.driver, 'Replay on your own export')
      await named(other.driver, 'Choose files')
      await give(other.driver, demo('visits-2031-06.csv'))
      await click(other.driver, 'Read Booking status as Status')
      await see(other.driver, '✓ fits')
      expect(await text(other.driver)).not.toContain('Keep it for good')
      await click(other.driver, 'Replay the story')
      await see(other.driver, 'What came out')
      expect(Date.now() - began).toBeLessThan(120_000)
      expect(await text(other.driver)).not.toContain('By itself')
      // the other link may change the story
      await other.driver.get(editing)
      await see(other.driver, 'to read, replay and change')
      await slot(other.driver, 'written as', 0)
      await pick(other.driver, 'JSON records')
      await see(other.driver, 'saved a moment ago')
    } finally {
      await closeBrowser(other)
    }
    await driver.navigate().refresh()
    await see(driver, 'Used: 1 replay, last on')
    await page(driver, 'Replay')
    await named(driver, 'Choose files')
    await see(driver, '· Ines')
  },
)

test('a watched folder: what does not fit waits on the page and is answered there', async () => {
  const { driver } = here.browser
  const folder = mkdtempSync(join(tmpdir(), 'fabula-watch-'))
  await demoFlow(driver)
  await page(driver, 'Replay')
  await named(driver, 'Choose files')
  await click(driver, 'Let it replay itself')
  await fill(driver, 'The folder of this server', join(folder, 'nowhere'))
  await click(driver, 'Begin')
  await see(driver, 'there is no such folder')
  await fill(driver, 'The folder of this server', folder)
  await fill(driver, 'Who gets a notice', 'ines@fernhollow.example')
  await click(driver, 'Begin')
  await see(driver, 'Watches.')
  copyFileSync(demo('visits-2031-06.csv'), join(folder, 'visits-2031-06.csv'))
  await see(driver, 'Waits: It does not fit without an answer.')
  expect(await accessible(driver)).toEqual([])
  await click(driver, 'Answer')
  await click(driver, 'Read Booking status as Status')
  await click(driver, 'Keep it for good…')
  await click(driver, 'Keep it in the story')
  await see(driver, 'as the recipe says')
  copyFileSync(demo('visits-2031-06.csv'), join(folder, 'visits-2031-07.csv'))
  await see(driver, 'Replayed with targets-2031.csv, visits-2031-07.csv')
  await click(driver, 'See it')
  await see(driver, 'by itself')
  await driver.get(`${here.server.base}/mail`)
  await see(driver, 'Monthly takings by clinic, a copy was replayed')
  await named(driver, 'Notices')
})
