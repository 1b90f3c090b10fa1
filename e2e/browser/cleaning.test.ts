import { execFileSync } from 'node:child_process'
import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { By, Key } from 'selenium-webdriver'
import { expect, test } from 'vitest'
import { firstDifference } from '@fabula/server/proof'
import { accessible, cell, click, give, head, keep, labelled, see, text } from './driver.ts'
import { demo, root } from './server.ts'
import { session } from './session.ts'

const here = session()
const press = (...keys: string[]): Promise<void> => here.browser.driver.actions().sendKeys(...keys).perform()
const open = async (path: string, rows: string): Promise<void> => {
  const { driver } = here.browser
  await driver.get(here.server.base)
  await give(driver, path)
  await see(driver, rows)
  await click(driver, 'Keep')
  await see(driver, 'Another table')
}
const write = (name: string, content: string): string => {
  const path = join(here.browser.downloads, name)
  writeFileSync(path, content)
  return path
}
type Kept = { recipe: { tables: { steps: Record<string, unknown>[] }[]; parameters?: unknown } }
const kept = async (): Promise<Kept['recipe']> => {
  const id = /flows\/([^/]+)/.exec(await here.browser.driver.getCurrentUrl())?.[1] ?? ''
  return ((await (await fetch(`${here.server.base}/api/flows/${id}`)).json()) as Kept).recipe
}
const lastStep = async (): Promise<Record<string, unknown> | undefined> => (await kept()).tables[0]?.steps.at(-1)

test('a messy intake export is made clean by clicking alone, and its script gives the same table', async () => {
  const { driver, downloads } = here.browser
  await open(demo('intake-2031-05.csv'), '260 rows')
  await click(driver, 'Add a value asked at replay')
  await (await labelled(driver, 'Name of the value')).sendKeys('As of', Key.ENTER)
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

  for (const [column, values] of [['Clinic', '5 values'], ['Breed', '5 values']] as const) {
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
  await (await labelled(driver, 'from Born to: where it comes from')).sendKeys('asked')
  await see(driver, "DATEDIF(Born; $'As of'")
  await keep(driver)
  await head(driver, 'Weight')
  await click(driver, 'Put its numbers into bands…')
  await (await labelled(driver, 'Their names, one a line, from low to high; left out, their limits')).sendKeys('light\nmiddling\nheavy\nvery heavy')
  await see(driver, '“middling” where Weight is less than')
  await keep(driver)
  await head(driver, 'Symptoms')
  await click(driver, 'A row for each')
  await see(driver, 'into a row for each piece')
  await keep(driver)
  expect((await kept()).tables[0]?.steps.length).toBeLessThan(15)

  await driver.findElement(By.linkText('Hand over')).click()
  await see(driver, '# s2')
  const id = /flows\/([^/]+)/.exec(await driver.getCurrentUrl())?.[1] ?? ''
  for (const what of ['recipe', 'python'] as const) writeFileSync(join(downloads, `intake.${what}`), await (await fetch(`${here.server.base}/api/flows/${id}/download/${what}`)).text())
  const engine = execFileSync('node', [join(root, 'cli/bin/fabula.mjs'), 'run', join(downloads, 'intake.recipe'), '--input', `intake=${demo('intake-2031-05.csv')}`, '--output', 'intake=-'], { encoding: 'utf8', maxBuffer: 1e8 })
  execFileSync('/usr/bin/python3', [join(downloads, 'intake.python'), '--input', `intake=${demo('intake-2031-05.csv')}`, '--output', `intake=${join(downloads, 'intake.csv')}`], { stdio: 'pipe' })
  expect(engine.split('\n').length).toBeGreaterThan(300)
  expect(firstDifference(engine, readFileSync(join(downloads, 'intake.csv'), 'utf8'))).toBeUndefined()

  // asked at replay: another day makes the animals older
  await driver.findElement(By.linkText('Replay')).click()
  await give(driver, demo('intake-2031-05.csv'))
  await see(driver, 'What this replay needs to know')
  await driver.executeScript("const i = document.querySelector('section[aria-label=\"Asked at replay\"] input'); Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(i, '2041-06-30'); i.dispatchEvent(new Event('input', { bubbles: true }))")
  await click(driver, 'Replay the story')
  await see(driver, 'What came out')
  await see(driver, '12')
})

test('whether 03/04 is March or April is asked once, and nothing is read before it is answered', async () => {
  const { driver } = here.browser
  await open(write('months.csv', 'Ref,Day\n1,03/04/2031\n2,05/06/2031\n3,not known\n4,\n'), '4 rows')
  await head(driver, 'Day')
  await see(driver, 'Is 03/04/2031 3 April or 4 March? 2 rows can be either.')
  await see(driver, 'Nothing in the column tells.')
  const read = await driver.findElement(By.xpath("//button[starts-with(., 'Read as a date')]"))
  expect(await read.isEnabled()).toBe(false)
  await click(driver, 'month first')
  await click(driver, 'Read as a date (2)')
  await see(driver, '2031-03-04')
  await see(driver, '1 unreadable')
  await keep(driver)
  expect(await lastStep()).toMatchObject({ kind: 'cast', type: 'date', formats: ['M/d/yyyy'] })
})

test('a part of a text is selected, by mouse or keys, and taken from every row', async () => {
  const { driver } = here.browser
  await open(write('codes.csv', 'Code,N\nVAC-12 (dog),1\nCON-7 (cat),2\nDEN (ferret),3\n'), '3 rows')
  const spot = await cell(driver, 'VAC-12 (dog)')
  await (await labelled(driver, 'The text of the cell')).sendKeys(Key.HOME)
  for (let i = 0; i < 3; i++) await driver.actions().keyDown(Key.SHIFT).sendKeys(Key.ARROW_RIGHT).keyUp(Key.SHIFT).perform()
  await see(driver, '“VAC” is selected')
  await click(driver, 'Take what stands before the first “-”')
  await see(driver, '+ Code part')
  await press(Key.ESCAPE)
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
  await open(write('places.csv', 'Place\nOxbow\nOxbow\noxbow\nOxbo\nMarlpit\nMarlpitt\nTarn End\n'), '7 rows')
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
  const name = await labelled(driver, 'Name of group 1')
  await name.sendKeys(Key.chord(Key.CONTROL, 'a'), 'The Oxbow', Key.TAB)
  await see(driver, '“The Oxbow” for')
  await click(driver, 'By hand')
  await (await driver.findElement(By.xpath("//label[contains(., 'Tarn End')]//input"))).click()
  await (await labelled(driver, 'Call them')).sendKeys('Tarn')
  await click(driver, 'Call all of these so')
  await see(driver, '3 groups')
  await click(driver, 'Take it apart')
  await see(driver, '2 groups')
  await keep(driver)
  expect(await lastStep()).toMatchObject({ kind: 'unify', groups: [{ into: 'Marlpit', from: ['Marlpit', 'Marlpitt'] }, { into: 'Tarn', from: ['Tarn End'] }] })

  // several values in the card, called one thing
  await head(driver, 'Place')
  await (await labelled(driver, 'Tick Oxbow')).click()
  await (await labelled(driver, 'Tick oxbow')).click()
  await click(driver, 'Call all of these…')
  await see(driver, '“Oxbow” for “oxbow”')
  await keep(driver)
})

test('a formula is completed, explained, its error underlined and told before it is kept', async () => {
  const { driver } = here.browser
  await open(write('fees.csv', 'Fee paid,Clinic\n12.5,Oxbow\n30,Marlpit\n'), '2 rows')
  await press('/')
  await press('formula', Key.ENTER)
  await click(driver, 'formula: 1')
  const box = await labelled(driver, 'Formula')
  await box.sendKeys(Key.chord(Key.CONTROL, 'a'), 'rou')
  await see(driver, 'ROUND(x; n)')
  await box.sendKeys(Key.ARROW_DOWN, Key.ARROW_UP, Key.TAB, 'fee')
  await see(driver, 'Fee paid')
  await box.sendKeys(Key.TAB, ' * Clinic)')
  await see(driver, 'Clinic is text; * needs numbers')
  expect(await (await driver.findElement(By.css('.decoration-wavy'))).getText()).toBe('Clinic')
  for (let i = 0; i < 7; i++) await box.sendKeys(Key.BACK_SPACE)
  await box.sendKeys('1.2; 1)')
  await see(driver, 'gives numbers')
  await see(driver, '36')
  await press(Key.ESCAPE)
  await keep(driver)
  expect(await lastStep()).toMatchObject({ kind: 'derive', formula: "ROUND('Fee paid' * 1.2; 1)" })
  await driver.get(`${here.server.base}/help/formulas`)
  await see(driver, 'LISTDISTINCT')
  expect(await accessible(driver)).toEqual([])
})

test('sentences are moved where they hold, told in own words, copied to another story, taken out with what needs them', async () => {
  const { driver } = here.browser
  const menu = async (n: number, words: string): Promise<void> => {
    await driver.executeScript('arguments[0].focus()', await labelled(driver, `More for sentence ${n}`))
    await press(Key.ENTER)
    await click(driver, words)
  }
  await open(write('moves.csv', 'A,B\n1,x\n2,y\n'), '2 rows')
  for (const [as, formula] of [['C', 'A + 1'], ['D', 'C * 2']] as const) {
    await press('/')
    await press('formula', Key.ENTER)
    await click(driver, 'formula: 1')
    await (await labelled(driver, 'Formula')).sendKeys(Key.chord(Key.CONTROL, 'a'), formula)
    await press(Key.ESCAPE)
    await click(driver, 'name: New column')
    await (await labelled(driver, 'Name')).sendKeys(Key.chord(Key.CONTROL, 'a'), as, Key.ENTER)
    await see(driver, `Compute ${as} as`)
    await keep(driver)
  }
  await menu(3, 'Move it up')
  await see(driver, 'would not hold there: There is no column “C” here.')
  await menu(2, 'Own words')
  await (await labelled(driver, 'In your own words')).sendKeys('One more than A')
  await (await labelled(driver, 'Note')).sendKeys('asked for by the vets')
  await click(driver, 'Keep the words')
  await see(driver, 'One more than A')
  await click(driver, 'the sentence itself')
  await see(driver, 'Compute C as A + 1.')
  expect((await kept()).tables[0]?.steps[1]?.note).toBe('“One more than A”\nasked for by the vets')
  await menu(2, 'Copy it')
  await menu(2, 'Take it out with the 1 sentence that needs it')
  await driver.wait(async () => !(await text(driver)).includes('Compute D'), 10_000)
  expect((await kept()).tables[0]?.steps).toHaveLength(1)
  await click(driver, '↶ Undo')
  await see(driver, 'Compute D as C * 2.')

  // dragged by its own sentence: the order of two that do not need each other
  await open(write('other.csv', 'A,B\n1,x\n'), '1 row')
  await menu(1, 'Put the copied sentence after it')
  await see(driver, 'One more than A')
  await head(driver, 'B')
  await press(Key.F2)
  await see(driver, 'Rename B to B.')
  await press(Key.ESCAPE)
  const named = await driver.findElement(By.xpath("//*[@role='columnheader']//button[.//span[normalize-space(.)='B']]"))
  await driver.actions().doubleClick(named).perform()
  await (await labelled(driver, 'New name of B')).sendKeys('Kind', Key.ENTER)
  await see(driver, 'Rename B to Kind.')
  await keep(driver)
  await driver.executeScript(`
    const [, second, third] = document.querySelectorAll('section[aria-label="The story"] li[draggable]')
    const data = new DataTransfer()
    const fire = (on, type, y) => on.dispatchEvent(new DragEvent(type, { bubbles: true, cancelable: true, dataTransfer: data, clientY: y }))
    const { top } = second.getBoundingClientRect()
    fire(third, 'dragstart', 0); fire(second, 'dragover', top + 2); fire(second, 'drop', top + 2)`)
  await driver.wait(async () => (await kept()).tables[0]?.steps[1]?.kind === 'rename', 10_000, 'the sentence did not move')
})

test('a ladder of cases counts its rows, yes-or-no columns are made of values, a missing year is asked, a column is dragged', async () => {
  const { driver } = here.browser
  await open(write('ladder.csv', 'Fee,Signs,Day\n120,cough; limp,3 May\n40,limp,14/6/2031\n,fever,5 May\n7,,6 May\n'), '4 rows')
  await click(driver, 'Add a value asked at replay')
  await (await labelled(driver, 'Name of the value')).sendKeys('Dear from')
  await (await labelled(driver, 'Type of the value')).sendKeys('a whole number')
  await click(driver, 'Add')
  const limit = await labelled(driver, 'Dear from')
  await limit.sendKeys(Key.chord(Key.CONTROL, 'a'), '100', Key.TAB)
  await see(driver, 'saved a moment ago')
  await head(driver, 'Fee')
  await click(driver, 'Write a value by cases…')
  await click(driver, 'cases: ')
  await (await labelled(driver, 'Test')).sendKeys('is at least')
  await (await labelled(driver, 'Value: where it comes from')).sendKeys('asked')
  await (await labelled(driver, 'Value of case 1')).sendKeys(Key.chord(Key.CONTROL, 'a'), 'dear')
  await click(driver, 'Another case')
  await (await labelled(driver, 'Value of case 2')).sendKeys(Key.chord(Key.CONTROL, 'a'), 'fair')
  await (await labelled(driver, 'Value otherwise')).sendKeys(Key.chord(Key.CONTROL, 'a'), 'unknown')
  await see(driver, '“dear” where Fee is at least Dear from, “fair” where Fee is filled; else “unknown”')
  const counts = async (): Promise<string[]> => (await Promise.all((await driver.findElements(By.css('section[aria-label^="Case"] .figures, [data-radix-popper-content-wrapper] .ml-auto > .figures'))).map((one) => one.getText()))).filter((words) => words.endsWith('row') || words.endsWith('rows'))
  await driver.wait(async () => (await counts()).join() === '1 row,2 rows,1 row', 10_000, 'the rows of the cases are not told')
  await press(Key.ESCAPE)
  await keep(driver)
  expect(await lastStep()).toMatchObject({ kind: 'cases', cases: [{ when: { column: 'Fee', op: 'at-least', value: { parameter: 'Dear from' } }, then: 'dear' }, { then: 'fair' }], otherwise: 'unknown' })

  await head(driver, 'Signs')
  await click(driver, 'Make yes-or-no columns')
  await (await labelled(driver, 'A column for each of these, one a line')).sendKeys(Key.chord(Key.CONTROL, 'a'), 'limp\nfever')
  await click(driver, 'holds it somewhere')
  await see(driver, '+ fever')
  await keep(driver)
  const { tables } = await kept()
  expect(tables[0]?.steps.slice(-2).map(({ as }) => as)).toEqual(['limp', 'fever'])

  await head(driver, 'Day')
  await see(driver, 'Some have no year.')
  await (await labelled(driver, 'The missing year')).sendKeys(Key.chord(Key.CONTROL, 'a'), '2032')
  await click(driver, 'Read as a date (4)')
  await see(driver, '2032-05-03')
  await see(driver, '2031-06-14')
  await keep(driver)

  await driver.executeScript(`
    const heads = [...document.querySelectorAll('[role=columnheader]')]
    const [fee, day] = ['Fee', 'Day'].map((name) => heads.find((one) => one.textContent.startsWith(name)))
    const data = new DataTransfer()
    const fire = (on, type, x) => on.dispatchEvent(new DragEvent(type, { bubbles: true, cancelable: true, dataTransfer: data, clientX: x }))
    const { left } = fee.getBoundingClientRect()
    fire(day, 'dragstart', 0); fire(fee, 'dragover', left + 2); fire(fee, 'drop', left + 2)`)
  await see(driver, 'Move the column Day before Fee.')
  await keep(driver)
  expect(await accessible(driver)).toEqual([])
})
