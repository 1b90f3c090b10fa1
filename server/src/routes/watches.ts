import { Router, type Request } from 'express'
import * as api from '@fabula/core/api'
import { parameterCells } from '@fabula/core'
import { wallClock } from '../services/clock.ts'
import { Refusal } from '../refusal.ts'
import type { Flows } from '../store/flows.ts'
import type { Watches } from '../store/watches.ts'
import { checkFolder } from '../watch/folder.ts'
import { nextAfter } from '../watch/schedule.ts'
import { parameterAt } from '../watch/watch-parameters.ts'
import { ownedFlow, type Access } from './access.ts'
import { body, send } from './check.ts'

/** A story that replays itself: who keeps it says when. */
export const watchRoutes = (
  { watches, flows }: { readonly watches: Watches; readonly flows: Flows },
  accessOf: (request: Request) => Promise<Access>,
): Router => {
  const router = Router({ mergeParams: true })
  const own = ownedFlow(accessOf)
  router.get('/watches', async (request, response) =>
    send(response, api.watchesReply, await watches.list(await own(request))),
  )
  router.post('/watches', async (request, response) => {
    const flow = await own(request)
    const settings = body(api.watchSettings, request)
    const { faults } = parameterCells((await flows.get(flow)).recipe, parameterAt(settings.parameters, wallClock()))
    if (faults[0]) throw new Refusal('bad-parameter', { reason: faults.map(({ sentence }) => sentence).join(' ') })
    const there = settings.folder === null ? [] : await checkFolder(settings.folder)
    await watches.add(
      flow,
      settings,
      nextAfter(settings.when, new Date()),
      there.map(({ key }) => key),
    )
    send(response, api.watchesReply, await watches.list(flow))
  })
  router.put('/watches/:watch', async (request, response) => {
    const flow = await own(request)
    const { on } = body(api.pauseRequest, request)
    const id = String(request.params.watch)
    await watches.pause(flow, id, on)
    const watch = on ? await watches.one(flow, id) : undefined
    if (watch) await watches.next(id, nextAfter(watch.settings.when, new Date()))
    send(response, api.watchesReply, await watches.list(flow))
  })
  router.delete('/watches/:watch', async (request, response) => {
    const flow = await own(request)
    await watches.remove(flow, String(request.params.watch))
    send(response, api.watchesReply, await watches.list(flow))
  })
  return router
}
