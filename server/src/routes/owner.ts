import { Router, type CookieOptions, type NextFunction, type Request, type Response } from 'express'
import * as api from '@fabula/core/api'
import { Refusal } from '../refusal.ts'
import type { Links } from '../store/links.ts'
import type { OwnerKey } from '../store/owner.ts'
import { need } from './access.ts'
import { body, send } from './check.ts'

const cookieName = 'fabula_owner'
const yearMs = 365 * 86_400_000
const local = new Set(['127.0.0.1', '::1', '::ffff:127.0.0.1'])
/** A proxy stands between: RFC 7239, RFC 9110 7.6.3, and what proxies commonly add. */
const proxyHeaders = [
  'forwarded',
  'via',
  'x-forwarded-for',
  'x-forwarded-host',
  'x-forwarded-proto',
  'x-forwarded-port',
  'x-forwarded-server',
  'x-real-ip',
]

const cookieOf = (request: Request): string | undefined =>
  (request.headers.cookie ?? '')
    .split(';')
    .map((part) => part.trim().split('='))
    .find(([name]) => name === cookieName)?.[1]

/** Who the owner is: the browser that has the key's cookie; where the server is alone on its machine, whoever asks without a proxy. */
export class Ownership {
  private readonly key: OwnerKey
  private readonly links: Links
  private readonly alone: boolean
  constructor(key: OwnerKey, links: Links, alone: boolean) {
    this.key = key
    this.links = links
    this.alone = alone
  }
  /** No browser speaks HTTP/1.0; a proxy that adds no header of its own does. */
  private isHere(request: Request): boolean {
    return (
      this.alone &&
      local.has(request.socket.remoteAddress ?? '') &&
      request.httpVersionMajor * 10 + request.httpVersionMinor >= 11 &&
      !proxyHeaders.some((name) => request.get(name) !== undefined)
    )
  }
  isOwner(request: Request): boolean {
    const cookie = cookieOf(request)
    return (cookie !== undefined && this.key.isCookie(cookie)) || this.isHere(request)
  }
  /** Lets the owner through and refuses everybody else. */
  readonly guard = (request: Request, _response: Response, next: NextFunction): void => {
    if (!this.isOwner(request)) throw new Refusal('owner-key')
    next()
  }
  /** Looking into files: the owner, or a link that may change the story. */
  readonly guardOpening = async (request: Request, response: Response, next: NextFunction): Promise<void> => {
    const token = request.get('x-fabula-link')
    if (this.isOwner(request) || token === undefined) return this.guard(request, response, next)
    need(await this.links.open(token), 'edit')
    next()
  }
  private cookieOptions(request: Request): CookieOptions {
    return { httpOnly: true, sameSite: 'strict', secure: request.secure, path: '/', maxAge: yearMs }
  }
  routes(): Router {
    const router = Router()
    router.get('/', (request, response) => send(response, api.ownerReply, { owner: this.isOwner(request) }))
    router.post('/', (request, response) => {
      if (!this.key.opens(body(api.ownerRequest, request).key)) throw new Refusal('wrong-key')
      response.cookie(cookieName, this.key.cookie, this.cookieOptions(request))
      send(response, api.ownerReply, { owner: true })
    })
    router.delete('/', (request, response) => {
      response.clearCookie(cookieName, { ...this.cookieOptions(request), maxAge: undefined } as CookieOptions)
      send(response, api.ownerReply, { owner: this.isHere(request) })
    })
    return router
  }
}
