import type { NewStep } from '@fabula/core'
import type { BenchFile } from './files.ts'

/** A kind of work that is measured beside pandas (bench/pandas/works.py has one of the same name). */
export type Work = {
  readonly name: string
  /** Times faster than pandas that issue 17 asks for and hopes for, where it says so. */
  readonly must?: number
  readonly aim?: number
  /** The table that the steps are done to, and another that they take. */
  readonly file: BenchFile
  readonly other?: BenchFile
  readonly steps: readonly NewStep[]
  /** Of how many of the steps the result is kept while they run. */
  readonly kept?: number
  /** What is done instead of steps. */
  readonly act?: 'read' | 'facts' | 'unify' | 'csv' | 'xlsx' | 'parquet'
  /** The most rows that it is done to. */
  readonly most?: number
  /** How often it is done where that takes long. */
  readonly rounds?: number
}

const work = (name: string, step: NewStep, must?: number, aim?: number, file: BenchFile = 'visits'): Work => ({
  ...{ name, file, steps: [step] },
  ...(must === undefined ? {} : { must }),
  ...(aim === undefined ? {} : { aim }),
})
const join = (name: string, other: BenchFile, key: string, must?: number, aim?: number): Work => ({
  ...work(
    name,
    { kind: 'join', with: 'other', how: 'left', on: [{ left: key, right: key }], bring: ['Beds'] },
    must,
    aim,
  ),
  ...{ file: 'bookings', other },
})
const months = Array.from({ length: 12 }, (_, i) => `M${i + 1}`)
const toRows: NewStep = { kind: 'unpivot', name: 'Month', groups: [{ columns: months, value: 'Value' }] }
const month: NewStep = { kind: 'derive', as: 'Month', formula: 'DATETRUNC(\'Visit date\'; "month")' }
const rate: NewStep = { kind: 'derive', as: 'Rate', formula: 'Charged / Minutes * 60 + Weight' }
const notCancelled: NewStep = { kind: 'filter', where: { column: 'Status', op: 'is-not', value: 'Cancelled' } }
const perMonth: NewStep = {
  kind: 'summarise',
  by: ['Clinic', 'Month'],
  measures: [
    { how: 'sum', column: 'Charged', as: 'Sum' },
    { how: 'mean', column: 'Rate', as: 'Rate' },
  ],
}
const bySum: NewStep = { kind: 'sort', by: [{ column: 'Sum', descending: true }] }
const ten: readonly NewStep[] = [
  ...[notCancelled, month, rate],
  { kind: 'derive', as: 'Key', formula: 'UPPER(LEFT(Clinic; 3))' },
  { kind: 'filter', where: { column: 'Weight', op: 'greater', value: 5 } },
  { kind: 'drop', columns: ['Note'] },
  { kind: 'fill-empty', columns: ['Charged'], with: 0 },
  { kind: 'filter', where: { column: 'Minutes', op: 'greater', value: 10 } },
  ...[perMonth, bySum],
]
/** Nine sentences that each leave nearly all rows, before a tenth that is changed (bench/last-sentence.ts). */
export const nineSentences: readonly NewStep[] = [
  ...ten.slice(0, 7),
  { kind: 'number', as: 'No' },
  { kind: 'derive', as: 'With tax', formula: 'Charged * 1.2' },
]
const beside = (how: 'sum' | 'rank' | 'running-sum'): NewStep => ({
  kind: 'window',
  by: ['Clinic'],
  ...(how === 'sum' ? {} : { order: [{ column: 'Charged' }] }),
  measures: [how === 'rank' ? { how, as: 'Made' } : { how, column: 'Charged', as: 'Made' }],
})
const group = (by: readonly [string, ...string[]]): NewStep => ({
  kind: 'summarise',
  by: [...by],
  measures: [
    { how: 'sum', column: 'Charged', as: 'Sum' },
    { how: 'count', as: 'Rows' },
  ],
})
const figure = (how: 'median' | 'distinct', column: string): NewStep => ({
  kind: 'summarise',
  by: ['Clinic'],
  measures: [{ how, column, as: 'Made' }],
})
const derive = (formula: string): NewStep => ({ kind: 'derive', as: 'Made', formula })

/** All that `npm run bench` measures, in order. */
export const works: readonly Work[] = [
  { name: 'read CSV with types', file: 'visits', steps: [], act: 'read', must: 3, aim: 6 },
  { name: 'read CSV, quoted', file: 'quoted', steps: [], act: 'read' },
  { name: 'read CSV, wide text', file: 'texts', steps: [], act: 'read' },
  work('filter, 0.5 % left', { kind: 'filter', where: { column: 'Charged', op: 'greater', value: 238.8 } }),
  work('filter, half left', { kind: 'filter', where: { column: 'Weight', op: 'greater', value: 45 } }, 3, 6),
  work('filter on text', notCancelled, 3, 6),
  work(
    'sort text, then number',
    { kind: 'sort', by: [{ column: 'Clinic' }, { column: 'Charged', descending: true }] },
    6,
    15,
  ),
  work('sort, natural', { kind: 'sort', by: [{ column: 'Service', natural: true }] }),
  work('group, one key', group(['Clinic']), 4, 10),
  work('group, two keys', group(['Clinic', 'Service'])),
  work('group, 50,000 keys', group(['Animal']), 3, 10),
  work('group, a key a row', group(['Ref'])),
  work('median', figure('median', 'Charged')),
  work('distinct count', figure('distinct', 'Animal')),
  work('distinct rows', { kind: 'distinct', columns: ['Animal', 'Clinic'] }, 3, 6),
  work('formula over numbers', rate, 2, 5),
  work('formula over few texts', derive('UPPER(LEFT(Clinic; 3))'), 20, 40),
  work('formula over different texts', derive('UPPER(LEFT(Ref; 5)) & "-" & RIGHT(Ref; 3)')),
  work('formula over dates', month, 8, 20),
  work(
    'dates in three forms',
    { kind: 'cast', columns: ['Day'], type: 'date', formats: ['dd/MM/yyyy', 'yyyy-MM-dd', 'dd.MM.yyyy'] },
    undefined,
    undefined,
    'raw',
  ),
  work('money to number', { kind: 'cast', columns: ['Money'], type: 'decimal' }, undefined, undefined, 'raw'),
  work('number to text', { kind: 'cast', columns: ['Charged'], type: 'text' }, 5, 10),
  work(
    'columns to rows, 3',
    { kind: 'unpivot', name: 'What', groups: [{ columns: ['Charged', 'Weight', 'Minutes'], value: 'Value' }] },
    6,
    12,
  ),
  work('columns to rows, 12', toRows, 5, 12, 'months'),
  {
    ...work('12 columns to rows and back', toRows, 15, 40, 'months'),
    steps: [toRows, { kind: 'pivot', labels: 'Month', values: [{ column: 'Value', how: 'only' }] }],
  },
  join('join on number', 'animals', 'Number', 4, 8),
  join('join on text', 'animals', 'Name', 10, 30),
  join('join, 10,000 keys', 'few', 'Few'),
  join('join, a key a row', 'each', 'Each'),
  join('join, keys twice', 'twice', 'Number'),
  { ...work('union', { kind: 'union', with: ['other'] }), other: 'visits' },
  work('total of the group beside', beside('sum')),
  work('rank in the group', beside('rank')),
  work('running sum in the group', beside('running-sum')),
  { name: 'suggest spellings that are one', file: 'raw', steps: [], act: 'unify' },
  { name: 'facts of 10 columns', file: 'visits', steps: [], act: 'facts' },
  { name: 'write CSV', file: 'visits', steps: [], act: 'csv', must: 10, aim: 30 },
  { name: 'write XLSX, 100,000 rows', file: 'visits', steps: [], act: 'xlsx', most: 100_000, rounds: 1 },
  { name: 'write Parquet', file: 'visits', steps: [], act: 'parquet' },
  { name: 'five sentences', file: 'visits', steps: [notCancelled, month, rate, perMonth, bySum], must: 4, aim: 10 },
  { name: 'ten sentences', file: 'visits', steps: ten },
  { name: 'ten sentences, re-run from 8', file: 'visits', steps: ten, kept: 7, must: 10, aim: 40 },
]
