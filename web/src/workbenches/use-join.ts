import type { JoinShow } from '@fabula/core'
import { useQuery } from '@tanstack/react-query'
import { useEffect, useEffectEvent, useRef, useState } from 'react'
import { matchQuery } from '../api/queries.ts'
import type { Story } from '../story/use-story.ts'
import { cursorBefore } from './cursor-before.ts'
import { firstKeys, keysOf, type JoinStep } from './join-model.ts'
import { pageRows } from './page-controls.tsx'

/** Gives a join that was just begun its likeliest keys; whoever has chosen keys keeps them. */
const useFirstKeys = (
  { data, isPlaceholderData }: Pick<ReturnType<typeof useMatch>['match'], 'data' | 'isPlaceholderData'>,
  step: JoinStep,
  story: Story,
): void => {
  const settled = useRef(story.draft?.isNew ? '' : step.with)
  const suggestKeys = useEffectEvent(() => {
    if (!data || isPlaceholderData || settled.current === step.with || step.how === 'cross') return
    settled.current = step.with
    const on = firstKeys(data, story.selection.kind === 'columns' ? story.selection.columns : [])
    if (on) story.reword({ ...step, on })
  })
  const suggested = data && JSON.stringify(data.suggestions)
  useEffect(() => suggestKeys(), [suggested, step.with, isPlaceholderData])
}

/** The rows of both tables that are shown, and how they meet. */
const useMatch = (step: JoinStep, story: Story) => {
  const [show, setShow] = useState<JoinShow>('all')
  const [from, setFrom] = useState<readonly [number, number]>([0, 0])
  const on = keysOf(step)
  const pairs = JSON.stringify(on)
  useEffect(() => setFrom([0, 0]), [show, step.with, pairs])
  useEffect(() => setShow('all'), [step.with, pairs])
  const match = useQuery(
    matchQuery(story.endpoint, story.flow.files, cursorBefore(story, step.id), step.with, {
      on: [...on],
      ignoreCase: step.ignoreCase === true,
      trim: step.trim === true,
      matches: step.matches ?? 'all',
      show,
      from: from[0],
      fromThere: from[1],
      count: pageRows,
    }),
  )
  return { match, show, setShow, from, setFrom }
}

/** The state of the workbench of a join. */
export const useJoin = (step: JoinStep, story: Story) => {
  const { match, ...shown } = useMatch(step, story)
  useFirstKeys(match, step, story)
  const { tables } = story.recipe
  const nameOf = (id: string): string => tables.find((table) => table.id === id)?.name ?? id
  const entryOf = (id: string): number => tables.findIndex((table) => table.id === id)
  const here = story.table?.id ?? ''
  return {
    step,
    story,
    ...shown,
    data: match.data,
    error: match.error,
    names: [nameOf(here), nameOf(step.with)] as const,
    /** The positions of the two tables in the recipe, which their colours go by. */
    entries: [entryOf(here), entryOf(step.with)] as const,
  }
}
export type JoinModel = ReturnType<typeof useJoin>
