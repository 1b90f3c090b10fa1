import { useEffect, useEffectEvent, useRef } from 'react'
import type { Story } from '../story/use-story.ts'

/** What opens over the page or belongs to the draft itself is no place to return to. */
const passing = '[data-state=draft], [role=dialog], [role=menu], [cmdk-root], aside'

/** A draft scrolls into view and begins with the focus in its first open word; when it ends the focus returns to where it was. */
export const useDraftFocus = ({ draft, building }: Story): void => {
  const last = useRef<HTMLElement>(undefined)
  const sentence = useRef<Element>(null)
  useEffect(() => {
    const note = ({ target }: FocusEvent): void => {
      if (target instanceof HTMLElement && !target.closest(passing)) last.current = target
    }
    document.addEventListener('focusin', note)
    return () => document.removeEventListener('focusin', note)
  }, [])
  const begin = useEffectEvent(() => {
    const item = document.querySelector('li[data-state=draft]')
    sentence.current = item
    void item?.scrollIntoView({ block: 'nearest' })
    const first = building
      ? document.querySelector<HTMLElement>('aside section :is(input, select, button)')
      : item?.querySelector<HTMLElement>('.slot')
    // an editor that opened with the draft has the focus already
    if (!document.activeElement?.closest('[role=dialog]')) first?.focus({ preventScroll: true })
  })
  const end = useEffectEvent(() => {
    const { activeElement } = document
    // whoever went elsewhere meanwhile stays there
    const isLost = activeElement === null || activeElement === document.body
    if (!isLost && sentence.current?.contains(activeElement) !== true) return
    const back = last.current?.isConnected ? last.current : document.querySelector<HTMLElement>('[role=grid]')
    back?.focus({ preventScroll: true })
  })
  // a builder writes its draft anew with every answer
  const id = draft && (building?.id ?? draft.step.id)
  useEffect(() => {
    if (id === undefined) return undefined
    begin()
    return () => void setTimeout(end)
  }, [id])
  // its words and its problems change how tall it is
  useEffect(() => void document.querySelector('li[data-state=draft]')?.scrollIntoView({ block: 'nearest' }), [draft])
}
