import { ownValue, counted, figure, standingOut } from '@fabula/core'
import type { RunReply } from '@fabula/core/api'

/** Sentence by sentence, beside last time; what stands out is tinted and marked. */
export const Ledger = ({
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
          {steps.map((account, i) => {
            const before = last?.tables.find((one) => one.id === id)?.steps.find((one) => one.id === account.id)
            const lost = Object.values(account.unreadable).reduce((a, b) => a + b, 0)
            const odd = before === undefined ? [] : standingOut(account, before)
            const failed = account.check !== undefined && !account.check.passed
            return (
              <tr
                key={account.id}
                className={`border-b border-line text-right *:px-2 *:py-[7px] ${odd.length > 0 || failed ? 'bg-turned-tint' : ''}`}
              >
                <th scope="row" className="text-left font-serif text-[13.5px] font-normal">
                  {i + 1} {account.sentence}
                  {account.notes.rowsWithMorePieces !== undefined && (
                    <span className="block font-sans text-[12px] text-turned">{`${counted(account.notes.rowsWithMorePieces, 'cell')} had more pieces than there are columns; what is beyond stays joined in the last`}</span>
                  )}
                  {account.notes.newLookalikes !== undefined && (
                    <span className="block font-sans text-[12px] text-turned">{`${counted(account.notes.newLookalikes, 'new value')} ${account.notes.newLookalikes === 1 ? 'looks' : 'look'} like one that was given another spelling`}</span>
                  )}
                  {account.check && (
                    <span className={`block font-sans text-[12px] ${failed ? 'text-turned' : 'text-came'}`}>
                      {failed
                        ? `! does not hold${account.check.say === '' ? '' : `: ${account.check.say}`}`
                        : '✓ holds'}
                      {account.check.figure === null ? '' : ` (${figure(account.check.figure)})`}
                    </span>
                  )}
                  {odd.map((words) => (
                    <span key={words} className="block font-sans text-[12px] text-turned">
                      {words}
                    </span>
                  ))}
                </th>
                <td>{before ? figure(before.rowsOut) : ''}</td>
                <td>{figure(account.rowsOut)}</td>
                <td className="text-came">{account.rowsCame > 0 ? `+${figure(account.rowsCame)}` : ''}</td>
                <td className="text-went">{account.rowsLeft > 0 ? `−${figure(account.rowsLeft)}` : ''}</td>
                <td className="text-turned">{account.cellsChanged > 0 ? figure(account.cellsChanged) : ''}</td>
                <td className="text-went">{lost > 0 ? figure(lost) : ''}</td>
              </tr>
            )
          })}
        </tbody>
      </table>
    ))}
  </>
)
