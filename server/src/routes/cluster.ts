import { Router, type Request } from 'express'
import { ownValue } from '@fabula/core'
import * as api from '@fabula/core/api'
import { Refusal } from '../refusal.ts'
import { wallClock } from '../services/clock.ts'
import { takeRowSamples } from '../services/fetch-source.ts'
import { refuseHeld } from '../store/flows.ts'
import { ownedFlow, type Access } from './access.ts'
import { body, send } from './check.ts'
import type { ReplayServices } from './replays.ts'
import type { SourceServices } from './sources.ts'

/** Of each file at the paths so many rows are read where a story is tried before it runs on the cluster. */
const triedRows = 1000

/** A story on a cluster, on paths that the cluster reads; its owner's only, since it reads whatever the cluster can. */
export const clusterRoutes = (
  services: ReplayServices & SourceServices,
  accessOf: (request: Request) => Promise<Access>,
): Router => {
  const router = Router({ mergeParams: true })
  const { flows, runs, replays, files } = services
  const flowOf = ownedFlow(accessOf)

  router.post('/cluster', async (request, response) => {
    const flow = await flowOf(request)
    if (!services.cluster) throw new Refusal('no-cluster')
    const { parameters, ...cluster } = body(api.clusterRequest, request)
    const story = await flows.get(flow)
    refuseHeld(story)
    const without = story.recipe.inputs.find(({ id }) => !ownValue(cluster.paths, id) && !ownValue(cluster.files, id))
    if (without) throw new Refusal('no-cluster-path', { name: without.name })
    for (const file of Object.values(cluster.files).flat()) {
      if (file.sample !== undefined) throw new Refusal('sample-on-cluster', { name: file.name })
      if (!(await files.has(file.hash))) throw new Refusal('no-file', file)
    }
    const asked = { files: {}, answers: [], allowChanges: true, parameters, pictures: [], databases: false, cluster }
    const run = await replays.begin({ flow, edit: story.edit, asked, clock: wallClock() })
    send(response, api.runReply, replays.withProgress(await runs.get(flow, run)))
  })

  /** The first rows of the files, so that the story can be tried on them before it runs. */
  router.post('/cluster/look', async (request, response) => {
    await flowOf(request)
    const { paths } = body(api.clusterLookRequest, request)
    const asked = Object.entries(paths).flatMap(([input, those]) => those.map((path) => ({ input, path })))
    const taken = await takeRowSamples(
      services,
      asked.map(({ path }) => path),
      { first: triedRows },
    )
    const found = Object.keys(paths).map((input) => [input, taken.filter((_, at) => asked[at]?.input === input).flat()])
    send(response, api.clusterLookReply, { files: Object.fromEntries(found) as api.ReplayFiles })
  })
  return router
}
