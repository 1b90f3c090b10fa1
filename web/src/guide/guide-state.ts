import { useSyncExternalStore } from 'react'

/** How far the guided story is; kept in this browser, so that it can be left and gone on with. */
export type GuideState = {
  /** The story that is made; absent until its first file is opened. */ readonly flow?: string
  /** What was looked at and leaves no trace in the story. */ readonly seen: readonly string[]
  /** It is put aside. */ readonly left: boolean
}

const storageKey = 'guide'
const listeners = new Set<() => void>()
let known: { readonly text: string | null; readonly state: GuideState | undefined } | undefined

const read = (): GuideState | undefined => {
  const text = localStorage.getItem(storageKey)
  // the same object as long as nothing changed: what is drawn from it compares by identity
  if (known?.text !== text) known = { text, state: text === null ? undefined : (JSON.parse(text) as GuideState) }
  return known?.state
}
const write = (state: GuideState | undefined): void => {
  if (state) localStorage.setItem(storageKey, JSON.stringify(state))
  else localStorage.removeItem(storageKey)
  listeners.forEach((listen) => listen())
}
const subscribe = (listen: () => void): (() => void) => {
  listeners.add(listen)
  return () => listeners.delete(listen)
}

/** The guided story where one was begun. */
export const useGuide = (): GuideState | undefined => useSyncExternalStore(subscribe, read)
export const beginGuide = (): void => write({ seen: [], left: false })
export const endGuide = (): void => write(undefined)
export const changeGuide = (change: Partial<GuideState>): void => {
  const state = read()
  if (state) write({ ...state, ...change })
}
/** Notes something that was looked at, once. */
export const noteSeen = (what: string): void => {
  const state = read()
  if (state && !state.seen.includes(what)) write({ ...state, seen: [...state.seen, what] })
}
