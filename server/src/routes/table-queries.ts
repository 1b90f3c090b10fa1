import type { Recipe } from '@fabula/core'
import {
  tableQueryNames,
  tableQueries,
  type TableQuery,
  type TableQueryName,
  type TableQueryRequest,
} from '@fabula/core/api'
import { Router, type Request } from 'express'
import type { Task } from '../compute/tasks/index.ts'
import { wallClock } from '../services/clock.ts'
import { ReplayData } from '../services/replay-data.ts'
import { Refusal } from '../refusal.ts'
import { laneOf, type Access } from './access.ts'
import { body, pass } from './check.ts'
import type { ReplayServices } from './replays.ts'

/** Newer requests of the same page take the place of older ones; other pages and people are not touched. */
const keyOfRequest = (request: Request, flow: string, word: string | undefined): string | undefined => {
  const page = request.get('x-fabula-page')
  return page === undefined || word === undefined ? undefined : `${flow}:${page.slice(0, 60)}:${word}`
}

/** Queries that show rows of files as they came: by a link that may only replay, those of its own replays alone. */
const showsSources: readonly TableQueryName[] = ['trace', 'follow', 'lost', 'sheet']

/** Every query about the tables of a flow, a route each; nothing is changed by them. */
export const tableQueryRoutes = (
  { flows, runs, files, compute }: Pick<ReplayServices, 'flows' | 'runs' | 'files' | 'compute'>,
  accessOf: (request: Request) => Promise<Access>,
): Router => {
  const router = Router({ mergeParams: true })
  const data = new ReplayData({ flows, runs, files })
  /** Who may not change the story sees it as it is kept, whatever recipe the request holds. */
  const recipeFor = async ({ flow, edit, rights }: Access, asked: Recipe): Promise<Recipe> =>
    rights === 'all' || rights === 'edit' ? asked : (await flows.get(flow, edit)).recipe
  const add = (name: TableQueryName): void => {
    const { request: schema, supersedes } = tableQueries[name] as TableQuery<TableQueryRequest<TableQueryName>, unknown>
    router.post(`/${name}`, async (request, response) => {
      const access = await accessOf(request)
      const asked = body(schema, request)
      if (showsSources.includes(name) && access.rights === 'replay' && !('data' in asked && asked.data !== undefined))
        throw new Refusal('no-sources')
      const at =
        'data' in asked && asked.data !== undefined
          ? await data.storyOf(access, asked.data)
          : {
              recipe: await recipeFor(access, asked.recipe as Recipe),
              files: await flows.files(access.flow),
              now: wallClock(),
            }
      // the list of queries pairs each name with its request
      const task = { kind: name, asked, at } as Task
      const requestKey = keyOfRequest(request, access.flow, supersedes?.(asked))
      await pass(response, compute.do(task, { home: access.flow, lane: laneOf(access), requestKey }))
    })
  }
  for (const name of tableQueryNames) add(name)
  return router
}
