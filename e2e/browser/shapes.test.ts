import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { By, Key } from 'selenium-webdriver'
import { expect, test } from 'vitest'
import { accessible, choose, click, element, fill, give, head, holds, keep, press, see, verb } from './driver.ts'
import { again, fileIn, openAs, session, storyId } from './session.ts'

const here = session()
const write = (name: string, content: string): string => fileIn(here, name, content)
const open = (name: string, content: string): Promise<void> => openAs(here, name, content)

test('years in columns become rows, and a year more is taken in', async () => {
  const { driver } = here.browser
  await open('years.csv', 'Clinic,2030,2031\nOxbow,10,12\nMarlpit,5,\n')
  await head(driver, '2030')
  await head(driver, '2031', Key.SHIFT)
  await click(driver, 'Turn columns into rows')
  await see(driver, 'Turn the columns like “20??” into rows: the name as Year, the value as Value')
  await see(driver, 'From this: 3 columns, 2 rows')
  await see(driver, 'To this: 3 columns, 4 rows')
  await see(driver, '2 columns became rows')
  await see(driver, '1 empty')
  expect(await accessible(driver)).toEqual([])
  await keep(driver)
  expect(await again(here, write('years-2.csv', 'Clinic,2030,2031,2032\nOxbow,10,12,14\nTarn,1,2,3\n'))).toBe(
    'Clinic,Year,Value\nOxbow,2030,10\nOxbow,2031,12\nOxbow,2032,14\nTarn,2030,1\nTarn,2031,2\nTarn,2032,3\n',
  )
})

test('two measures over months become a row a month with a column of each, whatever month or measure comes', async () => {
  const { driver } = here.browser
  await open(
    'months.csv',
    'Clinic,Sales Jan,Quantity Jan,Sales Feb,Quantity Feb\nOxbow,1.5,10,2.5,20\nMarlpit,3,30,4,40\n',
  )
  await head(driver, 'Sales Jan')
  await head(driver, 'Quantity Feb', Key.SHIFT)
  await click(driver, 'Tidy a crosstab with two lines of names')
  await see(driver, 'Make a column of each Measure (whatever comes) with the value of Value')
  await see(driver, '2 labels became columns')
  await keep(driver)
  expect(
    await again(
      here,
      write(
        'months-2.csv',
        'Clinic,Sales Jan,Quantity Jan,Refunds Jan,Sales Mar,Quantity Mar,Refunds Mar\nOxbow,1,10,0.5,2,20,\n',
      ),
    ),
  ).toBe('Clinic,Month,Sales,Quantity,Refunds\nOxbow,Jan,1,10,0.5\nOxbow,Mar,2,20,\n')
})

test('the same as groups side by side, labels cleaned inside the sentence', async () => {
  const { driver } = here.browser
  await open('groups.csv', 'Clinic,Sales Jan,Quantity Jan,Sales Feb,Quantity Feb\nOxbow,1.5,10,2.5,20\n')
  await head(driver, 'Sales Jan')
  await head(driver, 'Quantity Feb', Key.SHIFT)
  await click(driver, 'Turn columns into rows')
  await see(driver, 'the name without “Quantity” or “Sales” as Month')
  await click(driver, 'labels: ')
  await fill(driver, 'Jan is called', 'January')
  await press(driver, Key.ESCAPE)
  await see(driver, 'January')
  await keep(driver)
  expect(await again(here, write('groups-2.csv', 'Clinic,Sales Jan,Quantity Jan,Sales Mar\nOxbow,1,10,3\n'))).toBe(
    'Clinic,Month,Sales,Quantity\nOxbow,January,1,10\nOxbow,Mar,3,\n',
  )
})

test('a form that lies on its side is set upright, whatever forms come', async () => {
  const { driver } = here.browser
  await open('forms.csv', 'Field,Form 1,Form 2\nAnimal,Tess,Otis\nKind,dog,cat\n')
  await verb(driver, 'transpose')
  await see(driver, 'Swap rows and columns, naming the new columns after Field.')
  await see(driver, 'Tess')
  await keep(driver)
  expect(
    await again(
      here,
      write('forms-2.csv', 'Field,Form 1,Form 2,Form 3\nAnimal,Tess,Otis,Fig\nKind,dog,cat,owl\nVet,Ada,,Bo\n'),
    ),
  ).toBe('Name,Animal,Kind,Vet\nForm 1,Tess,dog,Ada\nForm 2,Otis,cat,\nForm 3,Fig,owl,Bo\n')
})

test('several vets in a cell become rows, are counted by vet, collected again as a list and unrolled', async () => {
  const { driver } = here.browser
  await open('vets.csv', 'Visit,Vets\n1,Ada; Bo\n2,Ada\n3,Bo;Cy;Ada\n4,Cy; Bo\n')
  await head(driver, 'Vets')
  await click(driver, 'A row for each')
  await keep(driver)
  await head(driver, 'Vets')
  await verb(driver, 'group by')
  await click(driver, 'measures: ')
  await click(driver, 'Another measure')
  await choose(driver, 'Measure 2', 'list')
  await choose(driver, 'Column of measure 2', 'Visit')
  await see(driver, 'the list of Visit')
  await press(driver, Key.ESCAPE)
  await see(driver, '[1,2,3]')
  await keep(driver)
  expect(await again(here, write('vets-2.csv', 'Visit,Vets\n1,Ada; Bo; Dot; Eve\n'))).toBe(
    'Vets,Rows,List Visit\nAda,1,[1]\nBo,1,[1]\nDot,1,[1]\nEve,1,[1]\n',
  )
})

test('two values for one cell are explained, with ways out; labels can be fixed', async () => {
  const { driver } = here.browser
  await open('clash.csv', 'Clinic,Month,Fee\nOxbow,Jan,1\nOxbow,Jan,2\nOxbow,Feb,4\n')
  await head(driver, 'Month')
  await click(driver, 'Turn rows into columns…')
  await see(driver, 'Two values of “Fee” meet in one cell, for Clinic Oxbow and Month Jan: 1 and 2.')
  await click(driver, 'Take their sum')
  await see(driver, '2 labels became columns')
  await click(driver, 'labels: whatever comes')
  await click(driver, 'just these')
  await press(driver, Key.ESCAPE)
  await see(driver, 'Make a column of each Month (Jan and Feb)')
  await keep(driver)
  expect(await again(here, write('clash-2.csv', 'Clinic,Month,Fee\nOxbow,Feb,1\nOxbow,Mar,9\n'))).toBe(
    'Clinic,Jan,Feb\nOxbow,,1\n',
  )
})

test('summarised by month in one gesture; a figure of the group beside every row; a picture that is kept, downloaded and drawn again', async () => {
  const { driver, downloads } = here.browser
  const content = 'Day,Clinic,Fee\n2031-05-02,Oxbow,10\n2031-05-20,Marlpit,5\n2031-06-01,Oxbow,7\n'
  await open('days.csv', content)
  await head(driver, 'Clinic')
  await head(driver, 'Fee', Key.CONTROL)
  await click(driver, 'Put a figure of its group beside every row…')
  await see(driver, 'Beside every row put the sum of Fee as Total Fee, for each Clinic.')
  await keep(driver)
  await head(driver, 'Day')
  await head(driver, 'Fee', Key.CONTROL)
  await click(driver, 'Summarise by day, week, month…')
  await see(driver, 'Sort the rows by Month.')
  await see(driver, '2031-06')
  await keep(driver)

  await head(driver, 'Month')
  await head(driver, 'Total Fee', Key.CONTROL)
  await click(driver, 'Draw them…')
  await see(driver, 'Keep the picture')
  const canvas = By.css('canvas[aria-label*="2031-05 15"]')
  await element(driver, canvas, 'the bars are not drawn')
  await click(driver, 'Keep the picture')
  await see(driver, 'Take it out')
  expect(await accessible(driver)).toEqual([])
  await click(driver, 'Download as PNG')
  await holds(driver, () => existsSync(join(downloads, 'total-total-fee-by-month.png')), 'no picture arrived')
  // a click on the left half is a click on May
  const drawn = await element(driver, canvas)
  await driver.actions().move({ origin: drawn, x: -120, y: 60 }).click().perform()
  await see(driver, 'Keep the rows where Month is “2031-')
  await press(driver, Key.ESCAPE)

  await click(driver, By.linkText('Replay'))
  await see(driver, 'Tell it again')
  await give(driver, write('days-2.csv', `${content}2031-07-01,Oxbow,30\n`))
  await click(driver, 'Replay the story')
  await see(driver, 'What came out')
  await element(driver, By.css('canvas[aria-label*="2031-07 30"]'), 'the picture is not drawn again')
  expect(await accessible(driver)).toEqual([])
})

test('a picture shows a renamed column by its new name; undo takes back first the name, then the picture', async () => {
  const { driver } = here.browser
  await open('pets.csv', 'Kind,Fee\ncat,3\ndog,4\ncat,5\n')
  const pictures = async (): Promise<readonly (readonly [string, string])[]> => {
    const reply = (await (await fetch(`${here.server.base}/api/flows/${await storyId(here)}`)).json()) as {
      pictures: { label: string; column: string }[]
    }
    return reply.pictures.map(({ label, column }) => [label, column] as const)
  }
  await head(driver, 'Kind')
  await head(driver, 'Fee', Key.CONTROL)
  await click(driver, 'Draw them…')
  await click(driver, 'Keep the picture')
  await see(driver, 'Take it out')
  await click(driver, By.xpath("//*[@role='radio'][contains(., 'row')]"))
  await head(driver, 'Kind')
  await press(driver, Key.F2)
  await fill(driver, 'New name of Kind', 'Species')
  await press(driver, Key.ESCAPE)
  await keep(driver)
  expect(await pictures()).toEqual([['Species', 'Fee']])
  await click(driver, '↶ Undo')
  await holds(driver, async () => (await pictures())[0]?.[0] === 'Kind', 'the picture does not go back to the old name')
  await click(driver, '↶ Undo')
  await holds(driver, async () => (await pictures()).length === 0, 'the picture is still kept')
})

test('totals with a last row for all, values collected as text, gaps filled', async () => {
  await open('totals.csv', 'Clinic,Vet,Fee\nOxbow,Ada,10\nMarlpit,Bo,5\nOxbow,Cy,7\nOxbow,Ada,1\n')
  const { driver } = here.browser
  await head(driver, 'Clinic')
  await head(driver, 'Fee', Key.CONTROL)
  await click(driver, 'Summarise with a grand total row…')
  await see(driver, 'Drop the column Is the total.')
  await keep(driver)
  expect(await again(here, write('totals-2.csv', 'Clinic,Vet,Fee\nOxbow,Ada,10\nTarn,Bo,5\n,Cy,7\n'))).toBe(
    'Clinic,Rows,Total Fee\nOxbow,1,10\nTarn,1,5\n,1,7\nTotal,3,22\n',
  )

  await open('collect.csv', 'Clinic,Vet,Fee\nOxbow,Cy,10\nMarlpit,Bo,5\nOxbow,Ada,7\nOxbow,Ada,1\n')
  await head(driver, 'Vet')
  await click(driver, 'Collect its values for each…')
  await choose(driver, 'In the order of', 'Vet')
  await see(driver, 'Summarise by Clinic: the joined Vet with “, ” between by Vet as Vet.')
  await keep(driver)
  expect(await again(here, write('collect-2.csv', 'Clinic,Vet,Fee\nOxbow,Cy,1\nOxbow,Ada,1\nOxbow,Cy,1\n'))).toBe(
    'Clinic,Vet\nOxbow,"Ada, Cy"\n',
  )

  await open('gaps.csv', 'Clinic,Month,Fee\nOxbow,Jan,1\nMarlpit,Feb,4\n')
  await head(driver, 'Month')
  await click(driver, 'Turn rows into columns…')
  await click(driver, 'value: left empty')
  await fill(driver, 'Value', '0', Key.ENTER)
  await see(driver, 'gaps filled with 0')
  await keep(driver)
  expect(await again(here, write('gaps-2.csv', 'Clinic,Month,Fee\nOxbow,Jan,1\nMarlpit,Feb,4\n'))).toBe(
    'Clinic,Jan,Feb\nOxbow,1,0\nMarlpit,0,4\n',
  )
})
