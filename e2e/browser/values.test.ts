import { Key } from 'selenium-webdriver'
import { expect, test } from 'vitest'
import { click, fill, head, keep, press, see, tick, verb } from './driver.ts'
import { kept, openAs, session } from './session.ts'

const here = session()

test('values are cleaned, replaced, filled, blanked, combined and numbered by clicking', async () => {
  const { driver } = here.browser
  await openAs(
    here,
    'intake.csv',
    'Owner,Animal,Weight,Note\n  ada  MOSS ,Biscuit,12,n/a\nBo Fern,,,ok\n,Pepper,4,n/a\nada moss,Otis,7,\n',
  )
  await see(driver, 'Open Intake')

  await head(driver, 'Owner')
  await verb(driver, 'clean text')
  await see(driver, 'In Owner take the spaces at the ends off and make each run of spaces one blank.')
  await click(driver, 'cleaning: take the spaces')
  await tick(driver, 'make each first letter large')
  await see(driver, 'Ada Moss')
  await press(driver, Key.ESCAPE)
  await keep(here.browser.driver)

  await head(driver, 'Note')
  await click(driver, 'n/a')
  await click(driver, 'Make it empty')
  await see(driver, 'In Note make “n/a” empty.')
  await keep(here.browser.driver)

  await head(driver, 'Weight')
  await verb(driver, 'coalesce')
  await see(driver, 'Where Weight is empty, put 0.')
  await click(driver, 'value: 0')
  await fill(driver, 'Value', '5')
  await press(driver, Key.ENTER)
  await see(driver, 'Where Weight is empty, put 5.')
  await keep(here.browser.driver)

  await head(driver, 'Owner')
  await head(driver, 'Animal', Key.CONTROL)
  await verb(driver, 'concatenate')
  await see(driver, 'Combine Owner and Animal as Owner Animal, with “ ” between, and keep them.')
  await keep(here.browser.driver)
  await see(driver, 'Ada Moss Biscuit')

  await head(driver, 'Owner')
  await verb(driver, 'row number')
  await see(driver, 'Number the rows from 1 as Number, anew for each Owner.')
  await keep(here.browser.driver)

  expect((await kept(here)).tables[0]?.steps.map(({ kind }) => kind)).toEqual([
    'open',
    'clean-text',
    'blank',
    'fill-empty',
    'combine',
    'number',
  ])
})
