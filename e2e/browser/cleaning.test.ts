import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { By, Key, type WebDriver } from 'selenium-webdriver'
import { expect, test } from 'vitest'
import { firstDifference } from '@fabula/server/proof'
import {
  accessible,
  cell,
  choose,
  click,
  element,
  fill,
  give,
  gone,
  head,
  holds,
  keep,
  labelled,
  menu,
  press,
  see,
  tick,
  verb,
} from './driver.ts'
import { demo } from './server.ts'
import { again, fileIn, handed, kept, openAs, session } from './session.ts'

const here = session()
const write = (name: string, content: string): string => fileIn(here, name, content)
const open = (name: string, content: string): Promise<void> => openAs(here, name, content)
const lastStep = async (): Promise<Record<string, unknown> | undefined> => (await kept(here)).tables[0]?.steps.at(-1)

/** What is announced of something that is moved. */
const said = (driver: WebDriver, words: string): Promise<void> =>
  holds(
    driver,
    () =>
      driver.executeScript<boolean>(
        "return [...document.querySelectorAll('[id^=DndLiveRegion]')].some((one) => one.textContent.includes(arguments[0]))",
        words,
      ),
    `“${words}” is not said`,
  )

test('a messy intake export is made clean by clicking alone, and its script gives the same table', async () => {
  const { driver, downloads } = here.browser
  await open('intake-2031-05.csv', readFileSync(demo('intake-2031-05.csv'), 'utf8'))
  await see(driver, '260 rows')
  await click(driver, 'Add a value asked at replay')
  await fill(driver, 'Name of the value', 'As of', Key.ENTER)
  await see(driver, 'not used yet')

  await head(driver, 'Born')
  await see(driver, 'rows can be either')
  await see(driver, 'read as none of these')
  await click(driver, 'Read as a date (')
  await see(driver, '6 unreadable')
  await keep(driver)
  await head(driver, 'Received')
  await click(driver, 'Read as a date and time (')
  await see(driver, '260 read')
  await keep(driver)

  for (const [column, values] of [
    ['Clinic', '5 values'],
    ['Breed', '5 values'],
  ] as const) {
    await head(driver, column)
    await click(driver, 'Give one spelling…')
    await click(driver, 'Take all')
    await click(driver, 'Spelling')
    await see(driver, 'letter')
    await click(driver, 'Take all')
    await see(driver, values)
    if (column === 'Clinic') expect(await accessible(driver)).toEqual([])
    await keep(driver)
  }

  await head(driver, 'Weight')
  await click(driver, 'Read the numbers')
  await see(driver, 'number · 14 empty')
  await keep(driver)
  await head(driver, 'Seen before')
  await click(driver, 'Change its type')
  await click(driver, 'type: a number')
  await click(driver, 'yes or no')
  await see(driver, 'yes or no ·')
  await keep(driver)

  await head(driver, 'Born')
  await click(driver, 'Count the time to another date')
  await choose(driver, 'from Born to: where it comes from', 'asked at replay')
  await see(driver, "DATEDIF(Born; $'As of'")
  await keep(driver)
  await head(driver, 'Weight')
  await click(driver, 'Put its numbers into bands…')
  await fill(
    driver,
    'Their names, one a line, from low to high; left out, their limits',
    'light\nmiddling\nheavy\nvery heavy',
  )
  await see(driver, '“middling” where Weight is less than')
  await keep(driver)
  await head(driver, 'Symptoms')
  await click(driver, 'A row for each')
  await see(driver, 'into a row for each piece')
  await keep(driver)
  expect((await kept(here)).tables[0]?.steps.length).toBeLessThan(15)

  await click(driver, By.linkText('Hand over'))
  await see(driver, '# s2')
  const engine = await again(here, demo('intake-2031-05.csv'))
  execFileSync(
    '/usr/bin/python3',
    [
      write('intake.py', await handed(here, 'python')),
      '--input',
      `intake=${demo('intake-2031-05.csv')}`,
      '--output',
      `intake=${join(downloads, 'intake.csv')}`,
    ],
    { stdio: 'pipe' },
  )
  expect(engine.split('\n').length).toBeGreaterThan(300)
  expect(firstDifference(engine, readFileSync(join(downloads, 'intake.csv'), 'utf8'))).toBeUndefined()

  // asked at replay: another day makes the animals older
  await click(driver, By.linkText('Replay'))
  await see(driver, 'Tell it again')
  await give(driver, demo('intake-2031-05.csv'))
  await see(driver, 'What this replay needs to know')
  await driver.executeScript(
    "const i = document.querySelector('section[aria-label=\"Asked at replay\"] input'); Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(i, '2041-06-30'); i.dispatchEvent(new Event('input', { bubbles: true }))",
  )
  await click(driver, 'Replay the story')
  await see(driver, 'What came out')
  await see(driver, '12')
})

test('whether 03/04 is March or April is asked once, and nothing is read before it is answered', async () => {
  const { driver } = here.browser
  await open('months.csv', 'Ref,Day\n1,03/04/2031\n2,05/06/2031\n3,not known\n4,\n')
  await head(driver, 'Day')
  await see(driver, 'Is 03/04/2031 3 April or 4 March? 2 rows can be either.')
  await see(driver, 'Nothing in the column tells.')
  expect(await (await element(driver, By.xpath("//button[starts-with(., 'Read as a date')]"))).isEnabled()).toBe(false)
  await click(driver, 'month first')
  await click(driver, 'Read as a date (2)')
  await see(driver, '2031-03-04')
  await see(driver, '1 unreadable')
  await keep(driver)
  expect(await lastStep()).toMatchObject({ kind: 'cast', type: 'date', formats: ['M/d/yyyy'] })
})

test('a part of a text is selected, by mouse or keys, and taken from every row', async () => {
  const { driver } = here.browser
  await open('codes.csv', 'Code,N\nVAC-12 (dog),1\nCON-7 (cat),2\nDEN (ferret),3\n')
  const spot = await cell(driver, 'VAC-12 (dog)')
  await (await labelled(driver, 'The text of the cell')).sendKeys(Key.HOME)
  for (let i = 0; i < 3; i++)
    await driver.actions().keyDown(Key.SHIFT).sendKeys(Key.ARROW_RIGHT).keyUp(Key.SHIFT).perform()
  await see(driver, '“VAC” is selected')
  await click(driver, 'Take what stands before the first “-”')
  await see(driver, '+ Code part')
  await press(driver, Key.ESCAPE)
  // the last letters, drawn over with the mouse
  await driver.executeScript(
    `const cell = [...document.querySelectorAll('[role=gridcell]')].find((one) => one.textContent === 'VAC-12 (dog)'); const range = document.createRange(); range.setStart(cell.firstChild, 8); range.setEnd(cell.firstChild, 11); const all = getSelection(); all.removeAllRanges(); all.addRange(range); cell.click()`,
  )
  expect(await spot.getText()).toBe('VAC-12 (dog)')
  await see(driver, '“dog” is selected')
  await click(driver, 'Take what stands between the first “ (” and “)”')
  await see(driver, 'ferret')
  await keep(driver)
  expect(await lastStep()).toMatchObject({ kind: 'extract', take: { between: [' (', ')'] }, as: 'Code part' })
})

test('one spelling: a suggestion is taken, a value moved, the name chosen, values grouped by hand, taken apart again', async () => {
  const { driver } = here.browser
  await open('places.csv', 'Place\nOxbow\nOxbow\noxbow\nOxbo\nMarlpit\nMarlpitt\nTarn End\n')
  await head(driver, 'Place')
  await click(driver, 'Give one spelling…')
  await see(driver, 'They differ only by case or spaces at the ends.')
  await click(driver, 'Side by side')
  await see(driver, 'They are at most one letter apart.')
  await see(driver, 'They sound alike.')
  await click(driver, 'Spelling')
  await click(driver, 'Take all')
  await see(driver, '2 groups')
  await click(driver, 'Where Oxbo goes')
  await click(driver, 'Move it to Marlpit')
  await see(driver, '“Marlpit” for “Marlpitt” and “Oxbo”')
  await click(driver, 'Where Oxbo goes')
  await click(driver, 'Leave it as it is')
  await see(driver, '2 changed')
  await fill(driver, 'Name of group 1', 'The Oxbow', Key.TAB)
  await see(driver, '“The Oxbow” for')
  await click(driver, 'By hand')
  await tick(driver, 'Tarn End')
  await fill(driver, 'Call them', 'Tarn')
  await click(driver, 'Call all of these so')
  await see(driver, '3 groups')
  await click(driver, 'Take it apart')
  await see(driver, '2 groups')
  await keep(driver)
  expect(await lastStep()).toMatchObject({
    kind: 'unify',
    groups: [
      { into: 'Marlpit', from: ['Marlpit', 'Marlpitt'] },
      { into: 'Tarn', from: ['Tarn End'] },
    ],
  })

  // several values in the card, called one thing
  await head(driver, 'Place')
  await tick(driver, 'Tick Oxbow')
  await tick(driver, 'Tick oxbow')
  await click(driver, 'Call all of these…')
  await see(driver, '“Oxbow” for “oxbow”')
  await keep(driver)
})

test('a formula is completed, explained, its error underlined and told before it is kept', async () => {
  const { driver } = here.browser
  await open('fees.csv', 'Fee paid,Clinic\n12.5,Oxbow\n30,Marlpit\n')
  await verb(driver, 'formula')
  await click(driver, 'formula: 1')
  const box = await labelled(driver, 'Formula')
  await box.sendKeys(Key.chord(Key.CONTROL, 'a'), 'rou')
  await see(driver, 'ROUND(x; n)')
  await box.sendKeys(Key.ARROW_DOWN, Key.ARROW_UP, Key.TAB, 'fee')
  await see(driver, 'Fee paid')
  await box.sendKeys(Key.TAB, ' * Clinic)')
  await see(driver, 'Clinic is text; * needs numbers')
  expect(await (await element(driver, By.css('.decoration-wavy'))).getText()).toBe('Clinic')
  for (let i = 0; i < 7; i++) await box.sendKeys(Key.BACK_SPACE)
  await box.sendKeys('1.2; 1)')
  await see(driver, 'gives numbers')
  await see(driver, '36')
  await press(driver, Key.ESCAPE)
  await keep(driver)
  expect(await lastStep()).toMatchObject({ kind: 'derive', formula: "ROUND('Fee paid' * 1.2; 1)" })
  await driver.get(`${here.server.base}/help/formulas`)
  await see(driver, 'LISTDISTINCT')
  expect(await accessible(driver)).toEqual([])
})

test('sentences are moved where they hold, told in own words, copied to another story, taken out with what needs them', async () => {
  const { driver } = here.browser
  const more = (n: number, words: string): Promise<void> => menu(driver, `More for sentence ${n}`, words)
  await open('moves.csv', 'A,B\n1,x\n2,y\n')
  for (const [as, formula] of [
    ['C', 'A + 1'],
    ['D', 'C * 2'],
  ] as const) {
    await verb(driver, 'formula')
    await click(driver, 'formula: 1')
    await fill(driver, 'Formula', formula)
    await press(driver, Key.ESCAPE)
    await click(driver, 'name: New column')
    await fill(driver, 'Name', as, Key.ENTER)
    await see(driver, `Compute ${as} as`)
    await keep(driver)
  }
  await more(3, 'Move it up')
  await see(driver, 'would not hold there: There is no column “C” here.')
  await more(2, 'Own words')
  await fill(driver, 'In your own words', 'One more than A')
  await fill(driver, 'Note', 'asked for by the vets')
  await click(driver, 'Keep the words')
  await see(driver, 'One more than A')
  await click(driver, 'the sentence itself')
  await see(driver, 'Compute C as A + 1.')
  expect((await kept(here)).tables[0]?.steps[1]?.note).toBe('“One more than A”\nasked for by the vets')
  await more(2, 'Copy it')
  await more(2, 'Take it out with the 1 sentence that needs it')
  await gone(driver, 'Compute D')
  expect((await kept(here)).tables[0]?.steps).toHaveLength(1)
  await click(driver, '↶ Undo')
  await see(driver, 'Compute D as C * 2.')

  // dragged by its own sentence: the order of two that do not need each other
  await open('other.csv', 'A,B\n1,x\n')
  await more(1, 'Put the copied sentence after it')
  await see(driver, 'One more than A')
  await head(driver, 'B')
  await press(driver, Key.F2)
  await see(driver, 'Rename B to B.')
  await press(driver, Key.ESCAPE)
  await driver
    .actions()
    .doubleClick(await element(driver, By.xpath("//*[@role='columnheader']//button[.//span[normalize-space(.)='B']]")))
    .perform()
  await fill(driver, 'New name of B', 'Kind', Key.ENTER)
  await see(driver, 'Rename B to Kind.')
  await keep(driver)
  // with the keys: picked up, up by one, put down
  await (await element(driver, By.css('[aria-label="Sentence 3"]'))).sendKeys(Key.SPACE)
  await said(driver, 'Sentence 3 is')
  await press(driver, Key.ARROW_UP)
  await said(driver, 'Sentence 3 is at the place of Sentence 2.')
  await press(driver, Key.SPACE)
  await holds(
    driver,
    async () => (await kept(here)).tables[0]?.steps[1]?.kind === 'rename',
    'the sentence did not move',
  )
})

test('a ladder of cases counts its rows, yes-or-no columns are made of values, a missing year is asked, a column is dragged', async () => {
  const { driver } = here.browser
  await open('ladder.csv', 'Fee,Signs,Day\n120,cough; limp,3 May\n40,limp,14/6/2031\n,fever,5 May\n7,,6 May\n')
  await click(driver, 'Add a value asked at replay')
  await fill(driver, 'Name of the value', 'Dear from')
  await choose(driver, 'Type of the value', 'a whole number')
  await click(driver, 'Add')
  await fill(driver, 'Dear from', '100', Key.TAB)
  await see(driver, 'saved a moment ago')
  await head(driver, 'Fee')
  await click(driver, 'Write a value by cases…')
  await click(driver, 'cases: ')
  await choose(driver, 'Test', 'is at least')
  await choose(driver, 'Value: where it comes from', 'asked at replay')
  await fill(driver, 'Value of case 1', 'dear')
  await click(driver, 'Another case')
  await fill(driver, 'Value of case 2', 'fair')
  await fill(driver, 'Value otherwise', 'unknown')
  await see(driver, '“dear” where Fee is at least ‹Dear from›, “fair” where Fee is filled; else “unknown”')
  const counts = async (): Promise<string[]> =>
    (
      await Promise.all(
        (
          await driver.findElements(
            By.css('section[aria-label^="Case"] .figures, [data-radix-popper-content-wrapper] .ml-auto > .figures'),
          )
        ).map((one) => one.getText()),
      )
    ).filter((words) => words.endsWith('row') || words.endsWith('rows'))
  await holds(
    driver,
    async () => (await counts()).join() === '1 row,2 rows,1 row',
    'the rows of the cases are not told',
  )
  await press(driver, Key.ESCAPE)
  await keep(driver)
  expect(await lastStep()).toMatchObject({
    kind: 'cases',
    cases: [
      { when: { column: 'Fee', op: 'at-least', value: { parameter: 'Dear from' } }, then: 'dear' },
      { then: 'fair' },
    ],
    otherwise: 'unknown',
  })

  await head(driver, 'Signs')
  await click(driver, 'Make yes-or-no columns')
  await fill(driver, 'A column for each of these, one a line', 'limp\nfever')
  await click(driver, 'holds it somewhere')
  await see(driver, '+ fever')
  await keep(driver)
  const { tables } = await kept(here)
  expect(tables[0]?.steps.slice(-2).map(({ as }) => as)).toEqual(['limp', 'fever'])

  await head(driver, 'Day')
  await see(driver, 'Some have no year.')
  await fill(driver, 'The missing year', '2032')
  await click(driver, 'Read as a date (4)')
  await see(driver, '2032-05-03')
  await see(driver, '2031-06-14')
  await keep(driver)

  const headOf = (name: string) =>
    element(driver, By.xpath(`//*[@role='columnheader']//button[.//span[normalize-space(.)='${name}']]`))
  const [fee, day] = [await headOf('Fee'), await headOf('Day')]
  await driver.actions().move({ origin: day }).press().move({ origin: fee, x: 20 }).move({ origin: fee }).perform()
  await said(driver, 'Column Day is at the place of Column Fee.')
  await driver.actions().release().perform()
  await see(driver, 'Move the column Day before Fee.')
  await keep(driver)
  expect(await accessible(driver)).toEqual([])
})
