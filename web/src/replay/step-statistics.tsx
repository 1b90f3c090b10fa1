import { ownValue, counted, figure, anomaliesOf } from '@fabula/core'
import type { RunReply } from '@fabula/core/api'

/** Sentence by sentence, beside last time; what stands out is tinted and marked. */
export const StepStatisticsTable = ({
  run,
  last,
  names,
}: {
  names: Readonly<Record<string, string>>
  run: RunReply
  last: Pick<RunReply, 'tables'> | undefined
}) => (
  <>
    {run.tables.map(({ id, steps }) => (
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
          {/* eslint-disable-next-line complexity -- markup with a condition for each optional part */}
          {steps.map((statistics, i) => {
            const before = last?.tables.find((one) => one.id === id)?.steps.find((one) => one.id === statistics.id)
            const lost = Object.values(statistics.unreadable).reduce((a, b) => a + b, 0)
            const odd = before === undefined ? [] : anomaliesOf(statistics, before)
            const failed = statistics.check !== undefined && !statistics.check.passed
            return (
              <tr
                key={statistics.id}
                className={`border-b border-line text-right *:px-2 *:py-[7px] ${odd.length > 0 || failed ? 'bg-changed-tint' : ''}`}
              >
                <th scope="row" className="text-left font-serif text-[13.5px] font-normal">
                  {i + 1} {statistics.sentence}
                  {statistics.notes.rowsWithMorePieces !== undefined && (
                    <span className="block font-sans text-[12px] text-changed">{`${counted(statistics.notes.rowsWithMorePieces, 'cell')} had more pieces than there are columns; what is beyond stays joined in the last`}</span>
                  )}
                  {statistics.notes.newLookalikes !== undefined && (
                    <span className="block font-sans text-[12px] text-changed">{`${counted(statistics.notes.newLookalikes, 'new value')} ${statistics.notes.newLookalikes === 1 ? 'looks' : 'look'} like one that was given another spelling`}</span>
                  )}
                  {statistics.check && (
                    <span className={`block font-sans text-[12px] ${failed ? 'text-changed' : 'text-added'}`}>
                      {failed
                        ? `! does not hold${statistics.check.say === '' ? '' : `: ${statistics.check.say}`}`
                        : '✓ holds'}
                      {statistics.check.figure === null ? '' : ` (${figure(statistics.check.figure)})`}
                    </span>
                  )}
                  {odd.map((words) => (
                    <span key={words} className="block font-sans text-[12px] text-changed">
                      {words}
                    </span>
                  ))}
                </th>
                <td>{before ? figure(before.rowsOut) : ''}</td>
                <td>{figure(statistics.rowsOut)}</td>
                <td className="text-added">{statistics.rowsCame > 0 ? `+${figure(statistics.rowsCame)}` : ''}</td>
                <td className="text-removed">{statistics.rowsLeft > 0 ? `−${figure(statistics.rowsLeft)}` : ''}</td>
                <td className="text-changed">{statistics.cellsChanged > 0 ? figure(statistics.cellsChanged) : ''}</td>
                <td className="text-removed">{lost > 0 ? figure(lost) : ''}</td>
              </tr>
            )
          })}
        </tbody>
      </table>
    ))}
  </>
)
