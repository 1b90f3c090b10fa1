import { join } from 'node:path'
import { By, Key, type WebDriver } from 'selenium-webdriver'
import { click, give, head, labelled, openBrowser, see, shoot } from './browser/driver.ts'
import { demo, root, startOData, startServer } from './browser/server.ts'

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
  await (await driver.findElement(By.xpath("//li[contains(., 'Read Charged')]//span[contains(@class,'leading-[21px]')]"))).click()
  await driver.sleep(600)
  await head(driver, 'Clinic')
  await driver.sleep(800)
  await click(driver, 'Take the spaces off')
  await driver.sleep(1200)
  await shoot(driver, picture('draft'))
  await driver.actions().sendKeys(Key.ESCAPE).perform()
  await driver.sleep(400)
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
  await driver.executeScript("document.querySelector('section[aria-label=\"What happened\"]').scrollTop = 640")
  await driver.sleep(300)
  await shoot(driver, picture('replay-done'))
}
const handOver = async (driver: WebDriver): Promise<void> => {
  await click(driver, 'Hand over')
  await click(driver, 'Make a link')
  await see(driver, 'End it')
  await driver.sleep(600)
  await shoot(driver, picture('hand-over'))
  const link = await (await labelled(driver, 'The link')).getAttribute('value')
  await driver.get(link ?? '')
  await see(driver, '121 changed')
  await driver.sleep(500)
  await shoot(driver, picture('reader'))
}
const elsewhere = async (driver: WebDriver, base: string, service: string): Promise<void> => {
  await driver.get(`${base}/sources`)
  await click(driver, 'OData')
  await (await labelled(driver, 'Address of the service')).sendKeys(service)
  await click(driver, 'See what it offers')
  await click(driver, 'Visits')
  await see(driver, 'BookingRef')
  await driver.sleep(500)
  await shoot(driver, picture('sources'))
  await driver.get(`${base}/shelf`)
  await see(driver, 'regions-2031-05.xlsx')
  await driver.sleep(500)
  await shoot(driver, picture('shelf'))
}

const server = await startServer(undefined, 4311, { FABULA_ALLOW_PRIVATE: '1' })
const odata = await startOData()
const { driver } = await openBrowser()
try {
  await driver.get(server.base)
  await see(driver, 'Monthly takings')
  await driver.sleep(600)
  await shoot(driver, picture('home'))
  await opening(driver)
  await driver.get(server.base)
  await compose(driver)
  await replay(driver)
  await handOver(driver)
  await elsewhere(driver, server.base, odata.address)
} finally {
  await driver.quit()
  odata.close()
  await server.stop()
}
