import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { AxeBuilder } from '@axe-core/webdriverjs'
import { Builder, By, until, type WebDriver, type WebElement } from 'selenium-webdriver'
import * as chrome from 'selenium-webdriver/chrome.js'

export type Browser = { readonly driver: WebDriver; readonly downloads: string }

/** A fresh headless Chromium of Debian's, its page 1280×800. */
export const openBrowser = async (): Promise<Browser> => {
  const downloads = mkdtempSync(join(tmpdir(), 'fabula-downloads-'))
  const options = new chrome.Options()
  options.setChromeBinaryPath('/usr/bin/chromium')
  options.addArguments('--headless=new', '--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync', '--window-size=1280,900', `--user-data-dir=${mkdtempSync(join(tmpdir(), 'fabula-chromium-'))}`)
  const driver = await new Builder().forBrowser('chrome').setChromeOptions(options).setChromeService(new chrome.ServiceBuilder('/usr/bin/chromedriver')).build()
  await (driver as chrome.Driver).sendDevToolsCommand('Emulation.setDeviceMetricsOverride', { width: 1280, height: 800, deviceScaleFactor: 1, mobile: false })
  await (driver as chrome.Driver).sendDevToolsCommand('Browser.setDownloadBehavior', { behavior: 'allow', downloadPath: downloads })
  return { driver, downloads }
}

export const shoot = async (driver: WebDriver, path: string): Promise<void> => writeFileSync(path, Buffer.from(await driver.takeScreenshot(), 'base64'))

const quote = (text: string): string => (text.includes("'") ? `"${text}"` : `'${text}'`)
const wait = 25_000

/** What a person finds by its words: a button, link or slot whose text or label begins so. */
export const named = (driver: WebDriver, words: string): Promise<WebElement> =>
  driver.wait(async () => {
    const found = await driver.findElements(By.xpath(`//*[self::button or self::a or @role='button' or @role='option' or @role='menuitem' or @role='radio'][starts-with(normalize-space(.), ${quote(words)}) or starts-with(@aria-label, ${quote(words)})]`))
    for (const element of found) if ((await element.isDisplayed()) && (await element.isEnabled())) return element
    return null
  }, wait, `nothing is called “${words}”`) as Promise<WebElement>

export const click = async (driver: WebDriver, words: string): Promise<void> => {
  for (let tries = 0; ; tries++) {
    try {
      await (await named(driver, words)).click()
      return
    } catch (error) {
      if (tries === 5) throw error
      await driver.sleep(150)
    }
  }
}
export const labelled = (driver: WebDriver, label: string): Promise<WebElement> =>
  driver.wait(until.elementLocated(By.xpath(`//*[@aria-label=${quote(label)}] | //label[starts-with(normalize-space(.), ${quote(label)})]//*[self::input or self::select or self::textarea]`)), wait, `nothing is labelled “${label}”`) as unknown as Promise<WebElement>

/** Waits until the page shows these words anywhere. */
export const see = async (driver: WebDriver, words: string): Promise<void> => {
  await driver.wait(async () => (await driver.findElement(By.css('body')).getText()).includes(words), wait, `“${words}” is not to be seen`)
}
export const text = (driver: WebDriver): Promise<string> => driver.findElement(By.css('body')).getText()

/** Gives files to the page's file field, as choosing them would. */
export const give = async (driver: WebDriver, ...paths: string[]): Promise<void> => (await driver.findElement(By.css('input[type=file]'))).sendKeys(paths.join('\n'))
/** Clicks a column's head, with keys held down. */
export const head = async (driver: WebDriver, name: string, ...keys: string[]): Promise<void> => {
  const here = By.xpath(`//*[@role='columnheader']//button[.//span[normalize-space(.)=${quote(name)}]]`)
  await driver.wait(until.elementLocated(here), wait, `no column is called “${name}”`)
  // a head may stand beneath the numbers of the rows
  await driver.executeScript('arguments[0].scrollIntoView({ inline: "center", block: "nearest" })', await driver.findElement(here))
  const actions = driver.actions()
  for (const key of keys) actions.keyDown(key)
  actions.click(await driver.findElement(here))
  for (const key of keys) actions.keyUp(key)
  await actions.perform()
}
/** Clicks the first cell that shows just this text. */
export const cell = async (driver: WebDriver, shown: string): Promise<WebElement> => {
  const found = await driver.wait(until.elementLocated(By.xpath(`//*[@role='gridcell'][normalize-space(.)=${quote(shown)}]`)), wait, `no cell shows “${shown}”`)
  await found.click()
  return found
}
/** Keeps the draft, once it may be kept. */
export const keep = async (driver: WebDriver): Promise<void> => {
  const here = By.xpath("//*[@data-state='draft']//button[normalize-space(.)='Keep' and not(@disabled)]")
  await driver.wait(until.elementLocated(here), wait, 'there is no draft that may be kept')
  await driver.findElement(here).click()
  await driver.wait(async () => (await driver.findElements(By.css('[data-state=draft]'))).length === 0, wait, 'the draft was not kept')
}
/** No violation of any rule that axe knows, or their names. */
export const accessible = async (driver: WebDriver): Promise<string[]> => (await new AxeBuilder(driver).analyze()).violations.map(({ id, nodes }) => `${id}: ${nodes[0]?.html.slice(0, 160)}`)
