import type { Recipe } from '@fabula/core'
import * as api from '@fabula/core/api'
import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useCallback } from 'react'
import { ask, ServerError } from '../api/client.ts'
import { flowQuery } from '../api/queries.ts'
import { useFlow } from './flow-context.ts'

type Change =
  | { readonly way: 'edit'; readonly next: Recipe; readonly what: string; readonly pictures?: readonly api.Picture[] }
  | { readonly way: 'undo' | 'redo' }

/**
 * Saves changes of the flow, one after another on the edit they were made on.
 * @param report what to show: the refusal of a change, nothing once one is saved
 */
export const useSaving = (report: (problem: string | undefined) => void) => {
  const { flow, endpoint, setMessage } = useFlow()
  const client = useQueryClient()
  const { mutateAsync, isPending } = useMutation({
    mutationFn: ({ way, ...change }: Change) => {
      const edit = 'next' in change ? { recipe: change.next, what: change.what, pictures: change.pictures } : {}
      return ask(api.flowReply, 'POST', `${endpoint.base}/${way}`, { ...edit, after: flow.edit })
    },
    onSuccess: (reply) => {
      client.setQueryData(flowQuery(endpoint).queryKey, reply)
      setMessage('saved a moment ago')
      report(undefined)
    },
    onError: (error) =>
      report(error instanceof ServerError ? error.message : 'The change could not be saved. Try again.'),
  })
  const save = useCallback(
    (next: Recipe, what: string, pictures?: readonly api.Picture[]) =>
      mutateAsync({ way: 'edit', next, what, ...(pictures ? { pictures } : {}) }),
    [mutateAsync],
  )
  const travel = useCallback((way: 'undo' | 'redo') => mutateAsync({ way }), [mutateAsync])
  return { save, travel, saving: isPending }
}
