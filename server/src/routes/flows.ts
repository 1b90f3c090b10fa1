import { Router, type Request } from 'express'
import type { z } from 'zod'
import { isFile, writeRecipe, type Recipe } from '@fabula/core'
import * as api from '@fabula/core/api'
import type { Bench } from '../jobs/pool.ts'
import type { Progress, RunResult } from '../jobs/tasks.ts'
import { Refusal } from '../refusal.ts'
import type { Connection } from '../sources/postgresql.ts'
import type { FileStore } from '../store/files.ts'
import type { Flows } from '../store/flows.ts'
import { body, send } from './check.ts'
import { zipInto } from './zip.ts'

export type Services = { readonly connection: (name: string) => Promise<Connection>; readonly flows: Flows; readonly files: FileStore; readonly bench: Bench; readonly runner: Bench; readonly registerFile: (file: { hash: string; size: number }) => Promise<void> }

/** The wall clock of this machine, in milliseconds. */
const wallClock = (): number => {
  const now = new Date()
  return Math.floor((now.getTime() - now.getTimezoneOffset() * 60_000) / 1000) * 1000
}
const startedAt = wallClock()

type Going = { progress: Progress; stop: () => void }
const going = new Map<string, Going>()

/** `flowOf` says which flow a request is about, and whether it may change it. */
export const flowRoutes = ({ flows, files, bench, runner, registerFile, connection }: Services, flowOf: (request: Request) => Promise<string>, readOnly: boolean): Router => {
  const router = Router({ mergeParams: true })
  const changes = (): void => {
    if (readOnly) throw new Refusal(403, 'read-only', 'By this link the story can be read and replayed, not changed.')
  }
  const reply = async (id: string) => flows.get(id, readOnly)

  router.get('/', async (request, response) => send(response, api.flowReply, await reply(await flowOf(request))))

  router.post('/edit', async (request, response) => {
    changes()
    const id = await flowOf(request)
    const { recipe, what, after } = body(api.editRequest, request)
    await flows.edit(id, recipe, what, after)
    send(response, api.flowReply, await reply(id))
  })
  for (const way of ['undo', 'redo'] as const)
    router.post(`/${way}`, async (request, response) => {
      changes()
      const id = await flowOf(request)
      await flows[way](id)
      send(response, api.flowReply, await reply(id))
    })
  router.post('/link', async (request, response) => {
    changes()
    const id = await flowOf(request)
    await flows.link(id)
    send(response, api.flowReply, await reply(id))
  })
  router.delete('/link', async (request, response) => {
    changes()
    const id = await flowOf(request)
    await flows.endLink(id)
    send(response, api.flowReply, await reply(id))
  })

  /** A reader sees the story as it is kept, whatever recipe the request holds. */
  const recipeFor = async (id: string, asked: Recipe): Promise<Recipe> => (readOnly ? (await reply(id)).recipe : asked)

  router.post('/preview', async (request, response) => {
    const id = await flowOf(request)
    const asked = body(api.previewRequest, request)
    const { result } = bench.do<api.PreviewReply>({ kind: 'preview', request: { ...asked, recipe: await recipeFor(id, asked.recipe) }, files: await flows.files(id), now: startedAt }, `${id}:${asked.count === 0 ? 'story' : 'view'}:${asked.table}`)
    send(response, api.previewReply, await result)
  })
  router.post('/facts', async (request, response) => {
    const id = await flowOf(request)
    const asked = body(api.factsRequest, request)
    const { result } = bench.do<{ facts: Record<string, api.ColumnFacts> }>({ kind: 'facts', ...asked, recipe: await recipeFor(id, asked.recipe), files: await flows.files(id), now: startedAt }, asked.deep ? undefined : `${id}:facts`)
    send(response, api.factsReply, await result)
  })
  router.post('/values', async (request, response) => {
    const id = await flowOf(request)
    const asked = body(api.valuesRequest, request)
    const { result } = bench.do<{ values: { label: string; count: number }[] }>({ kind: 'values', ...asked, recipe: await recipeFor(id, asked.recipe), files: await flows.files(id), now: startedAt })
    send(response, api.valuesReply, await result)
  })

  router.post('/groups', async (request, response) => {
    const id = await flowOf(request)
    const asked = body(api.valuesRequest, request)
    const { result } = bench.do<api.GroupsReply>({ kind: 'groups', ...asked, recipe: await recipeFor(id, asked.recipe), files: await flows.files(id), now: startedAt })
    send(response, api.groupsReply, await result)
  })

  router.post('/picture', async (request, response) => {
    const id = await flowOf(request)
    const asked = body(api.pictureRequest, request)
    const { result } = bench.do<api.PictureData>({ kind: 'picture', ...asked, recipe: await recipeFor(id, asked.recipe as Recipe), files: await flows.files(id), now: startedAt }, `${id}:picture`)
    send(response, api.pictureData, await result)
  })
  router.put('/pictures', async (request, response) => {
    changes()
    const id = await flowOf(request)
    await flows.setPictures(id, body(api.picturesRequest, request).pictures)
    send(response, api.flowReply, await reply(id))
  })

  router.post('/match', async (request, response) => {
    const id = await flowOf(request)
    const { recipe, table, step, with: other, ...asked } = body(api.matchRequest, request)
    const { result } = bench.do<api.MatchReply>({ kind: 'match', recipe: await recipeFor(id, recipe as Recipe), table, step, with: other, asked, files: await flows.files(id), now: startedAt }, `${id}:match`)
    send(response, api.matchReply, await result)
  })
  router.post('/lay', async (request, response) => {
    const id = await flowOf(request)
    const { recipe, union, ...asked } = body(api.layRequest, request)
    const { result } = bench.do<api.LayReply>({ kind: 'lay', ...asked, recipe: await recipeFor(id, recipe as Recipe), union: union as { with: string[] }, files: await flows.files(id), now: startedAt }, `${id}:lay`)
    send(response, api.layReply, await result)
  })
  router.post('/reconcile', async (request, response) => {
    const id = await flowOf(request)
    const { recipe, here, there, ...asked } = body(api.reconcileRequest, request)
    const { result } = bench.do<api.ReconcileReply>({ kind: 'reconcile', recipe: await recipeFor(id, recipe as Recipe), here, there, asked, files: await flows.files(id), now: startedAt }, `${id}:reconcile`)
    send(response, api.reconcileReply, await result)
  })

  router.post('/find', async (request, response) => {
    const id = await flowOf(request)
    const asked = body(api.findRequest, request)
    const { result } = bench.do<z.infer<typeof api.findReply>>({ kind: 'find', ...asked, recipe: await recipeFor(id, asked.recipe), files: await flows.files(id), now: startedAt })
    send(response, api.findReply, await result)
  })

  /** New files where they were given, those of last time for the other inputs. */
  const filesFor = async (id: string, given: Readonly<Record<string, readonly api.FileRef[]>>) => {
    const before = await flows.files(id)
    for (const ref of Object.values(given).flat()) if (!(await files.has(ref.hash))) throw new Refusal(400, 'no-file', `The file ${ref.name} did not arrive. Drop it again.`)
    return { before, now: { ...before, ...given } }
  }

  router.post('/fit', async (request, response) => {
    const id = await flowOf(request)
    const { files: given, renames } = body(api.fitRequest, request)
    const { before, now } = await filesFor(id, given)
    const { result } = runner.do<api.FitReply>({ kind: 'fit', recipe: (await reply(id)).recipe, files: now, before, renames })
    send(response, api.fitReply, await result)
  })

  router.post('/replay', async (request, response) => {
    const id = await flowOf(request)
    const { files: given, renames, allowChanges, parameters } = body(api.replayRequest, request)
    const flow = await reply(id)
    const { now } = await filesFor(id, given)
    // by a link nothing is written into a database
    const recipe: Recipe = readOnly && flow.recipe.outputs ? { ...flow.recipe, outputs: flow.recipe.outputs.filter(isFile) } : flow.recipe
    const connections: Record<string, Connection> = {}
    for (const output of recipe.outputs ?? []) if (!isFile(output)) connections[output.connection] ??= await connection(output.connection)
    const run = await flows.startRun(id, flow.edit, { files: given, renames, allowChanges, parameters })
    const { result, stop } = runner.do<RunResult>({ kind: 'run', recipe, pictures: flow.pictures, files: now, renames, allowChanges, parameters, connections, now: wallClock() }, undefined, (progress) => {
      const one = going.get(run)
      if (one) one.progress = progress
    })
    going.set(run, { progress: { done: 0, of: 1, doing: 'Waiting for its turn' }, stop })
    const finish = async (): Promise<void> => {
      try {
        const made = await result
        for (const file of made.stored) await registerFile(file)
        await flows.finishRun(run, 'done', null, made)
      } catch (error) {
        const stopped = error instanceof Refusal && error.code === 'superseded'
        await flows.finishRun(run, stopped ? 'stopped' : 'failed', stopped ? 'This replay was stopped.' : error instanceof Refusal ? error.message : 'This replay met a fault of Fabula itself; the log of the server says more.', { files: [], tables: [], outputs: [], pictures: [] })
        if (!(error instanceof Refusal)) request.log.error(error)
      } finally {
        going.delete(run)
      }
    }
    void finish()
    send(response, api.runReply, await withProgress(await flows.run(id, run)))
  })

  const withProgress = async (run: api.RunReply): Promise<api.RunReply> => {
    const now = going.get(run.id)
    return now ? { ...run, ...now.progress } : run
  }
  router.get('/runs', async (request, response) => send(response, api.runsReply, { runs: await Promise.all((await flows.runs(await flowOf(request))).map(withProgress)) }))
  router.get('/runs/:run', async (request, response) => send(response, api.runReply, await withProgress(await flows.run(await flowOf(request), request.params.run))))
  router.delete('/runs/:run', async (request, response) => {
    const run = await flows.run(await flowOf(request), request.params.run)
    going.get(run.id)?.stop()
    send(response, api.runReply, await withProgress(run))
  })
  const typeOf: Readonly<Record<string, string>> = { csv: 'text/csv', json: 'application/json', xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet', parquet: 'application/vnd.apache.parquet' }
  const bare = (file: string): string => file.replace(/^.*[/\\]/, '')
  router.get('/runs/:run/outputs/:at', async (request, response) => {
    const run = await flows.run(await flowOf(request), request.params.run)
    const output = run.outputs[Number(request.params.at)]
    if (!output || output.hash === '') throw new Refusal(404, 'no-output', 'This replay did not make that file.')
    response.attachment(bare(output.file)).type(typeOf[output.format] ?? 'application/octet-stream')
    files.read(output.hash).pipe(response)
  })
  router.get('/runs/:run/outputs.zip', async (request, response) => {
    const run = await flows.run(await flowOf(request), request.params.run)
    const made = run.outputs.filter(({ hash, file }, i) => hash !== '' && run.outputs.findIndex((other) => other.file === file) === i)
    if (made.length === 0) throw new Refusal(404, 'no-output', 'This replay made no files.')
    response.attachment('outputs.zip').type('application/zip')
    await zipInto(response, made.map(({ file, hash }) => ({ name: file, read: () => files.read(hash) })))
  })

  const scriptsOf = async (id: string): Promise<api.ScriptReply> => bench.do<api.ScriptReply>({ kind: 'scripts', recipe: (await reply(id)).recipe, files: await flows.files(id) }).result
  router.get('/scripts', async (request, response) => send(response, api.scriptReply, await scriptsOf(await flowOf(request))))
  router.get('/download/:what', async (request, response) => {
    const id = await flowOf(request)
    const { recipe } = await reply(id)
    const stem = recipe.name.toLowerCase().replace(/[^a-z0-9]+/g, '-').replace(/^-|-$/g, '') || 'flow'
    const { what } = request.params
    if (what === 'recipe') response.attachment(`${stem}.fabula.json`).type('application/vnd.fabula.recipe+json').send(writeRecipe(recipe))
    else if (what === 'python' || what === 'sql') {
      const script = await scriptsOf(id)
      if (script[what].length === 0) throw new Refusal(409, 'no-script', script.problem ?? 'There is no script.')
      response.attachment(`${stem}.${what === 'python' ? 'py' : 'sql'}`).type(what === 'python' ? 'text/x-python' : 'application/sql').send(script[what].map(({ text }) => text).join('\n'))
    } else throw new Refusal(404, 'no-download', 'There is no such thing to download.')
  })
  return router
}
