import { lookup } from 'node:dns'
import http, { type IncomingMessage } from 'node:http'
import https from 'node:https'
import { BlockList, isIP } from 'node:net'
import { Refusal } from '../refusal.ts'

/** What the server may fetch: private addresses only where whoever runs it allows that. */
export type Reach = { readonly allowPrivate: boolean; readonly maxBytes: number; readonly timeoutMs: number }

/** Addresses that are not out on the net. IANA special-purpose registries, RFC 6890. */
const inside = new BlockList()
for (const [net, bits] of [
  ['0.0.0.0', 8],
  ['10.0.0.0', 8],
  ['100.64.0.0', 10],
  ['127.0.0.0', 8],
  ['169.254.0.0', 16],
  ['172.16.0.0', 12],
  ['192.0.0.0', 24],
  ['192.0.2.0', 24],
  ['192.168.0.0', 16],
  ['198.18.0.0', 15],
  ['198.51.100.0', 24],
  ['203.0.113.0', 24],
  ['224.0.0.0', 3],
] as const)
  inside.addSubnet(net, bits, 'ipv4')
for (const [net, bits] of [
  ['::', 127],
  ['::ffff:0:0', 96],
  ['64:ff9b::', 96],
  ['fc00::', 7],
  ['fe80::', 10],
  ['ff00::', 8],
  ['2001:db8::', 32],
] as const)
  inside.addSubnet(net, bits, 'ipv6')
const isInside = (address: string): boolean =>
  inside.check(address, isIP(address) === 6 ? 'ipv6' : 'ipv4') ||
  (address.startsWith('::ffff:') && inside.check(address.slice(7), 'ipv4'))

const refuseInside = (host: string): Refusal => new Refusal('private-address', { host })

export const checkAddress = (text: string): URL => {
  const url = URL.canParse(text.trim()) ? new URL(text.trim()) : undefined
  if (!url || (url.protocol !== 'http:' && url.protocol !== 'https:')) throw new Refusal('bad-address', { text })
  return url
}

/** One request; the address is checked where the connection is made, so that no name can lead inside later. */
const request = (url: URL, reach: Reach, headers: Record<string, string>): Promise<IncomingMessage> =>
  new Promise((resolve, reject) => {
    const host = url.hostname.replace(/^\[|\]$/g, '')
    if (isIP(host) && !reach.allowPrivate && isInside(host)) {
      reject(refuseInside(host))
      return
    }
    const call = (url.protocol === 'https:' ? https : http).get(
      url,
      {
        headers: { 'user-agent': 'Fabula', ...headers },
        timeout: reach.timeoutMs,
        lookup: (name, options, answer) =>
          lookup(name, { ...options, all: true }, (error, found) => {
            const bad = error ? undefined : found.find(({ address }) => !reach.allowPrivate && isInside(address))
            if (error ?? bad) answer(error ?? refuseInside(name), '', 4)
            else if (options.all) answer(null, found)
            else answer(null, found[0]?.address ?? '', found[0]?.family ?? 4)
          }),
      },
      resolve,
    )
    call.on('timeout', () => call.destroy(new Refusal('source-too-slow', { host: url.host, ms: reach.timeoutMs })))
    call.on('error', (error) =>
      reject(error instanceof Refusal ? error : new Refusal('unreachable', { host: url.host, reason: error.message })),
    )
  })

const mostRedirects = 5

/** The answer behind an address, redirects followed, each one checked as the first. */
export const fetchAnswer = async (
  address: string,
  reach: Reach,
  headers: Record<string, string> = {},
): Promise<{ url: URL; answer: IncomingMessage }> => {
  let url = checkAddress(address)
  for (let i = 0; i <= mostRedirects; i++) {
    const answer = await request(url, reach, headers)
    const { statusCode = 0 } = answer
    const { location } = answer.headers
    if (statusCode >= 300 && statusCode < 400 && location) {
      answer.resume()
      url = checkAddress(new URL(location, url).href)
      continue
    }
    if (statusCode === 200) return { url, answer }
    answer.resume()
    throw new Refusal('refused-there', { host: url.host, status: statusCode })
  }
  throw new Refusal('redirects', { host: url.host })
}

/** The bytes of an answer as they come, up to the most that is taken. */
export async function* bytesOf(answer: IncomingMessage, reach: Reach): AsyncGenerator<Buffer> {
  let size = 0
  for await (const piece of answer as AsyncIterable<Buffer>) {
    size += piece.length
    if (size > reach.maxBytes) throw new Refusal('large-answer', { most: reach.maxBytes })
    yield piece
  }
}

export const fetchJson = async (address: string, reach: Reach): Promise<{ url: URL; data: unknown }> => {
  const { url, answer } = await fetchAnswer(address, reach, { accept: 'application/json' })
  const pieces: Buffer[] = []
  for await (const piece of bytesOf(answer, reach)) pieces.push(piece)
  try {
    return { url, data: JSON.parse(Buffer.concat(pieces).toString('utf8')) as unknown }
  } catch {
    throw new Refusal('not-json', { host: url.host })
  }
}

/** A name for what was fetched: as the server calls it, or the end of its address, with the ending that its type has. */
export const nameOf = (url: URL, answer: IncomingMessage): string => {
  const message = /filename="?([^";]+)"?/i.exec(answer.headers['content-disposition'] ?? '')?.[1]
  const stem = (message ?? decodeURIComponent(url.pathname.split('/').filter(Boolean).at(-1) ?? url.hostname))
    .replace(/^.*[/\\]/, '')
    .slice(0, 120)
  if (/\.(csv|tsv|txt|json|xlsx|ods|parquet)$/i.test(stem)) return stem
  const type = answer.headers['content-type'] ?? ''
  const ending = () => {
    if (/json/.test(type)) return '.json'
    if (/spreadsheetml/.test(type)) return '.xlsx'
    return '.csv'
  }
  return `${stem}${ending()}`
}
