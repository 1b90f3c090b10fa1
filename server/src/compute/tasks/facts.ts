import { chartData, emptyChart, factsOf, setOwnValue, type ColumnFacts } from '@fabula/core'
import { setImmediate as otherWork } from 'node:timers/promises'
import { defineTableQuery } from './define-task.ts'
import { tableAfter } from './story-run.ts'
import { Refusal } from '../../refusal.ts'

/** What columns hold, over all their rows. Yields between columns, so that other requests have their turn. */
export const facts = defineTableQuery('facts', async (asked, at, context) => {
  const table = await tableAfter(at, asked, context)
  const found: Record<string, ColumnFacts> = {}
  for (const name of asked.columns) {
    if (context.shouldStop()) throw new Refusal('newer-facts')
    if (table && table.positionOf(name) >= 0) setOwnValue(found, name, factsOf(name, table.named(name), asked.deep))
    await otherWork()
  }
  return { facts: found }
})

/** The data of a chart over a whole table. */
export const picture = defineTableQuery('picture', async (asked, at, context) => {
  const table = await tableAfter(at, asked, context)
  return table ? chartData(asked.picture, table) : emptyChart
})
