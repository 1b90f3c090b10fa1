import { setImmediate as otherWork } from 'node:timers/promises'
import { chartData, factsOf, setOwnValue, type ColumnFacts } from '@fabula/core'
import { factsReply, pictureData, type Picture } from '@fabula/core/api'
import { TaskProblem } from '../worker-context.ts'
import { defineTask } from './define-task.ts'
import { tableAfter, type TableRequest } from './story-run.ts'

/** What columns hold, over all their rows. Yields between columns, so that other requests have their turn. */
export const facts = defineTask({
  reply: factsReply,
  run: async (request: TableRequest & { readonly columns: readonly string[]; readonly deep: boolean }, context) => {
    const table = await tableAfter(request, context)
    const found: Record<string, ColumnFacts> = {}
    for (const name of request.columns) {
      if (context.shouldStop()) throw new TaskProblem('Newer facts are asked for.')
      if (table && table.positionOf(name) >= 0) setOwnValue(found, name, factsOf(name, table.named(name), request.deep))
      await otherWork()
    }
    return { facts: found }
  },
})

/** The data of a chart over a whole table. */
export const picture = defineTask({
  reply: pictureData,
  run: async (request: TableRequest & { readonly picture: Picture }, context) => {
    const table = await tableAfter(request, context)
    return table
      ? chartData(request.picture, table)
      : { labels: [], series: [], values: [], points: [], wheres: [], beyond: 0 }
  },
})
