/**
 * What a person waits for in the page: the first rows of a dropped file, a draft, frames while scrolling, many columns
 * side by side, and the bytes of the first page. Run with `npm run bench:page`; times in milliseconds.
 */
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { By, type WebDriver } from 'selenium-webdriver'
import { click, give, head, keepOpened, openBrowser, see, settled } from '../e2e/browser/driver.ts'
import { startServer } from '../e2e/browser/server.ts'
import { firstPageBytes } from '../e2e/server/first-page.ts'

const table = (rows: number, columns: number): string => {
  const lines = [Array.from({ length: columns }, (_, c) => `Column ${c + 1}`).join(',')]
  for (let r = 0; r < rows; r++)
    lines.push(
      Array.from({ length: columns }, (_, c) =>
        c % 3 === 0 ? `text ${(r * 7 + c) % 1000}` : String(((r * 31 + c * 17) % 100_000) / 4),
      ).join(','),
    )
  return lines.join('\n')
}

const since = async (work: () => Promise<void>): Promise<number> => {
  const start = performance.now()
  await work()
  return Math.round(performance.now() - start)
}
const report = (what: string, figure: string, goal: string): void =>
  console.log(`${what.padEnd(52)} ${figure.padStart(20)}   goal ${goal}`)

/** Waits in the page itself, at every frame, until its text (or that of an element) holds the words. */
const shown = (driver: WebDriver, words: string, css = 'body'): Promise<unknown> =>
  driver.executeAsyncScript(
    `const [words, css, done] = arguments
     const look = () => [...document.querySelectorAll(css)].some((one) => one.textContent.includes(words))
       ? done() : requestAnimationFrame(look)
     look()`,
    words,
    css,
  )
const enabled = 'button:not([disabled])'

/** Milliseconds from the click that `act` makes, as the page gets it, to the frame in which all of the words are shown. */
const sinceClick = async (
  driver: WebDriver,
  act: () => Promise<void>,
  ...wanted: readonly (readonly [words: string, css: string])[]
): Promise<number> => {
  await driver.executeScript(
    `const [wanted] = arguments
     let clicked
     window.shownAfter = undefined
     addEventListener('click', ({ timeStamp }) => (clicked = timeStamp), { capture: true, once: true })
     const look = (now) => clicked !== undefined && wanted.every(([words, css]) =>
         [...document.querySelectorAll(css)].some((one) => one.textContent.includes(words)))
       ? (window.shownAfter = now - clicked) : requestAnimationFrame(look)
     requestAnimationFrame(look)`,
    wanted,
  )
  await act()
  return Math.round(
    await driver.executeAsyncScript<number>(
      `const [done] = arguments
       const look = () => window.shownAfter === undefined ? requestAnimationFrame(look) : done(window.shownAfter)
       look()`,
    ),
  )
}

/** Milliseconds between frames while the table moves by so many pixels a frame: the median and the 95th percentile. */
const frames = async (driver: WebDriver, side: 'scrollTop' | 'scrollLeft', pixels: number): Promise<string> => {
  const times = await driver.executeAsyncScript<number[]>(
    `const [side, pixels, done] = arguments
     const times = []
     let last = 0
     const step = (now) => {
       // the grid may not be there yet
       const grid = document.querySelector('[role=grid]')
       if (grid && last > 0) times.push(now - last)
       if (grid) {
         last = now
         grid[side] += pixels
       }
       times.length < 120 ? requestAnimationFrame(step) : done(times.sort((a, b) => a - b))
     }
     requestAnimationFrame(step)`,
    side,
    pixels,
  )
  const at = (share: number): string => (times[Math.floor(times.length * share)] ?? 0).toFixed(1)
  return `${at(0.5)} / ${at(0.95)}`
}

const folder = mkdtempSync(join(tmpdir(), 'fabula-page-'))
const server = await startServer()
const { driver } = await openBrowser()
try {
  report('first page, compressed kB', ((await firstPageBytes(server.base)) / 1000).toFixed(0), '200')
  writeFileSync(join(folder, 'tall.csv'), table(100_000, 50))
  writeFileSync(join(folder, 'wide.csv'), table(5_000, 200))
  await driver.get(server.base)
  await see(driver, 'Your stories')
  let rows = 0
  const counted = await since(async () => {
    rows = await since(async () => {
      await give(driver, join(folder, 'tall.csv'))
      await shown(driver, 'text 7')
    })
    await shown(driver, '100,000 rows')
  })
  report('100,000 × 50 dropped: first rows', String(rows), '2,000')
  report('100,000 × 50 dropped: counted', String(counted), '4,000')
  await keepOpened(driver)
  await settled(driver)
  report('a frame while scrolling down, median / p95', await frames(driver, 'scrollTop', 120), '16.7')
  report('a frame while scrolling sideways, median / p95', await frames(driver, 'scrollLeft', 40), '16.7')
  await driver.executeScript("document.querySelector('[role=grid]').scrollTo(0, 0)")
  await head(driver, 'Column 1')
  report(
    'a draft and its preview',
    String(await sinceClick(driver, () => click(driver, 'Clean the text'), ['Keep', enabled], ['changed', 'main'])),
    '300',
  )
  await driver.get(server.base)
  await give(driver, join(folder, 'wide.csv'))
  await see(driver, '5,000 rows')
  await keepOpened(driver)
  await settled(driver)
  report(
    '200 columns side by side',
    String(
      await sinceClick(driver, () => click(driver, By.xpath('//*[@role="radio"][contains(., "200 columns")]')), [
        'Different values',
        '[aria-label="Column Column 1"]',
      ]),
    ),
    '1,000',
  )
} finally {
  await driver.quit()
  await server.stop()
  rmSync(folder, { recursive: true })
}
