import { useQuery } from '@tanstack/react-query'
import { DropdownMenu } from 'radix-ui'
import { useState } from 'react'
import { capital, counted, figure, type SimilarityMeasure, type StepOf } from '@fabula/core'
import type { GroupsReply } from '@fabula/core/api'
import { groupsQuery } from '../api/queries.ts'
import { Button, Segments } from '../ui/parts.tsx'
import { dotted } from '../profile/column-facts.tsx'
import type { Story } from '../story/use-story.ts'
import { moveTo, partedFrom, withGroup, withName, type ValueGroup } from './groups.ts'

const measureWords: Readonly<Record<SimilarityMeasure, string>> = {
  characters: 'by characters',
  spelling: 'by spelling',
  sound: 'by sound',
}
const measureAbout: Readonly<Record<SimilarityMeasure, string>> = {
  characters: 'the same letters, whatever case, order, marks and spaces',
  spelling: 'a few letters apart',
  sound: 'spoken alike',
}
type UnifyView = SimilarityMeasure | 'beside' | 'mine'

const item = 'cursor-pointer rounded px-2 py-1 outline-none data-highlighted:bg-token-tint'

const rowsOf = (values: GroupsReply['values'], from: readonly string[]): number =>
  values.reduce((sum, { text, count }) => sum + (from.includes(text) ? count : 0), 0)

/** A suggested group: its members with their rows, why, and one click to take it. */
const Suggestion = ({
  group,
  taken,
  take,
}: {
  group: GroupsReply[SimilarityMeasure][number]
  taken: boolean
  take: () => void
}) => (
  <li className="border-b border-line py-2">
    <div className="flex items-baseline gap-2">
      <b className="truncate font-serif text-[13.5px]">{group.into}</b>
      <span className="figures text-[12px] text-ink-3">
        {counted(
          group.members.reduce((sum, { count }) => sum + count, 0),
          'row',
        )}
      </span>
      <Button look="link" className="ml-auto py-0! text-[12.5px]" hidden={taken} onClick={take}>
        Take it
      </Button>
      {taken && <span className="ml-auto text-[12.5px] text-added">✓ taken</span>}
    </div>
    <p className="figures text-[12.5px] text-ink-2">
      {group.members.slice(0, 12).map(({ text, count }, i) => (
        <span key={text} className="whitespace-pre-wrap">
          {i > 0 ? ' · ' : ''}
          {dotted(text)} <span className="text-ink-3">{figure(count)}</span>
        </span>
      ))}
      {group.members.length > 12 && ` and ${group.members.length - 12} more`}
    </p>
    <p className="text-[12px] text-ink-3">{group.reason}</p>
  </li>
)

/** A group that was taken: its name, its members, each of which can leave or go to another. */
const TakenGroup = ({
  group,
  at,
  groups,
  values,
  set,
}: {
  group: ValueGroup
  at: number
  groups: readonly ValueGroup[]
  values: GroupsReply['values']
  set: (groups: readonly ValueGroup[]) => void
}) => (
  <li className="border-b border-line py-2" aria-label={`Group ${group.into}`}>
    <div className="flex items-center gap-2">
      <input
        className="field w-[180px] font-serif"
        aria-label={`Name of group ${at + 1}`}
        defaultValue={group.into}
        key={group.into}
        onBlur={(event) =>
          event.target.value.trim() !== '' &&
          event.target.value !== group.into &&
          set(withName(groups, at, event.target.value))
        }
        onKeyDown={(event) => event.key === 'Enter' && (event.stopPropagation(), event.currentTarget.blur())}
      />
      <span className="figures text-[12px] text-ink-3">{counted(rowsOf(values, group.from), 'row')}</span>
      <Button
        look="link"
        className="ml-auto py-0! text-[12.5px]"
        onClick={() => set(groups.filter((_, i) => i !== at))}
      >
        Take it apart
      </Button>
    </div>
    <ul className="mt-1 flex flex-wrap gap-1.5">
      {group.from.map((value) => (
        <li
          key={value}
          className="figures flex items-center gap-1 rounded border border-line bg-paper pl-1.5 text-[12.5px] whitespace-pre"
        >
          {dotted(value)}
          <DropdownMenu.Root>
            <DropdownMenu.Trigger asChild>
              <button type="button" aria-label={`Where ${value} goes`} className="px-1 text-ink-3 hover:text-ink">
                ▾
              </button>
            </DropdownMenu.Trigger>
            <DropdownMenu.Portal>
              <DropdownMenu.Content
                align="end"
                className="z-50 max-h-[260px] min-w-[170px] overflow-auto rounded-lg border border-line-strong bg-sheet p-1.5 text-[13px]"
              >
                <DropdownMenu.Item className={item} onSelect={() => set(partedFrom(groups, at, value))}>
                  Leave it as it is
                </DropdownMenu.Item>
                {groups.map((other, i) =>
                  i === at ? null : (
                    <DropdownMenu.Item key={i} className={item} onSelect={() => set(moveTo(groups, value, i))}>
                      Move it to {other.into}
                    </DropdownMenu.Item>
                  ),
                )}
              </DropdownMenu.Content>
            </DropdownMenu.Portal>
          </DropdownMenu.Root>
        </li>
      ))}
    </ul>
  </li>
)

/** By hand: values are ticked and called one thing. */
const ByHand = ({
  values,
  groups,
  set,
}: {
  values: GroupsReply['values']
  groups: readonly ValueGroup[]
  set: (groups: readonly ValueGroup[]) => void
}) => {
  const [find, setFind] = useState('')
  const [ticked, setTicked] = useState<readonly string[]>([])
  const [into, setInto] = useState('')
  const home = new Map(groups.flatMap((group) => group.from.map((value) => [value, group.into] as const)))
  const found = values.filter(({ text }) => text.toLowerCase().includes(find.toLowerCase())).slice(0, 200)
  const name = into.trim() === '' ? (ticked[0]?.trim() ?? '') : into
  return (
    <div className="grid min-h-0 grid-rows-[auto_1fr_auto] gap-2">
      <input
        className="field"
        aria-label="Find a value to group"
        placeholder="Find a value"
        value={find}
        onChange={(event) => setFind(event.target.value)}
      />
      <ul className="min-h-0 overflow-auto">
        {found.map(({ text, count }) => (
          <li key={text}>
            <label className="figures flex items-center gap-2 rounded px-1 py-0.5 text-[12.5px] hover:bg-sunk">
              <input
                type="checkbox"
                checked={ticked.includes(text)}
                onChange={() =>
                  setTicked(ticked.includes(text) ? ticked.filter((one) => one !== text) : [...ticked, text])
                }
              />
              <span className="flex-1 truncate whitespace-pre">{dotted(text)}</span>
              {home.has(text) && home.get(text) !== text && <span className="text-token">{home.get(text)}</span>}
              <span className="text-ink-3">{figure(count)}</span>
            </label>
          </li>
        ))}
      </ul>
      <div className="flex items-center gap-2">
        <input
          className="field flex-1"
          aria-label="Call them"
          placeholder={name === '' ? 'tick values, then name them' : name}
          value={into}
          onChange={(event) => setInto(event.target.value)}
          onKeyDown={(event) => event.key === 'Enter' && event.stopPropagation()}
        />
        <Button
          disabled={ticked.length === 0 || name === ''}
          onClick={() => {
            set(withGroup(groups, { into: name, from: ticked }))
            setTicked([])
            setInto('')
          }}
        >
          Call all of these so
        </Button>
      </div>
    </div>
  )
}

type Groups = {
  readonly data: GroupsReply
  readonly groups: readonly ValueGroup[]
  /** Takes these groups; `judged`: how they were found. */
  readonly set: (next: readonly ValueGroup[], judged?: SimilarityMeasure | 'hand') => void
}
type SuggestedGroup = GroupsReply[SimilarityMeasure][number]

const asGroup = ({ into, members }: SuggestedGroup): ValueGroup => ({ into, from: members.map(({ text }) => text) })

/** The groups that one measure of likeness suggests; `beside`: as one of several columns. */
const Suggestions = ({
  measure,
  beside,
  groups: { data, groups, set },
}: {
  measure: SimilarityMeasure
  beside: boolean
  groups: Groups
}) => {
  const suggested = data[measure]
  const isTaken = ({ members }: SuggestedGroup): boolean =>
    groups.some(({ from }) => members.every(({ text }) => from.includes(text)))
  const takeAll = (): void =>
    set(
      suggested.reduce((all, group) => withGroup(all, asGroup(group)), groups),
      measure,
    )
  return (
    <section aria-label={`Suggested ${measureWords[measure]}`} className="flex min-h-0 min-w-0 flex-1 flex-col">
      <p className="flex items-baseline gap-2 text-[12px] text-ink-3">
        <span className={beside ? 'font-semibold text-ink-2' : ''}>
          {beside ? capital(measureWords[measure]) : measureAbout[measure]}
        </span>
        {suggested.length > 1 && (
          <Button look="link" className="ml-auto py-0! text-[12.5px] whitespace-nowrap" onClick={takeAll}>
            Take all {suggested.length}
          </Button>
        )}
      </p>
      <ul className="min-h-0 flex-1 overflow-auto pr-1" tabIndex={0} aria-label={`Groups ${measureWords[measure]}`}>
        {suggested.map((group) => (
          <Suggestion
            key={group.members.map(({ text }) => text).join('\u0000')}
            group={group}
            taken={isTaken(group)}
            take={() => set(withGroup(groups, asGroup(group)), measure)}
          />
        ))}
        {suggested.length === 0 && <li className="py-2 text-ink-3">Nothing is alike in this way.</li>}
      </ul>
    </section>
  )
}

/** Suggestions of the chosen measure, of all three side by side, or the values to group by hand. */
const Choices = ({ shown, groups }: { shown: UnifyView; groups: Groups }) => {
  if (shown === 'mine')
    return (
      <div className="grid min-h-0 flex-1">
        <ByHand values={groups.data.values} groups={groups.groups} set={(next) => groups.set(next, 'hand')} />
      </div>
    )
  const measures = shown === 'beside' ? (['characters', 'spelling', 'sound'] as const) : [shown]
  return measures.map((measure) => (
    <Suggestions key={measure} measure={measure} beside={shown === 'beside'} groups={groups} />
  ))
}

const TakenGroups = ({ groups: { data, groups, set }, hidden }: { groups: Groups; hidden: boolean }) => (
  <section
    aria-label="Groups that are taken"
    hidden={hidden}
    className="min-h-0 overflow-auto border-l border-line px-3.5 pt-2"
    tabIndex={0}
  >
    <h3 className="text-[12px] font-semibold text-ink-3">
      {groups.length === 0 ? 'Nothing is taken yet' : counted(groups.length, 'group')}
    </h3>
    <ul>
      {groups.map((group, i) => (
        <TakenGroup
          key={group.from.join('\u0000')}
          group={group}
          at={i}
          groups={groups}
          values={data.values}
          set={(next) => set(next)}
        />
      ))}
    </ul>
  </section>
)

const Heading = ({
  column,
  data,
  shown,
  show,
}: {
  column: string
  data: GroupsReply
  shown: UnifyView
  show: (view: UnifyView) => void
}) => (
  <div className="flex items-center gap-3 border-b border-line px-3.5 py-2">
    <h2 className="truncate font-serif text-[14px] font-semibold">{column}</h2>
    <span className="figures text-[12px] text-ink-3">
      {counted(data.values.length + data.beyond, 'different value')}
      {data.beyond > 0 ? `, the ${figure(data.values.length)} commonest compared` : ''}
    </span>
    <span className="ml-auto">
      <Segments
        label="Who judges"
        value={shown}
        of={[
          ['characters', 'Characters'],
          ['spelling', 'Spelling'],
          ['sound', 'Sound'],
          ['beside', 'Side by side'],
          ['mine', 'By hand'],
        ]}
        onChange={show}
      />
    </span>
  </div>
)

/** Groups of values that may be one thing, beside those that were taken; the table below shows what they change. */
export const UnifyWorkbench = ({ step, story }: { step: StepOf<'unify'>; story: Story }) => {
  const { column, judged, groups } = step
  const at = story.steps.findIndex(({ id }) => id === step.id)
  const before = story.steps[at - 1]?.id ?? ''
  const { data } = useQuery(
    groupsQuery(story.endpoint, story.flow.files, { ...story.cursor, step: before }, before === '' ? '' : column),
  )
  const [shown, show] = useState<UnifyView>(judged === 'hand' ? 'mine' : (judged ?? 'characters'))
  if (!data) return <p className="p-4 text-ink-3">Holding the values against each other…</p>
  const set: Groups['set'] = (next, how) => story.reword({ ...step, groups: next, ...(how ? { judged: how } : {}) })
  const beside = shown === 'beside'
  return (
    <section
      aria-label={`One spelling for ${column}`}
      className="flex h-[52%] min-h-[250px] flex-none flex-col border-b border-line-strong bg-paper"
    >
      <Heading column={column} data={data} shown={shown} show={show} />
      <div className={`grid min-h-0 flex-1 ${beside ? 'grid-cols-1' : 'grid-cols-[minmax(0,3fr)_minmax(0,2fr)]'}`}>
        <div className="flex min-h-0 gap-4 px-3.5 pt-2 pb-1">
          <Choices shown={shown} groups={{ data, groups, set }} />
        </div>
        <TakenGroups groups={{ data, groups, set }} hidden={beside} />
      </div>
    </section>
  )
}
