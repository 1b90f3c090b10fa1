import { Router, type Request } from 'express'
import type { z } from 'zod'
import type { Recipe } from '@fabula/core'
import * as api from '@fabula/core/api'
import type { Lane } from '../compute/supervisor.ts'
import { wallClock } from '../services/clock.ts'
import type { Flows } from '../store/flows.ts'
import { laneOf, type Access } from './access.ts'
import { body, pass } from './check.ts'
import type { Services } from './flows.ts'

type AccessOf = (request: Request) => Promise<Access>
/** What a look at the story asks, and the story as the asker may see it. */
type Look<T> = {
  readonly id: string
  readonly lane: Lane
  readonly asked: T
  readonly at: { readonly recipe: Recipe; readonly files: Awaited<ReturnType<Flows['files']>>; readonly now: number }
}
type Looking = <T extends { recipe: unknown }>(schema: z.ZodType<T>, request: Request) => Promise<Look<T>>

const lookingAt = (flows: Flows, accessOf: AccessOf): Looking => {
  /** Who may not change the story sees it as it is kept, whatever recipe the request holds. */
  const recipeFor = async ({ flow, edit, rights }: Access, asked: Recipe): Promise<Recipe> =>
    rights === 'all' || rights === 'edit' ? asked : (await flows.get(flow, edit)).recipe
  return async (schema, request) => {
    const access = await accessOf(request)
    const asked = body(schema, request)
    return {
      id: access.flow,
      lane: laneOf(access),
      asked,
      at: {
        recipe: await recipeFor(access, asked.recipe as Recipe),
        files: await flows.files(access.flow),
        now: wallClock(),
      },
    }
  }
}

/** Newer requests of the same page take the place of older ones; other pages and people are not touched. */
const keyOfRequest = (request: Request, id: string, what: string): string | undefined => {
  const page = request.get('x-fabula-page')
  return page === undefined ? undefined : `${id}:${page.slice(0, 60)}:${what}`
}

/** Looks at one table: its rows, facts, values and charts. */
const tableLooks = (router: Router, compute: Services['compute'], looking: Looking): void => {
  router.post('/preview', async (request, response) => {
    const { id, lane, asked, at } = await looking(api.previewRequest, request)
    const requestKey = keyOfRequest(request, id, `${asked.count === 0 ? 'story' : 'view'}:${asked.table}`)
    await pass(
      response,
      compute.do(
        { kind: 'preview', request: { ...asked, recipe: at.recipe }, files: at.files, now: at.now },
        { home: id, lane, requestKey },
      ),
    )
  })
  router.post('/facts', async (request, response) => {
    const { id, lane, asked, at } = await looking(api.factsRequest, request)
    await pass(
      response,
      compute.do(
        { kind: 'facts', ...asked, ...at },
        { home: id, lane, requestKey: asked.deep ? undefined : keyOfRequest(request, id, 'facts') },
      ),
    )
  })
  router.post('/values', async (request, response) => {
    const { id, lane, asked, at } = await looking(api.valuesRequest, request)
    await pass(response, compute.do({ kind: 'values', ...asked, ...at }, { home: id, lane }))
  })
  router.post('/groups', async (request, response) => {
    const { id, lane, asked, at } = await looking(api.valuesRequest, request)
    await pass(response, compute.do({ kind: 'groups', ...asked, ...at }, { home: id, lane }))
  })
  router.post('/picture', async (request, response) => {
    const { id, lane, asked, at } = await looking(api.pictureRequest, request)
    await pass(
      response,
      compute.do(
        { kind: 'picture', ...asked, ...at },
        { home: id, lane, requestKey: keyOfRequest(request, id, 'picture') },
      ),
    )
  })
  router.post('/find', async (request, response) => {
    const { id, lane, asked, at } = await looking(api.findRequest, request)
    await pass(response, compute.do({ kind: 'find', ...asked, ...at }, { home: id, lane }))
  })
}

/** Looks at several tables: matches of a join, columns of a union, differences. */
const tablesLooks = (router: Router, compute: Services['compute'], looking: Looking): void => {
  router.post('/match', async (request, response) => {
    const {
      id,
      lane,
      asked: { recipe: _recipe, table, step, with: other, ...asked },
      at,
    } = await looking(api.matchRequest, request)
    await pass(
      response,
      compute.do(
        { kind: 'match', ...at, table, step, with: other, asked },
        { home: id, lane, requestKey: keyOfRequest(request, id, 'match') },
      ),
    )
  })
  router.post('/lay', async (request, response) => {
    const {
      id,
      lane,
      asked: { recipe: _recipe, union, ...asked },
      at,
    } = await looking(api.alignRequest, request)
    await pass(
      response,
      compute.do(
        { kind: 'align', ...asked, ...at, union: union as { with: string[] } },
        { home: id, lane, requestKey: keyOfRequest(request, id, 'align') },
      ),
    )
  })
  router.post('/reconcile', async (request, response) => {
    const {
      id,
      lane,
      asked: { recipe: _recipe, here, there, ...asked },
      at,
    } = await looking(api.reconcileRequest, request)
    await pass(
      response,
      compute.do(
        { kind: 'reconcile', ...at, here, there, asked },
        { home: id, lane, requestKey: keyOfRequest(request, id, 'reconcile') },
      ),
    )
  })
}

/** Every look at the tables of a story; nothing is changed by them. */
export const lookRoutes = ({ flows, compute }: Services, accessOf: AccessOf): Router => {
  const router = Router({ mergeParams: true })
  const looking = lookingAt(flows, accessOf)
  tableLooks(router, compute, looking)
  tablesLooks(router, compute, looking)
  return router
}
