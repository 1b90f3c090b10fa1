import { useState } from 'react'

/** Browsers lay nothing out beyond some 33 million pixels; this many rows of 40 pixels stay well below. */
const mostRows = 700_000

/**
 * Rows of a very tall table laid into a height that a browser can scroll: near the top the first rows are shown, near
 * the end the last, and in between as far along as the scroll bar is.
 */
export const useTallRows = (total: number) => {
  const count = Math.min(total, mostRows)
  const [share, setShare] = useState(0)
  const beyond = Math.round(share * (total - count))
  return {
    count,
    /** The table's row at a place of the list. */
    rowOf: (at: number): number => Math.min(total - 1, at + beyond),
    /** The place in the list at which a row stands once it is scrolled to. */
    placeOf: (row: number): number =>
      total === count ? row : Math.round((row / Math.max(1, total - 1)) * (count - 1)),
    scrolled: (top: number, height: number, view: number): void => {
      if (total > count) setShare(Math.min(1, Math.max(0, top / Math.max(1, height - view))))
    },
  }
}
