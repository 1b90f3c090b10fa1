import { existsSync } from 'node:fs'
import { join } from 'node:path'
import express, { type Express, type NextFunction, type Request, type Response } from 'express'
import helmet from 'helmet'
import type { Logger } from 'pino'
import { pinoHttp } from 'pino-http'
import * as api from '@fabula/core/api'
import type { OpenReply } from '@fabula/core/api'
import { ownValue } from '@fabula/core'
import type { Progress } from './compute/opening.ts'
import { Refusal } from './refusal.ts'
import { need, type Access } from './routes/access.ts'
import { body, pass, send } from './routes/check.ts'
import { flowRoutes, type Services } from './routes/flows.ts'
import { replayRoutes, type ReplayServices } from './routes/replays.ts'
import { sharingRoutes } from './routes/sharing.ts'
import { sourceRoutes, type SourceServices } from './routes/sources.ts'
import { watchRoutes } from './routes/watches.ts'
import type { Links } from './store/links.ts'
import type { Watches } from './store/watches.ts'

export type AppOptions = { readonly services: Services & ReplayServices & SourceServices & { readonly watches: Watches }; readonly log: Logger; readonly web: string; readonly hosts: readonly string[]; readonly maxUpload: number }

const local = new Set(['127.0.0.1', '::1', '::ffff:127.0.0.1'])

/** Only pages that this server served itself, asked for by its own name, may speak to it. */
const guardOrigin = (hosts: readonly string[]) => (request: Request, _response: Response, next: NextFunction): void => {
  const host = (request.headers.host ?? '').toLowerCase()
  if (!hosts.includes(host)) throw new Refusal(403, 'foreign-host', `This server does not answer to ${host || 'a request without a host'}. Name it in FABULA_HOSTS if it should.`)
  const { origin } = request.headers
  const site = request.headers['sec-fetch-site']
  if ((origin !== undefined && origin !== `http://${host}` && origin !== `https://${host}`) || (request.path.startsWith('/api/') && (site === 'cross-site' || site === 'same-site'))) throw new Refusal(403, 'foreign-origin', 'Requests from other sites are refused.')
  next()
}

/** Whoever is not on this machine reaches links only: their pages, and what stands behind a token. */
const guardOwner = (request: Request, _response: Response, next: NextFunction): void => {
  if (!local.has(request.socket.remoteAddress ?? '')) throw new Refusal(403, 'not-here', 'From another machine only links can be opened. Ask for the link of the story.')
  next()
}

/** Looking into files: who is here, or came by a link that may change the story. */
const guardOpener = (links: Links) => async (request: Request, response: Response, next: NextFunction): Promise<void> => {
  if (local.has(request.socket.remoteAddress ?? '')) return next()
  const token = request.get('x-fabula-link')
  if (token === undefined) return guardOwner(request, response, next)
  need(await links.open(token), 'edit')
  next()
}

export const buildApp = ({ services, log, web, hosts, maxUpload }: AppOptions): Express => {
  const { flows, files, links, compute, shelf } = services
  const app = express()
  const opener = guardOpener(links)
  app.disable('x-powered-by')
  app.set('etag', false)
  app.use(guardOrigin(hosts))
  app.use(pinoHttp({ logger: log, autoLogging: false }))
  app.use(helmet({ contentSecurityPolicy: { useDefaults: false, directives: { defaultSrc: ["'self'"], styleSrc: ["'self'", "'unsafe-inline'"], imgSrc: ["'self'", 'data:'], fontSrc: ["'self'", 'data:'], objectSrc: ["'none'"], frameAncestors: ["'none'"], baseUri: ["'self'"], formAction: ["'self'"] } }, strictTransportSecurity: false }))
  app.use(express.json({ limit: '20mb' }))

  app.get('/api/flows', guardOwner, async (_request, response) => send(response, api.flowsReply, { flows: await flows.list() }))
  app.post('/api/flows', guardOwner, async (request, response) => {
    const asked = body(api.createRequest, request)
    const id = await flows.create(asked.recipe, asked.files)
    send(response, api.createReply, { id })
  })
  const param = (request: Request, name: string): string => ownValue(request.params as Record<string, string>, name) ?? ''
  const owned = async (request: Request): Promise<Access> => ({ flow: param(request, 'id'), rights: 'all' })
  const shared = async (request: Request): Promise<Access> => {
    const { token, flow, rights, edit } = await links.open(param(request, 'token'))
    return { flow, rights, link: token, edit }
  }
  for (const routes of [flowRoutes, replayRoutes, sharingRoutes, watchRoutes]) {
    app.use('/api/flows/:id', guardOwner, routes(services, owned))
    app.use('/api/shared/:token', routes(services, shared))
  }

  /** A file's bytes as they are; from elsewhere only with a link that lives. */
  app.post('/api/files', async (request, response) => {
    if (!local.has(request.socket.remoteAddress ?? '')) await links.open(String(request.query.token ?? ''))
    const name = String(request.query.name ?? '').replace(/^.*[/\\]/, '')
    if (name === '') throw new Refusal(400, 'no-name', 'The file has no name.')
    if (Number(request.headers['content-length'] ?? 0) > maxUpload) throw new Refusal(413, 'too-large', `${name} is larger than ${Math.round(maxUpload / 1e6).toLocaleString('en-GB')} MB, the most this server takes.`)
    const { hash, size } = await files.add(request)
    await shelf.add({ name, hash, size })
    send(response, api.fileRef, { name, hash, size })
  })
  app.get('/api/mails', guardOwner, async (_request, response) => send(response, api.mailsReply, await services.watches.mails()))
  app.post('/api/look', opener, async (request, response) => {
    const { hash, name, read, sheet } = body(api.lookRequest, request)
    await pass(response, compute.do({ kind: 'look', hash, name, read, sheet }, { home: hash }))
  })
  const opening = new Map<string, { progress: Progress; stop: () => void }>()
  app.post('/api/open', opener, async (request, response) => {
    const { files: refs, read, job } = body(api.openRequest, request)
    const { value, stop } = compute.do<OpenReply>({ kind: 'open', files: refs, read }, { home: refs[0]?.hash ?? '', progress: (progress) => job !== undefined && opening.set(job, { progress, stop }) })
    if (job !== undefined) opening.set(job, { progress: { done: 0, of: 100, doing: '' }, stop })
    try {
      const reply = await value()
      await shelf.note(refs, reply.columns.map(({ name }) => name))
      send(response, api.openReply, reply)
    } finally {
      if (job !== undefined) opening.delete(job)
    }
  })
  app.get('/api/open/:job', opener, (request, response) => send(response, api.progressReply, opening.get(String(request.params.job))?.progress ?? { done: 0, of: 100, doing: '' }))
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
    app.get('/{*splat}', (_request, response) => response.sendFile(join(web, 'index.html'), { headers: { 'cache-control': 'no-cache' } }))
  }

  app.use((error: unknown, request: Request, response: Response, next: NextFunction) => {
    if (response.headersSent) {
      next(error)
      return
    }
    const known = error instanceof Refusal ? error : (error as { type?: string }).type === 'entity.too.large' ? new Refusal(413, 'too-large', 'This request is too large.') : (error as { type?: string }).type === 'entity.parse.failed' ? new Refusal(400, 'bad-json', 'This request is not JSON.') : undefined
    if (!known) request.log?.error(error)
    response.status(known?.status ?? 500).json({ error: { code: known?.code ?? 'fault', sentence: known?.message ?? 'Fabula met a fault of its own; nothing was changed. The log of the server says more.' } })
  })
  return app
}
