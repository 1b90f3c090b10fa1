import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { By, Key } from 'selenium-webdriver'
import { expect, test } from 'vitest'
import { click, head, keep, labelled, see } from './driver.ts'
import { session } from './session.ts'

const here = session()

const verb = async (words: string): Promise<void> => {
  await here.browser.driver.actions().sendKeys('/').perform()
  await here.browser.driver.actions().sendKeys(words, Key.ENTER).perform()
}

test('values are cleaned, replaced, filled, blanked, combined and numbered by clicking', async () => {
  const { driver, downloads } = here.browser
  const path = join(downloads, 'intake.csv')
  writeFileSync(path, 'Owner,Animal,Weight,Note\n  ada  MOSS ,Biscuit,12,n/a\nBo Fern,,,ok\n,Pepper,4,n/a\nada moss,Otis,7,\n')
  await driver.get(here.server.base)
  await (await driver.findElement(By.css('input[type=file]'))).sendKeys(path)
  await see(driver, '4 rows · 4 columns')
  await click(driver, 'Keep')
  await see(driver, 'Open intake')

  await head(here.browser.driver, 'Owner')
  await verb('title case')
  await see(driver, 'In Owner take the spaces at the ends off and make each run of spaces one blank.')
  await click(driver, 'cleaning: take the spaces')
  await (await driver.findElement(By.xpath("//label[contains(., 'make each first letter large')]"))).click()
  await see(driver, 'Ada Moss')
  await driver.actions().sendKeys(Key.ESCAPE).perform()
  await keep(here.browser.driver)

  await head(here.browser.driver, 'Note')
  await click(driver, 'n/a')
  await click(driver, 'Make it empty')
  await see(driver, 'In Note make “n/a” empty.')
  await keep(here.browser.driver)

  await head(here.browser.driver, 'Weight')
  await verb('coalesce')
  await see(driver, 'Where Weight is empty, put 0.')
  await click(driver, 'value: 0')
  await (await labelled(driver, 'Value')).sendKeys(Key.BACK_SPACE, '5')
  await driver.actions().sendKeys(Key.ENTER).perform()
  await see(driver, 'Where Weight is empty, put 5.')
  await keep(here.browser.driver)

  await head(here.browser.driver, 'Owner')
  await head(here.browser.driver, 'Animal', Key.CONTROL)
  await verb('concatenate')
  await see(driver, 'Combine Owner and Animal as Owner Animal, with “ ” between, and keep them.')
  await keep(here.browser.driver)
  await see(driver, 'Ada Moss Biscuit')

  await head(here.browser.driver, 'Owner')
  await verb('row number')
  await see(driver, 'Number the rows from 1 as Number, anew for each Owner.')
  await keep(here.browser.driver)

  const id = (await driver.getCurrentUrl()).split('/flows/')[1] ?? ''
  const { recipe } = (await (await fetch(`${here.server.base}/api/flows/${id}`)).json()) as { recipe: { tables: { steps: { kind: string }[] }[] } }
  expect(recipe.tables[0]?.steps.map(({ kind }) => kind)).toEqual(['open', 'clean-text', 'blank', 'fill-empty', 'combine', 'number'])
})
