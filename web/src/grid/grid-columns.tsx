import type { ReactNode } from 'react'
import { numberWidth } from './layout.ts'
import type { GridShape } from './use-grid.ts'

/** The columns of a row of the grid: the frozen ones in a band that stays, then those in sight. */
export const GridColumns = ({
  shape: { layout, inSight },
  layer,
  column,
}: {
  shape: GridShape
  /** The stacking order of the band that stays. */
  layer: 'z-[5]' | 'z-20'
  /** What is drawn at a position among the columns in sight, and how far from the left. */
  column: (at: number, left: number) => ReactNode
}) => {
  const { frozen, frozenLefts, frozenWidth } = layout
  return (
    <>
      {frozen > 0 && (
        <div
          role="presentation"
          className={`sticky ${layer} h-full flex-none shadow-[1px_0_0_var(--line-strong)]`}
          style={{ left: numberWidth, width: frozenWidth }}
        >
          {frozenLefts.map((left, at) => column(at, left))}
        </div>
      )}
      {inSight.map(({ index, start }) => column(index + frozen, start + numberWidth + frozenWidth))}
    </>
  )
}
