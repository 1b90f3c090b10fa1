import { rmSync } from 'node:fs'
import { By, Key } from 'selenium-webdriver'
import { beforeEach, expect, test } from 'vitest'
import { accessible, click, element, fill, give, keep, keepOpened, labelled, press, see, text } from './driver.ts'
import { demo } from './server.ts'
import { fileIn, replayed, session } from './session.ts'

const here = session()
beforeEach(async () => {
  await here.browser.driver.get(here.server.base)
  await see(here.browser.driver, 'Your stories')
})

const place = (name: string, content: string | Buffer): string => fileIn(here, name, content)

test('a hard workbook goes in by clicking alone, and comes out right on replay with two more sheets', async () => {
  const { driver } = here.browser
  await give(here.browser.driver, demo('regions-2031-05.xlsx'))
  await see(driver, 'every sheet named like “2031-*”, column names from row 4, leaving out 1 row at the foot')
  await see(driver, '“Patient kind” for “Species”')
  await see(driver, '75 rows · 7 columns')
  expect(await accessible(here.browser.driver)).toEqual([])
  await click(driver, 'Lay them together')
  await click(driver, 'Fill the rest')
  await click(driver, 'As a table')
  await see(driver, 'number · 1 unreadable')
  expect(await accessible(here.browser.driver)).toEqual([])
  await keepOpened(driver)
  await see(driver, 'Drop the column Patient kind.')
  await see(driver, '60 changed')

  await click(driver, 'Replay on new exports')
  await labelled(driver, 'New exports')
  await give(here.browser.driver, demo('regions-2031-07.xlsx'))
  await see(driver, 'new sheet “2031-07”, which is taken in')
  expect(await text(driver)).not.toContain('lacks')
  await click(driver, 'Replay the story')
  await see(driver, 'What came out')
  await see(driver, '105')

  const csv = (await replayed(here, 'regions', { regions: demo('regions-2031-07.xlsx') })).trimEnd().split('\n')
  expect(csv[0]).toBe('Region,Clinic,Species,Visits,Takings,Latest visit')
  expect(csv).toHaveLength(106)
  expect(csv.slice(1).every((line) => /^(North|South|East),[^,]+,(dog|cat|rabbit),/.test(line))).toBe(true)
})

test('the row of names is clicked, a range is dragged, and the sheet can be looked at again later', async () => {
  const { driver } = here.browser
  await give(
    driver,
    place('titles 2031-05.csv', 'Takings;;\nby clinic;;\n;Clinic;Fee\n;Oxbow;12\n;Marlpit;3\n;Total;15\n'),
  )
  await see(driver, 'column names from row 3')
  await click(driver, 'Names from row 2')
  await see(driver, 'column names from row 2')
  await click(driver, 'Names from row 3')
  const corner = await labelled(driver, 'First cell of the table')
  const target = await element(driver, By.css('td[data-row="3"][data-column="2"]'))
  await driver.actions().move({ origin: corner }).press().move({ origin: target }).release().perform()
  await see(driver, 'cells B3:C')
  await see(driver, '2 rows · 2 columns')
  await keepOpened(driver)
  await see(driver, 'Open Titles')
  await click(driver, 'file: cells B3:C'.replace('cells ', ''))
  await see(driver, 'as it stands in the file')
  await click(driver, 'take the whole sheet')
  await see(driver, '3 columns')
  await press(driver, Key.ESCAPE)
})

test('several files at once are laid under one another; a wrong encoding is seen beside the right one', async () => {
  const { driver } = here.browser
  await give(
    driver,
    place('may.csv', Buffer.from('Clinic,Fee\nRen\xe9,5\n', 'latin1')),
    place('june.csv', 'Clinic,Fee,Vet\nOxbow,7,Ada\n'),
  )
  await see(driver, 'Open 2 files')
  await see(driver, 'Which of these reads right?')
  await see(driver, 'René,5')
  await see(driver, '2 rows · 3 columns')
  await click(driver, 'Discard')
  await see(driver, 'Your stories')
})

test('pasted cells become a table; what cannot be opened says so', async () => {
  const { driver } = here.browser
  await driver.executeScript(
    `const data = new DataTransfer(); data.setData('text/html', '<table><tr><th>Clinic</th><th>Fee</th></tr><tr><td rowspan=2>Oxbow</td><td>12</td></tr><tr><td>3</td></tr></table>'); window.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true }))`,
  )
  await see(driver, 'Open pasted cells.tsv')
  await see(driver, '2 rows · 2 columns')
  await click(driver, 'Discard')
  await see(driver, 'Your stories')
  await give(
    driver,
    place(
      'locked.xlsx',
      Buffer.concat([
        Buffer.from([0xd0, 0xcf, 0x11, 0xe0, 0xa1, 0xb1, 0x1a, 0xe1]),
        Buffer.alloc(512),
        Buffer.from('EncryptedPackage', 'utf16le'),
      ]),
    ),
  )
  await see(driver, 'locked.xlsx is locked with a password')
})

test('a table is typed in beside the others', async () => {
  const { driver } = here.browser
  await click(driver, 'Monthly takings by clinic')
  await click(driver, 'typed in')
  await see(driver, 'Take the typed table of 0 rows and 2 columns.')
  await click(driver, 'cells: 0 rows and 2 columns')
  await (await labelled(driver, 'Row 1, Name')).sendKeys('VAC-1')
  await (await labelled(driver, 'Row 1, Value')).sendKeys('41')
  await press(driver, Key.ESCAPE)
  await keep(driver)
  await see(driver, 'Take the typed table of 1 row and 2 columns.')
  await see(driver, 'VAC-1')
})

test('samples of other encodings, however long, push no setting out of sight', async () => {
  const { driver } = here.browser
  const title = 'Fernhollow Marlpit Oxbow and Tarn End, visits of all clinics as they were exported'
  await give(driver, place('bom.csv', `\ufeff${title};;\nClinic;Fee;Day\nOxbow;12;2031-05-01\nMärlpit;7;2031-05-02\n`))
  await see(driver, 'Which of these reads right?')
  const overflow = await driver.executeScript<number>(
    'const column = document.querySelector(\'section[aria-label="How it is opened"] > div\'); return column.scrollWidth - column.clientWidth',
  )
  expect(overflow).toBe(0)
})

test('of a large file some rows are sent, and every figure says that it is of a sample', async () => {
  const { driver } = here.browser
  const row = 'Oxbow,12.5,2031-05-01\n'
  const large = place('large visits.csv', Buffer.concat([Buffer.from('Clinic,Fee,Day\n'), Buffer.alloc(301e6, row)]))
  await give(driver, large)
  await see(driver, 'large visits.csv is large')
  expect(await accessible(driver)).toEqual([])
  await fill(driver, 'One row in how many', '20000')
  await click(driver, 'Send these rows')
  // one of names, 13,681,818 and a last one cut short: the 19 at the top, and one in 20,000 of the others
  await see(driver, 'one row in 20,000 of 13,681,820')
  await see(driver, '704 rows of a sample · 3 columns')
  await keepOpened(driver)
  await see(driver, 'Figures are of a sample. large visits.csv: one row in 20,000 of 13,681,820.')
  await see(driver, '704 → 704 of a sample')
  await click(driver, 'Replay on new exports')
  await see(driver, 'large visits.csv: one row in 20,000 of 13,681,820, which the story was built on')
  await click(driver, 'Try it on the files the story was built on')
  await see(driver, 'Tried: 704 rows of a sample would come out.')
  await click(driver, 'Replay the story')
  await see(driver, 'Done: 704 rows of a sample')
  // what is given in full next time is no sample
  await give(driver, place('visits.csv', `Clinic,Fee,Day\n${row}`))
  await click(driver, 'Replay the story')
  await see(driver, 'Done: 1 row, nothing to look at.')
  rmSync(large)
})
