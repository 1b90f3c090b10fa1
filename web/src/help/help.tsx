import { everyFunction, stepKinds, type StepKindName } from '@fabula/core'
import { marked } from 'marked'
import { useMemo, useState, type ReactNode } from 'react'
import { NavLink, Outlet, useNavigate, useParams } from 'react-router'
import { SiteHeader } from '../ui/site-header.tsx'
import { kindsWithExamples } from './examples.ts'
import { guidePages } from './guide-pages.ts'
import { foundEntries, type HelpEntry } from './search.ts'
import { verbAbout } from './verb-about.ts'
import { VerbHelp } from './verb-help.tsx'

const verbName = (kind: StepKindName): string => stepKinds[kind].verb.replace('…', '')

/** Worked out once, when the help is first opened. */
const helpedKinds = kindsWithExamples()

const entries: readonly HelpEntry[] = [
  ...guidePages.map(({ id, title, text }): HelpEntry => ({ to: `/help/${id}`, title, sort: 'guide', words: text })),
  ...helpedKinds.map((kind): HelpEntry => ({
    to: `/help/verbs/${kind}`,
    title: verbName(kind),
    sort: 'verb',
    words: `${stepKinds[kind].words.join(' ')} ${verbAbout[kind]}`,
  })),
  ...everyFunction.map(({ name, about }): HelpEntry => ({
    to: `/help/formulas#${name}`,
    title: name,
    sort: 'function',
    words: about,
  })),
]

const PlaceLink = ({ to, children }: { to: string; children: ReactNode }) => (
  <NavLink
    to={to}
    end
    className="block rounded px-2 py-[3px] text-ink-2 hover:bg-sunk hover:text-ink aria-[current=page]:bg-rubric-tint aria-[current=page]:font-semibold aria-[current=page]:text-ink"
  >
    {children}
  </NavLink>
)

const Contents = () => (
  <>
    <h2 className="mt-3 mb-1 px-2 text-[12px] font-semibold text-ink-3">The guide</h2>
    {guidePages.map(({ id, title }) => (
      <PlaceLink key={id} to={`/help/${id}`}>
        {title}
      </PlaceLink>
    ))}
    <h2 className="mt-4 mb-1 px-2 text-[12px] font-semibold text-ink-3">Verbs, from this to this</h2>
    {helpedKinds.map((kind) => (
      <PlaceLink key={kind} to={`/help/verbs/${kind}`}>
        {verbName(kind)}
      </PlaceLink>
    ))}
    <h2 className="mt-4 mb-1 px-2 text-[12px] font-semibold text-ink-3">Formulas</h2>
    <PlaceLink to="/help/formulas">Every function</PlaceLink>
  </>
)

const Found = ({ text }: { text: string }) => {
  const found = useMemo(() => foundEntries(entries, text), [text])
  return (
    <ul aria-label="Found" className="mt-3">
      {found.slice(0, 40).map(({ to, title, sort }) => (
        <li key={to}>
          <PlaceLink to={to}>
            {title} <span className="text-[12px] font-normal text-ink-3">{sort}</span>
          </PlaceLink>
        </li>
      ))}
      {found.length === 0 && <li className="px-2 text-ink-3">Nothing is found by these words.</li>}
    </ul>
  )
}

/** The help: its contents and what is sought on the left, the page on the right. */
export const Help = () => {
  const [text, setText] = useState('')
  return (
    <div className="flex h-full flex-col overflow-hidden">
      <SiteHeader />
      <div className="grid min-h-0 flex-1 grid-cols-[260px_minmax(0,1fr)] max-[760px]:grid-cols-1 max-[760px]:grid-rows-[180px_1fr]">
        <nav aria-label="Help" className="overflow-auto border-r border-line px-3 py-4 text-[13px]">
          <input
            type="search"
            className="field w-full"
            aria-label="Find in the help"
            placeholder="Find in the help"
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
          {text.trim() === '' ? <Contents /> : <Found text={text} />}
        </nav>
        <main className="overflow-auto" tabIndex={0} aria-label="Help page">
          <Outlet />
        </main>
      </div>
    </div>
  )
}

const Page = ({ title, children }: { title: string; children: ReactNode }) => (
  <article className="mx-auto max-w-[820px] px-8 py-7">
    <title>{`${title} – Help – Fabula`}</title>
    <h1 className="mb-2 font-serif text-[24px] font-semibold">{title}</h1>
    {children}
  </article>
)

/** A page of the guide; links between its files lead to their pages. */
export const HelpGuide = () => {
  const { page } = useParams()
  const navigate = useNavigate()
  const here = guidePages.find(({ id }) => id === page) ?? guidePages[0]
  if (!here) return null
  const body = here.text.replace(/^# .+$/m, '').replace(/\]\(\d+-([\w-]+)\.md\)/g, '](/help/$1)')
  return (
    <Page title={here.title}>
      {/* links stay in the page; they are ordinary ones all the same */}
      <div
        className="guide"
        onClick={(event) => {
          const to = event.target instanceof HTMLAnchorElement ? event.target.getAttribute('href') : null
          if (to?.startsWith('/') !== true || event.ctrlKey || event.metaKey) return
          event.preventDefault()
          void navigate(to)
        }}
        dangerouslySetInnerHTML={{ __html: marked.parse(body, { async: false }) }}
      />
    </Page>
  )
}

/** The page of a verb. */
export const HelpVerb = () => {
  const { kind } = useParams()
  const known = helpedKinds.find((one) => one === kind)
  if (!known) return <Page title="No such verb">The list on the left names those there are.</Page>
  return (
    <Page title={verbName(known)}>
      <VerbHelp kind={known} />
    </Page>
  )
}
