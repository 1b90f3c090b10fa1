import { useEffect } from 'react'
import type { Pointed } from './cards.ts'

const every = 250

const inSight = (element: Element): boolean => element.getClientRects().length > 0
const wordsOf = (element: Element): string => (element.textContent ?? '').trim().replace(/^[+▸▾ ]+/, '')
const isMeant = (element: Element, { text = '', whole }: Pointed): boolean =>
  inSight(element) &&
  !(element as HTMLButtonElement).disabled &&
  element.closest('[data-guide]') === null &&
  (whole === undefined ? wordsOf(element).startsWith(text) : wordsOf(element) === whole)

const find = (points: readonly Pointed[]): Element | undefined => {
  for (const point of points) {
    const found = [...document.querySelectorAll(point.css)].find((element) => isMeant(element, point))
    if (found) return found
  }
  return undefined
}

/** Marks the control that is to be used next, as long as it is the one; it scrolls into view when it first is. */
export const usePointing = (points: readonly Pointed[]): void => {
  useEffect(() => {
    let marked: Element | undefined
    const mark = (): void => {
      const next = find(points)
      if (next === marked && next?.hasAttribute('data-pointed') !== false) return
      marked?.removeAttribute('data-pointed')
      marked = next
      marked?.setAttribute('data-pointed', '')
      void marked?.scrollIntoView({ block: 'nearest', inline: 'nearest' })
    }
    mark()
    const timer = setInterval(mark, every)
    return () => {
      clearInterval(timer)
      marked?.removeAttribute('data-pointed')
    }
  }, [points])
}
