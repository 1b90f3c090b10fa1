import type { ReconcileShow } from '@fabula/core'
import { useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { reconcileQuery } from '../api/queries.ts'
import type { Story } from '../story/use-story.ts'
import { pageRows } from './page-controls.tsx'
import { firstMoment, keyOf, momentNames, momentsOf, type TablePosition } from './reconcile-model.ts'

/** The state of a reconciliation: the two moments, how rows are paired, and which rows are shown. */
export const useReconcile = (story: Story) => {
  const { recipe } = story.flow
  const there: TablePosition = { table: story.table?.id ?? '', step: story.step?.id ?? '' }
  const moments = momentsOf(recipe)
  const [chosen, setChosen] = useState<TablePosition>()
  const known = chosen && moments.some((one) => keyOf(one) === keyOf(chosen))
  const here = known ? chosen : firstMoment(recipe, there)
  const [keys, setKeys] = useState<readonly string[] | null>(null)
  const [show, setShow] = useState<ReconcileShow>('different')
  const [from, setFrom] = useState(0)
  useEffect(() => setFrom(0), [show, chosen, keys])
  const { data, error, isFetching } = useQuery(
    reconcileQuery(story.endpoint, story.flow.files, {
      recipe,
      here: { table: here.table, step: here.step },
      there,
      keys: keys ? [...keys] : null,
      show,
      from,
      count: pageRows,
    }),
  )
  const choose = (key: string): void => {
    setChosen(moments.find((one) => keyOf(one) === key))
    setKeys(null)
  }
  const names = momentNames(recipe, here, there)
  return { here, there, moments, choose, names, keys, setKeys, show, setShow, from, setFrom, data, error, isFetching }
}
export type ReconcileModel = ReturnType<typeof useReconcile>
