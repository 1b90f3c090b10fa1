import { describe, expect, test } from 'vitest'
import { runRecipe } from '../engine/run.ts'
import { parameterTexts, parameterCells } from '../recipe/parameters.ts'
import type { Recipe, Step } from '../recipe/recipe.ts'
import { columnOf, type Cell, type ColumnType } from '../table/column.ts'
import { Table } from '../table/table.ts'
import { accountsOf, accountsSchema, isOutdated, type Accounts } from './accounts.ts'
import {
  answerOf,
  answerTo,
  openFindings,
  rememberedAnswers,
  withAnswer,
  withAnswers,
  withoutAnswer,
} from './answers.ts'
import { checkCompatibility } from './compatibility.ts'
import type { CompatibilityFinding, CompatibilityReport } from './finding.ts'
import type { CheckedInput } from './fit-context.ts'

type Columns = Readonly<Record<string, readonly [ColumnType, ...Cell[]]>>
const tableOf = (columns: Columns): Table =>
  Table.of(
    Object.keys(columns),
    Object.values(columns).map(([type, ...cells]) => columnOf(type, cells)),
  )

/** A part of an input: a file, or a sheet of one. */
type Part = { readonly file: string; readonly sheet?: string; readonly columns: Columns; readonly hidden?: true }

/** Parts as `openInput` stacks them. */
const opened = (
  ...parts: readonly Part[]
): CheckedInput & Required<Pick<CheckedInput, 'files' | 'parts' | 'otherSheets'>> => {
  const names = [...new Set(parts.flatMap(({ columns }) => Object.keys(columns)))]
  const rowsOf = ({ columns }: Part): number => (Object.values(columns)[0]?.length ?? 1) - 1
  const typeOf = (name: string): ColumnType => parts.flatMap(({ columns }) => columns[name]?.[0] ?? [])[0] ?? 'text'
  const cells = (name: string): Cell[] =>
    parts.flatMap((part): Cell[] => {
      const [, ...own] = part.columns[name] ?? ['text', ...Array<null>(rowsOf(part)).fill(null)]
      return own
    })
  return {
    table: Table.of(
      names,
      names.map((name) => columnOf(typeOf(name), cells(name))),
    ),
    files: [...new Set(parts.map(({ file }) => file))].map((name) => ({
      name,
      sha256: JSON.stringify(parts.filter(({ file }) => file === name).map(({ columns }) => columns)),
      rows: parts.filter(({ file }) => file === name).reduce((sum, part) => sum + rowsOf(part), 0),
    })),
    parts: parts.map((part) => ({
      file: part.file,
      ...(part.sheet === undefined ? {} : { sheet: part.sheet }),
      ...(part.hidden ? { hidden: part.hidden } : {}),
      rows: rowsOf(part),
      schema: Object.keys(part.columns).map((name) => ({ name, type: typeOf(name) })),
      lacks: names.filter((name) => !(name in part.columns)),
    })),
    otherSheets: [],
  }
}

type Inputs = Readonly<Record<string, ReturnType<typeof opened>>>
const ran = (recipe: Recipe, inputs: Inputs, given: Readonly<Record<string, string>>) =>
  runRecipe(recipe, {
    sources: (input) => ({
      table: inputs[input]?.table ?? tableOf({}),
      notes: {},
      unreadable: (inputs[input]?.unreadable ?? []).map(({ column, texts = [] }) => ({
        column,
        rows: Int32Array.from(texts, (_, i) => i),
        texts,
      })),
      key: input,
    }),
    parameters: parameterCells(recipe, given).cells,
    now: 0,
  })
const accounts = (recipe: Recipe, inputs: Inputs, given: Readonly<Record<string, string>> = {}): Accounts => {
  const { tables } = ran(recipe, inputs, given)
  const made = accountsOf(recipe, inputs, tables, parameterTexts(recipe, parameterCells(recipe, given).cells))
  // as the file of --accounts is read again
  return accountsSchema.parse(JSON.parse(JSON.stringify(made)))
}
const fit = (
  recipe: Recipe,
  inputs: Inputs,
  last?: Accounts,
  given: Readonly<Record<string, string>> = {},
): CompatibilityReport =>
  checkCompatibility(recipe, inputs, {
    ran: ran(recipe, inputs, given),
    last,
    parameters: parameterCells(recipe, given).cells,
  })
const told = ({ findings }: CompatibilityReport) =>
  findings.map(({ code, asks, column }) => [code, asks, column] as const)
const only = (report: CompatibilityReport, code: CompatibilityFinding['code']): CompatibilityFinding => {
  const found = report.findings.filter((finding) => finding.code === code)
  if (found.length !== 1 || !found[0]) throw new Error(`${found.length} findings ${code}: ${JSON.stringify(report)}`)
  return found[0]
}

const recipeOf = (inputs: Inputs, tables: Recipe['tables'], parameters?: Recipe['parameters']): Recipe => ({
  fabula: 1,
  name: 'Visits of the month',
  ...(parameters ? { parameters } : {}),
  inputs: Object.entries(inputs).map(([id, { table }]) => ({
    id,
    name: id[0]?.toUpperCase() + id.slice(1),
    columns: [...table.schema],
  })),
  tables,
})
const visitsTable = (...steps: Step[]): Recipe['tables'][number] => ({
  id: 'visits',
  name: 'Visits',
  steps: [{ id: 's1', kind: 'open', input: 'visits' }, ...steps],
})
const month = (file: string, more: Columns = {}): ReturnType<typeof opened> =>
  opened({
    file,
    columns: {
      Day: ['text', '2031-05-02', '2031-05-03', '2031-05-04', '2031-05-05'],
      Clinic: ['text', 'Oxbow', 'Marlpit', 'Tarn End', 'Oxbow'],
      Status: ['text', 'Done', 'Done', 'Cancelled', 'Done'],
      Fee: ['decimal', 12.5, 30, 0, 18],
      ...more,
    },
  })
const clinics: Step = {
  id: 's2',
  kind: 'unify',
  column: 'Clinic',
  groups: [
    { into: 'Oxbow', from: ['Oxbow', 'OXBOW'] },
    { into: 'Marlpit', from: ['Marlpit'] },
    { into: 'Tarn End', from: ['Tarn End'] },
  ],
  judged: 'hand',
}
const done: Step = { id: 's3', kind: 'filter', where: { column: 'Status', op: 'is', value: 'Done' } }
const days: Step = { id: 's4', kind: 'cast', columns: ['Day'], type: 'date' }
const may = { visits: month('visits-05.csv') }
const story = recipeOf(may, [visitsTable(clinics, done, days)])
const last = accounts(story, may)

describe('an ordinary month', () => {
  test('fits without a question: new days, other rows, columns in another order, a column that only grows', () => {
    const june = opened({
      file: 'visits-06.csv',
      columns: {
        Fee: ['decimal', 12.5, 31, 0, 18, 22],
        Status: ['text', 'Done', 'Cancelled', 'Done', 'Done', 'Done'],
        Day: ['text', '2031-06-02', '2031-06-03', '2031-06-04', '2031-06-05', '2031-06-06'],
        Clinic: ['text', 'Marlpit', 'Oxbow', 'Tarn End', 'Oxbow', 'Marlpit'],
      },
    })
    expect(fit(story, { visits: june }, last)).toEqual({ verdict: 'fits', findings: [] })
  })
  test('the same data again says nothing, with and without a last run', () => {
    expect(fit(story, may, last)).toEqual({ verdict: 'fits', findings: [] })
    expect(fit(story, may)).toEqual({ verdict: 'fits', findings: [] })
  })
})

describe('values', () => {
  test('a spelling near a group is asked about, by whatever judge, with the group as an answer', () => {
    const report = fit(
      story,
      { visits: month('visits-06.csv', { Clinic: ['text', 'Oxbow', 'Tarnend', 'Tarn End', 'Tarnend'] }) },
      last,
    )
    const finding = only(report, 'new-value')
    expect(finding).toMatchObject({
      asks: true,
      input: 'visits',
      column: 'Clinic',
      step: 's2',
      rows: 2,
      values: ['Tarnend'],
    })
    expect(finding.sentence).toBe(
      '“Tarnend” is new in “Clinic”, in 2 rows and looks like “Tarn End”. Visits 2 leaves it as it is.',
    )
    expect(report.verdict).toBe('fits-with-changes')
    const [join] = finding.offers
    if (!join) throw new Error('nothing is offered')
    const answered = withAnswers(story, {}, [answerTo(finding, join)]).recipe
    expect(
      fit(
        answered,
        { visits: month('visits-06.csv', { Clinic: ['text', 'Oxbow', 'Tarnend', 'Tarn End', 'Tarnend'] }) },
        last,
      ).findings,
    ).toEqual([])
  })
  test('one near none is asked about where every value had been named, and only said where some had not', () => {
    const june = { visits: month('visits-06.csv', { Clinic: ['text', 'Oxbow', 'Quarry Lane', 'Tarn End', 'Oxbow'] }) }
    expect(told(fit(story, june, last))).toEqual([['new-value', true, 'Clinic']])
    const free = recipeOf(may, [visitsTable({ ...clinics, groups: clinics.groups.slice(0, 1) })])
    expect(told(fit(free, june, accounts(free, may)))).toEqual([['new-value', false, 'Clinic']])
  })
  test('one that a filter does not name is asked about where its rows leave, said where they stay', () => {
    const june = { visits: month('visits-06.csv', { Status: ['text', 'Done', 'Paid', 'Cancelled', 'Done'] }) }
    const report = fit(story, june, last)
    const finding = only(report, 'new-value')
    expect(finding).toMatchObject({ asks: true, step: 's3', rows: 1, values: ['Paid'] })
    expect(finding.offers[0]).toMatchObject({
      do: 'change-step',
      params: { where: { column: 'Status', op: 'is-one-of', values: ['Done', 'Paid'] } },
    })
    const dropping = recipeOf(may, [
      visitsTable({ id: 's3', kind: 'filter', where: { column: 'Status', op: 'is-not', value: 'Cancelled' } }),
    ])
    expect(told(fit(dropping, june, accounts(dropping, may)))).toEqual([['new-value', false, 'Status']])
    const kept = recipeOf(may, [
      visitsTable({ id: 's3', kind: 'filter', keep: false, where: { column: 'Status', op: 'is', value: 'Cancelled' } }),
    ])
    expect(told(fit(kept, june, accounts(kept, may)))).toEqual([['new-value', false, 'Status']])
  })
  test('a label without a column is asked about; a named one that is gone is said', () => {
    const wide: Step = {
      id: 's2',
      kind: 'pivot',
      labels: 'Status',
      values: [{ column: 'Fee', how: 'sum' }],
      by: ['Clinic'],
      found: ['Done', 'Cancelled'],
    }
    const pivoted = recipeOf(may, [visitsTable(wide)])
    const june = { visits: month('visits-06.csv', { Status: ['text', 'Done', 'Paid', 'Done', 'Done'] }) }
    const report = fit(pivoted, june, accounts(pivoted, may))
    expect(told(report)).toEqual([
      ['new-value', true, 'Status'],
      ['missing-value', false, 'Status'],
    ])
    expect(report.findings[0]?.offers[0]).toMatchObject({ params: { found: ['Done', 'Cancelled', 'Paid'] } })
  })
  test('more than fifty different values are no closed list: nothing is asked of a condition on them', () => {
    const names = Array.from({ length: 60 }, (_, i) => `Owner ${i}`)
    const many = { visits: opened({ file: 'a.csv', columns: { Owner: ['text', ...names] } }) }
    const one = recipeOf(many, [
      visitsTable({ id: 's2', kind: 'filter', where: { column: 'Owner', op: 'is', value: 'Owner 1' } }),
    ])
    const next = { visits: opened({ file: 'b.csv', columns: { Owner: ['text', ...names.slice(1), 'Somebody'] } }) }
    expect(fit(one, next, accounts(one, many)).findings).toEqual([])
  })
})

describe('cells that cannot be read', () => {
  const june = {
    visits: month('visits-06.csv', { Day: ['text', '2031-06-02', '03.06.2031', '04.06.2031', '2031-06-05'] }),
  }
  test('are asked about with their texts and the form that reads them', () => {
    const finding = only(fit(story, june, last), 'unreadable')
    expect(finding).toMatchObject({ asks: true, step: 's4', column: 'Day', rows: 1, values: ['03.06.2031'] })
    expect(finding.offers.map((offer) => offer.do)).toEqual(['change-step', 'accept'])
    const [form] = finding.offers
    if (!form) throw new Error('no form is offered')
    expect(form.why).toContain('it reads 1 more cell')
    const read = withAnswers(story, {}, [answerTo(finding, form)]).recipe
    expect(fit(read, june, last).findings).toEqual([])
  })
  test('are not asked about again where as many were accepted', () => {
    expect(fit(story, june, accounts(story, june)).findings).toEqual([])
  })
  test('without a last run only a column of which none can be read is told', () => {
    expect(fit(story, june).findings).toEqual([])
    const none = { visits: month('visits-06.csv', { Day: ['text', 'a', 'b', 'c', 'd'] }) }
    expect(told(fit(story, none))).toEqual([['unreadable', true, 'Day']])
  })
})

describe('files and sheets', () => {
  const part = (file: string, columns: Columns, sheet?: string): Part => ({
    file,
    columns,
    ...(sheet === undefined ? {} : { sheet }),
  })
  const row = { Clinic: ['text', 'Oxbow', 'Marlpit'], Born: ['text', '2020-01-02', '2021-03-04'] } as const
  const two = { visits: opened(part('visits-04.csv', row), part('visits-05.csv', row)) }
  const born = recipeOf(two, [visitsTable({ id: 's2', kind: 'cast', columns: ['Born'], type: 'date' })])
  const before = accounts(born, two)

  test('a column renamed in one of them is asked about for that file, and answered for it alone', () => {
    const renamed = { Clinic: row.Clinic, Birthday: row.Born }
    const june = { visits: opened(part('visits-05.csv', row), part('visits-06.csv', renamed)) }
    const report = fit(born, june, before)
    const finding = only(report, 'lacking-file')
    expect(finding).toMatchObject({ asks: true, file: 'visits-06.csv', column: 'Born', step: 's2', rows: 2 })
    expect(finding.offers.map((offer) => offer.do)).toEqual(['rename', 'leave-empty', 'leave-out'])
    const files = {
      visits: [
        { name: 'visits-05.csv', hash: 'a' },
        { name: 'visits-06.csv', hash: 'b' },
      ],
    }
    const [rename, empty, leave] = finding.offers
    if (!rename || !empty || !leave) throw new Error('an answer is missing')
    expect(withAnswers(born, files, [answerTo(finding, rename)]).files.visits).toEqual([
      { name: 'visits-05.csv', hash: 'a' },
      { name: 'visits-06.csv', hash: 'b', aliases: { Birthday: 'Born' } },
    ])
    expect(withAnswers(born, files, [answerTo(finding, leave)]).files.visits).toEqual([
      { name: 'visits-05.csv', hash: 'a' },
    ])
    // what stays as it is was answered, and is not asked when the run is the last one
    expect(openFindings(report.findings, [answerTo(finding, empty)])).toEqual([])
    expect(told(fit(born, june, accounts(born, june))).filter(([, asks]) => asks)).toEqual([])
    expect(told(fit(born, june))).toContainEqual(['lacking-file', false, 'Born'])
  })
  test('a new sheet that lacks what some sheets had lacked before says nothing', () => {
    const without = { Clinic: row.Clinic }
    const sheet = (name: string, columns: Columns): Part => part('visits.xlsx', columns, name)
    const now = { visits: opened(sheet('03', row), sheet('04', without), sheet('05', without)) }
    const usual = { visits: opened(sheet('03', row), sheet('04', without)) }
    expect(told(fit(born, now, accounts(born, usual))).filter(([code]) => code === 'lacking-file')).toEqual([])
    const lacking = { visits: opened(sheet('03', row), sheet('04', row), sheet('05', without)) }
    const all = { visits: opened(sheet('03', row), sheet('04', row)) }
    expect(told(fit(born, lacking, accounts(born, all)))).toContainEqual(['lacking-file', true, 'Born'])
  })
  test('the same content twice is asked about, and counted once where it is answered so', () => {
    const twice = { visits: opened(part('visits-05.csv', row), part('copy.csv', row)) }
    const finding = only(fit(born, twice), 'repeated-file')
    expect(finding).toMatchObject({ asks: true, file: 'copy.csv', rows: 2 })
    const [once] = finding.offers
    if (!once) throw new Error('nothing is offered')
    const files = {
      visits: [
        { name: 'visits-05.csv', hash: 'a' },
        { name: 'copy.csv', hash: 'a' },
      ],
    }
    expect(withAnswers(born, files, [answerTo(finding, once)]).files.visits).toHaveLength(1)
  })
  test('a sheet that nothing takes, with the columns of one that is taken, is asked about once', () => {
    const book = (...sheets: string[]): Inputs => {
      const taken = opened(part('visits.xlsx', row, '2031'))
      return {
        visits: {
          ...taken,
          otherSheets: sheets.map((sheet) => ({
            file: 'visits.xlsx',
            sheet,
            rows: 2,
            schema: sheet === 'Notes' ? [] : taken.table.schema,
          })),
        },
      }
    }
    const sheets = recipeOf(book(), [
      {
        id: 'visits',
        name: 'Visits',
        steps: [{ id: 's1', kind: 'open', input: 'visits', read: { sheets: ['2031'] } }],
      },
    ])
    const report = fit(sheets, book('2032', 'Notes'), accounts(sheets, book('Notes')))
    const finding = only(report, 'unclaimed-sheet')
    expect(finding).toMatchObject({ asks: true, file: 'visits.xlsx', sheet: '2032' })
    expect(finding.offers[0]).toMatchObject({
      do: 'take-in',
      step: 's1',
      params: { read: { sheets: ['2031', '2032'] } },
    })
    expect(fit(sheets, book('2032'), accounts(sheets, book('2032'))).verdict).toBe('fits')
    expect(fit(sheets, book('2032')).verdict).toBe('fits')
    // a sheet left out stays so in the next run
    const [, leave] = finding.offers
    if (!leave) throw new Error('it cannot be left out')
    expect(rememberedAnswers([answerTo(finding, leave)])).toHaveLength(1)
  })
  test('a hidden sheet that a pattern takes in is asked about, another new one only said', () => {
    const sheet = (name: string, hidden?: true): Part => ({
      ...part('visits.xlsx', row, name),
      ...(hidden ? { hidden } : {}),
    })
    const one = { visits: opened(sheet('2030')) }
    const all = recipeOf(one, [visitsTable()])
    const now = { visits: opened(sheet('2030'), sheet('2031'), sheet('2032', true)) }
    expect(
      fit(all, now, accounts(all, one))
        .findings.filter(({ code }) => code === 'new-sheet')
        .map((one_) => [one_.sheet, one_.asks]),
    ).toEqual([
      ['2031', false],
      ['2032', true],
    ])
  })
  test('kept files beside new ones are asked about, and the answer is remembered', () => {
    const parts = opened(part('visits-04.csv', { Clinic: row.Clinic }), part('visits-05.csv', row))
    const both = { visits: { ...parts, kept: [parts.files[0]?.sha256 ?? ''] } }
    const finding = only(fit(born, both, before), 'kept-file')
    expect(finding).toMatchObject({ asks: true, input: 'visits', values: ['visits-04.csv'], rows: 2 })
    const [accept] = finding.offers
    if (!accept) throw new Error('it cannot be accepted')
    expect(rememberedAnswers([answerTo(finding, accept)])).toHaveLength(1)
  })
  test('a file with the columns of another input is asked about', () => {
    const prices = { Code: ['text', 'VAC-1'], Price: ['decimal', 38.5] } as const
    const inputs = { visits: opened(part('visits.csv', row)), prices: opened(part('prices.csv', prices)) }
    const both = recipeOf(inputs, [
      visitsTable({ id: 's2', kind: 'cast', columns: ['Born'], type: 'date' }),
      { id: 'prices', name: 'Prices', steps: [{ id: 's3', kind: 'open', input: 'prices' }] },
    ])
    const wrong = { visits: opened(part('prices.csv', prices)), prices: opened(part('prices.csv', prices)) }
    const report = fit(both, wrong)
    expect(report.verdict).toBe('does-not-fit')
    expect(only(report, 'unclaimed-file')).toMatchObject({ input: 'visits', file: 'prices.csv', asks: true })
  })
})

describe('joins and figures beside last time', () => {
  const visit = (...codes: string[]) =>
    opened({ file: 'visits-05.csv', columns: { Code: ['text', ...codes], Fee: ['decimal', ...codes.map(() => 12.5)] } })
  const price = (...codes: string[]) =>
    opened({ file: 'prices.csv', columns: { Code: ['text', ...codes], Price: ['decimal', ...codes.map(() => 2)] } })
  const joined = (how: 'left' | 'inner') =>
    recipeOf({ visits: visit('A'), prices: price('A') }, [
      visitsTable({ id: 's2', kind: 'join', with: 'prices', how, on: [{ left: 'Code', right: 'Code' }] }),
      { id: 'prices', name: 'Prices', steps: [{ id: 's3', kind: 'open', input: 'prices' }] },
    ])
  const many = Array.from({ length: 200 }, (_, i) => (i % 2 === 0 ? 'A' : 'B'))
  const before = { visits: visit(...many), prices: price('A', 'B', 'C') }

  test.each([
    ['an inner join that loses a row', 'inner', visit(...many, 'X'), price('A', 'B', 'C'), 1],
    ['a left join with one of 201 unmatched', 'left', visit(...many, 'X'), price('A', 'B', 'C'), 0],
    ['a left join with 5 of 205 unmatched', 'left', visit(...many, 'X', 'X', 'X', 'X', 'X'), price('A', 'B', 'C'), 1],
    ['a price that no visit has any more', 'left', visit(...many), price('A', 'B', 'D'), 0],
    ['a key that repeats', 'left', visit(...many), price('A', 'B', 'B', 'C'), 1],
  ] as const)('%s', (_name, how, visits, prices, asked) => {
    const recipe = joined(how)
    const report = fit(recipe, { visits, prices }, accounts(recipe, before))
    expect(report.findings.filter(({ code, asks }) => code === 'standing-out' && asks)).toHaveLength(asked)
    expect(report.verdict).toBe(asked > 0 ? 'fits-with-changes' : 'fits')
  })
  test('what was so last time is not asked again', () => {
    const recipe = joined('inner')
    const now = { visits: visit(...many, 'X'), prices: price('A', 'B', 'B') }
    expect(fit(recipe, now, accounts(recipe, now)).verdict).toBe('fits')
  })
  test('an edited story does not stand out', () => {
    const recipe = joined('inner')
    const edited = joined('left')
    const now = { visits: visit(...many, 'X', 'X', 'X', 'X', 'X'), prices: price('A', 'B') }
    expect(fit(edited, now, accounts(recipe, before)).verdict).toBe('fits')
  })
  test('a table that is empty, a third of the rows, and a decimal sign taken for a group', () => {
    const paid = (fee: number, statuses: readonly string[]) => ({
      visits: opened({
        file: 'a.csv',
        columns: { Status: ['text', ...statuses], Fee: ['decimal', ...statuses.map(() => fee)] },
      }),
    })
    const half = Array.from({ length: 40 }, (_, i) => (i % 2 === 0 ? 'Done' : 'Open'))
    const recipe = recipeOf(paid(12.5, half), [
      visitsTable(
        { id: 's2', kind: 'filter', where: { formula: 'Status = "Done"' } },
        { id: 's3', kind: 'derive', as: 'Net', formula: 'Fee * 0.8' },
      ),
    ])
    const usual = accounts(recipe, paid(12.5, half))
    const few = half.map((status, i) => (i < 8 ? status : 'Open'))
    expect(only(fit(recipe, paid(12.5, few), usual), 'standing-out')).toMatchObject({ step: 's2', asks: true })
    expect(
      only(
        fit(
          recipe,
          paid(
            12.5,
            half.map(() => 'Open'),
          ),
          usual,
        ),
        'standing-out',
      ).sentence,
    ).toContain('No row is left after Visits 2')
    // the computed column follows from the one that is read wrongly: it is reported once
    expect(only(fit(recipe, paid(1250, half), usual), 'standing-out')).toMatchObject({ step: 's1', column: 'Fee' })
    expect(fit(recipe, paid(12.5, half.concat(half)), usual).verdict).toBe('fits')
  })
  test('a check that warned not last time is asked about; one that stops refuses the data', () => {
    const checked = (fails: 'warn' | 'stop') =>
      recipeOf(may, [visitsTable({ id: 's2', kind: 'check', unique: ['Day'], else: fails, say: 'a day twice' })])
    const june = { visits: month('b.csv', { Day: ['text', '2031-06-02', '2031-06-02', '2031-06-03', '2031-06-04'] }) }
    expect(told(fit(checked('warn'), june, accounts(checked('warn'), may)))).toEqual([
      ['standing-out', true, undefined],
    ])
    const refused = fit(checked('stop'), june)
    expect(refused.verdict).toBe('does-not-fit')
    expect(refused.findings).toMatchObject([{ code: 'standing-out', grade: 'refused', offers: [] }])
  })
  test('three times the rows are said', () => {
    const rows = (n: number) => ({
      visits: opened({ file: 'a.csv', columns: { Fee: ['decimal', ...Array<number>(n).fill(1)] } }),
    })
    const recipe = recipeOf(rows(10), [visitsTable()])
    expect(told(fit(recipe, rows(30), accounts(recipe, rows(10))))).toEqual([['row-count', false, undefined]])
    expect(fit(recipe, rows(12), accounts(recipe, rows(10))).findings).toEqual([])
  })
})

describe('parameters', () => {
  const parameters = [{ name: 'Clinic here', type: 'text' as const, value: 'Oxbow' }]
  const asked = recipeOf(
    may,
    [
      visitsTable({
        id: 's2',
        kind: 'filter',
        where: { column: 'Clinic', op: 'is', value: { parameter: 'Clinic here' } },
      }),
    ],
    parameters,
  )
  test('an empty one, and one that no row has, are asked about with the values there are', () => {
    expect(fit(asked, may).findings).toEqual([])
    expect(told(fit(asked, may, undefined, { 'Clinic here': '' }))).toEqual([['parameter', true, undefined]])
    const finding = only(fit(asked, may, undefined, { 'Clinic here': 'Oxbo' }), 'parameter')
    expect(finding).toMatchObject({ asks: true, column: 'Clinic', values: ['Oxbow', 'Marlpit', 'Tarn End'] })
    expect(finding.sentence).toBe('“Clinic here” is “Oxbo”, which no row has in “Clinic” where Visits 2 looks for it.')
  })
  test('one that was empty and accepted last time is not asked again', () => {
    const empty = { 'Clinic here': '' }
    expect(fit(asked, may, accounts(asked, may, empty), empty).verdict).toBe('fits')
  })
})

test('an answer for one run leaves the steps after it compared with last time', () => {
  const both = {
    visits: month('visits-06.csv', {
      Clinic: ['text', 'Oxbow', 'Tarnend', 'Tarn End', 'Oxbow'],
      Day: ['text', '2031-06-02', '2031-06-03', '2031-06-04', '05.06.2031'],
    }),
  }
  const finding = only(fit(story, both, last), 'new-value')
  const [join] = finding.offers
  if (!join) throw new Error('nothing is offered')
  const { recipe } = withAnswers(story, {}, [answerTo(finding, join)])
  const report = checkCompatibility(recipe, both, { ran: ran(recipe, both, {}), last, unanswered: story })
  expect(told(report)).toEqual([['unreadable', true, 'Day']])
})

test('accounts of an edited story are known to be outdated', () => {
  expect(isOutdated(last, story)).toBe(false)
  expect(isOutdated(last, recipeOf(may, [visitsTable(clinics, days)]))).toBe(true)
})

describe('answers', () => {
  const june = { visits: month('visits-06.csv', { Clinic: ['text', 'Oxbow', 'Tarnend', 'Oxboww', 'Oxbow'] }) }
  test('are found again by what they answer, changed and taken back', () => {
    const { findings } = fit(story, june, last)
    const [first, second] = findings
    if (!first?.offers[0] || !first.offers[1] || !second?.offers[0]) throw new Error('two values are asked about')
    const one = answerTo(first, first.offers[0])
    const other = answerTo(first, first.offers[1])
    expect(answerOf(first, [one])).toBe(one)
    expect(answerOf(second, [one])).toBeUndefined()
    expect(withAnswer([one], other)).toEqual([other])
    // an answer given beside another of the same sentence goes with it: its groups hold that one too
    expect(withoutAnswer([one, answerTo(second, second.offers[0])], one)).toEqual([])
    expect(withoutAnswer([other], other)).toEqual([])
  })
})
