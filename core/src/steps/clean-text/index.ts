import { z } from 'zod'
import { py, sql, type Code, pyHelper, sqlHelper, type SqlHelperName } from '../../codegen/tag.ts'
import { mapText } from '../../table/gather.ts'
import { cellAt, lengthOf } from '../../table/column.ts'
import { lower, space, titleCase, trim, upper } from '../../table/text.ts'
import { listed } from '../../messages/words.ts'
import {
  checkSelector,
  columnsSlot,
  selectColumns,
  selected,
  selectedNames,
  eachColumnPython,
  selectorSchema,
  type Selector,
} from '../shared/columns.ts'
import { defineStep, slot } from '../shared/step-kind.ts'
import { textsOf } from '../shared/draft-values.ts'

/** What can be cleaned. */
export const cleanings = [
  'trim',
  'collapse-spaces',
  'upper',
  'lower',
  'title',
  'strip-digits',
  'strip-letters',
  'strip-punctuation',
  'strip-invisible',
] as const
/** One of the cleanings. */
export type Cleaning = (typeof cleanings)[number]
type CleanText = { readonly columns: Selector; readonly do: readonly Cleaning[] }

/** Each cleaning as it stands in a sentence. */
export const cleaningWords: Readonly<Record<Cleaning, string>> = {
  trim: 'take the spaces at the ends off',
  'collapse-spaces': 'make each run of spaces one blank',
  upper: 'make all letters large',
  lower: 'make all letters small',
  title: 'make each first letter large',
  'strip-digits': 'take digits out',
  'strip-letters': 'take letters out',
  'strip-punctuation': 'take punctuation out',
  'strip-invisible': 'take invisible signs out',
}

const sqlNames: Readonly<Record<Cleaning, SqlHelperName>> = {
  trim: 'trim_of',
  'collapse-spaces': 'one_space',
  upper: 'upper_of',
  lower: 'lower_of',
  title: 'title_of',
  'strip-digits': 'strip_digits',
  'strip-letters': 'strip_letters',
  'strip-punctuation': 'strip_punctuation',
  'strip-invisible': 'strip_invisible',
}

const runs = new RegExp(`[${space}]+`, 'g')
/** Control and format signs (Unicode categories Cc and Cf), but for white space. */
const invisible = new RegExp(`(?![${space}])[\\p{Cc}\\p{Cf}]`, 'gu')

const clean: Readonly<Record<Cleaning, (text: string) => string>> = {
  trim: trim,
  'collapse-spaces': (text) => text.replace(runs, ' '),
  upper: upper,
  lower: lower,
  title: titleCase,
  'strip-digits': (text) => text.replace(/\p{Nd}/gu, ''),
  'strip-letters': (text) => text.replace(/\p{L}/gu, ''),
  'strip-punctuation': (text) => text.replace(/\p{P}/gu, ''),
  'strip-invisible': (text) => text.replace(invisible, ''),
}

/** Cleans texts. */
export const cleanText = defineStep<CleanText>({
  kind: 'clean-text',
  verb: 'Clean the text',
  words: [
    'clean',
    'trim',
    'spaces',
    'upper case',
    'lower case',
    'title case',
    'capitalise',
    'strip',
    'punctuation',
    'whitespace',
  ],
  params: z.strictObject({ columns: selectorSchema, do: z.array(z.enum(cleanings)).min(1) }),
  drafts: {
    columns: ({ columns, schema }) => {
      const texts = textsOf(columns, schema)
      return texts.length > 0 ? [{ rank: 150, params: { columns: texts, do: ['trim', 'collapse-spaces'] } }] : []
    },
  },
  sentence: ({ columns, do: acts }) => [
    'In ',
    columnsSlot(columns, 'columns'),
    ' ',
    slot(listed(acts.map((act) => cleaningWords[act])), 'cleanings', ['do']),
    '.',
  ],
  output: ({ columns }, input, context) => {
    for (const field of checkSelector(columns, input, context, 'columns'))
      if (field.type !== 'text')
        context.report({ code: 'wrong-type', column: field.name, type: field.type, needs: 'text' }, 'columns')
    return input
  },
  run: ({ columns, do: acts }, table) => {
    let result = table
    let cellsChanged = 0
    for (const name of selectedNames(columns, table.schema)) {
      const at = table.positionOf(name)
      const before = table.column(at)
      if (before.type !== 'text') throw new Error(`clean-text of ${before.type}`)
      const after = mapText(before, (text) => acts.reduce((now, act) => clean[act](now), text))
      for (let i = 0, n = lengthOf(before); i < n; i++) if (cellAt(before, i) !== cellAt(after, i)) cellsChanged++
      result = result.with(at, name, after, true)
    }
    return { table: result, lineage: { kind: 'same' }, cellsChanged }
  },
  scripts: {
    sql: ({ columns, do: acts }, context) =>
      selectColumns(
        context,
        Object.fromEntries(
          selected(columns, context.input).map((field) => [
            field.name,
            sql`nullif(${acts.reduce<Code>((part, act) => sql`${sqlHelper(sqlNames[act])}(${part})`, context.column(field.name))}, '')`,
          ]),
        ),
      ),
    python: ({ columns, do: acts }, { frame, plain }) =>
      eachColumnPython(columns, frame, (name) => {
        const cells = py`${frame}[${name}]`
        const trims = plain && acts.includes('trim') && acts.every((act) => act === 'trim' || act === 'collapse-spaces')
        if (!trims) return py`${cells} = ${pyHelper('clean_text')}(${cells}, ${acts})`
        return acts.length > 1
          ? py`${cells} = ${pyHelper('trimmed')}(${cells})`
          : py`${cells} = ${pyHelper('filled_text')}(${cells}.str.strip(${pyHelper('SPACES')}))`
      }),
  },
  absorbs: ({ columns }, column, input) => selectedNames(columns, input).includes(column),
})
