import { Key } from 'selenium-webdriver'
import { writeFileSync } from 'node:fs'
import { click, give, head, labelled, openBrowser, see, shoot } from '../browser/driver.ts'
import { startServer } from '../browser/server.ts'
const server = await startServer()
const { driver } = await openBrowser()
const pic = (n: string) => shoot(driver, `/tmp/look/${n}.png`)
try {
  writeFileSync('/tmp/look/places.csv', 'Place\nOxbow\nOxbow\noxbow\nOxbo\nMarlpit\nMarlpitt\nTarn End\n')
  await driver.get(server.base)
  await give(driver, '/tmp/look/places.csv')
  await see(driver, '7 rows')
  await click(driver, 'Keep')
  await see(driver, 'Another table')
  await head(driver, 'Place')
  await click(driver, 'Give one spelling…')
  await click(driver, 'Spelling')
  await click(driver, 'Take all')
  await see(driver, '2 groups')
  await (await labelled(driver, 'Where Oxbo goes')).sendKeys('move to Marlpit')
  await driver.sleep(1500)
  await pic('c1')
  void Key
} catch (e) { console.log(e); await pic('err') } finally { await driver.quit(); await server.stop() }
