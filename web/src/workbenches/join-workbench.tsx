/* eslint max-lines: ['error', { max: 500 }] -- one view with its parts */
import {
  counted,
  figure,
  typeWords,
  type JoinHow,
  type JoinShow,
  type NewStep,
  type Step,
  type StepOf,
} from '@fabula/core'
import type { MatchReply } from '@fabula/core/api'
import { useQuery } from '@tanstack/react-query'
import { useEffect, useRef, useState, type Dispatch, type JSX, type SetStateAction, useEffectEvent } from 'react'
import { matchQuery } from '../api/queries.ts'
import type { Story } from '../story/use-story.ts'
import { Button, Notice } from '../ui/parts.tsx'
import { cursorBefore, without } from './cursor-before.ts'
import { Bring } from './join-columns.tsx'
import { Ways, type KeyPair, type MatchFigures } from './join-ways.tsx'
import { pageRows } from './page-controls.tsx'
import { WorkbenchTable } from './workbench-table.tsx'

/** The figures between the two tables; each shows exactly its rows, and what keeps rows apart has its mend beside it. */
const Figures = ({
  data,
  names,
  show,
  setShow,
  step,
  story,
}: {
  data: MatchReply
  names: readonly [string, string]
  show: JoinShow
  setShow: (show: JoinShow) => void
  step: StepOf<'join'>
  story: Story
  // eslint-disable-next-line max-lines-per-function -- one flat piece of markup
}) => {
  const { matching } = data
  const on = (step.on as readonly KeyPair[] | undefined) ?? []
  const other = String(step.with)
  const typed = (type: string): string => typeWords[type as keyof typeof typeWords]
  if (!matching) return waysOfTypes(data, names, typed, story, other)
  const reported: readonly (readonly [number, JoinShow, string, string])[] = [
    [matching.one, 'met', `rows of ${names[0]} meet one`, ''],
    [matching.none, 'none', 'meet none', 'text-removed'],
    [matching.many, 'many', 'meet several: rows multiply', 'text-changed'],
    [matching.unused, 'unused', `rows of ${names[1]} are never met`, ''],
  ]
  const typesOfKeys = (side: 'left' | 'right'): readonly string[] =>
    on
      .map((one) => one[side])
      .filter((name) => data[side].columns.find((field) => field.name === name)?.type === 'text')
  const stripped = (columns: readonly string[]): NewStep => ({
    kind: 'replace',
    columns,
    find: '^(\\s*)0+([0-9])',
    with: '$1$2',
    match: 'pattern',
  })
  const words = {
    case: 'differ only by small and large letters',
    spaces: 'differ only by spaces at the ends',
    'case-and-spaces': 'differ only by letters’ case and spaces',
    zeros: 'differ only by zeros in front',
  }
  const quickFix = ({ reason, leading = [] }: MatchFigures['why'][number]): void => {
    if (reason === 'zeros') {
      if (leading.includes('left')) story.addBefore(stripped(typesOfKeys('left')))
      if (leading.includes('right')) story.addElsewhere(other, stripped(typesOfKeys('right')))
    } else
      story.reword({
        ...step,
        ...(reason === 'spaces' ? {} : { ignoreCase: true }),
        ...(reason === 'case' ? {} : { trim: true }),
      } as Step)
  }
  const fixWords = {
    case: 'Let case not matter',
    spaces: 'Let those spaces not matter',
    'case-and-spaces': 'Let both not matter',
    zeros: 'Take the zeros off',
  }
  const [first] = matching.repeated
  return (
    <div
      className="figures grid content-start gap-1 overflow-auto px-2.5 py-3"
      aria-label="How the rows meet"
      role="group"
    >
      {reported.map(([n, which, text, tone]) => (
        <button
          key={which}
          type="button"
          aria-pressed={show === which}
          className="grid grid-cols-[auto_1fr] items-baseline gap-2 rounded px-1.5 py-1 text-left hover:bg-sunk aria-pressed:bg-token-tint"
          onClick={() => setShow(show === which ? 'all' : which)}
        >
          <b className={`text-[17px] ${n > 0 ? tone : 'text-ink-3'}`}>{figure(n)}</b>{' '}
          <span className="text-[12.5px] text-ink-2">{text}</span>
        </button>
      ))}
      {matching.emptyHere > 0 && (
        <p className="px-1.5 text-[12px] text-ink-3">
          {figure(matching.emptyHere)} of them have an empty key, which meets nothing.
        </p>
      )}
      {first && step.matches !== 'first' && firstMatchNote(first, names, matching, story, step, setShow)}
      {matching.why.map((one) => (
        <div key={one.reason} role="note" className="mt-1.5 rounded-lg bg-changed-tint px-2.5 py-2 text-[12.5px]">
          <b>
            {one.rows === matching.none
              ? `All ${figure(one.rows)}`
              : `${figure(one.rows)} of the ${figure(matching.none)}`}
          </b>{' '}
          {words[one.reason]}.
          <span className="mt-0.5 flex flex-wrap gap-x-3">
            <Button look="link" className="py-0! text-left" onClick={() => quickFix(one)}>
              {fixWords[one.reason]}
            </Button>
            <Button look="link" className="py-0! text-left" onClick={() => setShow(one.reason)}>
              See them
            </Button>
          </span>
        </div>
      ))}
      {(['ignoreCase', 'trim'] as const).map((option) => (
        <label key={option} className="flex items-center gap-1.5 px-1.5 pt-1 text-[12.5px] text-ink-2">
          <input
            type="checkbox"
            checked={step[option] === true}
            onChange={(event) =>
              story.reword(event.target.checked ? ({ ...step, [option]: true } as Step) : without(step, option))
            }
          />{' '}
          {option === 'trim' ? 'spaces at the ends do not matter' : 'case does not matter'}
        </label>
      ))}
    </div>
  )
}

/** Two tables side by side: by which keys they meet, what each way of joining keeps, who meets nobody and why. */
// eslint-disable-next-line complexity, max-lines-per-function -- markup with a condition for each optional part
export const JoinWorkbench = ({ step, story }: { step: StepOf<'join'>; story: Story }) => {
  const other = String(step.with)
  const on = (step.on as readonly KeyPair[] | undefined) ?? []
  const how = step.how as JoinHow
  const [show, setShow] = useState<JoinShow>('all')
  const [from, setFrom] = useState<readonly [number, number]>([0, 0])
  const pairs = JSON.stringify(on)
  useEffect(() => setFrom([0, 0]), [show, other, pairs])
  useEffect(() => setShow('all'), [other, pairs])
  const { tables } = story.recipe
  const nameOf = (id: string): string => tables.find((table) => table.id === id)?.name ?? id
  const names = [nameOf(story.table?.id ?? ''), nameOf(other)] as const
  const entries = [story.table?.id, other].map((id) =>
    tables.findIndex((table) => table.id === id),
  ) as unknown as readonly [number, number]
  const { data, error, isPlaceholderData } = useQuery(
    matchQuery(story.place, story.flow.files, cursorBefore(story, step.id), other, {
      on: [...on],
      ignoreCase: step.ignoreCase === true,
      trim: step.trim === true,
      matches: (step.matches as 'all' | 'first' | 'one' | undefined) ?? 'all',
      show,
      from: from[0],
      fromThere: from[1],
      count: pageRows,
    }),
  )
  // a sentence that was just begun takes the likeliest keys; whoever has chosen keys keeps them
  const settled = useRef(story.draft?.isNew ? '' : other)
  const named = data && JSON.stringify(data.suggestions)
  const suggestKeys = useEffectEvent(() => {
    if (!data || isPlaceholderData || settled.current === other || how === 'cross') return
    const fits = (pair: KeyPair): boolean => data.left.columns.some(({ name }) => name === pair.left)
    const wanted = story.selection.kind === 'columns' ? story.selection.columns : []
    const best =
      data.suggestions.find(({ on: keys }) => keys.some(({ left }) => wanted.includes(left))) ?? data.suggestions[0]
    settled.current = other
    if (best && best.on.every(fits)) story.reword({ ...step, on: best.on } as Step)
  })
  useEffect(() => suggestKeys(), [named, other, isPlaceholderData])
  if (error)
    return (
      <div className="p-4">
        <Notice kind="removed">{error.message}</Notice>
      </div>
    )
  if (!data) return <p className="p-4 text-ink-3">Holding the two tables against each other…</p>
  const setOn = (next: readonly KeyPair[]): void => story.reword({ ...step, on: next } as Step)
  const select = (label: string, value: string, of: readonly string[], put: (name: string) => void) => (
    <select
      className="field max-w-[190px] font-sans text-[13px] text-token"
      aria-label={label}
      value={value}
      onChange={(event) => put(event.target.value)}
    >
      {[...new Set([value, ...of])].map((name) => (
        <option key={name}>{name}</option>
      ))}
    </select>
  )
  const same = (a: readonly KeyPair[], b: readonly KeyPair[]): boolean => JSON.stringify(a) === JSON.stringify(b)
  const suggested = data.suggestions.find((one) => same(one.on, on))
  const others = data.suggestions.filter((one) => !same(one.on, on)).slice(0, 2)
  const spare = {
    left: data.suggestions.flatMap((one) => one.on).find((pair) => !on.some(({ left }) => left === pair.left)),
  }
  const next: KeyPair = spare.left ?? {
    left: data.left.columns[0]?.name ?? '',
    right: data.right.columns[0]?.name ?? '',
  }
  const shown = (side: 'left' | 'right'): string =>
    data[side].shown.total === data[side].rows
      ? counted(data[side].rows, 'row')
      : `${figure(data[side].shown.total)} of ${counted(data[side].rows, 'row')}`
  return (
    <div className="grid min-h-0 flex-1 grid-rows-[auto_auto_minmax(0,1fr)_auto]">
      {joinHeading(how, names, on, select, data, setOn, suggested, next, other, setShow, story, step, others)}
      <Ways
        how={how}
        matching={data.matching}
        before={data.left.rows}
        names={names}
        entries={entries}
        choose={(one) =>
          story.reword(
            one === 'cross'
              ? ({ ...without(step, 'on', 'matches', 'ignoreCase', 'trim'), how: one } as Step)
              : ({ ...step, how: one, on: on.length > 0 ? on : [next] } as Step),
          )
        }
      />
      <div className="grid min-h-0 grid-cols-[minmax(0,1fr)_208px_minmax(0,1fr)]">
        <WorkbenchTable
          name={names[0]}
          entry={entries[0]}
          side={data.left}
          keys={on.map(({ left }) => left)}
          marked={data.matching !== null && how !== 'cross'}
          from={from[0]}
          go={(at) => setFrom([at, from[1]])}
          reported={shown('left')}
        />
        <div className="min-h-0 border-x border-line bg-paper">
          {how === 'cross' ? (
            <p className="p-3 text-ink-2">
              No key is needed: {figure(data.left.rows)} × {figure(data.right.rows)} rows.
            </p>
          ) : (
            <Figures data={data} names={names} show={show} setShow={setShow} step={step} story={story} />
          )}
        </div>
        <WorkbenchTable
          name={names[1]}
          entry={entries[1]}
          side={data.right}
          keys={on.map(({ right }) => right)}
          marked={data.matching !== null && how !== 'cross'}
          from={from[1]}
          go={(at) => setFrom([from[0], at])}
          reported={shown('right')}
        />
      </div>
      <Bring step={step} data={data} story={story} />
    </div>
  )
}

function waysOfTypes(
  data: MatchReply,
  names: readonly [string, string],
  typed: (type: string) => string,
  story: Story,
  other: string,
) {
  return (
    <div className="grid content-start gap-2 overflow-auto p-3">
      {data.ways.length === 0 && <p className="text-ink-2">Choose a column of each table that hold the same thing.</p>}
      {data.ways.map(({ at, side, column, type, meets }) => (
        <Notice key={`${at}${side}`}>
          {side === 'left' ? names[0] : names[1]}: <b>{column}</b> is not {typed(type)}.{' '}
          <Button
            look="link"
            className="py-0! text-left"
            onClick={() =>
              side === 'left'
                ? story.addBefore({ kind: 'cast', columns: [column], type })
                : story.addElsewhere(other, { kind: 'cast', columns: [column], type })
            }
          >
            Read it as {typed(type)}
          </Button>
          {meets > 0 && <span className="block text-ink-2">Then {counted(meets, 'row')} meet.</span>}
        </Notice>
      ))}
    </div>
  )
}

function firstMatchNote(
  first: { key: string; here: number; there: number },
  names: readonly [string, string],
  matching: MatchFigures,
  story: Story,
  step: StepOf<'join'>,
  setShow: (show: JoinShow) => void,
) {
  return (
    <div role="note" className="mt-1.5 rounded-lg bg-changed-tint px-2.5 py-2 text-[12.5px]">
      <b className="break-words">{first.key}</b> stands {first.there === 2 ? 'twice' : `${figure(first.there)} times`}{' '}
      in {names[1]}
      {matching.repeatedKeys > 1
        ? `, and ${counted(matching.repeatedKeys - 1, 'more key')} repeat${matching.repeatedKeys === 2 ? 's' : ''}`
        : ''}
      .
      <span className="mt-0.5 flex flex-wrap gap-x-3">
        <Button
          look="link"
          className="py-0! text-left"
          onClick={() => story.reword({ ...step, matches: 'first' } as Step)}
        >
          Take the first
        </Button>
        <Button look="link" className="py-0! text-left" onClick={() => setShow('many')}>
          See them
        </Button>
      </span>
    </div>
  )
}

// eslint-disable-next-line max-lines-per-function -- one flat piece of markup
function joinHeading(
  how: string,
  names: readonly [string, string],
  on: readonly KeyPair[],
  select: (label: string, value: string, of: readonly string[], put: (name: string) => void) => JSX.Element,
  data: MatchReply,
  setOn: (next: readonly KeyPair[]) => void,
  suggested: { on: { left: string; right: string }[]; share: number; repeats: boolean } | undefined,
  next: KeyPair,
  other: string,
  setShow: Dispatch<
    SetStateAction<'none' | 'spaces' | 'case' | 'all' | 'met' | 'many' | 'unused' | 'case-and-spaces' | 'zeros'>
  >,
  story: Story,
  step: StepOf<'join'>,
  others: { on: { left: string; right: string }[]; share: number; repeats: boolean }[],
) {
  return (
    <div className="border-b border-line px-3.5 py-2">
      <div className="flex items-start gap-3">
        <div className="grid min-w-0 flex-1 gap-1 font-serif text-[14.5px]">
          {how === 'cross' ? (
            <span>
              Every row of {names[0]} beside every row of {names[1]}.
            </span>
          ) : (
            on.map((one, i) => (
              <span key={i} className="flex flex-wrap items-center gap-2">
                {i === 0 ? 'Where' : 'and'}{' '}
                {select(
                  `Key here, ${i + 1}`,
                  one.left,
                  data.left.columns.map(({ name }) => name),
                  (left) => setOn(on.map((old, k) => (k === i ? { ...old, left } : old))),
                )}{' '}
                is{' '}
                {select(
                  `Key there, ${i + 1}`,
                  one.right,
                  data.right.columns.map(({ name }) => name),
                  (right) => setOn(on.map((old, k) => (k === i ? { ...old, right } : old))),
                )}
                {on.length > 1 && (
                  <button
                    type="button"
                    aria-label={`Take key ${i + 1} out`}
                    className="px-1 font-sans text-ink-3 hover:text-ink"
                    onClick={() => setOn(on.filter((_, k) => k !== i))}
                  >
                    ×
                  </button>
                )}
                {i === on.length - 1 && suggested && (
                  <span className="font-sans text-[12.5px] text-ink-3">
                    suggested: {Math.round(suggested.share * 100)} % of the rows meet
                    {suggested.repeats ? `, but keys repeat in ${names[1]}` : ''}
                  </span>
                )}
              </span>
            ))
          )}
        </div>
        {how !== 'cross' && <Button onClick={() => setOn([...on, next])}>Another key</Button>}
        <label>
          <span className="sr-only">Match with</span>
          <select
            className="field max-w-[170px]"
            aria-label="Match with"
            value={other}
            onChange={(event) => (
              setShow('all'),
              story.reword({ ...without(step, 'bring'), with: event.target.value } as Step)
            )}
          >
            {story.usableTables.map(({ id, name }) => (
              <option key={id} value={id}>
                with {name}
              </option>
            ))}
          </select>
        </label>
      </div>
      {others.length > 0 && how !== 'cross' && (
        <p className="mt-1 flex flex-wrap items-baseline gap-x-3 text-[12.5px] text-ink-3">
          or{' '}
          {others.map((one) => (
            <Button
              key={JSON.stringify(one.on)}
              look="link"
              className="py-0! text-[12.5px]"
              onClick={() => setOn(one.on)}
            >
              {one.on.map(({ left, right }) => (left === right ? left : `${left} is ${right}`)).join(' and ')} (
              {Math.round(one.share * 100)} %{one.repeats ? ', keys repeat' : ''})
            </Button>
          ))}
        </p>
      )}
    </div>
  )
}
