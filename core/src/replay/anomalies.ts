import { kindNamed } from '../steps/index.ts'
import { figure } from '../messages/words.ts'
import type { StepStatistics } from '../steps/shared/statistics.ts'

const percent = (share: number): string => `${(share * 100).toFixed(1)} %`
const shareOf = (part: number, whole: number): number => (whole > 0 ? part / whole : 0)
const lost = ({ unreadable }: Pick<StepStatistics, 'unreadable'>): number =>
  Object.values(unreadable).reduce((a, b) => a + b, 0)

/** What a step did otherwise than last time, in words; shares are compared, so that a larger export alone says nothing. */
// eslint-disable-next-line complexity -- one branch for each anomaly
export const anomaliesOf = (now: Omit<StepStatistics, 'check'>, before: Omit<StepStatistics, 'check'>): string[] => {
  const kind = kindNamed(now.kind)
  const message: string[] = []
  const [left, usual] = [shareOf(now.rowsLeft, now.rowsIn), shareOf(before.rowsLeft, before.rowsIn)]
  if (kind?.dropsRows && (left > usual * 2 || left < usual / 2) && Math.max(left, usual) > 0.02)
    message.push(`drops ${percent(left)} of the rows; last time ${percent(usual)}`)
  if (kind?.multipliesRows && now.rowsOut > now.rowsIn && before.rowsOut <= before.rowsIn)
    message.push(`makes ${figure(now.rowsOut)} rows of ${figure(now.rowsIn)}; last time no row met more than one`)
  const [bad, usualBad] = [
    shareOf(lost(now), now.rowsIn || now.rowsOut),
    shareOf(lost(before), before.rowsIn || before.rowsOut),
  ]
  if (lost(now) > 0 && bad > usualBad * 2 && (bad > 0.01 || usualBad === 0))
    message.push(
      lost(before) === 0
        ? `${figure(lost(now))} cells could not be read; last time all could`
        : `${percent(bad)} of the rows have cells that could not be read; last time ${percent(usualBad)}`,
    )
  const gone =
    now.columnsAdded.length === 0 ? [] : before.columnsAdded.filter((name) => !now.columnsAdded.includes(name))
  if (gone.length > 0) message.push(`makes no column ${gone.map((name) => `“${name}”`).join(', ')} this time`)
  return message
}
