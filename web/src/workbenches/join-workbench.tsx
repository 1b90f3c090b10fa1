import { figure } from '@fabula/core'
import type { MatchReply } from '@fabula/core/api'
import type { Story } from '../story/use-story.ts'
import { Notice } from '../ui/parts.tsx'
import { Bring } from './join-columns.tsx'
import { JoinFigures } from './join-figures.tsx'
import { JoinHeading } from './join-heading.tsx'
import { keysOf, shownRows, spareKey, withWay, type JoinStep } from './join-model.ts'
import { Ways } from './join-ways.tsx'
import { useJoin, type JoinModel } from './use-join.ts'
import { WorkbenchTable } from './workbench-table.tsx'

/** One of the two tables: the rows that are shown of it. */
const SideTable = ({ join, data, side }: { join: JoinModel; data: MatchReply; side: 'left' | 'right' }) => {
  const { step, names, entries, from, setFrom } = join
  const i = side === 'left' ? 0 : 1
  return (
    <WorkbenchTable
      name={names[i]}
      entry={entries[i]}
      side={data[side]}
      keys={keysOf(step).map((pair) => pair[side])}
      marked={data.matching !== null && step.how !== 'cross'}
      from={from[i]}
      go={(at) => setFrom(side === 'left' ? [at, from[1]] : [from[0], at])}
      reported={shownRows(data[side])}
    />
  )
}

/** Two tables side by side: by which keys they meet, what each way of joining keeps, who meets nobody and why. */
export const JoinWorkbench = ({ step, story }: { step: JoinStep; story: Story }) => {
  const join = useJoin(step, story)
  const { data, error, names, entries } = join
  if (error)
    return (
      <div className="p-4">
        <Notice kind="removed">{error.message}</Notice>
      </div>
    )
  if (!data) return <p className="p-4 text-ink-3">Holding the two tables against each other…</p>
  return (
    <div className="grid min-h-0 flex-1 grid-rows-[auto_auto_minmax(0,1fr)_auto]">
      <JoinHeading join={join} data={data} />
      <Ways
        how={step.how}
        matching={data.matching}
        before={data.left.rows}
        names={names}
        entries={entries}
        choose={(how) => story.reword(withWay(step, how, spareKey(data, keysOf(step))))}
      />
      <div className="grid min-h-0 grid-cols-[minmax(0,1fr)_208px_minmax(0,1fr)] max-[900px]:block max-[900px]:overflow-auto">
        <SideTable join={join} data={data} side="left" />
        <div className="min-h-0 border-x border-line bg-paper">
          {step.how === 'cross' ? (
            <p className="p-3 text-ink-2">
              No key is needed: {figure(data.left.rows)} × {figure(data.right.rows)} rows.
            </p>
          ) : (
            <JoinFigures join={join} data={data} />
          )}
        </div>
        <SideTable join={join} data={data} side="right" />
      </div>
      <Bring step={step} data={data} story={story} />
    </div>
  )
}
