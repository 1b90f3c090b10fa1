import { isDeepStrictEqual } from 'node:util'
import { Router, type Request } from 'express'
import type { z } from 'zod'
import { fileStem, isFile, writeRecipe, type Recipe, dialects } from '@fabula/core'
import * as api from '@fabula/core/api'
import { wallClock } from '../services/clock.ts'
import type { Lane, Supervisor } from '../compute/supervisor.ts'
import { Refusal } from '../refusal.ts'
import type { Flows } from '../store/flows.ts'
import type { Links } from '../store/links.ts'
import { laneOf, need, type Access } from './access.ts'
import { body, pass, send } from './check.ts'

export type Services = { readonly flows: Flows; readonly links: Links; readonly compute: Supervisor }

/** What a story writes into databases is its owner's to say; by a link nothing of that changes. */
const refuseDatabaseChanges = (before: Recipe, after: Recipe): void => {
  const intoDatabases = ({ outputs = [] }: Recipe) => outputs.filter((output) => !isFile(output))
  if (!isDeepStrictEqual(intoDatabases(before), intoDatabases(after)))
    throw new Refusal(
      403,
      'owner-only-output',
      'Which tables of databases the story writes can be changed only by who keeps it. This change was held back; leave those outputs as they were, and all else can be kept.',
    )
}

/** The story itself: what it is, its edits, and every look at its tables. `accessOf` says which story a request is about and what it may do. */
export const flowRoutes = (
  { flows, compute, links }: Services,
  accessOf: (request: Request) => Promise<Access>,
): Router => {
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
  /** Who may not change the story sees it as it is kept, whatever recipe the request holds. */
  const recipeFor = async ({ flow, edit, rights }: Access, asked: Recipe): Promise<Recipe> =>
    rights === 'all' || rights === 'edit' ? asked : (await flows.get(flow, edit)).recipe
  /** What a look at the story asks, and what it looks at. */
  const looking = async <T extends { recipe: unknown }>(
    schema: z.ZodType<T>,
    request: Request,
  ): Promise<{
    id: string
    lane: Lane
    asked: T
    at: { recipe: Recipe; files: Awaited<ReturnType<Flows['files']>>; now: number }
  }> => {
    const access = await accessOf(request)
    const asked = body(schema, request)
    return {
      id: access.flow,
      lane: laneOf(access),
      asked,
      at: {
        recipe: await recipeFor(access, asked.recipe as Recipe),
        files: await flows.files(access.flow),
        now: wallClock(),
      },
    }
  }

  router.put('/files', async (request, response) => {
    const access = await changing(request)
    await flows.setFiles(access.flow, body(api.replayFiles, request), access.link !== undefined)
    await changed(access)
    send(response, api.flowReply, await reply(access))
  })

  /** Newer requests of the same page take the place of older ones; other pages and people are not touched. */
  const keyOfRequest = (request: Request, id: string, what: string): string | undefined => {
    const page = request.get('x-fabula-page')
    return page === undefined ? undefined : `${id}:${page.slice(0, 60)}:${what}`
  }

  router.post('/preview', async (request, response) => {
    const { id, lane, asked, at } = await looking(api.previewRequest, request)
    const requestKey = keyOfRequest(request, id, `${asked.count === 0 ? 'story' : 'view'}:${asked.table}`)
    await pass(
      response,
      compute.do(
        { kind: 'preview', request: { ...asked, recipe: at.recipe }, files: at.files, now: at.now },
        { home: id, lane, requestKey },
      ),
    )
  })
  router.post('/facts', async (request, response) => {
    const { id, lane, asked, at } = await looking(api.factsRequest, request)
    await pass(
      response,
      compute.do(
        { kind: 'facts', ...asked, ...at },
        { home: id, lane, requestKey: asked.deep ? undefined : keyOfRequest(request, id, 'facts') },
      ),
    )
  })
  router.post('/values', async (request, response) => {
    const { id, lane, asked, at } = await looking(api.valuesRequest, request)
    await pass(response, compute.do({ kind: 'values', ...asked, ...at }, { home: id, lane }))
  })
  router.post('/groups', async (request, response) => {
    const { id, lane, asked, at } = await looking(api.valuesRequest, request)
    await pass(response, compute.do({ kind: 'groups', ...asked, ...at }, { home: id, lane }))
  })
  router.post('/picture', async (request, response) => {
    const { id, lane, asked, at } = await looking(api.pictureRequest, request)
    await pass(
      response,
      compute.do(
        { kind: 'picture', ...asked, ...at },
        { home: id, lane, requestKey: keyOfRequest(request, id, 'picture') },
      ),
    )
  })
  router.post('/match', async (request, response) => {
    const {
      id,
      lane,
      asked: { recipe: _recipe, table, step, with: other, ...asked },
      at,
    } = await looking(api.matchRequest, request)
    await pass(
      response,
      compute.do(
        { kind: 'match', ...at, table, step, with: other, asked },
        { home: id, lane, requestKey: keyOfRequest(request, id, 'match') },
      ),
    )
  })
  router.post('/lay', async (request, response) => {
    const {
      id,
      lane,
      asked: { recipe: _recipe, union, ...asked },
      at,
    } = await looking(api.alignRequest, request)
    await pass(
      response,
      compute.do(
        { kind: 'align', ...asked, ...at, union: union as { with: string[] } },
        { home: id, lane, requestKey: keyOfRequest(request, id, 'align') },
      ),
    )
  })
  router.post('/reconcile', async (request, response) => {
    const {
      id,
      lane,
      asked: { recipe: _recipe, here, there, ...asked },
      at,
    } = await looking(api.reconcileRequest, request)
    await pass(
      response,
      compute.do(
        { kind: 'reconcile', ...at, here, there, asked },
        { home: id, lane, requestKey: keyOfRequest(request, id, 'reconcile') },
      ),
    )
  })
  router.post('/find', async (request, response) => {
    const { id, lane, asked, at } = await looking(api.findRequest, request)
    await pass(response, compute.do({ kind: 'find', ...asked, ...at }, { home: id, lane }))
  })

  const scriptsOf = async (access: Access): Promise<api.ScriptReply> =>
    compute
      .do<api.ScriptReply>(
        {
          kind: 'scripts',
          recipe: (await flows.get(access.flow, access.edit)).recipe,
          files: await flows.files(access.flow),
        },
        { home: access.flow, lane: laneOf(access) },
      )
      .value()
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
    if (what === 'recipe')
      response.attachment(`${stem}.fabula.json`).type('application/vnd.fabula.recipe+json').send(writeRecipe(recipe))
    else {
      const dialect = Object.values(dialects).find(({ name }) => name === what)
      if (!dialect) throw new Refusal(404, 'no-download', 'There is no such thing to download.')
      const script = (await scriptsOf(access)).scripts.find((one) => one.dialect === what)
      if (!script || script.parts.length === 0)
        throw new Refusal(409, 'no-script', script?.problem ?? 'There is no script.')
      response
        .attachment(`${stem}${dialect.fileEnding}`)
        .type(dialect.mediaType)
        .send(script.parts.map(({ text }) => text).join('\n'))
    }
    if (access.link) await links.used(access.link, 'copied')
  })
  return router
}
