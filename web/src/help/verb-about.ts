import type { StepKindName } from '@fabula/core'

/** What each kind of sentence is for, what it leaves alone, and what to mind. */
export const verbAbout: Readonly<Record<StepKindName, string>> = {
  open: 'Begins a table with a file. Rows of names, sheets, separators and signs of numbers are told by the sentence, so that next month’s file is read alike.',
  'start-from': 'Begins a new table with what another table is at a sentence. The other table stays as it is.',
  enter: 'A small table typed or pasted here: a list of codes, a map from old names to new ones.',
  select: 'Keeps these columns, in this order; all others leave, also those that a later file adds.',
  drop: 'Takes columns away. A column that a later file adds stays.',
  rename: 'Gives columns other names, one by one or all by a rule. The sentences below it know the new ones.',
  move: 'Puts columns elsewhere; nothing else changes.',
  duplicate: 'The same column once more, under a name of its own.',
  cast: 'Reads text as numbers, dates, times or yes and no, or turns one type into another. What cannot be read becomes empty and is counted: click the figure to see those rows.',
  header: 'Takes the names of the columns from a row of the table, when titles or notes stand above it.',
  filter:
    'Keeps the rows that meet a condition, or drops them. An empty cell meets “is not” and “contains not”, and no other test.',
  sort: 'Orders the rows by one column after another. Equal rows keep their order; what is empty comes last.',
  slice: 'Keeps the first rows, the last, all but the first, or one in every so many.',
  distinct: 'Keeps the first row of each that are alike, in all columns or in some. The others leave and are counted.',
  number: 'Counts the rows, from the top or anew in each group.',
  fill: 'Puts the value from above (or below) into empty cells, for exports that write a group only once.',
  replace: 'Puts one text or value in the place of another: whole cells, parts of a text, or what fits a pattern.',
  'fill-empty': 'Puts a value, the value of another column or one asked at replay where nothing stands.',
  blank: 'Makes certain values empty: “n/a”, “-”, 9999. What is empty enters no sum and no mean.',
  'clean-text': 'Takes spaces, invisible signs, digits or punctuation away, and sets the case.',
  unify:
    'Gives one spelling to values that mean the same. Next month a new spelling that is near one of them is asked about, never guessed.',
  derive:
    'Computes a column by a formula, a new one or in the place of one that is there. A cell that cannot be computed is empty and is counted.',
  cases: 'Writes a value by the first condition that holds: bands, labels, yes or no.',
  split: 'Parts a text at a sign, a pattern or after so many characters, into columns or into rows.',
  extract: 'Takes the part before, after or between signs, a number of characters, or what fits a pattern.',
  combine: 'Puts several columns together into one text, with signs between them.',
  unpivot:
    'Columns become rows: twelve months beside each other become a column of months and one of values, which charts and pivot tables need.',
  pivot:
    'Labels in rows become columns of their own. Where several values meet in one cell, say what is taken: the sum, the latest, all of them.',
  transpose: 'Turns the table by a quarter: its rows become columns.',
  summarise: 'One row for each group, with counts, sums, means and more. What is empty is passed over, and said.',
  window:
    'Writes a figure of the group beside each of its rows: share of the total, rank, running total, the row before. No row is lost.',
  unroll: 'A row for each item of a list.',
  join: 'Puts columns of another table beside rows that have the same key. What matches nothing, and what matches several times, is counted before you keep it.',
  union:
    'Puts tables under one another by the names of their columns; columns of different names can be laid together.',
  check:
    'Says what must hold: no two alike, no empty cells, so many rows, a total. A check that fails warns or stops the replay.',
}
