import { ownValue } from '@fabula/core'
import type { OpenReply } from '@fabula/core/api'
import * as api from '@fabula/core/api'
import express, { type Express, type NextFunction, type Request, type Response } from 'express'
import helmet from 'helmet'
import { existsSync } from 'node:fs'
import { join } from 'node:path'
import type { Logger } from 'pino'
import { pinoHttp } from 'pino-http'
import type { Lane } from './compute/supervisor.ts'
import type { Progress } from './compute/worker-context.ts'
import { Refusal } from './refusal.ts'
import type { Access } from './routes/access.ts'
import { body, pass, send } from './routes/check.ts'
import { flowRoutes, type Services } from './routes/flows.ts'
import { guardOrigin, withoutTokens } from './routes/guards.ts'
import { Ownership } from './routes/owner.ts'
import { replayRoutes, type ReplayServices } from './routes/replays.ts'
import { sharingRoutes } from './routes/sharing.ts'
import { sourceRoutes, type SourceServices } from './routes/sources.ts'
import { watchRoutes } from './routes/watches.ts'
import { fileName, tooLarge } from './store/file-name.ts'
import type { OwnerKey } from './store/owner.ts'
import type { Watches } from './store/watches.ts'

export type AppOptions = {
  readonly services: Services & ReplayServices & SourceServices & { readonly watches: Watches }
  readonly log: Logger
  readonly web: string
  readonly hosts: readonly string[]
  readonly maxUpload: number
  readonly owner: OwnerKey
  /** Whether the server listens to this machine alone. */ readonly alone: boolean
  /** Proxies whose headers count. */ readonly proxies: readonly string[]
}

/** What a request did wrong, where the error is not the server's own. */
const refusalFor = (error: unknown): Refusal | undefined => {
  if (error instanceof Refusal) return error
  const { type, status } = error as { type?: string; status?: number }
  if (type === 'entity.too.large') return new Refusal(413, 'too-large', 'This request is too large.')
  if (type === 'entity.parse.failed') return new Refusal(400, 'bad-json', 'This request is not JSON.')
  return status !== undefined && status >= 400 && status < 500
    ? new Refusal(
        status,
        'bad-request',
        'This request is not understood: its address or its form is not as it must be.',
      )
    : undefined
}

export const buildApp = ({ services, log, web, hosts, maxUpload, owner, alone, proxies }: AppOptions): Express => {
  const { flows, files, links, compute, shelf } = services
  const app = express()
  const ownership = new Ownership(owner, links, alone)
  const guardOwner = ownership.guard
  const opener = ownership.guardOpening
  app.disable('x-powered-by')
  app.set('etag', false)
  app.set('trust proxy', proxies.length > 0 ? [...proxies] : false)
  app.use(
    pinoHttp({
      logger: log,
      autoLogging: false,
      serializers: {
        req: (request: { method: string; url: string }) => ({
          method: request.method,
          url: withoutTokens(request.url),
        }),
        res: (response: { statusCode: number }) => ({ statusCode: response.statusCode }),
      },
    }),
  )
  app.use(guardOrigin(hosts))
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'self'"],
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", 'data:'],
          fontSrc: ["'self'", 'data:'],
          objectSrc: ["'none'"],
          frameAncestors: ["'none'"],
          baseUri: ["'self'"],
          formAction: ["'self'"],
        },
      },
      strictTransportSecurity: false,
      referrerPolicy: { policy: 'same-origin' },
    }),
  )
  app.use(express.json({ limit: '20mb' }))

  const laneFor = (request: Request): Lane => (ownership.isOwner(request) ? 'interactive' : 'guest')
  app.use('/api/owner', ownership.routes())
  app.get('/api/flows', guardOwner, async (_request, response) =>
    send(response, api.flowsReply, { flows: await flows.list() }),
  )
  app.post('/api/flows', guardOwner, async (request, response) => {
    const asked = body(api.createRequest, request)
    const id = await flows.create(asked.recipe, asked.files)
    send(response, api.createReply, { id })
  })
  const param = (request: Request, name: string): string =>
    ownValue(request.params as Record<string, string>, name) ?? ''
  const owned = async (request: Request): Promise<Access> => ({ flow: param(request, 'id'), rights: 'all' })
  const shared = async (request: Request): Promise<Access> => {
    const { token, flow, rights, edit } = await links.open(param(request, 'token'))
    return { flow, rights, link: token, edit }
  }
  for (const routes of [flowRoutes, replayRoutes, sharingRoutes, watchRoutes]) {
    app.use('/api/flows/:id', guardOwner, routes(services, owned))
    app.use('/api/shared/:token', routes(services, shared))
  }

  /** A file's bytes as they are; by a link within what it may send a day. */
  app.post('/api/files', async (request, response) => {
    const link = ownership.isOwner(request) ? undefined : await links.open(request.get('x-fabula-link') ?? '')
    const name = fileName(String(request.query.name ?? ''))
    const announced = Number(request.headers['content-length'] ?? 0)
    if (announced > maxUpload) throw tooLarge(name, maxUpload)
    if (link) await links.countUpload(link.token, announced)
    const { hash, size } = await files.add(request, { most: link ? announced : maxUpload, name })
    await shelf.add({ name, hash, size })
    send(response, api.fileRef, { name, hash, size })
  })
  app.get('/api/mails', guardOwner, async (_request, response) =>
    send(response, api.mailsReply, await services.watches.mails()),
  )
  app.post('/api/look', opener, async (request, response) => {
    const { hash, name, read, sheet } = body(api.lookRequest, request)
    await pass(response, compute.do({ kind: 'look', hash, name, read, sheet }, { home: hash, lane: laneFor(request) }))
  })
  const opening = new Map<string, { progress: Progress; stop: () => void }>()
  app.post('/api/open', opener, async (request, response) => {
    const { files: refs, read, job } = body(api.openRequest, request)
    const { value, stop } = compute.do<OpenReply>(
      { kind: 'open', files: refs, read },
      {
        home: refs[0]?.hash ?? '',
        lane: laneFor(request),
        progress: (progress) => job !== undefined && opening.set(job, { progress, stop }),
      },
    )
    if (job !== undefined) opening.set(job, { progress: { done: 0, of: 100, doing: '' }, stop })
    try {
      const reply = await value()
      await shelf.note(
        refs,
        reply.columns.map(({ name }) => name),
      )
      send(response, api.openReply, reply)
    } finally {
      if (job !== undefined) opening.delete(job)
    }
  })
  app.get('/api/open/:job', opener, (request, response) =>
    send(
      response,
      api.progressReply,
      opening.get(String(request.params.job))?.progress ?? { done: 0, of: 100, doing: '' },
    ),
  )
  app.delete('/api/open/:job', opener, (request, response) => {
    const job = opening.get(String(request.params.job))
    job?.stop()
    send(response, api.progressReply, job?.progress ?? { done: 0, of: 100, doing: '' })
  })
  app.use('/api', sourceRoutes(services, guardOwner))
  app.use('/api', () => {
    throw new Refusal(404, 'nothing-here', 'There is nothing at this address.')
  })

  if (existsSync(web)) {
    app.use('/assets', express.static(join(web, 'assets'), { immutable: true, maxAge: '1y' }))
    app.use(express.static(web, { index: false }))
    app.get('/{*splat}', (_request, response) =>
      response.sendFile(join(web, 'index.html'), { headers: { 'cache-control': 'no-cache' } }),
    )
  }

  app.use((error: unknown, request: Request, response: Response, next: NextFunction) => {
    if (response.headersSent) {
      next(error)
      return
    }
    const known = refusalFor(error)
    if (!known) request.log?.error(error)
    response.status(known?.status ?? 500).json({
      error: {
        code: known?.code ?? 'fault',
        sentence:
          known?.message ?? 'Fabula met a fault of its own; nothing was changed. The log of the server says more.',
      },
    })
  })
  return app
}
