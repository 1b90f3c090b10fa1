import { ReadingSettings } from './reading-settings.tsx'
import { Link, NavLink, useLocation } from 'react-router'

export const Mark = () => (
  <Link to="/" className="font-serif text-[20px] font-semibold">
    <span aria-hidden className="mr-1.5 text-rubric">
      ¶
    </span>
    Fabula
  </Link>
)

/** The first thing that Tab reaches: past what stands on every page. */
export const SkipLinks = () => (
  <button
    type="button"
    className="sr-only focus:not-sr-only focus:absolute focus:top-2 focus:left-2 focus:z-50 focus:rounded-md focus:bg-rubric focus:px-3 focus:py-1.5 focus:font-semibold focus:text-on-rubric"
    onClick={() => document.querySelector('main')?.focus()}
  >
    Skip to the page
  </button>
)

const places = [
  ['/', 'Stories'],
  ['/shelf', 'Shelf'],
  ['/sources', 'Other sources'],
  ['/mail', 'Notices'],
  ['/help', 'Help'],
] as const

/** The head of the pages that belong to no story. */
export const SiteHeader = () => {
  const { pathname } = useLocation()
  const here = places.find(([to]) => to === pathname)?.[1]
  return (
    <header className="grid min-h-[52px] flex-none grid-cols-[1fr_auto_1fr] items-center gap-x-4 border-b border-line px-[18px] max-[1000px]:flex max-[1000px]:flex-wrap">
      <SkipLinks />
      <title>{here === undefined ? 'Fabula' : `${here} – Fabula`}</title>
      <Mark />
      <nav aria-label="Places" className="flex flex-wrap gap-x-[26px]">
        {places.map(([to, words]) => (
          <NavLink
            key={to}
            to={to}
            end={to === '/'}
            className="border-b-2 border-transparent px-0.5 pt-4 pb-3.5 font-medium max-[1000px]:pt-1.5 max-[1000px]:pb-1 text-ink-2 aria-[current=page]:border-rubric aria-[current=page]:text-ink"
          >
            {words}
          </NavLink>
        ))}
      </nav>
      <span className="justify-self-end max-[1000px]:ml-auto">
        <ReadingSettings />
      </span>
    </header>
  )
}
