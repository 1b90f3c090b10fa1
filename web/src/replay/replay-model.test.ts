import type { Answer, CompatibilityFinding } from '@fabula/core'
import type { FileRef, RunsReply } from '@fabula/core/api'
import { describe, expect, test } from 'vitest'
import {
  answerWords,
  doneWords,
  fitWords,
  holdsForGood,
  isComplete,
  keptFiles,
  offerWords,
  reasonToWait,
  rowsOut,
  runBefore,
  shownRun,
  sortedFindings,
  trialWords,
} from './replay-model.ts'
import { rowsFigure, runFigures, runsData } from './runs-data.ts'

type Run = RunsReply['runs'][number]
const file = (name: string): FileRef => ({ hash: name, name, size: 1 }) as FileRef
const run = (id: string, state: Run['state'], startedAt: string, more: Partial<Run> = {}): Run =>
  ({
    id,
    state,
    startedAt,
    open: 0,
    repeats: null,
    alone: false,
    cluster: null,
    files: [],
    outputs: [],
    ...more,
  }) as Run
const visits = { id: 'visits', name: 'Visits', files: 'visits-*.csv' }
const prices = { id: 'prices', name: 'Prices' }
const finding = (more: Partial<CompatibilityFinding>): CompatibilityFinding => ({
  code: 'lacking-file',
  grade: 'changes',
  asks: true,
  offers: [{ do: 'accept', why: 'it is right' }],
  sentence: 'Something differs.',
  ...more,
})

describe('files of the inputs', () => {
  test('are complete where each input has new ones or kept ones', () => {
    const recipe = { inputs: [visits, prices] }
    expect(isComplete(recipe, { visits: [file('visits-06.csv')] }, { prices: [file('prices.csv')] })).toBe(true)
    expect(isComplete(recipe, { visits: [file('visits-06.csv')] }, {})).toBe(false)
    expect(isComplete(recipe, { visits: [], prices: [file('prices.csv')] }, {})).toBe(false)
    expect(isComplete({ inputs: [] }, {}, {})).toBe(true)
  })
  test('are kept from the last accepted run, not from one with open questions, one begun by a watch or one on a cluster', () => {
    const of = (name: string) => ({ files: [{ input: 'visits', name, hash: name, rows: 1 }] })
    const runs = [
      run('r5', 'done', '2031-07-05T08:00:00Z', { cluster: { paths: {}, files: {}, folder: '/shared' } }),
      run('r4', 'done', '2031-07-04T08:00:00Z', { ...of('d.csv'), alone: true }),
      run('r3', 'done', '2031-07-03T08:00:00Z', { ...of('c.csv'), open: 2 }),
      run('r2', 'done', '2031-07-02T08:00:00Z', of('b.csv')),
    ]
    const builtOn = { visits: [file('a.csv')], prices: [file('prices.csv')] }
    expect(keptFiles(runs, builtOn)).toMatchObject({
      at: '2031-07-02T08:00:00Z',
      files: { visits: [{ name: 'b.csv' }], prices: [{ name: 'prices.csv' }] },
    })
    expect(keptFiles([], builtOn)).toEqual({ at: undefined, files: builtOn })
  })
})

describe('runs', () => {
  const runs = [
    run('r5', 'done', '2031-07-05T08:00:00Z', { open: 1 }),
    run('r4', 'running', '2031-07-04T08:00:00Z'),
    run('r3', 'failed', '2031-07-03T08:00:00Z'),
    run('r2', 'done', '2031-07-02T08:00:00Z'),
    run('r1', 'done', '2031-07-01T08:00:00Z'),
  ]
  test('one that still runs is shown to whoever comes back', () => {
    expect(shownRun(runs, '')).toBe('r4')
    expect(shownRun(runs.slice(2), '')).toBe('')
    expect(shownRun(runs, 'r1')).toBe('r1')
  })
  test('are compared with the last accepted one before them: not one that failed, nor one with open questions', () => {
    expect(runBefore(runs, 'r4', '')).toBe('r2')
    expect(runBefore(runs, 'r2', '')).toBe('r1')
    expect(runBefore(runs, 'r1', '')).toBeUndefined()
    expect(runBefore(runs, 'r6', '2031-07-06T08:00:00Z')).toBe('r2')
  })
  test('are drawn from the oldest on, those told again left out', () => {
    const rows = (n: number) => ({
      outputs: [{ file: 'takings.csv', rows: n, totals: { Fee: n * 10 } }] as unknown as Run['outputs'],
    })
    const runsOf = [
      run('r3', 'done', '2031-07-03T08:00:00Z', { ...rows(9), repeats: 'r1' }),
      run('r2', 'done', '2031-07-02T08:00:00Z', rows(20)),
      run('r1', 'done', '2031-07-01T08:00:00Z', rows(18)),
    ]
    const data = runsData(runsOf, rowsFigure)
    expect(data).toMatchObject({ series: ['takings.csv'], values: [[18, 20]] })
    expect(data.labels).toHaveLength(2)
    expect(runFigures(runsOf)).toEqual(['Rows', 'Fee'])
    expect(runsData(runsOf, 'Fee').values).toEqual([[180, 200]])
  })
})

describe('questions', () => {
  const answer: Answer = { code: 'lacking-file', input: 'visits', offer: { do: 'accept', why: 'it is right' } }
  test('are open until they are answered', () => {
    const asked = finding({ input: 'visits' })
    const noted = finding({ grade: 'fits', asks: false })
    expect(sortedFindings({ findings: [asked, noted], answers: [] })).toEqual({ open: [asked], noted: [noted] })
    expect(sortedFindings({ findings: [asked, noted], answers: [answer] })).toEqual({ open: [], noted: [noted] })
  })
  test('say how an input fits', () => {
    expect(fitWords([])[0]).toBe('✓ fits')
    expect(fitWords([finding({}), finding({})])[0]).toBe('2 questions')
    expect(fitWords([finding({ grade: 'breaks' })])[0]).toBe('! does not fit yet')
  })
  test('keep the story from being replayed, and say why', () => {
    const state = { given: true, complete: true, trying: false, open: [] }
    expect(reasonToWait(state)).toBeUndefined()
    expect(reasonToWait({ ...state, given: false })).toBe('No new file is given yet.')
    expect(reasonToWait({ ...state, complete: false })).toBe('An input has no file yet.')
    expect(reasonToWait({ ...state, trying: true })).toBe('Trying it on a copy…')
    expect(reasonToWait({ ...state, open: [finding({}), finding({})] })).toBe('2 answers to go')
    expect(reasonToWait({ ...state, open: [finding({ grade: 'refused', offers: [] })] })).toBe(
      'The data is refused as it is.',
    )
  })
})

describe('answers', () => {
  test.each([
    [{ do: 'rename', column: 'Birthday', why: '' }, 'Read Birthday as Born', 'Birthday is read as Born in b.csv', true],
    [{ do: 'leave-empty', why: '' }, 'Leave 20 cells empty', 'Born stays empty in b.csv', false],
    [{ do: 'leave-out', why: '' }, 'Leave the file out', 'b.csv is left out', false],
    [{ do: 'do-without', column: 'Born', why: '' }, 'Do without it', 'Born is done without', true],
    [{ do: 'accept', why: 'it is right' }, 'It is right', 'It is right: Something differs', false],
    [{ do: 'read-as', column: 'Born', type: 'date', why: '' }, 'Read it as a date', 'Born is read as a date', true],
  ] as const)('%o', (offer, button, words, forGood) => {
    expect(offerWords(finding({ column: 'Born', file: 'b.csv', rows: 20 }), offer)).toBe(button)
    const given: Answer = { code: 'lacking-file', column: 'Born', file: 'b.csv', sentence: 'Something differs.', offer }
    expect(answerWords(given)).toBe(words)
    expect(holdsForGood(given)).toBe(forGood)
  })
  test('to what came twice, was kept, or is a sheet are said as such', () => {
    const out = { do: 'leave-out', why: '' } as const
    expect(offerWords(finding({ code: 'repeated-file' }), out)).toBe('Count it once')
    expect(offerWords(finding({ code: 'kept-file' }), out)).toBe('Leave the kept out')
    expect(offerWords(finding({ sheet: '2033' }), out)).toBe('Leave the sheet out')
    expect(answerWords({ code: 'new-sheet', sheet: '2033', offer: out })).toBe('The sheet “2033” is left out')
  })
})

describe('what came out', () => {
  const tables = [
    { id: 'visits', steps: [{ rowsOut: 120 }, { rowsOut: 114 }] },
    { id: 'prices', steps: [{ rowsOut: 9 }] },
  ] as unknown as Parameters<typeof rowsOut>[0]
  test('is counted for the tables that are written, or for all', () => {
    expect(rowsOut(tables, ['visits'])).toEqual([{ table: 'visits', rows: 114 }])
    expect(trialWords(rowsOut(tables, ['visits']), { verdict: 'fits', inputs: [] })).toBe(
      'Tried: 114 rows would come out.',
    )
    expect(trialWords(rowsOut(tables, []), { verdict: 'fits-with-changes', inputs: [] })).toBe(
      'Tried: 114 + 9 rows would come out.',
    )
  })
  test('is not promised where the story does not run through', () => {
    expect(trialWords(rowsOut(tables, []), { verdict: 'does-not-fit', inputs: [] })).toBe(
      'Tried: it does not run through yet.',
    )
  })
  test('is done only where nothing is left to look at', () => {
    const outputs = [{ rows: 114 }] as Parameters<typeof doneWords>[0]['outputs']
    expect(doneWords({ outputs, open: 0, findings: [], files: [] })).toBe('Done: 114 rows, nothing to look at.')
    expect(doneWords({ outputs, open: 2, findings: [], files: [] })).toBe('Done, 2 things to look at.')
    const said = {
      code: 'said-by-script' as const,
      grade: 'fits' as const,
      asks: false,
      offers: [],
      sentence: '3 cells',
    }
    expect(doneWords({ outputs, open: 0, findings: [said], files: [] })).toBe(
      'Done: 114 rows, and 1 sentence of the script to read.',
    )
    const sampled = { input: 'visits', name: 'visits.csv', hash: '', rows: 9, sample: 'the first 9 rows' }
    expect(doneWords({ outputs, open: 0, findings: [], files: [sampled] })).toBe(
      'Done: 114 rows of a sample, nothing to look at.',
    )
  })
})
