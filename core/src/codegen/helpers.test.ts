import { describe, expect, it } from 'vitest'
import { kindExamples } from '../examples.ts'
import { functionRecipes, recipeOf } from '../testing/index.ts'
import { dialects } from '../dialects/index.ts'
import { ScriptError } from '../dialects/script.ts'
import { sparkHelpers } from '../dialects/spark/script.ts'
import type { NewStep, Recipe, Step } from '../recipe/recipe.ts'
import { neededHelpers } from './helpers.ts'
import { helpers as pythonHelpers } from './python/helpers.generated.ts'
import { helpers as sqlHelpers } from './sql/helpers.generated.ts'
import { py, pyHelper, sql, sqlHelper } from './tag.ts'
import type { Helper } from './helper.ts'

const namesOf = (helpers: readonly Helper[]): string[] => helpers.map(({ name }) => name)

describe('helpers of a script', () => {
  it('are those it refers to and those that they need, each after its needs', () => {
    const names = namesOf(neededHelpers(sql`select ${sqlHelper('text_order')}('a', 'b')`, sqlHelpers))
    expect(names).toContain('letters')
    expect(names.indexOf('letters')).toBeLessThan(names.indexOf('text_order'))
  })
  it('are none for code without references', () => {
    expect(neededHelpers(py`x = 1`, pythonHelpers)).toEqual([])
  })
  it('come once, however often they are referred to', () => {
    const once = namesOf(neededHelpers(py`${pyHelper('cells')}(a)`, pythonHelpers))
    const twice = namesOf(neededHelpers(py`${pyHelper('cells')}(a) + ${pyHelper('cells')}(b)`, pythonHelpers))
    expect(twice).toEqual(once)
  })
  it('are refused where no file defines the name', () => {
    expect(() => neededHelpers(py`${pyHelper('cells')}`, [])).toThrow('no helper defines cells')
  })
})

describe.each([
  ['python', pythonHelpers],
  ['sql', sqlHelpers],
  ['spark', sparkHelpers],
] as const)('helper files of %s', (dialect, helpers) => {
  it('define each name in one file', () => {
    const defined = helpers.flatMap(({ defines }) => [...new Set(defines)])
    expect(defined.filter((name, i) => defined.indexOf(name) !== i)).toEqual([])
  })
  // functions of Python are looked up when they are called, so those may stand in any order
  it.skipIf(dialect === 'spark')('stand in an order in which each comes after its needs', () => {
    const seen = new Set<string>()
    for (const { name, needs, source } of helpers) {
      const late = needs.filter((needed) => !seen.has(needed))
      if (!/^(?:#.*\n|@.*\n)*(?:def|class) /.test(source)) expect(late, name).toEqual([])
      seen.add(name)
    }
  })
})

/** Operators have no examples of their own. */
const operators = ['2 - 0.5', '-(1.5)', '"a" <> "b"', '"a" <= "b"']
const formulaRecipe = (formula: string): Recipe => ({
  fabula: 1,
  name: 'Operators',
  inputs: [{ id: 'rows', name: 'Rows', columns: [{ name: 'Row', type: 'integer' }] }],
  tables: [
    {
      id: 'result',
      name: 'Result',
      steps: [
        { id: 's1', kind: 'open', input: 'rows' },
        { id: 's2', kind: 'derive', as: 'Made', formula },
      ],
    },
  ],
})

/** A recipe with the types of its columns, as the page saves it, and one whose rule takes new columns in before a formula. */
const typed = (columns: Recipe['inputs'][number]['columns'] & {}, ...steps: readonly NewStep[]): Recipe => ({
  fabula: 1,
  name: 'Typed',
  inputs: [{ id: 'rows', name: 'Rows', columns }],
  tables: [
    {
      id: 'result',
      name: 'Result',
      steps: [
        {
          id: 's1',
          kind: 'open',
          input: 'rows',
          read: {
            encoding: 'utf-8',
            delimiter: ',',
            types: Object.fromEntries(columns.map(({ name, type }) => [name, { type }])),
          },
        },
        ...steps.map((step, i) => ({ ...step, id: `s${i + 2}` }) as Step),
      ],
    },
  ],
})
const typedRecipes = [
  typed(
    [
      { name: 'Clinic', type: 'text' },
      { name: 'Fee', type: 'decimal' },
    ],
    { kind: 'clean-text', columns: ['Clinic'], do: ['trim', 'collapse-spaces'] },
    {
      kind: 'summarise',
      by: ['Clinic'],
      measures: [
        { how: 'sum', column: 'Fee', as: 'Takings' },
        { how: 'mean', column: 'Fee', as: 'Mean' },
      ],
    },
  ),
  typed(
    [
      { name: 'Clinic', type: 'text' },
      { name: 'Jan', type: 'integer' },
    ],
    { kind: 'unpivot', name: 'Month', groups: [{ columns: { except: ['Clinic'] }, value: 'Target' }] },
    { kind: 'derive', as: 'Twice', formula: 'Target * 2' },
  ),
]

const scripts = (recipe: Recipe, trace = false): string[] =>
  Object.values(dialects).flatMap(({ assemble }) => {
    try {
      return [assemble(recipe, undefined, { trace }).text]
    } catch (error) {
      if (error instanceof ScriptError) return []
      throw error
    }
  })

it('every helper is used by a script of some example, so that none is dead', () => {
  const ofKinds = kindExamples.flatMap(({ kind, examples }) =>
    examples.map((example) => recipeOf(example, kind).recipe),
  )
  const recipes = [
    ...ofKinds,
    ...functionRecipes.map(({ recipe }) => recipe),
    ...operators.map(formulaRecipe),
    ...typedRecipes,
  ]
  // scripts put blank lines between definitions
  const dense = (source: string): string => source.replace(/\n+/g, '\n')
  // formulas have no form of their own for traces
  const texts = [...recipes.flatMap((one) => scripts(one)), ...ofKinds.flatMap((one) => scripts(one, true))]
  let unused = [...pythonHelpers, ...sqlHelpers, ...sparkHelpers].flatMap(({ name, file, source, traced }) =>
    [source, ...(traced === undefined ? [] : [traced.source])].map((one) => {
      const [first = ''] = dense(one).split('\n')
      return { name, file, source: dense(one), first }
    }),
  )
  for (const text of new Set(texts.map(dense))) {
    // the first line tells in most cases that a helper is not there
    const lines = new Set(text.split('\n'))
    unused = unused.filter(({ source, first }) => !lines.has(first) || !text.includes(source))
  }
  // workbooks and JSON are opened by no example of one CSV; the last two need columns that are a date and a date-time,
  // or a pivot whose labels repeat, which the stories of e2e/parity have
  const elsewhere = [
    'open_workbook',
    'open_json',
    'flat_record',
    'xlsx_sheets',
    'ods_sheets',
    'as_datetime',
    'only_one',
  ]
  expect(unused.filter(({ name, file }) => !elsewhere.includes(file ?? name)).map(({ name }) => name)).toEqual([])
})
