import { answered, withAnswer, withoutAnswer, type Answer, type Recipe } from '@fabula/core'
import * as api from '@fabula/core/api'
import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useCallback, useEffect, useState } from 'react'
import { ask } from '../api/client.ts'
import { flowQuery } from '../api/queries.ts'
import { useFlow } from '../story/flow-context.ts'
import { isComplete, keptFiles, reasonToWait, sortedFindings, type ChosenFiles } from './replay-model.ts'
import { useReplayFiles } from './use-replay-files.ts'
import { useRuns, type Runs } from './use-runs.ts'

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

type Asked = {
  readonly files: ChosenFiles
  readonly keep: readonly string[]
  readonly answers: readonly Answer[]
  readonly parameters: Readonly<Record<string, string>>
}

/** The story tried on the files that are given, with the answers so far; nothing is written. */
const useTrial = (asked: Asked, enabled: boolean, since: string | undefined) => {
  const { flow, endpoint } = useFlow()
  const fit = useQuery({
    queryKey: ['fit', endpoint.base, flow.edit, since, asked],
    queryFn: () => ask(api.fitReply, 'POST', `${endpoint.base}/fit`, asked),
    enabled,
    placeholderData: keepPreviousData,
  })
  return { fit, report: enabled ? fit.data : undefined }
}

/** The answers given on the page, for one run or for good. */
const useAnswers = (report: (problem: string) => void) => {
  const { flow } = useFlow()
  const [answers, setAnswers] = useState<readonly Answer[]>([])
  const remember = useRemember(report)
  const forget = useCallback(() => setAnswers([]), [])
  return {
    answers,
    forget,
    remember,
    give: (answer: Answer) => setAnswers(withAnswer(answers, answer)),
    takeBack: (answer: Answer) => setAnswers(withoutAnswer(answers, answer)),
    /** Writes an answer into the story. */
    keepForGood: (answer: Answer) =>
      remember.mutate(answered(flow.recipe, answer, answer.offer), {
        onSuccess: () => setAnswers(withoutAnswer(answers, answer)),
      }),
  }
}

/** Begins a replay and shows it; once it is done what was given is let go, so that the next one begins with empty slots. */
const useBegin = (asked: Asked, runs: Runs, report: (problem: string) => void, done: () => void) => {
  const { endpoint } = useFlow()
  const [begun, setBegun] = useState('')
  const replay = useMutation({
    mutationFn: (allowChanges: boolean) =>
      ask(api.runReply, 'POST', `${endpoint.base}/replay`, { ...asked, allowChanges }),
    onSuccess: ({ id }) => {
      setBegun(id)
      runs.show(id)
    },
    onError: (error) => report(error.message),
  })
  const finished = begun !== '' && runs.run?.id === begun && runs.run.state === 'done'
  useEffect(() => {
    if (!finished) return
    done()
    setBegun('')
  }, [finished, done])
  return replay
}

/** The state of the replay page: new files, what a trial says of them, answers, values that are asked for, and runs. */
export const useReplay = () => {
  const { flow } = useFlow()
  const [values, setValues] = useState<Readonly<Record<string, string>>>({})
  const chosen = useReplayFiles(() => runs.show(''))
  const { files, keep, asIs, setProblem, clear } = chosen
  const answering = useAnswers(setProblem)
  const { answers, forget } = answering
  const runs = useRuns(setProblem)
  const kept = keptFiles(runs.runs, flow.files)
  const hasFiles = asIs || Object.keys(files).length > 0 || flow.recipe.inputs.length === 0
  const given = hasFiles || Object.keys(values).length > 0
  const complete = isComplete(flow.recipe, files, kept.files)
  const asked = { files, keep, answers, parameters: values }
  const { fit, report } = useTrial(asked, given && complete, kept.at)
  const done = useCallback(() => {
    clear()
    forget()
  }, [clear, forget])
  const replay = useBegin({ ...asked, answers: report?.answers ?? answers }, runs, setProblem, done)
  const { open, noted } = sortedFindings(report)
  const running = runs.run?.state === 'running' || replay.isPending
  const wait = reasonToWait({ given, complete, trying: fit.isFetching || report === undefined, open })
  return {
    ...chosen,
    ...answering,
    /** What the trial runs with. */
    asked,
    answers: report?.answers ?? answers,
    kept,
    runs,
    fit,
    report,
    open,
    noted,
    replay,
    values,
    setValue: (name: string, value: string) => setValues({ ...values, [name]: value }),
    /** Whether the story may be changed, so that answers can be saved into it. */
    changes: flow.rights === 'all' || flow.rights === 'edit',
    given,
    running,
    wait: running ? 'A replay is running.' : wait,
  }
}
export type ReplayModel = ReturnType<typeof useReplay>
