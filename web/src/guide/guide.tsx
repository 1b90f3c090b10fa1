import { useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { useLocation, useNavigate } from 'react-router'
import { flowQuery, runsQuery } from '../api/queries.ts'
import { sampleFile } from '../opening/begin-sample.ts'
import { Button } from '../ui/parts.tsx'
import { cards, currentAct, type Act, type GuideFacts } from './cards.ts'
import { changeGuide, endGuide, noteSeen, type GuideState } from './guide-state.ts'
import { usePointing } from './use-pointing.ts'

const endpointOf = (flow: string) => ({ base: `/api/flows/${flow}`, home: `/flows/${flow}` })
const nothingYet = endpointOf('none')

/** What the pages tell: the story once it is made, its replays, and what was looked at. */
const useFacts = ({ flow, seen }: GuideState): GuideFacts => {
  const { pathname: path } = useLocation()
  const made = /^\/flows\/([^/]+)/.exec(path)?.[1]
  useEffect(() => {
    if (flow === undefined && made !== undefined) changeGuide({ flow: made })
  }, [flow, made])
  const endpoint = flow === undefined ? nothingYet : endpointOf(flow)
  const enabled = flow !== undefined
  const recipe = useQuery({ ...flowQuery(endpoint), enabled }).data?.recipe
  const runs = useQuery({ ...runsQuery(endpoint), enabled }).data?.runs ?? []
  return { path, recipe, replays: runs.filter(({ state }) => state === 'done').length, seen }
}

/** Notes what leaves no trace in the story: that the lost rows were asked for, and that the script was looked at. */
const useSeen = (path: string): void => {
  useEffect(() => {
    if (path.endsWith('/hand-over')) noteSeen('hand-over')
    const timer = setInterval(() => {
      const title = document.querySelector('section[aria-label="Where it comes from"] h2')?.textContent ?? ''
      if (title.startsWith('Which rows are not in')) noteSeen('lost')
    }, 300)
    return () => clearInterval(timer)
  }, [path])
}

/** Hands a made-up file to the page that takes it. */
const HandFile = ({ hands: { file, to }, flow }: { hands: NonNullable<Act['hands']>; flow: string }) => {
  const navigate = useNavigate()
  const [problem, setProblem] = useState('')
  const hand = async (): Promise<void> => {
    try {
      await navigate(`/flows/${flow}/${to}`, { state: { files: [await sampleFile(file)] } })
      if (to === 'replay') noteSeen('june')
    } catch (error) {
      setProblem((error as Error).message)
    }
  }
  return (
    <>
      <Button className="py-1!" data-pointed="" onClick={() => void hand()}>
        {to === 'open' ? `Open ${file}` : `Give it ${file}`}
      </Button>
      {problem !== '' && (
        <span role="alert" className="text-removed">
          {problem}
        </span>
      )}
    </>
  )
}

const ActWords = ({ act, done, here }: { act: Act; done: boolean; here: boolean }) => {
  if (done) return <span className="text-ink-3">✓ {act.words}</span>
  return here ? (
    <b className="font-semibold text-ink">→ {act.words}</b>
  ) : (
    <span className="text-ink-2">{act.words}</span>
  )
}

/** What is done, what is to be done now, and what comes then. */
const Acts = ({ acts, now, facts }: { acts: readonly Act[]; now: Act | undefined; facts: GuideFacts }) => (
  <p role="status" className="flex flex-wrap items-center gap-x-4 gap-y-1">
    {acts.map((act) => (
      <ActWords key={act.words} act={act} done={act.done(facts)} here={act === now} />
    ))}
  </p>
)

const Ways = ({ flow, away, over }: { flow: string | undefined; away: boolean; over: boolean }) => {
  const navigate = useNavigate()
  return (
    <span className="ml-auto flex gap-2">
      {away && (
        <Button className="py-1!" onClick={() => void navigate(`/flows/${flow ?? ''}`)}>
          Back to its page
        </Button>
      )}
      {over ? (
        <Button look="main" className="py-1!" onClick={endGuide}>
          Done
        </Button>
      ) : (
        <Button look="quiet" className="py-1!" onClick={() => changeGuide({ left: true })}>
          Leave it for now
        </Button>
      )}
    </span>
  )
}

const farewell =
  'You opened an export, cleaned it, matched and reshaped it, found the rows that left, replayed it on June and handed it over. Your own export works the same way.'

const none: Act['points'] = []

const titleOf = (card: number | undefined): string =>
  card === undefined ? 'The story is told' : `${card + 1} of ${cards.length}: ${cards[card]?.title ?? ''}`

/** The card at hand: what to do now, pointed at in the page above it. */
const Guide = ({ state }: { state: GuideState }) => {
  const facts = useFacts(state)
  useSeen(facts.path)
  const now = currentAct(facts)
  usePointing(now?.act.points ?? none)
  const card = now === undefined ? undefined : cards[now.card]
  const away = state.flow !== undefined && !facts.path.startsWith(`/flows/${state.flow}`)
  // the page that takes the file is open already, or another story is
  const hands = away || facts.path.endsWith('/open') ? undefined : now?.act.hands
  return (
    <aside
      data-guide=""
      aria-label="Guided story"
      className="flex flex-none flex-wrap items-center gap-x-5 gap-y-1 border-t-2 border-rubric bg-rubric-tint px-[18px] py-2 text-[13px]"
    >
      <p className="min-w-0 flex-[1_1_420px]">
        <b className="mr-2 font-serif text-[15px]">{titleOf(now?.card)}</b>
        <span className="text-ink-2">{card?.about ?? farewell}</span>
      </p>
      {card && <Acts acts={card.acts} now={now?.act} facts={facts} />}
      {hands && state.flow !== undefined && <HandFile key={hands.file} hands={hands} flow={state.flow} />}
      <Ways flow={state.flow} away={away} over={now === undefined} />
    </aside>
  )
}
export default Guide
