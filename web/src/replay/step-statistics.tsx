import { counted, figure, ownValue, unreadableCells, type CompatibilityFinding } from '@fabula/core'
import type { PreviewRequest, RunReply } from '@fabula/core/api'
import { useShowRows } from './shown-rows.tsx'

type RowSelection = PreviewRequest['only']
type Statistics = RunReply['tables'][number]['steps'][number]

/** What a step says of itself beyond its counts. */
const notesOf = ({ notes: { rowsWithMorePieces } }: Statistics): string[] =>
  rowsWithMorePieces === undefined
    ? []
    : [
        `${counted(rowsWithMorePieces, 'cell')} had more pieces than there are columns; what is beyond stays joined in the last`,
      ]

const CheckNote = ({ check }: { check: NonNullable<Statistics['check']> }) => {
  const say = check.say === '' ? '' : `: ${check.say}`
  return (
    <span className={`block font-sans text-[12px] ${check.passed ? 'text-added' : 'text-changed'}`}>
      {check.passed ? '✓ holds' : `! does not hold${say}`}
      {check.figure === null ? '' : ` (${figure(check.figure)})`}
    </span>
  )
}

const ChangedNote = ({ words }: { words: string }) => (
  <span className="block font-sans text-[12px] text-changed">{words}</span>
)

const count = (value: number, sign = ''): string => (value > 0 ? `${sign}${figure(value)}` : '')

/** A figure of a sentence, and the rows that it counts. */
type StatisticsFigure = {
  readonly name: string
  readonly tone: string
  readonly only: RowSelection
  readonly text: (statistics: Statistics) => string
}
/** The figures of a sentence beside its rows; a column stands only where one of the sentences has a figure in it. */
const figures: readonly StatisticsFigure[] = [
  {
    name: 'added',
    tone: 'text-added',
    only: 'added',
    text: ({ rowsCame, rowsIn }) => (rowsIn > 0 ? count(rowsCame, '+') : ''),
  },
  { name: 'removed', tone: 'text-removed', only: 'left', text: ({ rowsLeft }) => count(rowsLeft, '−') },
  { name: 'changed', tone: 'text-changed', only: 'values-changed', text: ({ cellsChanged }) => count(cellsChanged) },
  {
    name: 'unreadable',
    tone: 'text-removed',
    only: 'unreadable',
    text: ({ unreadable }) => count(unreadableCells(unreadable)),
  },
  { name: 'matched', tone: '', only: 'matched', text: ({ notes }) => count(notes.matched ?? 0) },
  {
    name: 'unmatched here',
    tone: 'text-changed',
    only: 'unmatched',
    text: ({ notes }) => count(notes.unmatchedLeft ?? 0),
  },
  { name: 'unmatched there', tone: '', only: 'unmatched-there', text: ({ notes }) => count(notes.unmatchedRight ?? 0) },
  {
    name: 'multiplied',
    tone: 'text-removed',
    only: 'multiplied',
    text: ({ notes }) => count(notes.multiplied ?? 0, '+'),
  },
  {
    name: 'new columns',
    tone: 'text-added',
    only: 'all',
    text: ({ columnsAdded, rowsIn }) => (rowsIn > 0 ? count(columnsAdded.length, '+') : ''),
  },
]

/** A figure that opens its rows, where they are here. */
const FigureButton = ({
  name,
  tone,
  open,
  children,
}: {
  name: string
  tone: string
  open: (() => void) | undefined
  children: string
}) =>
  open ? (
    <button type="button" aria-label={name} className={`figures hover:underline ${tone}`} onClick={open}>
      {children}
    </button>
  ) : (
    <span className={`figures ${tone}`}>{children}</span>
  )

/** One sentence: its counts beside those of the last run; tinted where something was found in it. */
const StatisticsRow = ({
  statistics,
  number,
  before,
  table,
  shown,
  findings,
}: {
  statistics: Statistics
  number: number
  before: Statistics | undefined
  table: string
  shown: readonly StatisticsFigure[]
  findings: readonly CompatibilityFinding[]
}) => {
  const show = useShowRows()
  const opener = (name: string, only: RowSelection, diffMode: PreviewRequest['diffMode'] = 'changes') =>
    show &&
    (() => show({ table, step: statistics.id, diffMode, only, title: `${number} ${statistics.sentence} ${name}` }))
  const isMarked = findings.some(({ asks }) => asks) || statistics.check?.passed === false
  return (
    <tr className={`border-b border-line text-right *:px-2 *:py-[7px] ${isMarked ? 'bg-changed-tint' : ''}`}>
      <th scope="row" className="min-w-[150px] text-left font-serif text-[13.5px] font-normal">
        {number} {statistics.sentence}
        {notesOf(statistics).map((words) => (
          <ChangedNote key={words} words={words} />
        ))}
        {statistics.check && <CheckNote check={statistics.check} />}
      </th>
      <td className="whitespace-nowrap">
        {before && <span className="text-ink-2">{figure(before.rowsOut)} → </span>}
        <FigureButton
          name={`${counted(statistics.rowsOut, 'row')} after ${number}`}
          tone="font-semibold"
          open={opener('Rows after it', 'all', 'after')}
        >
          {figure(statistics.rowsOut)}
        </FigureButton>
      </td>
      {shown.map(({ name, tone, only, text }) => (
        <td key={name}>
          {text(statistics) !== '' && (
            <FigureButton
              name={`${text(statistics)} ${name} at ${number}`}
              tone={tone}
              open={opener(`Rows: ${name}`, only)}
            >
              {text(statistics)}
            </FigureButton>
          )}
        </td>
      ))}
    </tr>
  )
}

/** Sentence by sentence, beside last time: the rows that come out, and what became of rows and cells. */
export const StepStatisticsTable = ({
  tables,
  last,
  names,
  findings,
}: {
  tables: RunReply['tables']
  last: Pick<RunReply, 'tables'> | undefined
  /** The names of the tables, by id. */
  names: Readonly<Record<string, string>>
  findings: readonly CompatibilityFinding[]
}) => {
  const beforeOf = (table: string, step: string): Statistics | undefined =>
    last?.tables.find(({ id }) => id === table)?.steps.find(({ id }) => id === step)
  return tables.map(({ id, steps }) => {
    const shown = figures.filter(({ text }) => steps.some((statistics) => text(statistics) !== ''))
    return (
      <table key={id} className="figures mb-5 w-full border-collapse text-[12.5px]">
        <caption className="pb-1 text-left font-serif text-[14px] font-semibold">{ownValue(names, id) ?? id}</caption>
        <thead>
          <tr className="border-b border-line-strong text-right align-bottom font-sans text-[12px] text-ink-3 *:px-2 *:py-1 *:font-medium">
            <th scope="col" className="text-left">
              Sentence
            </th>
            <th scope="col">{last ? 'rows last time → now' : 'rows'}</th>
            {shown.map(({ name }) => (
              <th key={name} scope="col">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {steps.map((statistics, i) => (
            <StatisticsRow
              key={statistics.id}
              statistics={statistics}
              number={i + 1}
              before={beforeOf(id, statistics.id)}
              table={id}
              shown={shown}
              findings={findings.filter(({ step }) => step === statistics.id)}
            />
          ))}
        </tbody>
      </table>
    )
  })
}
