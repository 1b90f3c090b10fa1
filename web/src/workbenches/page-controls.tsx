import { useEffect, useRef } from 'react'
import { counted, figure } from '@fabula/core'
import { Button } from '../ui/parts.tsx'

/** How many rows stand on one page of a bench. */
export const pageRows = 200

/** Which rows of many are shown, and the ways to those before and after; the list goes back to its top with each. */
export const PageControls = ({
  from,
  shown,
  total,
  go,
}: {
  from: number
  shown: number
  total: number
  go: (from: number) => void
}) => {
  const here = useRef<HTMLParagraphElement>(null)
  useEffect(() => {
    if (here.current?.parentElement) here.current.parentElement.scrollTop = 0
  }, [from])
  if (total <= shown) return null
  return (
    <p
      ref={here}
      className="figures sticky bottom-0 left-0 flex w-full items-center gap-2 border-t border-line bg-sheet px-3.5 py-1.5 text-[12px] text-ink-3"
    >
      rows {figure(from + 1)} to {figure(from + shown)} of {counted(total, 'row')}
      <Button
        look="link"
        className="py-0! text-[12px]"
        disabled={from === 0}
        onClick={() => go(Math.max(0, from - pageRows))}
      >
        Earlier
      </Button>
      <Button
        look="link"
        className="py-0! text-[12px]"
        disabled={from + shown >= total}
        onClick={() => go(from + pageRows)}
      >
        Later
      </Button>
    </p>
  )
}
