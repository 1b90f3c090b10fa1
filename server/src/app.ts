import { ownValue } from '@fabula/core'
import * as api from '@fabula/core/api'
import compression from 'compression'
import express, { type Express, type NextFunction, type Request, type Response, type RequestHandler } from 'express'
import helmet from 'helmet'
import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { constants } from 'node:zlib'
import type { Logger } from 'pino'
import { pinoHttp } from 'pino-http'
import { Refusal } from './refusal.ts'
import { statusOf } from './routes/status.ts'
import type { Access } from './routes/access.ts'
import { body, send } from './routes/check.ts'
import { flowRoutes, type Services } from './routes/flows.ts'
import { tableQueryRoutes } from './routes/table-queries.ts'
import { openingRoutes } from './routes/opening.ts'
import { outputRoutes } from './routes/outputs.ts'
import { proofRoutes } from './routes/proofs.ts'
import { scriptRoutes } from './routes/scripts.ts'
import { guardOrigin, withoutTokens } from './routes/guards.ts'
import { Ownership } from './routes/owner.ts'
import { clusterRoutes } from './routes/cluster.ts'
import { replayRoutes, type ReplayServices } from './routes/replays.ts'
import { sampleRoutes } from './routes/samples.ts'
import { sharingRoutes } from './routes/sharing.ts'
import { sourceRoutes, type SourceServices } from './routes/sources.ts'
import { watchRoutes } from './routes/watches.ts'
import type { OwnerKey } from './store/owner.ts'
import type { Watches } from './store/watches.ts'

export type AppOptions = {
  readonly services: Services & ReplayServices & SourceServices & { readonly watches: Watches }
  readonly log: Logger
  readonly web: string
  /** The folder of the made-up exports that ship with the product. */ readonly demo: string
  readonly hosts: readonly string[]
  readonly maxUpload: number
  readonly owner: OwnerKey
  /** Whether the server listens to this machine alone. */ readonly alone: boolean
  /** Proxies whose headers count. */ readonly proxies: readonly string[]
}

/** What a request did wrong, as a status and a refusal; nothing where the error is the server's own. */
const refusalFor = (error: unknown): { readonly status: number; readonly refusal: Refusal } | undefined => {
  if (error instanceof Refusal) return { status: statusOf[error.code], refusal: error }
  const { type, status } = error as { type?: string; status?: number }
  const refused = (refusal: Refusal, status = statusOf[refusal.code]) => ({ status, refusal })
  if (type === 'entity.too.large') return refused(new Refusal('large-request'))
  if (type === 'entity.parse.failed') return refused(new Refusal('bad-json'))
  if (status === undefined || status < 400 || status >= 500) return undefined
  return refused(new Refusal('bad-request', {}), status)
}

/** What a story offers by its owner and by links alike; each route says which right it needs. */
const storyRoutes = [
  flowRoutes,
  tableQueryRoutes,
  scriptRoutes,
  replayRoutes,
  clusterRoutes,
  outputRoutes,
  proofRoutes,
  sharingRoutes,
  watchRoutes,
]

/** Headers, the log without link tokens, and the refusal of other sites' requests. */
const useProtection = (app: Express, { log, hosts, proxies }: AppOptions): void => {
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
  // each preview is compressed anew, and no other request is served meanwhile; what is sent once to each browser has more time below
  app.use(compression({ level: replyLevel }))
  app.use(express.json({ limit: '20mb' }))
}

/** The stories: the owner's list, and each by its owner or by a link. */
const useStories = (app: Express, services: AppOptions['services'], guardOwner: RequestHandler): void => {
  const { flows, links, compute } = services
  app.get('/api/flows', guardOwner, async (_request, response) =>
    send(response, api.flowsReply, { flows: await flows.list() }),
  )
  app.post('/api/flows', guardOwner, async (request, response) => {
    const asked = body(api.createRequest, request)
    const id = await flows.create(asked.recipe, asked.files)
    compute.adopt(id, Object.values(asked.files ?? {}).flat())
    send(response, api.createReply, { id })
  })
  const param = (request: Request, name: string): string =>
    ownValue(request.params as Record<string, string>, name) ?? ''
  const owned = async (request: Request): Promise<Access> => ({ flow: param(request, 'id'), rights: 'all' })
  const shared = async (request: Request): Promise<Access> => {
    const { token, flow, rights, edit } = await links.open(param(request, 'token'))
    return { flow, rights, link: token, edit }
  }
  for (const routes of storyRoutes) {
    app.use('/api/flows/:id', guardOwner, routes(services, owned))
    app.use('/api/shared/:token', routes(services, shared))
  }
}

/** The level of DEFLATE (RFC 1951), of 9, by which replies are compressed. */
const replyLevel = 1

/** The quality of Brotli (RFC 7932), of 11, by which scripts and styles are compressed. */
const assetQuality = 6

/** The built page, where there is one: every address that is no file is the page's own. */
const usePage = (app: Express, web: string): void => {
  if (!existsSync(web)) return
  // sent once to each browser, so that more time may be taken to make it small; what is compressed here, the general one leaves
  app.use('/assets', compression({ brotli: { params: { [constants.BROTLI_PARAM_QUALITY]: assetQuality } } }))
  app.use('/assets', express.static(join(web, 'assets'), { immutable: true, maxAge: '1y' }))
  app.use(express.static(web, { index: false }))
  app.get('/{*splat}', (_request, response) =>
    response.sendFile(join(web, 'index.html'), { headers: { 'cache-control': 'no-cache' } }),
  )
}

const answerError = (error: unknown, request: Request, response: Response, next: NextFunction): void => {
  if (response.headersSent) {
    next(error)
    return
  }
  const known = refusalFor(error)
  if (!known) request.log?.error(error)
  response.status(known?.status ?? 500).json({
    error: {
      code: known?.refusal.code ?? 'fault',
      sentence:
        known?.refusal.message ??
        'Fabula met a fault of its own; nothing was changed. The log of the server says more.',
    },
  })
}

export const buildApp = (options: AppOptions): Express => {
  const { services, web, demo, maxUpload, owner, alone } = options
  const app = express()
  const ownership = new Ownership(owner, services.links, alone)
  useProtection(app, options)
  app.use('/api/owner', ownership.routes())
  useStories(app, services, ownership.guard)
  app.use('/api', sampleRoutes(services, demo, ownership.guard))
  app.use('/api', openingRoutes(services, ownership, maxUpload))
  app.get('/api/mails', ownership.guard, async (_request, response) =>
    send(response, api.mailsReply, await services.watches.mails()),
  )
  app.use('/api', sourceRoutes(services, ownership.guard))
  app.use('/api', () => {
    throw new Refusal('nothing-here')
  })
  usePage(app, web)
  app.use(answerError)
  return app
}
