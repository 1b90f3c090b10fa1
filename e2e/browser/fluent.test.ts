import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { By, Key } from 'selenium-webdriver'
import { expect, test } from 'vitest'
import { accessible, cell, click, gone, head, holds, press, see, settled, verb } from './driver.ts'
import { kept, openAs, session, storyWith } from './session.ts'

const here = session()
const visits = 'Clinic,Day,Fee\nOxbow,2031-05-01,12.5\nMarlpit,2031-05-02,7.25\nOxbow,2031-05-03,30\n'
const focused = (): Promise<string> =>
  here.browser.driver.executeScript(
    'const at = document.activeElement; return `${at.getAttribute("role") ?? at.tagName} ${at.getAttribute("aria-label") ?? at.textContent.slice(0, 40)}`',
  )
const lastStep = async () => (await kept(here)).tables[0]?.steps.at(-1)

test('a verb by its everyday name, kept by Enter alone; the draft is in sight and the focus returns', async () => {
  const { driver } = here.browser
  await openAs(here, 'visits.csv', visits)
  await see(driver, 'text · 2 values')
  // a story so long that its end is below the edge of the page
  for (const words of [
    'year',
    'quarter',
    'month name',
    'weekday',
    'week number',
    'start of month',
    'end of month',
    'round',
  ]) {
    await verb(driver, words)
    await see(driver, 'Discard')
    await holds(
      driver,
      async () => /^button name/.test(await focused()) || /^SELECT/.test(await focused()),
      'no word of the draft has the focus',
    )
    const inSight = await driver.executeScript(
      'const { top, bottom } = [...document.querySelectorAll("button")].find((b) => b.textContent === "Keep").getBoundingClientRect(); return top > 0 && bottom < innerHeight',
    )
    expect(inSight, words).toBe(true)
    await holds(
      driver,
      async () => (await driver.findElements(By.xpath("//button[.='Keep' and not(@disabled)]"))).length > 0,
      'it cannot be kept',
    )
    await press(driver, Key.ENTER)
    await settled(driver)
  }
  expect(await lastStep()).toMatchObject({ kind: 'derive', formula: 'ROUND(Fee; 2)' })
  await holds(driver, async () => /^grid/.test(await focused()), 'the focus does not return to the table')
})

test('renaming asks for the name at once; undo while a draft stands discards it alone', async () => {
  const { driver } = here.browser
  await openAs(here, 'names.csv', visits)
  await head(driver, 'Clinic')
  await press(driver, Key.F2)
  await holds(driver, async () => (await focused()).includes('New name of Clinic'), 'no field for the name')
  await press(driver, 'Surgery', Key.ENTER)
  await see(driver, 'Rename Clinic to Surgery.')
  await press(driver, Key.ENTER)
  await settled(driver)
  expect(await lastStep()).toMatchObject({ kind: 'rename', names: { Clinic: 'Surgery' } })
  await head(driver, 'Fee')
  await verb(driver, 'absolute value')
  await see(driver, 'ABS(Fee)')
  await driver.actions().keyDown(Key.CONTROL).sendKeys('z').keyUp(Key.CONTROL).perform()
  await gone(driver, 'ABS(Fee)')
  expect(await lastStep()).toMatchObject({ kind: 'rename' })
})

test('a right click gives the verbs of the cell at the pointer, and where it comes from', async () => {
  const { driver } = here.browser
  await openAs(here, 'menu.csv', visits)
  const marlpit = await cell(driver, 'Marlpit')
  await driver.actions().contextClick(marlpit).perform()
  await see(driver, 'Likely here')
  expect(await accessible(driver)).toEqual([])
  // to look at it took the focus from the menu, which closes it
  await driver.actions().contextClick(marlpit).perform()
  await click(driver, By.xpath("//*[@role='menuitem'][contains(., 'Drop rows where it is “Marlpit”')]"))
  await see(driver, 'Drop the rows where Clinic is “Marlpit”.')
  await press(driver, Key.ESCAPE)
  await gone(driver, 'Discard')
  await cell(driver, 'Oxbow')
  await driver
    .actions()
    .contextClick(await cell(driver, 'Marlpit'))
    .perform()
  await click(driver, By.xpath("//*[@role='menuitem'][contains(., 'Where does this come from?')]"))
  await see(driver, 'menu.csv · 1 row')
})

test('numbers as people type them, and this table downloaded from Compose', async () => {
  const { driver } = here.browser
  await openAs(here, 'fees.csv', visits)
  await head(driver, 'Fee')
  await verb(driver, 'multiply')
  const field = await driver.findElement(By.css('aside input[aria-label="with"]'))
  await field.clear()
  await field.sendKeys('20%')
  await see(driver, 'ROUND(Fee * 0.2; 2)')
  await field.clear()
  await field.sendKeys('twenty')
  await see(driver, '“twenty” is no number')
  await press(driver, Key.ESCAPE)
  await gone(driver, 'Discard')
  await verb(driver, 'download')
  const path = join(here.browser.downloads, 'fees.csv')
  await holds(
    driver,
    () => {
      try {
        return Promise.resolve(readFileSync(path, 'utf8') === visits && path !== '')
      } catch {
        return Promise.resolve(false)
      }
    },
    'the table is not downloaded',
  )
})

test('stories are found, renamed, duplicated, deleted and taken back', async () => {
  const { driver } = here.browser
  const recipe = (name: string) => ({
    fabula: 1,
    name,
    inputs: [{ id: 'visits', name: 'Visits' }],
    tables: [{ id: 'visits', name: 'Visits', steps: [{ id: 's1', kind: 'open', input: 'visits' }] }],
    outputs: [{ table: 'visits', format: 'csv', file: 'visits.csv' }],
  })
  await storyWith(here, recipe('Quarterly intake'), { visits: [['v.csv', visits]] })
  await driver.get(here.server.base)
  await see(driver, 'makes Visits')
  const find = await driver.findElement(By.css('input[aria-label="Find a story"]'))
  await find.sendKeys('quarterly')
  await holds(
    driver,
    async () => (await driver.findElements(By.css('ul[aria-label="Your stories"] > li'))).length === 1,
    'other stories stand there too',
  )
  expect(await accessible(driver)).toEqual([])
  await click(driver, By.css('button[aria-label="What to do with Quarterly intake"]'))
  await click(driver, By.xpath("//*[@role='menuitem'][.='Rename']"))
  await press(driver, 'Quarterly dogs', Key.ENTER)
  await see(driver, 'Quarterly dogs')
  await click(driver, By.css('button[aria-label="What to do with Quarterly dogs"]'))
  await click(driver, By.xpath("//*[@role='menuitem'][.='Delete']"))
  await see(driver, 'No story is found by these words.')
  await click(driver, By.xpath("//summary[contains(., 'deleted story')]"))
  await click(driver, By.css('button[aria-label="Take Quarterly dogs back"]'))
  await see(driver, 'makes Visits')
  await click(driver, By.css('button[aria-label="What to do with Quarterly dogs"]'))
  await click(driver, By.xpath("//*[@role='menuitem'][.='Duplicate']"))
  await see(driver, 'Quarterly dogs, a copy')
  await see(driver, 'Open Visits')
})
