import { findText, suggestGroups, valuesOf, type SimilarityMeasure } from '@fabula/core'
import { findReply, groupsReply, valuesReply, type GroupsReply } from '@fabula/core/api'
import { defineTask } from './define-task.ts'
import { tableAfter, type TableRequest } from './story-run.ts'

/** More different values are not held against each other: they are no spellings of a few things. */
const mostCompared = 6000
const mostGroups = 400

const groupsOf = (bars: readonly { label: string; count: number }[]): GroupsReply => {
  const values = bars.slice(0, mostCompared).map(({ label, count }) => ({ text: label, count }))
  const by = (measure: SimilarityMeasure): GroupsReply[SimilarityMeasure] =>
    suggestGroups(values, measure)
      .slice(0, mostGroups)
      .map((group) => ({ ...group, members: [...group.members] }))
  return {
    values,
    sound: by('sound'),
    characters: by('characters'),
    spelling: by('spelling'),
    beyond: bars.length - values.length,
  }
}

type ColumnRequest = TableRequest & { readonly column: string }

/** The commonest values of a column with their counts. */
export const values = defineTask({
  reply: valuesReply,
  run: async (request: ColumnRequest, context) => {
    const table = await tableAfter(request, context)
    const has = table !== undefined && table.positionOf(request.column) >= 0
    return { values: has ? valuesOf(table.named(request.column), 500) : [] }
  },
})

/** Values of a column that may be spellings of one thing, by each measure of similarity. */
export const groups = defineTask({
  reply: groupsReply,
  run: async (request: ColumnRequest, context) => {
    const table = await tableAfter(request, context)
    const has = table !== undefined && table.positionOf(request.column) >= 0
    return groupsOf(has ? valuesOf(table.named(request.column), 1_000_000) : [])
  },
})

/** The next cell that holds a text, and how many do. */
export const find = defineTask({
  reply: findReply,
  run: async (
    request: TableRequest & {
      readonly text: string
      readonly from: { readonly row: number; readonly column: string } | null
      readonly back: boolean
    },
    context,
  ) => {
    const table = await tableAfter(request, context)
    return table ? findText(table, request.text, request.from, request.back) : { found: null, total: 0 }
  },
})
