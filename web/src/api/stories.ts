import { flowsReply } from '@fabula/core/api'
import { queryOptions } from '@tanstack/react-query'
import { ask } from './client.ts'

/** All stories. It stands apart from the other queries, which need the schema of recipes, so that the first page is small. */
export const storiesQuery = () =>
  queryOptions({ queryKey: ['flows'], queryFn: () => ask(flowsReply, 'GET', '/api/flows') })
