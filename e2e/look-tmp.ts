import { By } from 'selenium-webdriver'
import { startServer } from './browser/server.ts'
import { openBrowser, shoot, see, click, head, settled } from './browser/driver.ts'
const server = await startServer()
const { driver } = await openBrowser()
const wait = (ms: number) => new Promise((r) => setTimeout(r, ms))
try {
  await driver.get(server.base + '/help/verbs/pivot')
  await see(driver, 'From this')
  await wait(500)
  await shoot(driver, '/tmp/look-1.png')
  await driver.get(server.base + '/help/clean')
  await wait(800)
  await shoot(driver, '/tmp/look-2.png')
  await driver.get(server.base)
  await click(driver, 'Monthly takings')
  await settled(driver)
  await head(driver, 'Clinic')
  await wait(800)
  const b = await driver.findElement(By.xpath('//button[starts-with(., "Give one spelling")]'))
  await b.sendKeys('?')
  await wait(1200)
  await shoot(driver, '/tmp/look-3.png')
} finally {
  await driver.quit()
  await server.stop()
}
