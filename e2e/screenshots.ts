import { join } from 'node:path'
import { By, Key } from 'selenium-webdriver'
import { openBrowser, shoot, click, see, labelled } from './browser/driver.ts'
import { root, startServer } from './browser/server.ts'
const server = await startServer(undefined, 4311)
const { driver } = await openBrowser()
const base = server.base
/** npm run screenshots: the main views as they are now, from the demo, into docs/screenshots. */
const at = join(root, 'docs/screenshots/')
try {
  await driver.get(base + '/'); await see(driver, 'Monthly takings'); await driver.sleep(600); await shoot(driver, at + 'home.png')
  await click(driver, 'Monthly takings'); await see(driver, '121 changed')
  await click(driver, '−92 rows'); await driver.sleep(300)
  await click(driver, 'Show all rows'); await driver.sleep(500)
  await (await driver.findElement(By.xpath("//*[@role='columnheader']//button[contains(.,'Clinic')]"))).click()
  await driver.sleep(1200); await shoot(driver, at + 'compose.png')
  const row3 = await driver.findElement(By.xpath("//li[contains(., 'Read Charged')]//span[contains(@class,'leading-[21px]')]")); await row3.click(); await driver.sleep(600)
  await (await driver.findElement(By.xpath("//*[@role='columnheader']//button[contains(.,'Clinic')]"))).click(); await driver.sleep(800)
  await click(driver, 'Take the spaces off'); await driver.sleep(1200); await shoot(driver, at + 'draft.png')
  await driver.actions().sendKeys(Key.ESCAPE).perform(); await driver.sleep(400)
  const url = await driver.getCurrentUrl()
  await driver.get(url + '/replay'); await see(driver, 'Tell it again')
  await (await driver.findElement(By.css('input[type=file]'))).sendKeys(join(root, 'demo/visits-2031-06.csv'))
  await see(driver, 'does not fit yet'); await driver.sleep(500); await shoot(driver, at + 'replay.png')
  await click(driver, 'Read Booking status as Status'); await driver.sleep(900); await click(driver, 'Replay the story'); await see(driver, 'What came out'); await driver.sleep(600)
  await driver.executeScript("document.querySelector('section[aria-label=\"What happened\"]').scrollTop = 640"); await driver.sleep(300); await shoot(driver, at + 'replay-done.png')
  await click(driver, 'Hand over'); await click(driver, 'Make a link'); await see(driver, 'End it'); await driver.sleep(600); await shoot(driver, at + 'hand-over.png')
  const link = await (await labelled(driver, 'The link')).getAttribute('value')
  await driver.get(link ?? ''); await see(driver, '121 changed'); await driver.sleep(500); await shoot(driver, at + 'reader.png')
} finally { await driver.quit(); await server.stop() }
