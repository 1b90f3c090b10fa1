import { counted, figure, typeWords, type JoinShow } from '@fabula/core'
import type { MatchReply } from '@fabula/core/api'
import type { ReactNode } from 'react'
import { Button, Notice } from '../ui/parts.tsx'
import { quickFixOf, quickFixWords, reasonWords, repeatedWords, withOption, type MatchFigures } from './join-model.ts'
import type { JoinModel } from './use-join.ts'

/** What keeps two keys of different types from being compared, and the type that would let them. */
const TypeWays = ({ join: { names, step, story }, ways }: { join: JoinModel; ways: MatchReply['ways'] }) => (
  <div className="grid content-start gap-2 overflow-auto p-3">
    {ways.length === 0 && <p className="text-ink-2">Choose a column of each table that hold the same thing.</p>}
    {ways.map(({ at, side, column, type, meets }) => (
      <Notice key={`${at}${side}`}>
        {side === 'left' ? names[0] : names[1]}: <b>{column}</b> is not {typeWords[type]}.{' '}
        <Button
          look="link"
          className="py-0! text-left"
          onClick={() =>
            side === 'left'
              ? story.addBefore({ kind: 'cast', columns: [column], type })
              : story.addElsewhere(step.with, { kind: 'cast', columns: [column], type })
          }
        >
          Read it as {typeWords[type]}
        </Button>
        {meets > 0 && <span className="block text-ink-2">Then {counted(meets, 'row')} meet.</span>}
      </Notice>
    ))}
  </div>
)

/** A note with two ways out of what it says. */
const MatchNote = ({
  children,
  fix,
  fixWords,
  see,
}: {
  children: ReactNode
  fix: () => void
  fixWords: string
  see: () => void
}) => (
  <div role="note" className="mt-1.5 rounded-lg bg-changed-tint px-2.5 py-2 text-[12.5px]">
    {children}
    <span className="mt-0.5 flex flex-wrap gap-x-3">
      <Button look="link" className="py-0! text-left" onClick={fix}>
        {fixWords}
      </Button>
      <Button look="link" className="py-0! text-left" onClick={see}>
        See them
      </Button>
    </span>
  </div>
)

/** How many rows meet one, none or several; each figure shows its rows. */
const MeetingCounts = ({ join, matching }: { join: JoinModel; matching: MatchFigures }) => {
  const { names, show, setShow } = join
  const counts: readonly (readonly [number, JoinShow, string, string])[] = [
    [matching.one, 'met', `rows of ${names[0]} meet one`, ''],
    [matching.none, 'none', 'meet none', 'text-removed'],
    [matching.many, 'many', 'meet several: rows multiply', 'text-changed'],
    [matching.unused, 'unused', `rows of ${names[1]} are never met`, ''],
  ]
  return counts.map(([count, which, words, tone]) => (
    <button
      key={which}
      type="button"
      aria-pressed={show === which}
      className="grid grid-cols-[auto_1fr] items-baseline gap-2 rounded px-1.5 py-1 text-left hover:bg-sunk aria-pressed:bg-token-tint"
      onClick={() => setShow(show === which ? 'all' : which)}
    >
      <b className={`text-[17px] ${count > 0 ? tone : 'text-ink-3'}`}>{figure(count)}</b>{' '}
      <span className="text-[12.5px] text-ink-2">{words}</span>
    </button>
  ))
}

/** Why rows meet none, reason by reason, with what would make them meet. */
const Reasons = ({ join, data, matching }: { join: JoinModel; data: MatchReply; matching: MatchFigures }) => {
  const { step, story, setShow } = join
  const apply = (why: MatchFigures['why'][number]): void => {
    const fix = quickFixOf(step, why, data)
    if (fix.before) story.addBefore(fix.before)
    if (fix.elsewhere) story.addElsewhere(step.with, fix.elsewhere)
    if (fix.step) story.reword(fix.step)
  }
  return matching.why.map((why) => (
    <MatchNote
      key={why.reason}
      fix={() => apply(why)}
      fixWords={quickFixWords[why.reason]}
      see={() => setShow(why.reason)}
    >
      <b>
        {why.rows === matching.none ? `All ${figure(why.rows)}` : `${figure(why.rows)} of the ${figure(matching.none)}`}
      </b>{' '}
      {reasonWords[why.reason]}.
    </MatchNote>
  ))
}

/** Whether case and outer spaces matter when keys are compared. */
const Options = ({ join: { step, story } }: { join: JoinModel }) =>
  (['ignoreCase', 'trim'] as const).map((option) => (
    <label key={option} className="flex items-center gap-1.5 px-1.5 pt-1 text-[12.5px] text-ink-2">
      <input
        type="checkbox"
        checked={step[option] === true}
        onChange={(event) => story.reword(withOption(step, option, event.target.checked))}
      />{' '}
      {option === 'trim' ? 'spaces at the ends do not matter' : 'case does not matter'}
    </label>
  ))

/** The figures between the two tables; each shows exactly its rows, and what keeps rows apart has its quick fix beside it. */
export const JoinFigures = ({ join, data }: { join: JoinModel; data: MatchReply }) => {
  const { matching, ways } = data
  const { step, story, names, setShow } = join
  if (!matching) return <TypeWays join={join} ways={ways} />
  const [repeated] = matching.repeated
  return (
    <div
      className="figures grid content-start gap-1 overflow-auto px-2.5 py-3"
      aria-label="How the rows meet"
      role="group"
    >
      <MeetingCounts join={join} matching={matching} />
      {matching.emptyHere > 0 && (
        <p className="px-1.5 text-[12px] text-ink-3">
          {figure(matching.emptyHere)} of them have an empty key, which meets nothing.
        </p>
      )}
      {repeated && step.matches !== 'first' && (
        <MatchNote
          fix={() => story.reword({ ...step, matches: 'first' })}
          fixWords="Take the first"
          see={() => setShow('many')}
        >
          <b className="break-words">{repeated.key}</b> {repeatedWords(repeated.there, names[1], matching.repeatedKeys)}
        </MatchNote>
      )}
      <Reasons join={join} data={data} matching={matching} />
      <Options join={join} />
    </div>
  )
}
