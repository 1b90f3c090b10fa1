import { useQueries, useQuery } from '@tanstack/react-query'
import { pageSize, previewQuery } from '../api/queries.ts'
import type { Story } from '../story/use-story.ts'
import type { GridRow } from './cells.tsx'

/** The pages of rows that are in view, as they arrive. */
export const usePages = (story: Story, from: number, to: number) => {
  const { endpoint, flow, cursor, diffMode, only } = story
  const first = useQuery(previewQuery(endpoint, flow.files, cursor, diffMode, only, 0))
  const wanted = Array.from(
    { length: Math.max(0, Math.floor(to / pageSize) - Math.floor(from / pageSize) + 1) },
    (_, i) => Math.floor(from / pageSize) + i,
  ).filter((page) => page > 0)
  const others = useQueries({
    queries: wanted.map((page) => previewQuery(endpoint, flow.files, cursor, diffMode, only, page)),
  })
  const rowAt = (index: number): GridRow | undefined => {
    const page = Math.floor(index / pageSize)
    return page === 0 ? first.data?.rows[index] : others[wanted.indexOf(page)]?.data?.rows[index - page * pageSize]
  }
  return { first, rowAt }
}
