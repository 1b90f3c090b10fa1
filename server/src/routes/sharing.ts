import { Router, type Request } from 'express'
import * as api from '@fabula/core/api'
import type { Flows } from '../store/flows.ts'
import type { Links } from '../store/links.ts'
import { need, ownedFlow, type Access } from './access.ts'
import { body, send } from './check.ts'

/** Links, editions, and copies taken of a story. */
export const sharingRoutes = (
  { flows, links }: { readonly flows: Flows; readonly links: Links },
  accessOf: (request: Request) => Promise<Access>,
): Router => {
  const router = Router({ mergeParams: true })
  const own = ownedFlow(accessOf)
  router.get('/links', async (request, response) =>
    send(response, api.linksReply, await links.list(await own(request))),
  )
  router.post('/links', async (request, response) => {
    const flow = await own(request)
    await links.make(flow, body(api.linkAsked, request))
    send(response, api.linksReply, await links.list(flow))
  })
  router.put('/links/:link', async (request, response) => {
    const flow = await own(request)
    await links.change(flow, String(request.params.link), body(api.linkAsked, request))
    send(response, api.linksReply, await links.list(flow))
  })
  router.delete('/links/:link', async (request, response) => {
    const flow = await own(request)
    await links.end(flow, String(request.params.link))
    send(response, api.linksReply, await links.list(flow))
  })

  router.get('/editions', async (request, response) => {
    const access = await accessOf(request)
    need(access, 'edit')
    send(response, api.editionsReply, await links.editions(access.flow))
  })
  router.post('/editions', async (request, response) => {
    const flow = await own(request)
    const { name, note } = body(api.freezeRequest, request)
    await links.freeze(flow, name, note)
    send(response, api.editionsReply, await links.editions(flow))
  })

  /** A story of one's own from this one, with its files. */
  router.post('/copy', async (request, response) => {
    const access = await accessOf(request)
    need(access, 'copy')
    const { recipe, pictures } = await flows.get(access.flow, access.edit)
    const id = await flows.create({ ...recipe, name: `${recipe.name}, a copy` }, await flows.files(access.flow), {
      pictures,
      byLink: access.link !== undefined,
    })
    if (!access.link) return send(response, api.createReply, { id })
    await links.used(access.link, 'copied')
    send(response, api.createReply, {
      id,
      link: await links.make(id, {
        ...api.linkAsked.parse({ rights: 'edit', note: 'who took this copy', endsAt: null, follows: 'story' }),
        ...(await links.limits(access.link)),
      }),
    })
  })
  return router
}
