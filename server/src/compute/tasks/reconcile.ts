import { lineageBetween } from '@fabula/core'
import { reconcileReply } from '@fabula/core/api'
import { reconcileTables } from '../workbenches.ts'
import { defineTask } from './define-task.ts'
import { ranTo, type StoryFiles, type TablePosition } from './story-run.ts'

/** Two tables, or two states of one, held against each other row by row. */
export const reconcile = defineTask({
  reply: reconcileReply,
  run: async (
    request: StoryFiles & {
      readonly here: TablePosition
      readonly there: TablePosition
      readonly asked: Parameters<typeof reconcileTables>[3]
    },
    context,
  ) => {
    const here = await ranTo(request, request.here.table, request.here.step, context)
    const there = await ranTo(request, request.there.table, request.there.step, context)
    // rows of two states of one table are paired by their lineage
    const lineage =
      request.here.table === request.there.table
        ? lineageBetween(there.ran.steps, request.here.step, request.there.step)
        : undefined
    return reconcileTables(here.table, there.table, lineage, request.asked)
  },
})
