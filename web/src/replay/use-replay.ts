import type { Recipe } from '@fabula/core'
import * as api from '@fabula/core/api'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { ask } from '../api/client.ts'
import { flowQuery } from '../api/queries.ts'
import { useFlow } from '../story/flow-context.ts'
import { isComplete, withoutRename, withRename, type AnsweredRenames } from './replay-model.ts'
import { useReplayFiles } from './use-replay-files.ts'
import { useRuns } from './use-runs.ts'

/** Saves an answer into the story, so that it is not asked again. */
const useRemember = (report: (problem: string) => void) => {
  const { flow, endpoint } = useFlow()
  const client = useQueryClient()
  return useMutation({
    mutationFn: (recipe: Recipe) =>
      ask(api.flowReply, 'POST', `${endpoint.base}/edit`, { recipe, what: 'an answer of a replay', after: flow.edit }),
    onSuccess: (reply) => client.setQueryData(flowQuery(endpoint).queryKey, reply),
    onError: (error) => report(error.message),
  })
}

/** The state of the replay page: new files, how they fit, answers, values that are asked for, and runs. */
export const useReplay = () => {
  const { flow, endpoint } = useFlow()
  const [renames, setRenames] = useState<AnsweredRenames>({})
  const [values, setValues] = useState<Readonly<Record<string, string>>>({})
  const forgetAnswers = (): void => {
    setRenames({})
    runs.show('')
  }
  const chosen = useReplayFiles(forgetAnswers)
  const { files, setProblem } = chosen
  const runs = useRuns(setProblem)
  const remember = useRemember(setProblem)
  const given = Object.keys(files).length > 0 || flow.recipe.inputs.length === 0 || Object.keys(values).length > 0
  const complete = isComplete(flow.recipe, files, flow.files)
  const fit = useQuery({
    queryKey: ['fit', endpoint.base, flow.edit, files, renames],
    queryFn: () => ask(api.fitReply, 'POST', `${endpoint.base}/fit`, { files, renames }),
    enabled: given && complete,
    placeholderData: (before) => before,
  })
  const replay = useMutation({
    mutationFn: () =>
      ask(api.runReply, 'POST', `${endpoint.base}/replay`, { files, renames, allowChanges: true, parameters: values }),
    onSuccess: ({ id }) => runs.show(id),
    onError: (error) => setProblem(error.message),
  })
  const settled = given && complete && !fit.isFetching && runs.run?.state !== 'running'
  return {
    ...chosen,
    runs,
    fit,
    replay,
    renames,
    accept: (input: string, from: string, to: string) => setRenames(withRename(renames, input, from, to)),
    undo: (input: string, from: string) => setRenames(withoutRename(renames, input, from)),
    remember,
    values,
    setValue: (name: string, value: string) => setValues({ ...values, [name]: value }),
    /** Whether the story may be changed, so that answers can be saved into it. */
    changes: flow.rights === 'all' || flow.rights === 'edit',
    canReplay: settled && fit.data !== undefined && fit.data.verdict !== 'does-not-fit',
  }
}
export type ReplayModel = ReturnType<typeof useReplay>
