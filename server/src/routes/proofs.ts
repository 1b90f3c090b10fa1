import { Router, type Request } from 'express'
import * as api from '@fabula/core/api'
import type { Progress } from '../compute/worker-context.ts'
import { wallClock } from '../services/clock.ts'
import { need, type Access } from './access.ts'
import { send } from './check.ts'
import type { ReplayServices } from './replays.ts'

/** The proof that a story's scripts give what the engine gives. */
export const proofRoutes = (
  { flows, proofs }: Pick<ReplayServices, 'flows' | 'proofs'>,
  accessOf: (request: Request) => Promise<Access>,
): Router => {
  const router = Router({ mergeParams: true })
  router.post('/prove', async (request, response) => {
    const access = await accessOf(request)
    need(access, 'all')
    const { recipe } = await flows.get(access.flow)
    send(
      response,
      api.proofReply,
      await proofs.prove(access.flow, { recipe, files: await flows.files(access.flow), now: wallClock() }),
    )
  })
  const proving = (flow: string): Progress => proofs.progressOf(flow) ?? { done: 0, of: 100, doing: '' }
  router.get('/prove', async (request, response) =>
    send(response, api.progressReply, proving((await accessOf(request)).flow)),
  )
  router.delete('/prove', async (request, response) => {
    const access = await accessOf(request)
    need(access, 'all')
    proofs.stop(access.flow)
    send(response, api.progressReply, proving(access.flow))
  })

  return router
}
