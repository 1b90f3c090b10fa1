import type { MatchReply } from '@fabula/core/api'
import { Button } from '../ui/parts.tsx'
import { keysOf, spareKey, suggestionsFor, suggestionWords, withTable, type KeyPair } from './join-model.ts'
import type { JoinModel } from './use-join.ts'

const KeySelect = ({
  label,
  value,
  of,
  choose,
}: {
  label: string
  value: string
  of: MatchReply['left']['columns']
  choose: (name: string) => void
}) => (
  <select
    className="field max-w-[190px] font-sans text-[13px] text-token"
    aria-label={label}
    value={value}
    onChange={(event) => choose(event.target.value)}
  >
    {[...new Set([value, ...of.map(({ name }) => name)])].map((name) => (
      <option key={name}>{name}</option>
    ))}
  </select>
)

/** One pair of columns by which the rows meet. */
const Key = ({ join, data, at }: { join: JoinModel; data: MatchReply; at: number }) => {
  const { step, story, names } = join
  const on = keysOf(step)
  const pair = on[at]
  const { taken } = suggestionsFor(data.suggestions, on)
  const setOn = (next: readonly KeyPair[]): void => story.reword({ ...step, on: next })
  const change = (part: Partial<KeyPair>): void => setOn(on.map((old, i) => (i === at ? { ...old, ...part } : old)))
  if (!pair) return null
  return (
    <span className="flex flex-wrap items-center gap-2">
      {at === 0 ? 'Where' : 'and'}{' '}
      <KeySelect
        label={`Key here, ${at + 1}`}
        value={pair.left}
        of={data.left.columns}
        choose={(left) => change({ left })}
      />{' '}
      is{' '}
      <KeySelect
        label={`Key there, ${at + 1}`}
        value={pair.right}
        of={data.right.columns}
        choose={(right) => change({ right })}
      />
      {on.length > 1 && (
        <button
          type="button"
          aria-label={`Take key ${at + 1} out`}
          className="px-1 font-sans text-ink-3 hover:text-ink"
          onClick={() => setOn(on.filter((_, i) => i !== at))}
        >
          ×
        </button>
      )}
      {at === on.length - 1 && taken && (
        <span className="font-sans text-[12.5px] text-ink-3">
          suggested: {Math.round(taken.share * 100)} % of the rows meet
          {taken.repeats ? `, but keys repeat in ${names[1]}` : ''}
        </span>
      )}
    </span>
  )
}

/** The table that is joined. */
const OtherTable = ({ join: { step, story, setShow } }: { join: JoinModel }) => {
  const choose = (table: string): void => {
    setShow('all')
    story.reword(withTable(step, table))
  }
  return (
    <label>
      <span className="sr-only">Match with</span>
      <select
        className="field max-w-[170px]"
        aria-label="Match with"
        value={step.with}
        onChange={(event) => choose(event.target.value)}
      >
        {story.usableTables.map(({ id, name }) => (
          <option key={id} value={id}>
            with {name}
          </option>
        ))}
      </select>
    </label>
  )
}

/** By which keys the tables meet, as a sentence to change, and other keys that would do. */
export const JoinHeading = ({ join, data }: { join: JoinModel; data: MatchReply }) => {
  const { step, story, names } = join
  const on = keysOf(step)
  const cross = step.how === 'cross'
  const others = cross ? [] : suggestionsFor(data.suggestions, on).others
  const setOn = (next: readonly KeyPair[]): void => story.reword({ ...step, on: next })
  return (
    <div className="border-b border-line px-3.5 py-2">
      <div className="flex items-start gap-3">
        <div className="grid min-w-0 flex-1 gap-1 font-serif text-[14.5px]">
          {cross ? (
            <span>
              Every row of {names[0]} beside every row of {names[1]}.
            </span>
          ) : (
            on.map((_, at) => <Key key={at} join={join} data={data} at={at} />)
          )}
        </div>
        {!cross && <Button onClick={() => setOn([...on, spareKey(data, on)])}>Another key</Button>}
        <OtherTable join={join} />
      </div>
      {others.length > 0 && (
        <p className="mt-1 flex flex-wrap items-baseline gap-x-3 text-[12.5px] text-ink-3">
          or{' '}
          {others.map((one) => (
            <Button
              key={JSON.stringify(one.on)}
              look="link"
              className="py-0! text-[12.5px]"
              onClick={() => setOn(one.on)}
            >
              {suggestionWords(one)}
            </Button>
          ))}
        </p>
      )}
    </div>
  )
}
