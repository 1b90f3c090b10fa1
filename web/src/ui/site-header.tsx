import type { ReactNode } from 'react'
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
export const SkipLink = () => (
  <button
    type="button"
    className="sr-only focus:not-sr-only focus:absolute focus:top-2 focus:left-2 focus:z-50 focus:rounded-md focus:bg-rubric focus:px-3 focus:py-1.5 focus:font-semibold focus:text-on-rubric"
    onClick={() => {
      const main = document.querySelector('main')
      // a landmark takes the focus only where it is told to
      if (main?.hasAttribute('tabindex') === false) main.tabIndex = -1
      main?.focus()
    }}
  >
    Skip to the page
  </button>
)

/** A page by its name in the head of the pages, marked while it is open; `end`: only there, not on the pages below it. */
export const HeaderLink = ({ to, end, children }: { to: string; end: boolean; children: ReactNode }) => (
  <NavLink
    to={to}
    end={end}
    className="border-b-2 border-transparent px-0.5 pt-4 pb-3.5 font-medium text-ink-2 aria-[current=page]:border-rubric aria-[current=page]:text-ink max-[1000px]:pt-1.5 max-[1000px]:pb-1"
  >
    {children}
  </NavLink>
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
      <SkipLink />
      <title>{here === undefined ? 'Fabula' : `${here} – Fabula`}</title>
      <Mark />
      <nav aria-label="Places" className="flex flex-wrap gap-x-[26px]">
        {places.map(([to, words]) => (
          <HeaderLink key={to} to={to} end={to === '/'}>
            {words}
          </HeaderLink>
        ))}
      </nav>
      <span className="justify-self-end max-[1000px]:ml-auto">
        <ReadingSettings />
      </span>
    </header>
  )
}
