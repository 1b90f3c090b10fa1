import { useQuery } from '@tanstack/react-query'
import type { Schema } from '@fabula/core'
import { storyQuery } from '../api/queries.ts'
import type { Story } from './use-story.ts'

/** The finished columns of another table of the story. */
export const useTableSchema = (story: Story, id: string): Schema => {
  const table = story.flow.recipe.tables.find((one) => one.id === id)
  const { data } = useQuery({
    ...storyQuery(story.endpoint, story.flow.files, {
      recipe: story.flow.recipe,
      table: id,
      step: table?.steps.at(-1)?.id ?? '',
    }),
    enabled: table !== undefined,
  })
  return data?.steps.at(-1)?.columns ?? []
}
