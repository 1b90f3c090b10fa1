import { alignReply, matchReply } from '@fabula/core/api'
import { alignTables, matchTables, type MatchAsked } from '../workbenches.ts'
import { defineTask } from './define-task.ts'
import { tableOf, type TableRequest } from './story-run.ts'

/** What a join would match, by every way of joining. */
export const match = defineTask({
  reply: matchReply,
  run: async (request: TableRequest & { readonly with: string; readonly asked: MatchAsked }, context) =>
    matchTables(
      await tableOf(request, request.table, request.step, context),
      await tableOf(request, request.with, undefined, context),
      request.asked,
    ),
})

/** Which table of a union has which column. */
export const align = defineTask({
  reply: alignReply,
  run: async (request: TableRequest & { readonly union: { readonly with: readonly string[] } }, context) => {
    const tables = [await tableOf(request, request.table, request.step, context)]
    for (const id of request.union.with) tables.push(await tableOf(request, id, undefined, context))
    return alignTables(request.union, request.table, tables)
  },
})
