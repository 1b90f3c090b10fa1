import { Router, type Request } from 'express'
import * as api from '@fabula/core/api'
import { wallClock } from '../services/clock.ts'
import { placeFiles } from '../services/inputs.ts'
import { ReplayData } from '../services/replay-data.ts'
import type { Proofs } from '../services/proofs.ts'
import type { Replays } from '../services/replays.ts'
import type { Supervisor } from '../compute/supervisor.ts'
import type { FileStore } from '../store/files.ts'
import { refuseHeld, type Flows } from '../store/flows.ts'
import type { Links } from '../store/links.ts'
import type { Runs, RunStart } from '../store/runs.ts'
import { laneOf, type Access } from './access.ts'
import { body, pass, send } from './check.ts'

export type ReplayServices = {
  readonly compute: Supervisor
  readonly flows: Flows
  readonly runs: Runs
  readonly replays: Replays
  readonly proofs: Proofs
  readonly files: FileStore
  readonly links: Links
}

type AccessOf = (request: Request) => Promise<Access>

/** Reads the replay that a request names, as far as the asker may see it. */
export const runReader =
  (runs: Runs, replays: Replays, accessOf: AccessOf) =>
  async (request: Request): Promise<api.RunReply> => {
    const { flow, link } = await accessOf(request)
    return replays.withProgress(await runs.get(flow, String(request.params.run), link))
  }

/** New files held against the story, replays, and what they made. By a link one sees only what was asked for by it, and no database is written. */
export const replayRoutes = (
  { compute, flows, runs, replays, files, links }: ReplayServices,
  accessOf: (request: Request) => Promise<Access>,
  // eslint-disable-next-line max-lines-per-function -- a list of routes
): Router => {
  const router = Router({ mergeParams: true })

  const data = new ReplayData({ flows, runs, files })
  /** A replay by a link is begun only while fewer wait than it may have. */
  const begin = (start: RunStart): Promise<string> => {
    const { link } = start
    if (link === undefined) return replays.begin(start)
    return links.inTurn(link, async () => {
      await links.mayReplay(link)
      return replays.begin(start)
    })
  }

  router.post('/place', async (request, response) => {
    const access = await accessOf(request)
    const { recipe } = await flows.get(access.flow, access.edit)
    send(
      response,
      api.placeReply,
      await placeFiles(recipe, body(api.placeRequest, request).files, compute, laneOf(access)),
    )
  })

  router.post('/fit', async (request, response) => {
    const access = await accessOf(request)
    const { flow, link } = access
    const { last, ...trial } = await data.trialOf(access, body(api.fitRequest, request))
    await pass(
      response,
      compute.do(
        {
          kind: 'fit',
          ...trial,
          last,
          lastAt: last?.at ?? null,
          now: wallClock(),
        },
        { home: flow, lane: link === undefined && compute.isIdle('batch') ? 'batch' : laneOf(access) },
      ),
    )
  })

  router.post('/replay', async (request, response) => {
    const access = await accessOf(request)
    const { flow, edit, link } = access
    const { allowChanges, parameters, ...asked } = body(api.replayRequest, request)
    const story = await flows.get(flow, edit)
    const { files, kept } = await data.filesFor(access, asked)
    if (link === undefined) refuseHeld(story)
    const run = await begin({
      flow,
      edit: story.edit,
      asked: {
        files,
        kept,
        answers: asked.answers,
        allowChanges,
        parameters,
        pictures: story.pictures,
        databases: link === undefined,
      },
      clock: wallClock(),
      link,
    })
    if (link) await links.used(link, 'replayed', run)
    send(response, api.runReply, replays.withProgress(await runs.get(flow, run)))
  })

  router.get('/runs', async (request, response) => {
    const { flow, link } = await accessOf(request)
    send(response, api.runsReply, { runs: (await runs.list(flow, link)).map((run) => replays.withProgress(run)) })
  })
  const runOf = runReader(runs, replays, accessOf)
  router.get('/runs/:run', async (request, response) => send(response, api.runReply, await runOf(request)))
  router.delete('/runs/:run', async (request, response) => {
    const run = await runOf(request)
    replays.stop(run.id)
    send(response, api.runReply, run)
  })
  /** The same story on the same files with the same answers, at the same time of day; files only, no database is written twice. */
  router.post('/runs/:run/again', async (request, response) => {
    const { flow, link } = await accessOf(request)
    const past = await runs.startOf(flow, String(request.params.run), link)
    const run = await begin({
      ...past,
      asked: { ...past.asked, databases: false },
      link,
      repeats: String(request.params.run),
    })
    send(response, api.runReply, replays.withProgress(await runs.get(flow, run)))
  })
  return router
}
