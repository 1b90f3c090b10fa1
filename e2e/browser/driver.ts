import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import axe from 'axe-core'
import { Builder, By, Key, type WebDriver, type WebElement } from 'selenium-webdriver'
import * as chrome from 'selenium-webdriver/chrome.js'

export type Browser = { readonly driver: WebDriver; readonly downloads: string }

/** Gives the page the room of a window of this size. */
export const sized = (driver: WebDriver, width: number, height: number): Promise<void> =>
  (driver as chrome.Driver).sendDevToolsCommand('Emulation.setDeviceMetricsOverride', {
    width,
    height,
    deviceScaleFactor: 1,
    mobile: false,
  })

/** A fresh headless Chromium of Debian's, its page 1280×800; its profile is chromedriver's, which removes it. */
export const openBrowser = async (): Promise<Browser> => {
  const downloads = mkdtempSync(join(tmpdir(), 'fabula-downloads-'))
  const options = new chrome.Options()
  options.setChromeBinaryPath('/usr/bin/chromium-headless-shell')
  options.addArguments(
    '--no-sandbox',
    '--disable-gpu',
    // pages are drawn without imitating a graphics card, which takes longer
    '--disable-software-rasterizer',
    // a test is over before optimising what a page runs has paid for itself
    '--js-flags=--no-opt --always-sparkplug',
    // letters stand as in a browser with windows
    '--font-render-hinting=none',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
    '--window-size=1280,900',
  )
  const driver = await new Builder()
    .forBrowser('chrome')
    .setChromeOptions(options)
    .setChromeService(new chrome.ServiceBuilder('/usr/bin/chromedriver'))
    .build()
  await sized(driver, 1280, 800)
  await (driver as chrome.Driver).sendDevToolsCommand('Browser.setDownloadBehavior', {
    behavior: 'allow',
    downloadPath: downloads,
  })
  return { driver, downloads }
}

/** Ends a browser with all its processes: selenium stops chromedriver before that has ended the browser, which would go on. */
export const closeBrowser = async ({ driver }: Pick<Browser, 'driver'>): Promise<void> => {
  // the answer is lost with the browser
  await (driver as chrome.Driver).sendDevToolsCommand('Browser.close', {}).catch(() => undefined)
  await driver.quit().catch(() => undefined)
}

export const shoot = async (driver: WebDriver, path: string): Promise<void> =>
  writeFileSync(path, Buffer.from(await driver.takeScreenshot(), 'base64'))

const quote = (text: string): string => (text.includes("'") ? `"${text}"` : `'${text}'`)
/** Milliseconds until a wait for a state fails; a page on a machine that is busy with other work takes its time. */
const wait = 60_000
/** Milliseconds between two looks at a page that is waited for. */
const betweenLooks = 40

/** Tries until it gives something: a page that is still drawing has elements that are missing, covered, or gone again. */
const eventually = async <T>(
  driver: WebDriver,
  attempt: () => Promise<T | undefined>,
  words: string,
  within = wait,
): Promise<T> => {
  let refused: unknown
  const tried = async (): Promise<T | undefined> => {
    try {
      return await attempt()
    } catch (error) {
      refused = error
      return undefined
    }
  }
  try {
    return (await driver.wait(tried, within, undefined, betweenLooks)) as T
  } catch (error) {
    throw new Error(refused instanceof Error ? `${words}: ${refused.message}` : words, { cause: error })
  }
}
/** Waits until this holds of the page. */
export const holds = async (
  driver: WebDriver,
  that: () => boolean | Promise<boolean>,
  words: string,
  within = wait,
): Promise<void> => {
  await eventually(driver, async () => ((await that()) ? true : undefined), words, within)
}

/** Looked for by the page itself: the driver would ask for each element found whether it shows. */
const findShown = `const [using, value, usable] = arguments
const found = []
if (using === 'xpath') {
  const all = document.evaluate(value, document, null, XPathResult.ORDERED_NODE_SNAPSHOT_TYPE, null)
  for (let i = 0; i < all.snapshotLength; i++) found.push(all.snapshotItem(i))
} else if (using === 'link text') found.push(...[...document.links].filter((link) => link.innerText.trim() === value))
else found.push(...document.querySelectorAll(value))
const shows = (one) => {
  const { width, height } = one.getBoundingClientRect()
  return width > 0 && height > 0 && one.checkVisibility({ visibilityProperty: true, opacityProperty: true })
}
return found.find((one) => shows(one) && !(usable && one.matches(':disabled'))) ?? null`
/** The first element found so, by XPath, CSS or the text of a link, that shows. */
const shown = async (driver: WebDriver, where: By, usable: boolean): Promise<WebElement | undefined> =>
  (await driver.executeScript<WebElement | null>(findShown, where.using, where.value, usable)) ?? undefined
/** The first element found so that shows, once there is one. */
export const element = (
  driver: WebDriver,
  where: By,
  words = `nothing is found by ${String(where)}`,
): Promise<WebElement> => eventually(driver, () => shown(driver, where, false), words)
/** Clicks the first element found so that shows and may be used. */
const tap = async (driver: WebDriver, where: By, words: string): Promise<void> => {
  await eventually(
    driver,
    async () => {
      const found = await shown(driver, where, true)
      await found?.click()
      return found
    },
    words,
  )
}
const called = (words: string): By =>
  By.xpath(
    `//*[self::button or self::a or @role='button' or @role='option' or @role='menuitem' or @role='radio'][starts-with(normalize-space(.), ${quote(words)}) or starts-with(@aria-label, ${quote(words)})]`,
  )
/** What a person finds by its words: a button, link or slot whose text or label begins so. */
export const named = (driver: WebDriver, words: string): Promise<WebElement> =>
  eventually(driver, () => shown(driver, called(words), true), `nothing is called “${words}”`)
/** Clicks what is found by its words, or by where it is. */
export const click = (driver: WebDriver, what: string | By): Promise<void> =>
  typeof what === 'string'
    ? tap(driver, called(what), `nothing that may be clicked is called “${what}”`)
    : tap(driver, what, `nothing may be clicked at ${String(what)}`)
/** Clicks the box before these words. */
export const tick = (driver: WebDriver, words: string): Promise<void> =>
  tap(
    driver,
    By.xpath(
      `//*[self::label or self::li][contains(., ${quote(words)})]//input | //input[@aria-label=${quote(words)}]`,
    ),
    `there is no box “${words}”`,
  )

const field = (label: string): By =>
  By.xpath(
    `//*[@aria-label=${quote(label)}] | //label[starts-with(normalize-space(.), ${quote(label)})]//*[self::input or self::select or self::textarea]`,
  )
/** A field by its label; a field for files need not show. */
export const labelled = (driver: WebDriver, label: string): Promise<WebElement> =>
  eventually(driver, async () => (await driver.findElements(field(label)))[0], `nothing is labelled “${label}”`)
/** Writes this in a field instead of what it holds. */
export const fill = async (driver: WebDriver, label: string, ...words: string[]): Promise<void> => {
  await eventually(
    driver,
    async () => {
      await (await labelled(driver, label)).sendKeys(Key.chord(Key.CONTROL, 'a'), ...words)
      return true
    },
    `nothing can be written in “${label}”`,
  )
}
/** Chooses in a list of choices the one that reads, or begins, so. */
export const choose = async (driver: WebDriver, label: string, option: string): Promise<void> => {
  await eventually(
    driver,
    async () => {
      const options = await (await labelled(driver, label)).findElements(By.css('option'))
      const read = await Promise.all(options.map(async (one) => (await one.getText()).trim()))
      const at = read.includes(option) ? read.indexOf(option) : read.findIndex((words) => words.startsWith(option))
      if (at < 0) throw new Error(`among ${read.map((words) => `“${words}”`).join(', ')}`)
      await options[at]?.click()
      return true
    },
    `there is no choice “${option}” for “${label}”`,
  )
}
/** Presses keys, one after the other, wherever the page's attention is. */
export const press = (driver: WebDriver, ...keys: string[]): Promise<void> =>
  driver
    .actions()
    .sendKeys(...keys)
    .perform()
/** Begins a sentence by a word of the trade. */
export const verb = async (driver: WebDriver, words: string): Promise<void> => {
  await press(driver, '/')
  await press(driver, words, Key.ENTER)
}
/** Chooses in the menu that is labelled so. */
export const menu = async (driver: WebDriver, label: string, words: string): Promise<void> => {
  await driver.executeScript('arguments[0].focus()', await labelled(driver, label))
  await press(driver, Key.ENTER)
  await click(driver, words)
}

/** What the page shows; asked of the page itself, since the driver would look at each element of a long table for it. */
export const text = (driver: WebDriver): Promise<string> => driver.executeScript('return document.body.innerText')
/** Waits until the page shows these words anywhere. */
export const see = (driver: WebDriver, words: string): Promise<void> =>
  holds(driver, async () => (await text(driver)).includes(words), `“${words}” is not to be seen`)
/** Waits until the page does not show these words any more. */
export const gone = (driver: WebDriver, words: string): Promise<void> =>
  holds(driver, async () => !(await text(driver)).includes(words), `“${words}” is still to be seen`)

/** Waits until an element has stayed in its place for two looks. */
export const still = async (driver: WebDriver, element: WebElement): Promise<void> => {
  let last = ''
  await holds(
    driver,
    async () => {
      const before = last
      last = JSON.stringify(await element.getRect())
      return before === last
    },
    'what is on the page does not come to rest',
  )
}

/** Gives files to the page's file field, as choosing them would. */
export const give = (driver: WebDriver, ...paths: string[]): Promise<void> =>
  holds(
    driver,
    async () => {
      const [field] = await driver.findElements(By.css('input[type=file]'))
      await field?.sendKeys(paths.join('\n'))
      return field !== undefined
    },
    'nothing takes files',
  )
/** Clicks a column's head, with keys held down. */
export const head = async (driver: WebDriver, name: string, ...keys: string[]): Promise<void> => {
  await eventually(
    driver,
    async () => {
      const [found] = await driver.findElements(
        By.xpath(`//*[@role='columnheader']//button[.//span[normalize-space(.)=${quote(name)}]]`),
      )
      if (found === undefined) return undefined
      // a head may stand beneath the numbers of the rows; while rows come it may still move from beneath the pointer
      const rests = await driver.executeAsyncScript<boolean>(
        `const [head, done] = arguments
        head.scrollIntoView({ inline: 'center', block: 'nearest' })
        const place = () => JSON.stringify(head.getBoundingClientRect())
        const before = place()
        const busy = () => head.closest('[role=grid]')?.getAttribute('aria-busy') === 'true'
        requestAnimationFrame(() => requestAnimationFrame(() => done(head.isConnected && !busy() && place() === before)))`,
        found,
      )
      if (!rests) return undefined
      const actions = driver.actions()
      for (const key of keys) actions.keyDown(key)
      actions.click(found)
      for (const key of keys) actions.keyUp(key)
      await actions.perform()
      return true
    },
    `no column is called “${name}”`,
  )
}
/** Clicks the first cell that shows just this text. */
export const cell = async (driver: WebDriver, shown: string): Promise<WebElement> => {
  const where = By.xpath(`//*[@role='gridcell'][normalize-space(.)=${quote(shown)}]`)
  await tap(driver, where, `no cell shows “${shown}”`)
  return driver.findElement(where)
}
/** Waits until no sentence is a draft any more. */
export const settled = (driver: WebDriver): Promise<void> =>
  holds(
    driver,
    async () => (await driver.findElements(By.css('[data-state=draft]'))).length === 0,
    'the draft was not kept',
  )
/** Waits until the table of a story shows its rows. */
export const tableShown = async (driver: WebDriver): Promise<void> => {
  await element(driver, By.css('[role=grid][aria-busy=false] [role=gridcell]'), 'no table is shown')
}
/** Keeps the draft, once it may be kept. */
export const keep = async (driver: WebDriver): Promise<void> => {
  await tap(
    driver,
    By.xpath("//*[@data-state='draft']//button[normalize-space(.)='Keep' and not(@disabled)]"),
    'there is no draft that may be kept',
  )
  await settled(driver)
}
/** Keeps what the opening page shows; verbs of the card begin with that word too. */
export const keepOpened = (driver: WebDriver): Promise<void> =>
  tap(
    driver,
    By.xpath("//button[normalize-space(.)='Keep' and not(@disabled)]"),
    'there is nothing opened that may be kept',
  )
/** Each row the grid shows, cell by cell. */
export const grid = (driver: WebDriver): Promise<string[][]> =>
  driver.executeScript(
    "return [...document.querySelectorAll('[role=grid] [role=row]:not([aria-rowindex=\"1\"])')].map((row) => [...row.querySelectorAll('[role=gridcell]')].map((cell) => cell.textContent))",
  )
const setPalette = (driver: WebDriver, palette: string): Promise<string> =>
  driver.executeScript(
    'const before = document.documentElement.dataset.theme; document.documentElement.dataset.theme = arguments[0]; return before',
    palette,
  )

/** No violation of any rule that axe knows, the size of targets (WCAG 2.2, 2.5.8) included, and of contrast in so many `palettes`; or their names. */
export const accessible = async (driver: WebDriver, palettes: 'both' | 'one' | 'none' = 'both'): Promise<string[]> => {
  const violations = async (options: axe.RunOptions): Promise<string[]> =>
    driver.executeAsyncScript<string[]>(
      `const [options, done] = arguments
      const words = ({ id, nodes }) => id + ': ' + nodes[0]?.html.slice(0, 160)
      axe.run(document, options).then(({ violations }) => done(violations.map(words)), (error) => done([String(error)]))`,
      { resultTypes: ['violations'], ...options },
    )
  await driver.executeScript(`if (typeof axe === 'undefined') { ${axe.source} }`)
  const rules = { 'target-size': { enabled: true }, 'color-contrast': { enabled: palettes !== 'none' } }
  const found = await violations({ rules })
  if (palettes !== 'both') return found
  const palette = await setPalette(driver, 'lamplight')
  if (palette === 'lamplight') await setPalette(driver, 'paper')
  const other = await violations({ runOnly: ['color-contrast'] })
  await setPalette(driver, palette)
  return [...found, ...other.map((one) => `in the other palette, ${one}`)]
}

/** Longer than a finger must stay on a thing before it is picked up, in milliseconds. */
const fingerStays = 600

/** Drags an element onto another as a finger does: it stays on it until it is picked up, moves, and lets go. */
export const dragByFinger = async (driver: WebDriver, thing: WebElement, onto: WebElement): Promise<void> => {
  const middle = async (one: WebElement): Promise<{ x: number; y: number }> =>
    driver.executeScript(
      'const at = arguments[0].getBoundingClientRect(); return { x: at.x + at.width / 2, y: at.y + at.height / 2 }',
      one,
    )
  const touch = (type: string, touchPoints: readonly { x: number; y: number }[]): Promise<void> =>
    (driver as chrome.Driver).sendDevToolsCommand('Input.dispatchTouchEvent', { type, touchPoints })
  await driver.executeScript("arguments[0].scrollIntoView({ block: 'center' })", thing)
  const [from, to] = [await middle(thing), await middle(onto)]
  await touch('touchStart', [from])
  await driver.sleep(fingerStays)
  for (const share of [0.3, 0.7, 1])
    await touch('touchMove', [{ x: from.x + (to.x - from.x) * share, y: from.y + (to.y - from.y) * share }])
  await touch('touchEnd', [])
}
