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
    <header className="grid h-[52px] grid-cols-[1fr_auto_1fr] items-center border-b border-line px-[18px]">
      <title>{here === undefined ? 'Fabula' : `${here} – Fabula`}</title>
      <Mark />
      <nav aria-label="Places" className="flex gap-[26px]">
        {places.map(([to, words]) => (
          <NavLink
            key={to}
            to={to}
            end={to === '/'}
            className="border-b-2 border-transparent px-0.5 pt-4 pb-3.5 font-medium text-ink-2 aria-[current=page]:border-rubric aria-[current=page]:text-ink"
          >
            {words}
          </NavLink>
        ))}
      </nav>
      <span className="justify-self-end">
        <ReadingSettings />
      </span>
    </header>
  )
}
