import { useSyncExternalStore } from 'react'

/** Whether the page is narrower than so many pixels, as it is on a small screen or enlarged. */
export const useNarrow = (pixels: number): boolean => {
  const query = `(max-width: ${pixels - 1}px)`
  return useSyncExternalStore(
    (listen) => {
      const media = window.matchMedia(query)
      media.addEventListener('change', listen)
      return () => media.removeEventListener('change', listen)
    },
    () => window.matchMedia(query).matches,
  )
}
