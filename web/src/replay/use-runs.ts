import * as api from '@fabula/core/api'
import { useMutation, useQueries, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { ask } from '../api/client.ts'
import { runQuery, runsQuery, storyQuery } from '../api/queries.ts'
import { useFlow } from '../story/flow-context.ts'
import { runBefore, shownRun, type RunTables } from './replay-model.ts'

/** The statistics of each table as Compose shows them: what a first replay is held against. */
const useComposedTables = (): RunTables => {
  const { flow, endpoint } = useFlow()
  const stories = useQueries({
    queries: flow.recipe.tables.map(({ id, steps }) => ({
      ...storyQuery(endpoint, flow.files, { recipe: flow.recipe, table: id, step: steps.at(-1)?.id ?? '' }),
      enabled: Object.keys(flow.files).length > 0,
    })),
  })
  const tables = flow.recipe.tables.map(({ id }, i) => ({
    id,
    steps: stories[i]?.data?.steps.flatMap(({ statistics }) => (statistics ? [statistics] : [])) ?? [],
  }))
  return { tables }
}

/** The runs of a flow, the one that is shown, and what it is held against. */
export const useRuns = (report: (problem: string) => void) => {
  const { endpoint } = useFlow()
  const client = useQueryClient()
  const [chosen, show] = useState('')
  const runs = useQuery(runsQuery(endpoint)).data?.runs ?? []
  // a replay that still runs is shown to whoever comes back to the page
  const shownId = shownRun(runs, chosen)
  const run = useQuery(runQuery(endpoint, shownId)).data
  const composed = useComposedTables()
  const lastId = runBefore(runs, shownId, new Date().toISOString())
  const lastRun = useQuery(runQuery(endpoint, lastId ?? '')).data
  const state = run?.state
  useEffect(() => {
    if (state !== undefined) void client.invalidateQueries({ queryKey: ['runs', endpoint.base] })
  }, [state, client, endpoint.base])
  const again = useMutation({
    mutationFn: (id: string) => ask(api.runReply, 'POST', `${endpoint.base}/runs/${id}/again`),
    onSuccess: ({ id }) => {
      show(id)
      void client.invalidateQueries({ queryKey: ['runs', endpoint.base] })
    },
    onError: (error) => report(error.message),
  })
  return { runs, run, shownId, show, last: lastRun ?? (lastId === undefined ? composed : undefined), again }
}
export type Runs = ReturnType<typeof useRuns>
