import { Router, type Request } from 'express'
import { isOfFiles, ownValue, rememberedAnswers, setOwnValue, withAnswers } from '@fabula/core'
import * as api from '@fabula/core/api'
import { wallClock } from '../services/clock.ts'
import { placeFiles } from '../services/inputs.ts'
import type { Proofs } from '../services/proofs.ts'
import type { Replays } from '../services/replays.ts'
import type { Supervisor } from '../compute/supervisor.ts'
import { Refusal } from '../refusal.ts'
import type { FileStore } from '../store/files.ts'
import { heldSentence, type Flow, type Flows } from '../store/flows.ts'
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

const refuseHeld = (story: Flow): void => {
  const sentence = heldSentence(story)
  if (sentence !== undefined) throw new Refusal('held', { reason: sentence })
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

  /** New files where they were given, those of the last accepted run, or the story's own, for the other inputs and beside the new ones where they are kept. */
  const filesFor = async (
    { flow, edit, link }: Access,
    { files: given, keep }: { readonly files: api.ReplayFiles; readonly keep: readonly string[] },
  ) => {
    const before = await flows.files(flow)
    for (const ref of Object.values(given).flat()) if (!(await files.has(ref.hash))) throw new Refusal('no-file', ref)
    const { recipe } = await flows.get(flow, edit)
    const last = await runs.lastAccepted(flow, { link })
    // what was left out of the last run is not taken in again
    const ofRun = last ? withAnswers(recipe, last.files, last.answers.filter(isOfFiles), last.kept).files : {}
    const earlier = { ...before, ...ofRun }
    const used: Record<string, readonly api.FileRef[]> = { ...earlier }
    const kept: Record<string, readonly string[]> = {}
    for (const [input, refs] of Object.entries(given)) {
      const old = keep.includes(input) ? (ownValue(earlier, input) ?? []) : []
      setOwnValue(used, input, [...old, ...refs])
      setOwnValue(
        kept,
        input,
        old.map(({ hash }) => hash),
      )
    }
    return { before, files: used, kept, recipe, last }
  }

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
    const asked = body(api.fitRequest, request)
    const { files: now, kept, before, recipe, last } = await filesFor(access, asked)
    await pass(
      response,
      compute.do(
        {
          kind: 'fit',
          recipe,
          files: now,
          kept,
          before,
          answers: [...rememberedAnswers(last?.answers ?? []), ...asked.answers],
          parameters: asked.parameters,
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
    const { files, kept } = await filesFor(access, asked)
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
      retells: String(request.params.run),
    })
    send(response, api.runReply, replays.withProgress(await runs.get(flow, run)))
  })
  return router
}
