import { useQuery } from '@tanstack/react-query'
import { alignQuery } from '../api/queries.ts'
import type { Story } from '../story/use-story.ts'
import { cursorBefore } from './cursor-before.ts'
import type { UnionStep } from './union-model.ts'

/** The state of the workbench of a union: its tables in order, and how their columns are aligned. */
export const useUnion = (step: UnionStep, story: Story) => {
  const { data, error } = useQuery(
    alignQuery(story.endpoint, story.flow.files, cursorBefore(story, step.id), {
      with: step.with,
      ...(step.pairs ? { pairs: step.pairs } : {}),
      ...(step.apart ? { apart: step.apart } : {}),
    }),
  )
  const ids = [story.table?.id ?? '', ...step.with]
  return {
    step,
    story,
    data,
    error,
    ids,
    columns: data?.columns ?? [],
    /** Rows of each table. */
    rows: ids.map((_, at) => data?.tables[at]?.rows ?? 0),
    nameOf: (id: string): string => story.recipe.tables.find((table) => table.id === id)?.name ?? id,
  }
}
export type UnionModel = ReturnType<typeof useUnion>
