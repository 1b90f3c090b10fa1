import { useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { useLocation, useNavigate } from 'react-router'
import { flowQuery, runsQuery } from '../api/queries.ts'
import { sampleFile } from '../opening/begin-sample.ts'
import { Button } from '../ui/parts.tsx'
import { cards, currentAct, type Act, type GuideFacts } from './cards.ts'
import { changeGuide, endGuide, type GuideState } from './guide-state.ts'
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
const useSeen = ({ path, seen }: GuideFacts): void => {
  useEffect(() => {
    const note = (what: string): void => {
      if (!seen.includes(what)) changeGuide({ seen: [...seen, what] })
    }
    if (path.endsWith('/hand-over')) note('hand-over')
    const timer = setInterval(() => {
      const title = document.querySelector('section[aria-label="Where it comes from"] h2')?.textContent ?? ''
      if (title.startsWith('Which rows are not in')) note('lost')
    }, 300)
    return () => clearInterval(timer)
  }, [path, seen])
}

/** Hands a made-up file to the page that takes it. */
const HandFile = ({ hands: { file, to }, flow }: { hands: NonNullable<Act['hands']>; flow: string }) => {
  const navigate = useNavigate()
  const [problem, setProblem] = useState('')
  const hand = async (): Promise<void> => {
    try {
      await navigate(`/flows/${flow}/${to}`, { state: { files: [await sampleFile(file)] } })
      if (to === 'replay') changeGuide({ seen: ['lost', 'june'] })
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

const none: Act['points'] = []

/** The card at hand: what to do now, pointed at in the page above it. */
export const Guide = ({ state }: { state: GuideState }) => {
  const facts = useFacts(state)
  useSeen(facts)
  const now = currentAct(facts)
  usePointing(now?.act.points ?? none)
  const navigate = useNavigate()
  const card = now === undefined ? undefined : cards[now.card]
  const away = state.flow !== undefined && !facts.path.startsWith(`/flows/${state.flow}`)
  return (
    <aside
      data-guide=""
      aria-label="Guided story"
      className="flex flex-none flex-wrap items-center gap-x-5 gap-y-1 border-t-2 border-rubric bg-rubric-tint px-[18px] py-2 text-[13px]"
    >
      <p className="min-w-0 flex-[1_1_420px]">
        <b className="mr-2 font-serif text-[15px]">
          {card === undefined || now === undefined
            ? 'The story is told'
            : `${now.card + 1} of ${cards.length}: ${card.title}`}
        </b>
        <span className="text-ink-2">
          {card?.about ??
            'You opened an export, cleaned it, matched and reshaped it, found the rows that left, replayed it on June and handed it over. Your own export works the same way.'}
        </span>
      </p>
      <p role="status" className="flex flex-wrap items-center gap-3">
        {card?.acts.map((act) => (
          <span
            key={act.words}
            className={act.done(facts) ? 'text-ink-3' : act === now?.act ? 'font-semibold text-ink' : 'text-ink-2'}
          >
            {act.done(facts) ? '✓ ' : act === now?.act ? '→ ' : ''}
            {act.words}
          </span>
        ))}
      </p>
      {now?.act.hands && state.flow !== undefined && !away && !facts.path.endsWith('/open') && (
        <HandFile key={now.act.hands.file} hands={now.act.hands} flow={state.flow} />
      )}
      <span className="ml-auto flex gap-2">
        {away && state.flow !== undefined && (
          <Button className="py-1!" onClick={() => void navigate(`/flows/${state.flow}`)}>
            Back to its page
          </Button>
        )}
        {card === undefined ? (
          <Button look="main" className="py-1!" onClick={endGuide}>
            Done
          </Button>
        ) : (
          <Button look="quiet" className="py-1!" onClick={() => changeGuide({ left: true })}>
            Leave it for now
          </Button>
        )}
      </span>
    </aside>
  )
}
export default Guide
