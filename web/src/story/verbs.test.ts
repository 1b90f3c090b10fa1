import { expect, test } from 'vitest'
import {
  brokenSteps,
  columnOf,
  factsOf,
  planRecipe,
  readRecipe,
  refusals,
  runRecipe,
  Table,
  textOfCell,
  type Cell,
  type ColumnType,
  type Recipe,
  type Selection,
  type Step,
  type NewStep,
} from '@fabula/core'
import type { ColumnFacts } from '@fabula/core/api'
import { builderNamed, builders } from './builders.ts'
import { type BuilderAnswers, type Builder } from './builder.ts'
import { verbsFor, type Verb } from './verbs.ts'

/** A table whose names and values are such as exports have: quotes, words of the formula language, names that sentences make themselves. */
const columns: Readonly<Record<string, readonly [ColumnType, ...Cell[]]>> = {
  Clinic: ['text', 'Oxbow', 'Marlpit', 'Oxbow', null],
  'Owner\'s "name"': ['text', 'O\'Hara; "Bo"', ' Fern ', null, 'a\nb'],
  TRUE: ['integer', 1, 2, 2, null],
  Rows: ['integer', 10, 20, 30, 40],
  Fee: ['decimal', 12.5, null, -3, 0],
  'Total Fee': ['decimal', 1, 2, 3, 4],
  Day: ['date', 22402, 22403, null, 22404],
  'Seen at': ['datetime', 1935600000000, null, 1935700000000, 1935800000000],
  Time: ['time', 3600000, null, 0, 7200000],
  Done: ['boolean', true, false, null, true],
  Tags: ['list', '["a","b"]', null, '["c"]', '[]'],
  Month: ['text', 'Jan', 'Feb', 'Jan', 'Mar'],
}
const own = Table.of(
  Object.keys(columns),
  Object.values(columns).map(([type, ...cells]) => columnOf(type, cells)),
)
const { schema } = own
const other = { id: 'other', name: 'Other' }

const recipeWith = (steps: readonly NewStep[]): Recipe => ({
  fabula: 1,
  name: 'R',
  inputs: [
    { id: 'own', name: 'Own', columns: [...schema] },
    { id: 'other', name: 'Other', columns: [...schema] },
  ],
  tables: [
    {
      id: 'own',
      name: 'Own',
      steps: [
        { id: 's1', kind: 'open', input: 'own' },
        ...steps.map((step, i) => ({ ...step, id: `s${i + 3}` }) as Step),
      ],
    },
    { id: 'other', name: 'Other', steps: [{ id: 's2', kind: 'open', input: 'other' }] },
  ],
})
/** What is wrong with a draft that a verb begins; undefined where it can be kept, or asks a question of the data. */
const wrongWith = (steps: readonly NewStep[], mending = false): string | undefined => {
  const recipe = recipeWith(steps)
  const read = readRecipe(JSON.parse(JSON.stringify(recipe)) as unknown)
  if ('faults' in read) return read.faults.map(({ sentence, where }) => `${where}: ${sentence}`).join(' ')
  const broken = brokenSteps(planRecipe(recipe))
  if (broken.length > 0) return broken.map(({ sentence }) => sentence).join(' ')
  const ran = runRecipe(recipe, {
    sources: (input) => ({ table: own, notes: {}, unreadable: [], key: input }),
    parameters: {},
    now: 0,
  })
  const dynamicColumns = brokenSteps(ran.plan).filter(
    ({ step }) => !refusals(ran.plan).some((one) => one.step.id === step.id),
  )
  if (dynamicColumns.length > 0) return dynamicColumns.map(({ sentence }) => sentence).join(' ')
  // a sentence that computes takes no column away and changes none
  const adding: readonly unknown[] = ['derive', 'cases', 'number', 'duplicate', 'extract', 'window', 'check']
  if (mending || !steps.every(({ kind }) => adding.includes(kind))) return undefined
  const made = ran.tables[0]?.table
  const lost = schema.find(
    ({ name }, c) =>
      !made ||
      made.positionOf(name) < 0 ||
      Array.from({ length: own.rowCount }, (_, row) => row).some(
        (row) => made.cell(made.positionOf(name), row) !== own.cell(c, row),
      ),
  )
  return lost && `${lost.name} is not what it was.`
}

const factsFor = (name: string): ColumnFacts =>
  JSON.parse(JSON.stringify(factsOf(name, own.named(name)))) as ColumnFacts
/** What a builder writes for its first answers, and for every other choice. */
const written = (builder: Builder, chosen: readonly string[]): (readonly NewStep[])[] => {
  const facts = chosen[0] === undefined ? undefined : factsFor(chosen[0])
  const start = builder.start(chosen, schema, facts)
  const turns = builder
    .asks(start, chosen, schema)
    .flatMap((ask): BuilderAnswers[] =>
      ask.kind === 'choice' ? ask.of.map(([value]) => ({ ...start, [ask.key]: value })) : [],
    )
  return [start, ...turns]
    .map((answers) => builder.write(answers, chosen, schema, facts))
    .filter((steps) => steps.length > 0)
}
const draftsOf = ({ step, steps, builder, draw, needs }: Verb): (readonly NewStep[])[] => {
  const made = builderNamed(builder?.id)
  if (draw || needs !== undefined) return []
  return made ? written(made, builder?.columns ?? []) : [steps ?? (step ? [step] : [])]
}
const names = schema.map(({ name }) => name)
const text = (column: string): string | null => {
  const cell = own.cell(own.positionOf(column), 0)
  return cell === null ? null : textOfCell(columns[column]?.[0] ?? 'text', cell)
}
const selections: readonly Selection[] = [
  { kind: 'table' },
  ...names.map((name): Selection => ({ kind: 'columns', columns: [name] })),
  ...names.flatMap((a, i) => names.slice(i + 1).map((b): Selection => ({ kind: 'columns', columns: [a, b] }))),
  { kind: 'columns', columns: ['Clinic', 'Day', 'Fee', 'Rows'] },
  { kind: 'columns', columns: names },
  ...names.flatMap((column): Selection[] => [
    { kind: 'cell', column, row: 0, value: text(column) },
    { kind: 'cell', column, row: 3, value: null },
  ]),
  { kind: 'part', column: 'Owner\'s "name"', row: 0, value: 'O\'Hara; "Bo"', from: 6, to: 8 },
  { kind: 'part', column: 'Owner\'s "name"', row: 0, value: 'O\'Hara; "Bo"', from: 8, to: 12 },
  { kind: 'values', column: 'Clinic', values: ['Oxbow', 'Marlpit'] },
  { kind: 'values', column: 'TRUE', values: ['1'] },
  { kind: 'values', column: 'Day', values: ['2031-05-03'] },
  { kind: 'values', column: 'Done', values: ['true', 'false'] },
]

test('every verb offered for a selection begins a sentence that holds, and what only adds takes nothing away', () => {
  const wrong = new Map<string, string>()
  for (const selection of selections)
    for (const verb of verbsFor(selection, { schema, tables: [other] }))
      for (const steps of draftsOf(verb)) {
        const what = wrongWith(steps)
        if (what !== undefined) wrong.set(`${verb.name} for ${JSON.stringify(selection)}`, what)
      }
  expect([...wrong].map(([verb, what]) => `${verb}: ${what}`)).toEqual([])
})

test('what is found wrong in a column is mended by a sentence that holds', () => {
  const quickFixes = names.flatMap((name) =>
    factsFor(name).findings.map(({ sentence, step }) => ({
      reported: `${name}: ${sentence}`,
      wrong: wrongWith([step as NewStep], true),
    })),
  )
  expect(quickFixes.length).toBeGreaterThan(0)
  expect(quickFixes.filter(({ wrong }) => wrong !== undefined)).toEqual([])
})

test('a sentence about another table says what is missing where there is none', () => {
  expect(
    verbsFor({ kind: 'columns', columns: ['Clinic'] }, { schema, tables: [] }).find(({ step }) => step?.kind === 'join')
      ?.needs,
  ).toContain('There is no other table in this story yet')
})

test('each verb and each builder is found by words of its own', () => {
  const verbs = verbsFor({ kind: 'columns', columns: ['Clinic'] }, { schema, tables: [other] })
  for (const { name, words } of [...verbs, ...builders.map(({ verb, words: own_ }) => ({ name: verb, words: own_ }))])
    expect(words.length, name).toBeGreaterThan(0)
  expect(new Set(verbs.map(({ name }) => name)).size).toBe(verbs.length)
})
