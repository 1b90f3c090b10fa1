import { anomaliesOf, counted, figure, ownValue } from '@fabula/core'
import type { RunReply } from '@fabula/core/api'

type Statistics = RunReply['tables'][number]['steps'][number]

/** What a step says of itself beyond its counts. */
const notesOf = ({ notes: { rowsWithMorePieces, newLookalikes } }: Statistics): string[] => [
  ...(rowsWithMorePieces === undefined
    ? []
    : [
        `${counted(rowsWithMorePieces, 'cell')} had more pieces than there are columns; what is beyond stays joined in the last`,
      ]),
  ...(newLookalikes === undefined
    ? []
    : [
        `${counted(newLookalikes, 'new value')} ${newLookalikes === 1 ? 'looks' : 'look'} like one that was given another spelling`,
      ]),
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

/** One sentence: its counts beside those of the last run. */
const StatisticsRow = ({
  statistics,
  number,
  before,
}: {
  statistics: Statistics
  number: number
  before: Statistics | undefined
}) => {
  const unreadable = Object.values(statistics.unreadable).reduce((a, b) => a + b, 0)
  const anomalies = before === undefined ? [] : anomaliesOf(statistics, before)
  const stands = anomalies.length > 0 || statistics.check?.passed === false
  return (
    <tr className={`border-b border-line text-right *:px-2 *:py-[7px] ${stands ? 'bg-changed-tint' : ''}`}>
      <th scope="row" className="text-left font-serif text-[13.5px] font-normal">
        {number} {statistics.sentence}
        {notesOf(statistics).map((words) => (
          <ChangedNote key={words} words={words} />
        ))}
        {statistics.check && <CheckNote check={statistics.check} />}
        {anomalies.map((words) => (
          <ChangedNote key={words} words={words} />
        ))}
      </th>
      <td>{before ? figure(before.rowsOut) : ''}</td>
      <td>{figure(statistics.rowsOut)}</td>
      <td className="text-added">{count(statistics.rowsCame, '+')}</td>
      <td className="text-removed">{count(statistics.rowsLeft, '−')}</td>
      <td className="text-changed">{count(statistics.cellsChanged)}</td>
      <td className="text-removed">{count(unreadable)}</td>
    </tr>
  )
}

/** Sentence by sentence, beside last time; what is out of line is tinted and marked. */
export const StepStatisticsTable = ({
  run,
  last,
  names,
}: {
  /** The names of the tables, by id. */
  names: Readonly<Record<string, string>>
  run: RunReply
  last: Pick<RunReply, 'tables'> | undefined
}) => {
  const beforeOf = (table: string, step: string): Statistics | undefined =>
    last?.tables.find(({ id }) => id === table)?.steps.find(({ id }) => id === step)
  return run.tables.map(({ id, steps }) => (
    <table key={id} className="figures mb-5 w-full border-collapse text-[12.5px]">
      <caption className="pb-1 text-left font-serif text-[14px] font-semibold">{ownValue(names, id) ?? id}</caption>
      <thead>
        <tr className="border-b border-line-strong text-right font-sans text-[12px] text-ink-3 *:px-2 *:py-1 *:font-medium">
          <th scope="col" className="text-left">
            Sentence
          </th>
          <th scope="col">last time</th>
          <th scope="col">now</th>
          <th scope="col">came</th>
          <th scope="col">went</th>
          <th scope="col">changed</th>
          <th scope="col">unreadable</th>
        </tr>
      </thead>
      <tbody>
        {steps.map((statistics, i) => (
          <StatisticsRow
            key={statistics.id}
            statistics={statistics}
            number={i + 1}
            before={beforeOf(id, statistics.id)}
          />
        ))}
      </tbody>
    </table>
  ))
}
