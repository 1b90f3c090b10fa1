import { By, Key } from 'selenium-webdriver'
import { expect, test } from 'vitest'
import {
  accessible,
  cell,
  choose,
  click,
  dragByFinger,
  element,
  fill,
  give,
  grid,
  head,
  holds,
  keep,
  keepOpened,
  labelled,
  menu,
  press,
  see,
  text,
  tick,
} from './driver.ts'
import { demo } from './server.ts'
import { fileIn, openAs, replayed, session } from './session.ts'

const here = session()
const write = (name: string, content: string): string => fileIn(here, name, content)
const open = (name: string, content: string): Promise<void> => openAs(here, name, content)
const more = async (name: string, content: string): Promise<void> => {
  const { driver } = here.browser
  await (await labelled(driver, 'Files for another table')).sendKeys(write(name, content))
  await keepOpened(driver)
  await see(driver, 'Another table')
}
test('the join bench: keys are suggested, who meets nobody is told why and mended, repeated keys are seen, and the rows of each way are those it gives', async () => {
  const { driver } = here.browser
  await open('visits.csv', 'Ref,Service,Fee\n1,VAC-1,40\n2,con-1,38\n3,XRY-1,70\n4,007,5\n5,BLD-2 ,60\n6,ZZZ,1\n')
  await head(driver, 'Ref')
  await click(driver, 'Match with another table…')
  await see(driver, 'There is no other table in this story yet')
  await more(
    'prices.csv',
    'Code,Fee,Kind\nVAC-1,41,vaccination\nCON-1,39,consultation\nXRY-1,72,imaging\nXRY-1,78,imaging\n7,12,other\nBLD-2,67,laboratory\nGRM-1,29,grooming\n',
  )
  await click(driver, 'Visits')
  await head(driver, 'Service')
  await click(driver, 'Match with another table…')
  await see(driver, 'Match with Prices where Service is its Code')
  await see(driver, '4\nmeet none')
  await see(driver, '1\nmeet several: rows multiply')
  await see(driver, 'Keep every row of Visits\n7 rows, 1 more')
  await see(driver, 'Only where both meet\n3 rows, 3 fewer')
  expect(await accessible(driver)).toEqual([])
  await click(driver, '4 meet none')
  await see(driver, '4 of 6 rows')
  await see(driver, 'XRY-1 stands twice in Prices.')

  await click(driver, 'Let case not matter')
  await click(driver, 'Let those spaces not matter')
  await click(driver, 'Take the zeros off')
  await see(driver, 'In Service replace')
  await see(driver, '1\nmeet none')
  await click(driver, 'Take the first')
  await see(driver, 'Keep every row of Visits\n6 rows')
  await click(driver, By.xpath("//*[@role='checkbox'][contains(., 'Kind')]"))
  await see(driver, 'bringing Fee of the first match')
  await see(driver, 'Fee as Fee 2')
  await fill(driver, 'Put before each brought name', 'List ')
  await see(driver, 'Fee as List Fee')
  await click(driver, 'What comes out: 6 rows')
  await holds(
    driver,
    async () =>
      JSON.stringify(await grid(driver)).includes('["5","BLD-2 ","60","67"]') ||
      JSON.stringify(await grid(driver)).includes('["5","BLD-2·","60","67"]'),
    'the fee did not come along',
  )
  await keep(driver)
  // opened again by its words, another way of joining is chosen for what it keeps
  await click(driver, 'match: keep every row here')
  await click(driver, 'Only Visits that meet none')
  await see(driver, 'keep only rows here that match nothing there')
  await see(driver, 'What comes out: 1 row')
  await keep(driver)
  expect(
    await replayed(here, 'visits', {
      visits: write('visits.csv', 'Ref,Service,Fee\n1,vac-1,40\n9,QQQ,2\n'),
      prices: write('prices.csv', 'Code,Fee,Kind\nVAC-1,41,v\n'),
    }),
  ).toBe('Ref,Service,Fee\n9,QQQ,2\n')
})

test('keys of different types are read as each other on the bench, and one of two rows may be asked for', async () => {
  const { driver } = here.browser
  await open('lines.csv', 'Item,Count\nA1,2\n12,3\n')
  await more('items.csv', 'Number,Name\n12,Bandage\n12,Gauze\n')
  await click(driver, 'Lines')
  await click(driver, 'Match with another table…')
  await choose(driver, 'Key here, 1', 'Item')
  await choose(driver, 'Key there, 1', 'Number')
  await see(driver, 'Items: Number is not text.')
  await see(driver, 'Then 1 row meet')
  await click(driver, 'Read it as text')
  await see(driver, '12 stands twice in Items.')
  await click(driver, 'one, or stop')
  await see(driver, 'matches 2 rows of Items, and only one match is allowed')
  await click(driver, 'the first')
  await keep(driver)
  // the sentence that the other table needed was kept with it
  await click(driver, 'Items')
  await see(driver, 'Read Number as text')
})

test('the workbook of ten sheets, one with a column named differently, is united on the bench', async () => {
  const { driver } = here.browser
  await driver.get(here.server.base)
  await give(driver, demo('visits-2030.xlsx'))
  await see(driver, 'Oct 2030')
  for (const month of ['Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct'])
    await tick(driver, `${month} 2030`)
  await see(driver, '25 rows · 5 columns')
  await keepOpened(driver)
  await see(driver, 'Another table')
  await click(driver, 'Lay other tables underneath…')
  await (await labelled(driver, 'Files to lay underneath')).sendKeys(demo('visits-2030.xlsx'))
  await see(driver, '10 tables, 214 rows')
  // the same ones again are asked about
  await (await labelled(driver, 'Files to lay underneath')).sendKeys(demo('visits-2030.xlsx'))
  await see(driver, 'Jan 2030 is here already as Visits')
  await click(driver, 'Leave it')
  await click(driver, '✓ Feb 2030')
  await see(driver, 'Feb 2030 lies underneath already. Twice, its rows would count double.')
  await click(driver, 'Lay it twice')
  await see(driver, '11 tables, 234 rows')
  await click(driver, 'Take Feb 2030 away')
  await see(driver, '10 tables, 214 rows')
  await see(driver, 'Patient of Aug 2030 may be Animal: 100 % of its values stand there too')
  expect(await accessible(driver)).toEqual([])
  // dragged by a finger from its own row to the one it belongs to
  const rowOf = (name: string): By => By.xpath(`//tbody/tr[starts-with(normalize-space(th), '${name}')]`)
  await dragByFinger(
    driver,
    await (await element(driver, rowOf('Patient'))).findElement(By.css('button')),
    await element(driver, rowOf('Animal')),
  )
  await see(driver, '1 column laid together')
  await see(driver, 'What comes out: 214 rows')
  await keep(driver)
  await head(driver, 'Animal')
  await see(driver, '214 rows')
  const facts = await text(driver)
  expect(facts).toContain('6 columns')
  await click(driver, 'See how the 10 tables hang together')
  await see(driver, 'from visits-2030.xlsx')
  await holds(
    driver,
    async () => (await driver.findElements(By.css('[aria-label="How the tables hang together"] svg g'))).length === 9,
    'not nine tables feed one',
  )
  expect(await accessible(driver)).toEqual([])
  await holds(driver, async () => /Visits\n[^]*214 rows/.test(await text(driver)), 'the table does not say its rows')
})

test('same name, other thing: taken apart; types that differ are told; only shared columns', async () => {
  const { driver } = here.browser
  await open('north.csv', 'Clinic,Code,Visits\nOxbow,A,3\n')
  await more('south.csv', 'Clinic,Code,Visits,Remark\nTarn End,7,many,x\n')
  await click(driver, 'North')
  await click(driver, 'Lay other tables underneath…')
  await see(driver, 'a whole number and text: becomes text')
  await click(driver, By.xpath("//tr[th[starts-with(normalize-space(.), 'Code')]]/td[2]//button"))
  await click(driver, 'It is something else')
  await see(driver, 'Code 2')
  await click(driver, 'only those that all have')
  await keep(driver)
  expect(
    await replayed(here, 'north', {
      north: write('north.csv', 'Clinic,Code,Visits\nOxbow,A,3\n'),
      south: write('south.csv', 'Clinic,Code,Visits,Remark\nTarn End,7,many,x\n'),
    }),
  ).toBe('Clinic,Visits,Table\nOxbow,3,North\nTarn End,many,South\n')
})

test('the first and the latest visit of each animal: branches, summaries joined back, tags, a union, and a check of the count', async () => {
  const { driver } = here.browser
  const visits =
    'Animal,Day,Clinic,Fee\nMoss,2031-05-02,Oxbow,10\nFig,2031-05-03,Marlpit,20\nMoss,2031-05-09,Tarn End,30\nMoss,2031-06-01,Oxbow,40\nFig,2031-06-04,Oxbow,50\n'
  await open('visits.csv', visits)
  const side = async (name: string, how: 'least' | 'greatest', words: string): Promise<void> => {
    await menu(driver, 'More for the table Visits', 'Continue from it as a new table')
    await see(driver, 'Start from the rows of')
    await menu(driver, `More for the table Visits, continued`, 'Rename the table…')
    await fill(driver, 'Name of the table', `${name}${Key.ENTER}`)
    await see(driver, name)
    await head(driver, 'Animal')
    await click(driver, 'Summarise by this column')
    await click(driver, 'measures: the count of rows as Rows')
    await choose(driver, 'Measure 1', how)
    await choose(driver, 'Column of measure 1', 'Day')
    await fill(driver, 'Name of measure 1', 'Day')
    await press(driver, Key.ESCAPE)
    await keep(driver)
    await head(driver, 'Animal')
    await click(driver, 'Match with another table…')
    await choose(driver, 'Match with', 'with Visits')
    // by animal alone rows would multiply: the day is suggested along
    await see(driver, 'Animal is the same and Day is the same')
    await see(driver, '0\nmeet several: rows multiply')
    await click(driver, 'Animal (100 %, keys repeat)')
    await see(driver, '2\nmeet several: rows multiply')
    await click(driver, 'Animal and Day (100 %)')
    await see(driver, '2\nrows of First visits meet one'.replace('First visits', name))
    await keep(driver)
    await see(driver, '2 match')
    await head(driver, 'Animal')
    await click(driver, 'Write the same in every row…')
    await fill(driver, 'In every row write', words)
    await fill(driver, 'in a column called', 'Which')
    await see(driver, `Compute Which as "${words}"`)
    await keep(driver)
  }
  await side('First visits', 'least', 'first')
  await side('Latest visits', 'greatest', 'latest')
  await click(driver, 'Lay other tables underneath…')
  await see(driver, 'Lay First visits underneath')
  await tick(driver, 'a column with the table')
  await see(driver, '2 tables, 4 rows')
  await keep(driver)
  await see(driver, '+2 rows')
  await click(driver, 'Check that…')
  await click(driver, 'check: the number of rows is')
  await fill(driver, 'at least', '4')
  await fill(driver, 'at most', '4')
  await press(driver, Key.ESCAPE)
  await see(driver, '✓ holds')
  await click(driver, 'choice: warn')
  await click(driver, 'stop')
  await keep(driver)
  const rows =
    'Animal,Day,Clinic,Fee,Which\nMoss,2031-06-01,Oxbow,40,latest\nFig,2031-06-04,Oxbow,50,latest\nMoss,2031-05-02,Oxbow,10,first\nFig,2031-05-03,Marlpit,20,first\n'
  expect(await replayed(here, 'visits-3', { visits: write('visits.csv', visits) })).toBe(rows)
  // an animal more is two rows more: the check says so, and nothing is written
  expect(
    await replayed(here, 'visits-3', { visits: write('visits.csv', `${visits}Hazel,2031-06-09,Oxbow,5\n`) }, true),
  ).toMatch(/^exit 5:[^]*the number of rows is/)
})

test('a table branches amid its story, a column and a table renamed are so everywhere, totals are held against another table, and the difference is explained', async () => {
  const { driver } = here.browser
  await open('fees.csv', 'Clinic,Fee\nOxbow,10\nMarlpit,20\nOxbow,-1\n')
  await cell(driver, '-1')
  await click(driver, 'Drop rows where it is “-1”')
  await keep(driver)
  await head(driver, 'Clinic')
  await click(driver, 'Summarise by this column')
  await keep(driver)
  await menu(driver, 'More for sentence 1', 'Continue from here as a new table')
  await see(driver, 'Start from the rows of')
  await see(driver, 'Fees, first part')
  // the total of what came in is held against that of the rows that were kept
  await click(driver, 'Check that…')
  await click(driver, 'check: the number of rows is')
  await click(driver, 'a total')
  await choose(driver, 'Held against', 'that of a column of Fees')
  await choose(driver, 'Column there', 'Rows')
  await press(driver, Key.ESCAPE)
  await see(driver, 'the total of Fee is that of Rows in Fees')
  await see(driver, '✗ does not hold')
  await keep(driver)
  await menu(driver, 'More for the table Fees', 'Rename the table…')
  await fill(driver, 'Name of the table', `Counts${Key.ENTER}`)
  await see(driver, 'that of Rows in Counts')
  // the figure of a check shows exactly the rows that are against it
  await cell(driver, '-1')
  await click(driver, 'Check that no row holds it')
  await see(driver, 'Check that every row meets: Fee is not -1, else warn.')
  await keep(driver)
  await click(driver, By.xpath("(//button[contains(., 'does not hold')])[2]"))
  await holds(
    driver,
    async () => JSON.stringify(await grid(driver)) === '[["Oxbow","-1"]]',
    'not just the rows that are against it',
  )
  // a column that gets another name at its beginning has it in every sentence after
  await click(driver, 'Fees, first part')
  await head(driver, 'Clinic')
  await press(driver, Key.F2)
  await see(driver, 'Rename')
  await fill(driver, 'New name of Clinic', 'Place')
  await press(driver, Key.ESCAPE)
  await keep(driver)
  await click(driver, 'Counts')
  await see(driver, 'Summarise by Place')
  // what differs between this table and the one it came from
  await menu(driver, 'More for sentence 2', 'Explain the difference to another moment…')
  await see(driver, '1\nrow stands only after sentence 1')
  await see(driver, '2\nrows are the same')
  expect(await accessible(driver)).toEqual([])
  await choose(driver, 'Tell rows apart by', 'by Fee')
  await see(driver, 'Rows belong together where Fee is the same')
  await click(driver, 'Back to the rows')
})
