import type { NextFunction, Request, Response } from 'express'
import { Refusal } from '../refusal.ts'

/** Only pages that this server served itself, asked for by its own name, may speak to it. */
export const guardOrigin =
  (hosts: readonly string[]) =>
  (request: Request, _response: Response, next: NextFunction): void => {
    const host = (request.headers.host ?? '').toLowerCase()
    if (!hosts.includes(host)) throw new Refusal('foreign-host', { host })
    const site = request.headers['sec-fetch-site']
    const crossSite = /^\/api(?:\/|$)/i.test(request.path) && (site === 'cross-site' || site === 'same-site')
    if (crossSite || !sameHost(request.headers.origin, host) || !sameHost(request.headers.referer, host))
      throw new Refusal('foreign-origin')
    next()
  }

/** Whether a request that says where it comes from comes from a page of this host. A proxy that gives the server another name than the page has is told by that. */
const sameHost = (from: string | undefined, host: string): boolean => {
  if (from === undefined) return true
  return URL.canParse(from) && new URL(from).host.toLowerCase() === new URL(`http://${host}`).host
}

/** Paths without the tokens of links: what a log may say. */
export const withoutTokens = (url: string): string =>
  url.replace(/(\/(?:shared|r)\/)[^/?#]+/gi, '$1…').replace(/([?&](?:token|key)=)[^&#]*/gi, '$1…')
