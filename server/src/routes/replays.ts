import { pipeline } from 'node:stream/promises'
import { Router, type Request, type Response } from 'express'
import * as api from '@fabula/core/api'
import { wallClock } from '../services/clock.ts'
import { placeFiles } from '../services/inputs.ts'
import type { Proofs } from '../services/proofs.ts'
import type { Replays } from '../services/replays.ts'
import type { Progress } from '../compute/worker-context.ts'
import type { Supervisor } from '../compute/supervisor.ts'
import { Refusal } from '../refusal.ts'
import type { FileStore } from '../store/files.ts'
import { heldSentence, type Flow, type Flows } from '../store/flows.ts'
import type { Links } from '../store/links.ts'
import type { Runs, RunStart } from '../store/runs.ts'
import { laneOf, need, type Access } from './access.ts'
import { body, pass, send } from './check.ts'
import { zipInto } from './zip.ts'

export type ReplayServices = {
  readonly compute: Supervisor
  readonly flows: Flows
  readonly runs: Runs
  readonly replays: Replays
  readonly proofs: Proofs
  readonly files: FileStore
  readonly links: Links
}

const typeOf: Readonly<Record<string, string>> = {
  csv: 'text/csv',
  json: 'application/json',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  parquet: 'application/vnd.apache.parquet',
}
const mostCopied = 1_000_000

const refuseHeld = (story: Flow): void => {
  const sentence = heldSentence(story)
  if (sentence !== undefined) throw new Refusal(409, 'held', sentence)
}

const bare = (file: string): string => file.replace(/^.*[/\\]/, '')

/** A stored file with its length, so that whoever gets less knows that it was cut. */
const sendStored = async (response: Response, files: FileStore, hash: string): Promise<void> => {
  response.setHeader('content-length', await files.size(hash))
  await pipeline(files.read(hash), response).catch(() => response.destroy())
}

/** New files held against the story, replays, and what they made. By a link one sees only what was asked for by it, and no database is written. */
export const replayRoutes = (
  { compute, flows, runs, replays, proofs, files, links }: ReplayServices,
  accessOf: (request: Request) => Promise<Access>,
): Router => {
  const router = Router({ mergeParams: true })

  /** New files where they were given, those of last time for the other inputs. */
  const filesFor = async (id: string, given: Readonly<Record<string, readonly api.FileRef[]>>) => {
    const before = await flows.files(id)
    for (const ref of Object.values(given).flat())
      if (!(await files.has(ref.hash)))
        throw new Refusal(400, 'no-file', `The file ${ref.name} did not arrive. Drop it again.`)
    return { before, now: { ...before, ...given } }
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
    const { flow, edit } = access
    const { files: given, renames } = body(api.fitRequest, request)
    const { before, now } = await filesFor(flow, given)
    await pass(
      response,
      compute.do(
        { kind: 'fit', recipe: (await flows.get(flow, edit)).recipe, files: now, before, renames },
        { home: flow, lane: laneOf(access) },
      ),
    )
  })

  router.post('/replay', async (request, response) => {
    const { flow, edit, link } = await accessOf(request)
    const { files: given, renames, allowChanges, parameters } = body(api.replayRequest, request)
    const story = await flows.get(flow, edit)
    const { now } = await filesFor(flow, given)
    if (link === undefined) refuseHeld(story)
    const run = await begin({
      flow,
      edit: story.edit,
      asked: { files: now, renames, allowChanges, parameters, pictures: story.pictures, databases: link === undefined },
      clock: wallClock(),
      link,
    })
    if (link) await links.used(link, 'replayed', run)
    send(response, api.runReply, replays.withProgress(await runs.get(flow, run)))
  })

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

  router.get('/runs', async (request, response) => {
    const { flow, link } = await accessOf(request)
    send(response, api.runsReply, { runs: (await runs.list(flow, link)).map((run) => replays.withProgress(run)) })
  })
  const runOf = async (request: Request): Promise<api.RunReply> => {
    const { flow, link } = await accessOf(request)
    return replays.withProgress(await runs.get(flow, String(request.params.run), link))
  }
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
  router.get('/runs/:run/outputs/:at', async (request, response) => {
    const output = (await runOf(request)).outputs[Number(request.params.at)]
    if (!output || output.hash === '') throw new Refusal(404, 'no-output', 'This replay did not make that file.')
    response.attachment(bare(output.file)).type(typeOf[output.format] ?? 'application/octet-stream')
    await sendStored(response, files, output.hash)
  })
  /** The whole of a table for the clipboard, as the file holds it. */
  router.get('/runs/:run/outputs/:at/cells', async (request, response) => {
    const { outputs } = await runOf(request)
    const output = outputs[Number(request.params.at)]
    if (!output || output.hash === '') throw new Refusal(404, 'no-output', 'This replay did not make that file.')
    if (output.rows * output.columns > mostCopied)
      throw new Refusal(
        413,
        'too-large',
        `This is too much for a clipboard (${(output.rows * output.columns).toLocaleString('en-GB')} cells). Download the file instead.`,
      )
    await pass(
      response,
      compute.do(
        {
          kind: 'cells',
          hash: output.hash,
          name: bare(output.file),
          sheet: outputs.filter(({ hash }) => hash === output.hash).indexOf(output),
        },
        { home: output.hash },
      ),
    )
  })
  router.get('/runs/:run/outputs.zip', async (request, response) => {
    const run = await runOf(request)
    const made = run.outputs.filter(
      ({ hash, file }, i) => hash !== '' && run.outputs.findIndex((other) => other.file === file) === i,
    )
    if (made.length === 0) throw new Refusal(404, 'no-output', 'This replay made no files.')
    response.attachment('outputs.zip').type('application/zip')
    await zipInto(
      response,
      made.map(({ file, hash }) => ({ name: file, read: () => files.read(hash) })),
    )
  })
  return router
}
