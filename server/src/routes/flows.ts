import { isDeepStrictEqual } from 'node:util'
import { Router, type Request } from 'express'
import { isFile, type Recipe } from '@fabula/core'
import * as api from '@fabula/core/api'
import type { Supervisor } from '../compute/supervisor.ts'
import { Refusal } from '../refusal.ts'
import type { Flows } from '../store/flows.ts'
import type { Links } from '../store/links.ts'
import { need, ownedFlow, type Access } from './access.ts'
import { body, send } from './check.ts'

export type Services = { readonly flows: Flows; readonly links: Links; readonly compute: Supervisor }

/** What a story writes into databases is its owner's to say; by a link nothing of that changes. */
const refuseDatabaseChanges = (before: Recipe, after: Recipe): void => {
  const intoDatabases = ({ outputs = [] }: Recipe) => outputs.filter((output) => !isFile(output))
  if (!isDeepStrictEqual(intoDatabases(before), intoDatabases(after))) throw new Refusal('owner-only-output')
}

/** The story itself: what it is and its edits. `accessOf` says which story a request is about and what it may do. */
// eslint-disable-next-line max-lines-per-function -- a list of routes
export const flowRoutes = ({ flows, links }: Services, accessOf: (request: Request) => Promise<Access>): Router => {
  const router = Router({ mergeParams: true })
  /** The story that a request may change; what comes by link is held until the owner agrees. */
  const changing = async (request: Request): Promise<Access> => {
    const access = await accessOf(request)
    need(access, 'edit')
    return access
  }
  const changed = async ({ link }: Access): Promise<void> => {
    if (link !== undefined) await links.used(link, 'edited')
  }
  /** For the owner of a story that is held: as it was before it was changed by link. */
  const heldFrom = async ({ flow, rights }: Access, edit: number | null): Promise<Recipe | null> =>
    rights !== 'all' || edit === null ? null : (await flows.get(flow, edit)).recipe
  const reply = async (access: Access): Promise<api.FlowReply> => {
    const story = await flows.get(access.flow, access.edit)
    const editions = access.edit === undefined ? [] : (await links.editions(access.flow)).editions
    return {
      ...story,
      heldFrom: await heldFrom(access, story.heldFrom),
      files: await flows.files(access.flow),
      rights: access.rights,
      edition: editions.find(({ edit }) => edit === access.edit)?.name ?? null,
    }
  }

  router.get('/', async (request, response) => {
    const access = await accessOf(request)
    if (access.link) await links.used(access.link, 'read')
    else await flows.opened(access.flow)
    send(response, api.flowReply, await reply(access))
  })

  router.post('/edit', async (request, response) => {
    const access = await changing(request)
    const asked = body(api.editRequest, request)
    if (access.link !== undefined) refuseDatabaseChanges((await flows.get(access.flow)).recipe, asked.recipe)
    await flows.edit(access.flow, asked, access.link !== undefined)
    await changed(access)
    send(response, api.flowReply, await reply(access))
  })
  for (const way of ['undo', 'redo'] as const)
    router.post(`/${way}`, async (request, response) => {
      const access = await changing(request)
      await flows[way](access.flow, body(api.travelRequest, request).after, access.link !== undefined)
      await changed(access)
      send(response, api.flowReply, await reply(access))
    })
  /** The owner has looked at what came by link: databases are written again. */
  router.post('/agree', async (request, response) => {
    const access = await accessOf(request)
    need(access, 'all')
    await flows.agree(access.flow)
    send(response, api.flowReply, await reply(access))
  })
  router.post('/rename', async (request, response) => {
    const flow = await ownedFlow(accessOf)(request)
    const { name } = body(api.renameRequest, request)
    const { recipe, edit } = await flows.get(flow)
    await flows.edit(flow, { recipe: { ...recipe, name }, what: 'the story renamed', after: edit }, false)
    send(response, api.flowsReply, { flows: await flows.list() })
  })
  router.delete('/', async (request, response) => {
    await flows.remove(await ownedFlow(accessOf)(request))
    send(response, api.flowsReply, { flows: await flows.list() })
  })
  router.post('/restore', async (request, response) => {
    await flows.restore(await ownedFlow(accessOf)(request))
    send(response, api.flowsReply, { flows: await flows.list() })
  })
  router.put('/files', async (request, response) => {
    const access = await changing(request)
    await flows.setFiles(access.flow, body(api.replayFiles, request), access.link !== undefined)
    await changed(access)
    send(response, api.flowReply, await reply(access))
  })

  return router
}
