import { findText, suggestGroups, valuesOf, type SimilarityMeasure } from '@fabula/core'
import type { GroupsReply } from '@fabula/core/api'
import { defineTableQuery } from './define-task.ts'
import { tableAfter } from './story-run.ts'

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

/** The commonest values of a column with their counts. */
export const values = defineTableQuery('values', async (asked, at, context) => {
  const table = await tableAfter(at, asked, context)
  const has = table !== undefined && table.positionOf(asked.column) >= 0
  return { values: has ? valuesOf(table.named(asked.column), 500) : [] }
})

/** Values of a column that may be spellings of one thing, by each measure of similarity. */
export const groups = defineTableQuery('groups', async (asked, at, context) => {
  const table = await tableAfter(at, asked, context)
  const has = table !== undefined && table.positionOf(asked.column) >= 0
  return groupsOf(has ? valuesOf(table.named(asked.column), 1_000_000) : [])
})

/** The next cell that holds a text, and how many do. */
export const find = defineTableQuery('find', async (asked, at, context) => {
  const table = await tableAfter(at, asked, context)
  return table ? findText(table, asked.text, asked.from, asked.back) : { found: null, total: 0 }
})
