import { Router, type Request } from 'express'
import type { z } from 'zod'
import { fileStem, writeRecipe, type Recipe } from '@fabula/core'
import * as api from '@fabula/core/api'
import { wallClock } from '../jobs/clock.ts'
import type { Bench } from '../jobs/pool.ts'
import { Refusal } from '../refusal.ts'
import type { Flows } from '../store/flows.ts'
import type { Links } from '../store/links.ts'
import { need, type Access } from './access.ts'
import { body, send } from './check.ts'

export type Services = { readonly flows: Flows; readonly links: Links; readonly bench: Bench }

const startedAt = wallClock()

/** The story itself: what it is, its edits, and every look at its tables. `accessOf` says which story a request is about and what it may do. */
export const flowRoutes = ({ flows, bench, links }: Services, accessOf: (request: Request) => Promise<Access>): Router => {
  const router = Router({ mergeParams: true })
  const changed = async (request: Request): Promise<string> => {
    const access = await accessOf(request)
    need(access, 'edit')
    if (access.link) await links.used(access.link, 'edited')
    return access.flow
  }
  const reply = async (access: Access): Promise<api.FlowReply> => ({ ...(await flows.get(access.flow, access.edit)), files: await flows.files(access.flow), rights: access.rights, edition: access.edit === undefined ? null : ((await links.editions(access.flow)).editions.find(({ edit }) => edit === access.edit)?.name ?? null) })

  router.get('/', async (request, response) => {
    const access = await accessOf(request)
    if (access.link) await links.used(access.link, 'read')
    send(response, api.flowReply, await reply(access))
  })

  router.post('/edit', async (request, response) => {
    const id = await changed(request)
    await flows.edit(id, body(api.editRequest, request))
    send(response, api.flowReply, await reply(await accessOf(request)))
  })
  for (const way of ['undo', 'redo'] as const)
    router.post(`/${way}`, async (request, response) => {
      await flows[way](await changed(request))
      send(response, api.flowReply, await reply(await accessOf(request)))
    })
  /** Who may not change the story sees it as it is kept, whatever recipe the request holds. */
  const recipeFor = async ({ flow, edit, rights }: Access, asked: Recipe): Promise<Recipe> => (rights === 'all' || rights === 'edit' ? asked : (await flows.get(flow, edit)).recipe)
  /** What a look at the story asks, and what it looks at. */
  const looking = async <T extends { recipe: unknown }>(schema: z.ZodType<T>, request: Request): Promise<{ id: string; asked: T; at: { recipe: Recipe; files: Awaited<ReturnType<Flows['files']>>; now: number } }> => {
    const access = await accessOf(request)
    const asked = body(schema, request)
    return { id: access.flow, asked, at: { recipe: await recipeFor(access, asked.recipe as Recipe), files: await flows.files(access.flow), now: startedAt } }
  }

  router.put('/files', async (request, response) => {
    await flows.setFiles(await changed(request), body(api.replayFiles, request))
    send(response, api.flowReply, await reply(await accessOf(request)))
  })

  router.post('/preview', async (request, response) => {
    const { id, asked, at } = await looking(api.previewRequest, request)
    const { result } = bench.do<api.PreviewReply>({ kind: 'preview', request: { ...asked, recipe: at.recipe }, files: at.files, now: at.now }, `${id}:${asked.count === 0 ? 'story' : 'view'}:${asked.table}`)
    send(response, api.previewReply, await result)
  })
  router.post('/facts', async (request, response) => {
    const { id, asked, at } = await looking(api.factsRequest, request)
    const { result } = bench.do<{ facts: Record<string, api.ColumnFacts> }>({ kind: 'facts', ...asked, ...at }, asked.deep ? undefined : `${id}:facts`)
    send(response, api.factsReply, await result)
  })
  router.post('/values', async (request, response) => {
    const { asked, at } = await looking(api.valuesRequest, request)
    const { result } = bench.do<{ values: { label: string; count: number }[] }>({ kind: 'values', ...asked, ...at })
    send(response, api.valuesReply, await result)
  })

  router.post('/groups', async (request, response) => {
    const { asked, at } = await looking(api.valuesRequest, request)
    const { result } = bench.do<api.GroupsReply>({ kind: 'groups', ...asked, ...at })
    send(response, api.groupsReply, await result)
  })

  router.post('/picture', async (request, response) => {
    const { id, asked, at } = await looking(api.pictureRequest, request)
    const { result } = bench.do<api.PictureData>({ kind: 'picture', ...asked, ...at }, `${id}:picture`)
    send(response, api.pictureData, await result)
  })

  router.post('/match', async (request, response) => {
    const { id, asked: { recipe: _recipe, table, step, with: other, ...asked }, at } = await looking(api.matchRequest, request)
    const { result } = bench.do<api.MatchReply>({ kind: 'match', ...at, table, step, with: other, asked }, `${id}:match`)
    send(response, api.matchReply, await result)
  })
  router.post('/lay', async (request, response) => {
    const { id, asked: { recipe: _recipe, union, ...asked }, at } = await looking(api.layRequest, request)
    const { result } = bench.do<api.LayReply>({ kind: 'lay', ...asked, ...at, union: union as { with: string[] } }, `${id}:lay`)
    send(response, api.layReply, await result)
  })
  router.post('/reconcile', async (request, response) => {
    const { id, asked: { recipe: _recipe, here, there, ...asked }, at } = await looking(api.reconcileRequest, request)
    const { result } = bench.do<api.ReconcileReply>({ kind: 'reconcile', ...at, here, there, asked }, `${id}:reconcile`)
    send(response, api.reconcileReply, await result)
  })

  router.post('/find', async (request, response) => {
    const { asked, at } = await looking(api.findRequest, request)
    const { result } = bench.do<z.infer<typeof api.findReply>>({ kind: 'find', ...asked, ...at })
    send(response, api.findReply, await result)
  })

  const scriptsOf = async ({ flow, edit }: Access): Promise<api.ScriptReply> => bench.do<api.ScriptReply>({ kind: 'scripts', recipe: (await flows.get(flow, edit)).recipe, files: await flows.files(flow) }).result
  router.get('/scripts', async (request, response) => {
    const access = await accessOf(request)
    need(access, 'copy')
    send(response, api.scriptReply, await scriptsOf(access))
  })
  router.get('/download/:what', async (request, response) => {
    const access = await accessOf(request)
    need(access, 'copy')
    const { recipe } = await flows.get(access.flow, access.edit)
    const stem = fileStem(recipe.name, 'flow')
    const { what } = request.params
    if (what === 'recipe') response.attachment(`${stem}.fabula.json`).type('application/vnd.fabula.recipe+json').send(writeRecipe(recipe))
    else if (what === 'python' || what === 'sql') {
      const script = await scriptsOf(access)
      if (script[what].length === 0) throw new Refusal(409, 'no-script', script.problem ?? 'There is no script.')
      response.attachment(`${stem}.${what === 'python' ? 'py' : 'sql'}`).type(what === 'python' ? 'text/x-python' : 'application/sql').send(script[what].map(({ text }) => text).join('\n'))
    } else throw new Refusal(404, 'no-download', 'There is no such thing to download.')
    if (access.link) await links.used(access.link, 'copied')
  })
  return router
}
