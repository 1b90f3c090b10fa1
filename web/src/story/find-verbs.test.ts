import { describe, expect, test } from 'vitest'
import type { Recipe, Schema, Selection } from '@fabula/core'
import { findVerbs, verbsAt } from './find-verbs.ts'
import { namedVerbs } from './named-verbs/index.ts'

const schema: Schema = [
  { name: 'Visit date', type: 'date' },
  { name: 'Clinic', type: 'text' },
  { name: 'Patient', type: 'text' },
  { name: 'Fee', type: 'decimal' },
  { name: 'Paid', type: 'decimal' },
  { name: 'Left on', type: 'date' },
  { name: 'Arrived', type: 'time' },
  { name: 'Tags', type: 'list' },
]
const prices = { id: 'prices', name: 'Prices' }
const recipe: Recipe = { fabula: 1, name: 'Visits', inputs: [], tables: [{ ...prices, steps: [] }] }
/** The verbs of each selection, found once as the page does when its field is opened. */
const verbs = new Map<string, ReturnType<typeof verbsAt>>()
const found = (text: string, selection: Selection = { kind: 'table' }) => {
  const key = JSON.stringify(selection)
  const known = verbs.get(key) ?? verbsAt({ selection, schema, tables: [prices] }, recipe)
  verbs.set(key, known)
  return findVerbs(text, known)
}

/** What people type, the verb that must stand first, and the sentence it begins where it begins one. */
const phrases: readonly (readonly [typed: string, verb: string, sentence: string])[] = [
  ['drop rows', 'Drop rows where…', 'Drop the rows where Visit date is empty.'],
  ['delete rows', 'Drop rows where…', 'Drop the rows where Visit date is empty.'],
  ['remove rows', 'Drop rows where…', 'Drop the rows where Visit date is empty.'],
  ['exclude', 'Drop rows where…', 'Drop the rows where Visit date is empty.'],
  ['filter out', 'Drop rows where…', 'Drop the rows where Visit date is empty.'],
  ['keep rows', 'Keep rows where…', 'Keep the rows where Visit date is filled.'],
  ['filter', 'Keep rows where…', 'Keep the rows where Visit date is filled.'],
  ['where', 'Keep rows where…', 'Keep the rows where Visit date is filled.'],
  ['remove blank rows', 'Drop rows that are empty there', 'Keep the rows where Visit date is filled.'],
  ['drop nulls', 'Drop rows that are empty there', 'Keep the rows where Visit date is filled.'],
  ['sort', 'Sort the rows', 'Sort the rows by Visit date.'],
  ['order by', 'Sort the rows', 'Sort the rows by Visit date.'],
  ['ascending', 'Sort the rows', 'Sort the rows by Visit date.'],
  ['descending', 'Sort the rows, largest first', 'Sort the rows by Fee from high to low.'],
  ['z to a', 'Sort the rows, largest first', 'Sort the rows by Fee from high to low.'],
  ['newest first', 'Sort the rows, largest first', 'Sort the rows by Fee from high to low.'],
  ['top 10', 'Keep the ten largest', 'Sort the rows by Fee from high to low. Keep the first 10 rows.'],
  ['bottom 10', 'Keep the ten smallest', 'Sort the rows by Fee. Keep the first 10 rows.'],
  ['head', 'Keep the first rows', 'Keep the first 100 rows.'],
  ['tail', 'Keep the last rows', 'Keep the last 100 rows.'],
  ['limit', 'Keep the first rows', 'Keep the first 100 rows.'],
  ['first rows', 'Keep the first rows', 'Keep the first 100 rows.'],
  ['last rows', 'Keep the last rows', 'Keep the last 100 rows.'],
  ['skip rows', 'Skip the first rows', 'Keep all but the first 1 row.'],
  ['sample', 'Keep every n-th row', 'Keep one row in 2.'],
  ['remove duplicates', 'Keep one row of those alike', 'Keep the first row of those alike in all columns.'],
  ['distinct', 'Keep one row of those alike', 'Keep the first row of those alike in all columns.'],
  ['unique', 'Keep one row of those alike', 'Keep the first row of those alike in all columns.'],
  ['dedupe', 'Keep one row of those alike', 'Keep the first row of those alike in all columns.'],
  ['row number', 'Number the rows', 'Number the rows from 1 as Number.'],
  ['index', 'Number the rows', 'Number the rows from 1 as Number.'],
  ['sequence', 'Number the rows', 'Number the rows from 1 as Number.'],
  ['rename', 'Rename a column', 'Rename Visit date to Visit date.'],
  ['change name', 'Rename a column', 'Rename Visit date to Visit date.'],
  ['drop column', 'Drop columns', 'Drop the column Tags.'],
  ['delete column', 'Drop columns', 'Drop the column Tags.'],
  ['remove columns', 'Drop columns', 'Drop the column Tags.'],
  [
    'keep columns',
    'Keep only these columns',
    'Keep the columns Visit date, Clinic, Patient, Fee and 4 more in this order, and drop the others.',
  ],
  [
    'select columns',
    'Keep only these columns',
    'Keep the columns Visit date, Clinic, Patient, Fee and 4 more in this order, and drop the others.',
  ],
  ['reorder columns', 'Move columns', 'Move the column Tags to the front.'],
  ['move column', 'Move columns', 'Move the column Tags to the front.'],
  ['duplicate column', 'Copy a column', 'Copy the column Visit date as Visit date copy.'],
  ['copy column', 'Copy a column', 'Copy the column Visit date as Visit date copy.'],
  ['change type', 'Change its type', 'Read Visit date as text.'],
  ['cast', 'Change its type', 'Read Visit date as text.'],
  ['convert', 'Change its type', 'Read Visit date as text.'],
  ['data type', 'Change its type', 'Read Visit date as text.'],
  ['text to number', 'Read it as a number', 'Read Clinic as a number.'],
  ['to number', 'Read it as a number', 'Read Clinic as a number.'],
  ['text to date', 'Read it as a date', 'Read Clinic as a date, written year-month-day.'],
  ['parse date', 'Read it as a date', 'Read Clinic as a date, written year-month-day.'],
  ['number to text', 'Read it as text', 'Read Fee as text.'],
  ['boolean', 'Read it as yes or no', 'Read Clinic as yes or no.'],
  [
    'clean column names',
    'Tidy the names of columns',
    'Write the names of all columns with spaces at the ends taken off.',
  ],
  ['first row as header', 'Take the names from a row', 'Take row 1 for the names of the columns.'],
  ['promote headers', 'Take the names from a row', 'Take row 1 for the names of the columns.'],
  ['demote headers', 'Put the names into the first row', 'Put the names of the columns into the first row.'],
  ['trim', 'Clean the text', 'In Clinic take the spaces at the ends off and make each run of spaces one blank.'],
  ['clean', 'Clean the text', 'In Clinic take the spaces at the ends off and make each run of spaces one blank.'],
  [
    'remove spaces',
    'Clean the text',
    'In Clinic take the spaces at the ends off and make each run of spaces one blank.',
  ],
  ['whitespace', 'Clean the text', 'In Clinic take the spaces at the ends off and make each run of spaces one blank.'],
  ['upper case', 'Write it in capital letters', 'In Clinic make all letters large.'],
  ['lowercase', 'Write it in small letters', 'In Clinic make all letters small.'],
  ['capitalise', 'Write it with large first letters', 'In Clinic make each first letter large.'],
  ['title case', 'Write it with large first letters', 'In Clinic make each first letter large.'],
  ['proper case', 'Write it with large first letters', 'In Clinic make each first letter large.'],
  ['remove digits', 'Take the digits out', 'In Clinic take digits out.'],
  ['remove letters', 'Take the letters out', 'In Clinic take letters out.'],
  ['remove punctuation', 'Take the punctuation out', 'In Clinic take punctuation out.'],
  ['special characters', 'Take the punctuation out', 'In Clinic take punctuation out.'],
  ['split', 'Split the text…', 'Split Clinic at every “,” into as many columns as there are pieces, and drop it.'],
  [
    'text to columns',
    'Split the text…',
    'Split Clinic at every “,” into as many columns as there are pieces, and drop it.',
  ],
  ['delimiter', 'Split the text…', 'Split Clinic at every “,” into as many columns as there are pieces, and drop it.'],
  ['split to rows', 'Split the text into rows', 'Split Clinic at every “,” into a row for each piece, and drop it.'],
  ['substring', 'Take a part of the text…', 'Take what stands before the first “-” in Clinic as Clinic part.'],
  ['extract', 'Take a part of the text…', 'Take what stands before the first “-” in Clinic as Clinic part.'],
  ['regex', 'Take a part of the text…', 'Take what stands before the first “-” in Clinic as Clinic part.'],
  ['left', 'Take the first characters', 'Compute Clinic 2 as LEFT(Clinic; 3).'],
  ['right', 'Take the last characters', 'Compute Clinic 2 as RIGHT(Clinic; 3).'],
  ['length', 'Count its characters', 'Compute Clinic 2 as LEN(Clinic).'],
  ['pad', 'Fill it up to a length', 'Compute Clinic 2 as PADLEFT(Clinic; 3; "0").'],
  ['leading zeros', 'Fill it up to a length', 'Compute Clinic 2 as PADLEFT(Clinic; 3; "0").'],
  ['prefix', 'Put text before or after it', 'Compute Clinic 2 as Clinic.'],
  ['suffix', 'Put text before or after it', 'Compute Clinic 2 as Clinic.'],
  [
    'concatenate',
    'Combine columns into one text',
    'Combine Visit date and Clinic as Visit date Clinic, with “ ” between, and keep them.',
  ],
  [
    'merge columns',
    'Combine columns into one text',
    'Combine Visit date and Clinic as Visit date Clinic, with “ ” between, and keep them.',
  ],
  [
    'join text',
    'Combine columns into one text',
    'Combine Visit date and Clinic as Visit date Clinic, with “ ” between, and keep them.',
  ],
  [
    'full name',
    'Combine columns into one text',
    'Combine Visit date and Clinic as Visit date Clinic, with “ ” between, and keep them.',
  ],
  ['replace', 'Replace a value…', 'In Clinic replace “ ” by nothing, wherever it stands inside.'],
  ['find and replace', 'Replace a value…', 'In Clinic replace “ ” by nothing, wherever it stands inside.'],
  ['recode', 'Replace a value…', 'In Clinic replace “ ” by nothing, wherever it stands inside.'],
  ['fuzzy', 'Give one spelling…', 'In Clinic write nothing yet.'],
  ['typos', 'Give one spelling…', 'In Clinic write nothing yet.'],
  ['standardise', 'Give one spelling…', 'In Clinic write nothing yet.'],
  ['spelling', 'Give one spelling…', 'In Clinic write nothing yet.'],
  ['fill down', 'Fill the gaps from the cell above', 'Fill the gaps in Clinic from the cell above.'],
  ['forward fill', 'Fill the gaps from the cell above', 'Fill the gaps in Clinic from the cell above.'],
  ['merged cells', 'Fill the gaps from the cell above', 'Fill the gaps in Clinic from the cell above.'],
  ['fill up', 'Fill the gaps from the cell below', 'Fill the gaps in Clinic from the cell below.'],
  ['fill empty', 'Fill empty cells with a value', 'Where Clinic is empty, put “unknown”.'],
  ['replace nulls', 'Fill empty cells with a value', 'Where Clinic is empty, put “unknown”.'],
  ['coalesce', 'Fill empty cells with a value', 'Where Clinic is empty, put “unknown”.'],
  ['missing values', 'Fill empty cells with a value', 'Where Clinic is empty, put “unknown”.'],
  ['null if', 'Make values empty', 'In Clinic make “n/a” empty.'],
  ['make empty', 'Make values empty', 'In Clinic make “n/a” empty.'],
  ['round', 'Round it', 'Compute Fee rounded as ROUND(Fee; 2).'],
  ['add', 'Add to it', 'Compute Fee plus 1.2 as ROUND(Fee + 1.2; 2).'],
  ['subtract', 'Take away from it', 'Compute Fee minus 1.2 as ROUND(Fee - 1.2; 2).'],
  ['multiply', 'Multiply it', 'Compute Fee times 1.2 as ROUND(Fee * 1.2; 2).'],
  ['divide', 'Divide it', 'Compute Fee by 1.2 as ROUND(Fee / 1.2; 2).'],
  ['absolute value', 'Take its absolute value', 'Compute Fee without sign as ABS(Fee).'],
  [
    'bins',
    'Put its numbers into bands…',
    'Write Band of Fee as “below 25” where Fee is less than 25, “25 to 50” where Fee is less than 50 and 2 more cases; else nothing.',
  ],
  [
    'bucket',
    'Put its numbers into bands…',
    'Write Band of Fee as “below 25” where Fee is less than 25, “25 to 50” where Fee is less than 50 and 2 more cases; else nothing.',
  ],
  [
    'age group',
    'Put its numbers into bands…',
    'Write Band of Fee as “below 25” where Fee is less than 25, “25 to 50” where Fee is less than 50 and 2 more cases; else nothing.',
  ],
  ['row total', 'Add columns up in each row…', 'Compute Sum of Fee and Paid as SUM(Fee; Paid).'],
  ['sum of columns', 'Add columns up in each row…', 'Compute Sum of Fee and Paid as SUM(Fee; Paid).'],
  ['year', 'Take the year', "Compute Year of Visit date as YEAR('Visit date')."],
  ['quarter', 'Take the quarter', "Compute Quarter of Visit date as QUARTER('Visit date')."],
  ['month', 'Take the month', "Compute Month of Visit date as MONTH('Visit date')."],
  ['month name', 'Take the name of the month', "Compute Month of Visit date as MONTHNAME('Visit date')."],
  ['week number', 'Take the week', "Compute Week of Visit date as ISOWEEKNUM('Visit date')."],
  ['weekday', 'Take the day of the week', "Compute Day of Visit date as DAYNAME('Visit date')."],
  ['day of week', 'Take the day of the week', "Compute Day of Visit date as DAYNAME('Visit date')."],
  [
    'start of month',
    'Take the first of its month',
    'Compute Month of Visit date as DATETRUNC(\'Visit date\'; "month").',
  ],
  ['end of month', 'Take the last day of its month', "Compute Month end of Visit date as EOMONTH('Visit date'; 0)."],
  [
    'date difference',
    'Count the days between two dates',
    "Compute Days since Visit date as DAYS('Left on'; 'Visit date').",
  ],
  [
    'days between',
    'Count the days between two dates',
    "Compute Days since Visit date as DAYS('Left on'; 'Visit date').",
  ],
  ['age', 'Count the years to a date', ''],
  ['months between', 'Count the months to a date', ''],
  ['add months', 'Move it by months', "Compute Visit date one month on as EDATE('Visit date'; 1)."],
  ['date and time', 'Put date and time together', "Compute Moment as DATETIME('Visit date'; Arrived)."],
  ['timestamp', 'Put date and time together', "Compute Moment as DATETIME('Visit date'; Arrived)."],
  ['group by', 'Summarise', 'Summarise by Clinic: the count of rows as Rows.'],
  ['aggregate', 'Summarise', 'Summarise by Clinic: the count of rows as Rows.'],
  ['count', 'Count the rows of each', 'Summarise by Clinic: the count of rows as Rows.'],
  ['frequency', 'Count the rows of each', 'Summarise by Clinic: the count of rows as Rows.'],
  ['sum', 'Add up for each', 'Summarise by Clinic: the sum of Fee as Total Fee.'],
  ['total', 'Add up for each', 'Summarise by Clinic: the sum of Fee as Total Fee.'],
  ['average', 'Take the mean of each', 'Summarise by Clinic: the mean of Fee as Mean Fee.'],
  ['mean', 'Take the mean of each', 'Summarise by Clinic: the mean of Fee as Mean Fee.'],
  ['median', 'Take the median of each', 'Summarise by Clinic: the median of Fee as Median Fee.'],
  ['minimum', 'Take the least of each', 'Summarise by Clinic: the least Fee as Least Fee.'],
  ['maximum', 'Take the greatest of each', 'Summarise by Clinic: the greatest Fee as Greatest Fee.'],
  [
    'count distinct',
    'Count the different values of each',
    'Summarise by Clinic: the different values of Visit date as Different Visit date.',
  ],
  [
    'by month',
    'Summarise by month',
    'Compute Month as TEXT(\'Visit date\'; "yyyy-MM"). Summarise by Month: the count of rows as Rows. Sort the rows by Month.',
  ],
  [
    'monthly',
    'Summarise by month',
    'Compute Month as TEXT(\'Visit date\'; "yyyy-MM"). Summarise by Month: the count of rows as Rows. Sort the rows by Month.',
  ],
  [
    'by week',
    'Summarise by week',
    'Compute Week as DATETRUNC(\'Visit date\'; "week"). Summarise by Week: the count of rows as Rows. Sort the rows by Week.',
  ],
  [
    'yearly',
    'Summarise by year',
    "Compute Year as YEAR('Visit date'). Summarise by Year: the count of rows as Rows. Sort the rows by Year.",
  ],
  [
    'grand total',
    'Summarise with a grand total row…',
    'Compute Clinic as LIST(Clinic & ""; "Total"). Make a row of each item of Clinic. Summarise by Clinic: the count of rows as Rows, the sum of Fee as Total Fee and the sum of Paid as Total Paid. Compute Is the total as Clinic = "Total". Sort the rows by Is the total. Drop the column Is the total.',
  ],
  [
    'group concat',
    'Collect its values for each…',
    'Keep the first row of those alike in the columns Patient and Clinic. Summarise by Patient: the joined Clinic with “, ” between as Clinic.',
  ],
  [
    'collect',
    'Collect its values for each…',
    'Keep the first row of those alike in the columns Patient and Clinic. Summarise by Patient: the joined Clinic with “, ” between as Clinic.',
  ],
  [
    'running total',
    'Put the running total beside every row',
    'Beside every row put the running sum of Fee as Running Fee, for each Clinic, by Visit date.',
  ],
  [
    'cumulative',
    'Put the running total beside every row',
    'Beside every row put the running sum of Fee as Running Fee, for each Clinic, by Visit date.',
  ],
  [
    'rank',
    'Put its rank beside every row',
    'Beside every row put the rank as Rank by Fee, for each Clinic, by Fee from high to low.',
  ],
  [
    'previous row',
    'Put the value before it beside every row',
    'Beside every row put the previous Fee as Fee before, for each Clinic, by Visit date.',
  ],
  [
    'lag',
    'Put the value before it beside every row',
    'Beside every row put the previous Fee as Fee before, for each Clinic, by Visit date.',
  ],
  [
    'next row',
    'Put the value after it beside every row',
    'Beside every row put the next Fee as Fee after, for each Clinic, by Visit date.',
  ],
  [
    'share of total',
    'Put its share beside every row',
    'Beside every row put the share in its group of Fee as Share of Fee, for each Clinic.',
  ],
  [
    'percent of total',
    'Put its share beside every row',
    'Beside every row put the share in its group of Fee as Share of Fee, for each Clinic.',
  ],
  [
    'group total',
    'Put the total of its group beside every row',
    'Beside every row put the sum of Fee as Total Fee, for each Clinic.',
  ],
  [
    'first visit',
    'Put the first of its group beside every row',
    'Beside every row put the first Fee as First Fee, for each Clinic, by Visit date.',
  ],
  [
    'unpivot',
    'Turn columns into rows',
    'Turn Fee and Paid into rows: the name as Name, the value as Value, and keep the empty ones.',
  ],
  [
    'melt',
    'Turn columns into rows',
    'Turn Fee and Paid into rows: the name as Name, the value as Value, and keep the empty ones.',
  ],
  [
    'columns to rows',
    'Turn columns into rows',
    'Turn Fee and Paid into rows: the name as Name, the value as Value, and keep the empty ones.',
  ],
  [
    'wide to long',
    'Turn columns into rows',
    'Turn Fee and Paid into rows: the name as Name, the value as Value, and keep the empty ones.',
  ],
  [
    'pivot',
    'Turn rows into columns…',
    'Make a column of each Patient (whatever comes) with the value of Fee, a row for each combination of the other columns, gaps left empty.',
  ],
  [
    'rows to columns',
    'Turn rows into columns…',
    'Make a column of each Patient (whatever comes) with the value of Fee, a row for each combination of the other columns, gaps left empty.',
  ],
  [
    'crosstab',
    'Turn rows into columns…',
    'Make a column of each Patient (whatever comes) with the value of Fee, a row for each combination of the other columns, gaps left empty.',
  ],
  [
    'long to wide',
    'Turn rows into columns…',
    'Make a column of each Patient (whatever comes) with the value of Fee, a row for each combination of the other columns, gaps left empty.',
  ],
  ['transpose', 'Swap rows and columns', 'Swap rows and columns, naming the new columns after Visit date.'],
  ['explode', 'Make a row of each item', 'Make a row of each item of Tags.'],
  ['unnest', 'Make a row of each item', 'Make a row of each item of Tags.'],
  [
    'vlookup',
    'Match with another table…',
    'Match with Prices where Visit date is the same, and keep every row here, bringing all its other columns.',
  ],
  [
    'lookup',
    'Match with another table…',
    'Match with Prices where Visit date is the same, and keep every row here, bringing all its other columns.',
  ],
  [
    'join',
    'Match with another table…',
    'Match with Prices where Visit date is the same, and keep every row here, bringing all its other columns.',
  ],
  [
    'merge',
    'Match with another table…',
    'Match with Prices where Visit date is the same, and keep every row here, bringing all its other columns.',
  ],
  [
    'inner join',
    'Keep only rows that match another table',
    'Match with Prices where Visit date is the same, and keep only rows that match, bringing all its other columns.',
  ],
  [
    'anti join',
    'Keep only rows that match no row of another table',
    'Match with Prices where Visit date is the same, and keep only rows here that match nothing there.',
  ],
  [
    'outer join',
    'Match and keep all rows of both',
    'Match with Prices where Visit date is the same, and keep every row of both, bringing all its other columns.',
  ],
  [
    'union',
    'Lay other tables underneath…',
    'Lay Prices underneath, by name, with all columns, and the table’s name as Table.',
  ],
  [
    'append',
    'Lay other tables underneath…',
    'Lay Prices underneath, by name, with all columns, and the table’s name as Table.',
  ],
  [
    'stack',
    'Lay other tables underneath…',
    'Lay Prices underneath, by name, with all columns, and the table’s name as Table.',
  ],
  [
    'merge files',
    'Lay other tables underneath…',
    'Lay Prices underneath, by name, with all columns, and the table’s name as Table.',
  ],
  ['validate', 'Check that…', 'Check that the number of rows is at least 1, else warn.'],
  ['not null', 'Check that it is always filled', 'Check that every row meets: Visit date is filled, else warn.'],
  ['check unique', 'Check that no value repeats', 'Check that no two rows are alike in Visit date, else warn.'],
  ['formula', 'Compute a column', 'Compute New column as 1.'],
  ['calculate', 'Compute a column', 'Compute New column as 1.'],
  ['new column', 'Compute a column', 'Compute New column as 1.'],
  ['if', 'Write a value by cases…', 'Write Kind as “yes” where Visit date is filled; else “no”.'],
  ['case when', 'Write a value by cases…', 'Write Kind as “yes” where Visit date is filled; else “no”.'],
  ['conditional column', 'Write a value by cases…', 'Write Kind as “yes” where Visit date is filled; else “no”.'],
  ['flag', 'Write a value by cases…', 'Write Kind as “yes” where Visit date is filled; else “no”.'],
  ['constant', 'Write the same in every row…', 'Compute Tag as "yes".'],
  ['one hot', 'Make yes-or-no columns of its values…', ''],
  ['dummy', 'Make yes-or-no columns of its values…', ''],
  ['chart', 'Draw it…', ''],
  ['graph', 'Draw it…', ''],
  ['plot', 'Draw it…', ''],
  ['undo', 'Undo', ''],
  ['redo', 'Redo', ''],
  ['download', 'Download this table', ''],
  ['export', 'Download this table', ''],
  ['refresh', 'Replay on new exports', ''],
  ['python', 'Hand over', ''],
  ['search', 'Find a column or a value', ''],
  ['compare', 'Reconcile two tables', ''],
  ['shortcuts', 'See all keys', ''],
  ['help', 'See all keys', ''],
]

describe('everyday phrases find their verb first, with its sentence', () => {
  test('they are at least 150', () => expect(phrases.length).toBeGreaterThanOrEqual(150))
  test.each(phrases)('%s', (typed, name, about) => expect(found(typed)[0]).toMatchObject({ name, about }))
})

test('every verb is found first by its own name, and by each word for it', () => {
  for (const { name, words } of namedVerbs)
    for (const word of [name, ...words]) expect(found(word)[0]?.name, word).toBe(name)
})
test('each verb stands once', () => {
  for (const text of ['', 's', 'keep', 'date', 'total']) {
    const names = found(text).map(({ name }) => name)
    expect(names).toEqual([...new Set(names)])
  }
})
test('what is typed is found by its beginning, before verbs that only have the word', () => {
  expect(found('dedu')[0]?.name).toBe('Keep one row of those alike')
  expect(found('running')[0]?.name).toBe('Put the running total beside every row')
})
test('nothing is found by words that no verb has', () => expect(found('zebra crossing')).toEqual([]))

describe('what a verb does goes by the selection', () => {
  test('it takes the selected column', () =>
    expect(found('round', { kind: 'columns', columns: ['Paid'] })[0]?.about).toBe(
      'Compute Paid rounded as ROUND(Paid; 2).',
    ))
  test('it takes all selected columns', () => {
    const selection: Selection = { kind: 'columns', columns: ['Clinic', 'Patient'] }
    expect(found('trim', selection)[0]?.step).toMatchObject({ columns: ['Clinic', 'Patient'] })
    expect(found('remove duplicates', selection)[0]?.step).toMatchObject({ columns: ['Clinic', 'Patient'] })
    expect(found('check unique', selection)[0]?.step).toMatchObject({ unique: ['Clinic', 'Patient'] })
    expect(found('count', selection)[0]?.step).toMatchObject({ by: ['Clinic', 'Patient'] })
  })
  test('what cannot act says why', () => {
    expect(found('round', { kind: 'columns', columns: ['Clinic'] })[0]).toMatchObject({
      name: 'Round it',
      needs: '“Clinic” is no column of numbers. Select one that is.',
    })
    expect(found('concatenate', { kind: 'columns', columns: ['Clinic'] })[0]?.needs).toMatch('two or more columns')
  })
  test('a verb of the selected cell is found too', () =>
    expect(found('drop rows', { kind: 'cell', column: 'Clinic', row: 0, value: 'Oxbow' })[0]?.about).toBe(
      'Drop the rows where Clinic is “Oxbow”.',
    ))
})
