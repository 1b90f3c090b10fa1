import { useEffect, useEffectEvent } from 'react'

/** Listens for keys on the whole page; `onKey` sees the state of the last render. */
export const useWindowKeys = (onKey: (event: KeyboardEvent) => void): void => {
  const latest = useEffectEvent(onKey)
  useEffect(() => {
    const listen = (event: KeyboardEvent): void => latest(event)
    window.addEventListener('keydown', listen)
    return () => window.removeEventListener('keydown', listen)
  }, [])
}
