import { counted, figure, ownValue, unreadableCells, type CompatibilityFinding } from '@fabula/core'
import type { RunReply } from '@fabula/core/api'

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

/** The figures of a sentence beside its rows; a column stands only where one of the sentences has a figure in it. */
const figures: readonly {
  readonly name: string
  readonly tone: string
  readonly text: (statistics: Statistics) => string
}[] = [
  { name: 'added', tone: 'text-added', text: ({ rowsCame, rowsIn }) => (rowsIn > 0 ? count(rowsCame, '+') : '') },
  { name: 'removed', tone: 'text-removed', text: ({ rowsLeft }) => count(rowsLeft, '−') },
  { name: 'changed', tone: 'text-changed', text: ({ cellsChanged }) => count(cellsChanged) },
  { name: 'unreadable', tone: 'text-removed', text: ({ unreadable }) => count(unreadableCells(unreadable)) },
  { name: 'matched', tone: '', text: ({ notes }) => count(notes.matched ?? 0) },
  { name: 'unmatched here', tone: 'text-changed', text: ({ notes }) => count(notes.unmatchedLeft ?? 0) },
  { name: 'unmatched there', tone: '', text: ({ notes }) => count(notes.unmatchedRight ?? 0) },
  { name: 'multiplied', tone: 'text-removed', text: ({ notes }) => count(notes.multiplied ?? 0, '+') },
  {
    name: 'new columns',
    tone: 'text-added',
    text: ({ columnsAdded, rowsIn }) => (rowsIn > 0 ? count(columnsAdded.length, '+') : ''),
  },
]

/** One sentence: its counts beside those of the last run; tinted where something was found in it. */
const StatisticsRow = ({
  statistics,
  number,
  before,
  shown,
  findings,
}: {
  statistics: Statistics
  number: number
  before: Statistics | undefined
  shown: typeof figures
  findings: readonly CompatibilityFinding[]
}) => {
  const stands = findings.some(({ asks }) => asks) || statistics.check?.passed === false
  return (
    <tr className={`border-b border-line text-right *:px-2 *:py-[7px] ${stands ? 'bg-changed-tint' : ''}`}>
      <th scope="row" className="min-w-[150px] text-left font-serif text-[13.5px] font-normal">
        {number} {statistics.sentence}
        {notesOf(statistics).map((words) => (
          <ChangedNote key={words} words={words} />
        ))}
        {statistics.check && <CheckNote check={statistics.check} />}
      </th>
      <td className="whitespace-nowrap">
        {before && <span className="text-ink-2">{figure(before.rowsOut)} → </span>}
        <span className="font-semibold">{figure(statistics.rowsOut)}</span>
      </td>
      {shown.map(({ name, tone, text }) => (
        <td key={name} className={tone}>
          {text(statistics)}
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
              shown={shown}
              findings={findings.filter(({ step }) => step === statistics.id)}
            />
          ))}
        </tbody>
      </table>
    )
  })
}
