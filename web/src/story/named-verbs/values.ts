import { freeName, writeColumn, type NewStep } from '@fabula/core'
import {
  anyOr,
  asks,
  columnsOf,
  computed,
  ofKind,
  selectedColumns,
  withColumn,
  writes,
  type NamedVerb,
} from './named-verb.ts'

const cleaned = (name: string, words: readonly string[], what: string): NamedVerb => ({
  name,
  words,
  act: (context) =>
    withColumn(context, 'text', (column, all) =>
      writes({
        kind: 'clean-text',
        columns: selectedColumns(context).length > 0 ? [...all] : [column],
        do: what === 'trim' ? ['trim', 'collapse-spaces'] : [what],
      } as NewStep),
    ),
})
const piece = (name: string, words: readonly string[], way: string): NamedVerb => ({
  name,
  words,
  act: (context) => withColumn(context, 'text', (column) => asks('text-pieces', [column], { way })),
})
const calculated = (name: string, words: readonly string[], sign: string): NamedVerb => ({
  name,
  words,
  act: (context) => withColumn(context, 'number', (column) => asks('calculate', [column], { sign })),
})
const formulaOf = (
  name: string,
  words: readonly string[],
  sort: 'number' | 'date',
  as: (column: string) => string,
  formula: (column: string) => string,
): NamedVerb => ({
  name,
  words,
  act: (context) => withColumn(context, sort, (column) => computed(context, column, as(column), formula)),
})

/** Verbs on texts. */
export const textVerbs: readonly NamedVerb[] = [
  cleaned(
    'Clean the text',
    ['clean', 'trim', 'clean text', 'remove spaces', 'whitespace', 'strip', 'extra spaces'],
    'trim',
  ),
  cleaned('Write it in capital letters', ['upper case', 'uppercase', 'upper', 'capitals', 'all caps'], 'upper'),
  cleaned('Write it in small letters', ['lower case', 'lowercase', 'lower', 'small letters'], 'lower'),
  cleaned(
    'Write it with large first letters',
    ['title case', 'proper case', 'capitalise', 'capitalize', 'proper'],
    'title',
  ),
  cleaned('Take the digits out', ['remove digits', 'remove numbers', 'strip digits', 'letters only'], 'strip-digits'),
  cleaned('Take the letters out', ['remove letters', 'digits only', 'strip letters', 'numbers only'], 'strip-letters'),
  cleaned(
    'Take the punctuation out',
    ['remove punctuation', 'special characters', 'remove symbols'],
    'strip-punctuation',
  ),
  {
    name: 'Split the text…',
    words: ['split', 'text to columns', 'separate', 'delimiter', 'split column', 'split by comma'],
    act: (context) =>
      withColumn(context, 'text', (column) =>
        selectedColumns(context).length > 0
          ? ofKind(context, 'split')
          : writes({ kind: 'split', column, by: { delimiter: ',' }, into: { columns: 'found' } }),
      ),
  },
  {
    name: 'Split the text into rows',
    words: ['split to rows', 'split into rows', 'list in a cell', 'one row each'],
    act: (context) =>
      withColumn(context, 'text', (column) =>
        writes({ kind: 'split', column, by: { delimiter: ',' }, into: 'rows' } as NewStep),
      ),
  },
  {
    name: 'Take a part of the text…',
    words: [
      'extract',
      'substring',
      'text between',
      'text before',
      'text after',
      'mid',
      'regex',
      'regular expression',
      'part of text',
    ],
    act: (context) =>
      withColumn(context, 'text', (column) =>
        writes({ kind: 'extract', column, as: `${column} part`, take: { before: '-' }, after: column } as NewStep),
      ),
  },
  piece('Take the first characters', ['left', 'first characters', 'starts', 'initials', 'first letters'], 'LEFT'),
  piece('Take the last characters', ['right', 'last characters', 'ends'], 'RIGHT'),
  piece('Count its characters', ['length', 'len', 'number of characters', 'how long'], 'LEN'),
  piece('Fill it up to a length', ['pad', 'leading zeros', 'zero pad', 'fill up to a length'], 'PAD'),
  piece('Put text before or after it', ['prefix', 'suffix', 'add text', 'append text', 'prepend'], 'AS'),
  {
    name: 'Combine columns into one text',
    words: ['concatenate', 'concat', 'combine columns', 'merge columns', 'join text', 'full name', 'combine', 'paste'],
    act: (context) => {
      const columns = columnsOf(context, 'any').slice(0, selectedColumns(context).length || 2)
      if (columns.length < 2) return { needs: 'Select two or more columns to combine.' }
      return writes({
        kind: 'combine',
        columns: [...columns],
        as: columns.slice(0, 3).join(' '),
        with: ' ',
        keep: true,
      } as NewStep)
    },
  },
  {
    name: 'Replace a value…',
    words: ['replace', 'find and replace', 'substitute', 'recode', 'map values', 'correct', 'change value'],
    act: (context) =>
      withColumn(context, 'text', (column) =>
        selectedColumns(context).length > 0
          ? ofKind(context, 'replace')
          : writes({ kind: 'replace', columns: [column], find: ' ', with: '', match: 'part' }),
      ),
  },
  {
    name: 'Give one spelling…',
    words: [
      'spelling',
      'fuzzy',
      'standardise',
      'standardize',
      'cluster',
      'typos',
      'variants',
      'harmonise',
      'group similar',
    ],
    act: (context) =>
      withColumn(context, 'text', (column) =>
        writes({ kind: 'unify', column, groups: [], judged: 'characters' } as NewStep),
      ),
  },
]

/** Verbs on empty cells. */
export const emptyVerbs: readonly NamedVerb[] = [
  {
    name: 'Fill the gaps from the cell above',
    words: ['fill down', 'forward fill', 'fill gaps', 'merged cells', 'repeat labels', 'carry forward', 'ffill'],
    act: (context) =>
      withColumn(context, anyOr('text', context), (column) => {
        const selected = selectedColumns(context)
        return writes({ kind: 'fill', columns: selected.length > 0 ? [...selected] : [column], direction: 'down' })
      }),
  },
  {
    name: 'Fill the gaps from the cell below',
    words: ['fill up', 'backward fill', 'back fill', 'bfill'],
    act: (context) =>
      withColumn(context, anyOr('text', context), (column) =>
        writes({ kind: 'fill', columns: [column], direction: 'up' }),
      ),
  },
  {
    name: 'Fill empty cells with a value',
    words: [
      'fill empty',
      'replace nulls',
      'coalesce',
      'default value',
      'null to zero',
      'replace blanks',
      'fillna',
      'missing values',
    ],
    act: (context) =>
      selectedColumns(context).length > 0
        ? ofKind(context, 'fill-empty')
        : withColumn(context, 'text', (column) =>
            writes({ kind: 'fill-empty', columns: [column], with: 'unknown' } as NewStep),
          ),
  },
  {
    name: 'Make values empty',
    words: ['make empty', 'null if', 'clear values', 'n/a to empty', 'blank out', 'set to null'],
    act: (context) =>
      context.selection.kind === 'cell' || context.selection.kind === 'values'
        ? ofKind(context, 'blank')
        : withColumn(context, 'text', (column) =>
            writes({ kind: 'blank', columns: [column], values: ['n/a'] } as NewStep),
          ),
  },
]

/** Verbs on numbers. */
export const numberVerbs: readonly NamedVerb[] = [
  formulaOf(
    'Round it',
    ['round', 'rounding', 'decimals', 'two decimals', 'round off'],
    'number',
    (column) => `${column} rounded`,
    (c) => `ROUND(${c}; 2)`,
  ),
  calculated('Add to it', ['add', 'plus', 'add a number'], '+'),
  calculated('Take away from it', ['subtract', 'minus', 'take away', 'less'], '-'),
  calculated('Multiply it', ['multiply', 'times', 'vat', 'add percent'], '*'),
  calculated('Divide it', ['divide', 'ratio', 'divide by', 'per'], '/'),
  formulaOf(
    'Take its absolute value',
    ['absolute', 'absolute value', 'without sign', 'abs'],
    'number',
    (column) => `${column} without sign`,
    (c) => `ABS(${c})`,
  ),
  {
    name: 'Put its numbers into bands…',
    words: ['bin', 'bins', 'bands', 'bucket', 'age group', 'ranges', 'quartile', 'classes', 'histogram groups'],
    act: (context) => withColumn(context, 'number', (column) => asks('bins', [column])),
  },
  {
    name: 'Add columns up in each row…',
    words: ['sum across', 'row total', 'add columns', 'sum of columns', 'average across', 'row sum'],
    act: (context) => {
      const columns = columnsOf(context, 'number')
      return columns.length < 2
        ? { needs: 'Select two or more columns of numbers to add up.' }
        : asks('across', columns)
    },
  },
]

const datePart = (name: string, words: readonly string[], part: string): NamedVerb => ({
  name,
  words,
  act: (context) => withColumn(context, 'date', (column) => asks('date-part', [column], { part })),
})
const timeBetween = (name: string, words: readonly string[], unit: string): NamedVerb => ({
  name,
  words,
  act: (context) =>
    withColumn(context, 'date', (column, all) =>
      asks('difference', unit === 'd' && all.length > 1 ? all.slice(0, 2) : [column], { unit }),
    ),
})

/** Verbs on dates and times. */
export const dateVerbs: readonly NamedVerb[] = [
  datePart('Take the year', ['year', 'year of date', 'extract year'], 'year'),
  datePart('Take the quarter', ['quarter', 'quarter of year', 'extract quarter'], 'quarter'),
  datePart('Take the month', ['month', 'month number', 'extract month'], 'month'),
  datePart('Take the name of the month', ['month name', 'name of month'], 'monthName'),
  datePart('Take year and month', ['year month', 'year and month', 'yyyy-mm', 'month and year'], 'yearMonth'),
  datePart('Take the week', ['week', 'week number', 'iso week', 'calendar week'], 'week'),
  datePart('Take the day of the month', ['day', 'day of month'], 'day'),
  datePart('Take the day of the week', ['weekday', 'day of week', 'day name', 'name of day'], 'dayName'),
  datePart(
    'Take the first of its month',
    ['start of month', 'first of month', 'month start', 'truncate to month'],
    'monthStart',
  ),
  datePart('Take the Monday of its week', ['start of week', 'week start', 'monday'], 'weekStart'),
  timeBetween(
    'Count the days between two dates',
    ['date difference', 'days between', 'duration', 'datedif', 'elapsed', 'days since'],
    'd',
  ),
  timeBetween('Count the years to a date', ['age', 'how old', 'years between', 'years since'], 'y'),
  timeBetween('Count the months to a date', ['months between', 'months since'], 'm'),
  formulaOf(
    'Take the last day of its month',
    ['end of month', 'month end', 'last day of month'],
    'date',
    (column) => `Month end of ${column}`,
    (c) => `EOMONTH(${c}; 0)`,
  ),
  formulaOf(
    'Move it by months',
    ['add months', 'move date', 'add to date', 'date add'],
    'date',
    (column) => `${column} one month on`,
    (c) => `EDATE(${c}; 1)`,
  ),
  {
    name: 'Put date and time together',
    words: ['date and time', 'combine date and time', 'timestamp', 'datetime', 'to moment'],
    act: (context) =>
      withColumn(context, 'date', (date) => {
        const time = context.schema.find(({ type }) => type === 'time')?.name
        if (time === undefined) return { needs: 'There is no column of times here. Read one as a time first.' }
        return writes({
          kind: 'derive',
          as: freeName(
            'Moment',
            context.schema.map(({ name }) => name),
          ),
          formula: `DATETIME(${writeColumn(date)}; ${writeColumn(time)})`,
          after: time,
        })
      }),
  },
]
