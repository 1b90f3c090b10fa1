import { lineageBetween } from '@fabula/core'
import { alignTables, matchTables, reconcileTables } from '../workbenches.ts'
import { defineTableQuery } from './define-task.ts'
import { ranTo, tableOf } from './story-run.ts'

/** What a join would match, by every way of joining. */
export const match = defineTableQuery('match', async (asked, at, context) =>
  matchTables(
    await tableOf(at, asked.table, asked.step, context),
    await tableOf(at, asked.with, undefined, context),
    asked,
  ),
)

/** Which table of a union has which column. */
export const align = defineTableQuery('align', async ({ table, step, union }, at, context) => {
  const tables = [await tableOf(at, table, step, context)]
  for (const id of union.with) tables.push(await tableOf(at, id, undefined, context))
  return alignTables(union, table, tables)
})

/** Two tables, or two states of one, held against each other row by row. */
export const reconcile = defineTableQuery('reconcile', async (asked, at, context) => {
  const here = await ranTo(at, asked.here.table, asked.here.step, context)
  const there = await ranTo(at, asked.there.table, asked.there.step, context)
  // rows of two states of one table are paired by their lineage
  const lineage =
    asked.here.table === asked.there.table
      ? lineageBetween(there.ran.steps, asked.here.step, asked.there.step)
      : undefined
  return reconcileTables(here.table, there.table, lineage, asked)
})
