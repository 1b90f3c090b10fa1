import { once } from 'node:events'
import { readFileSync } from 'node:fs'
import { get, type IncomingMessage } from 'node:http'
import { join } from 'node:path'
import { root } from '../browser/server.ts'

/** Bytes that the server sends a browser for an address. */
const sent = async (address: string): Promise<number> => {
  const [reply] = (await once(get(address, { headers: { 'accept-encoding': 'gzip, deflate, br' } }), 'response')) as [
    IncomingMessage,
  ]
  let bytes = 0
  for await (const piece of reply) bytes += (piece as Buffer).length
  return bytes
}
/** Bytes of script and style that the first page loads, as the server sends them. */
export const firstPageBytes = async (base: string): Promise<number> => {
  const folder = join(root, 'web/dist')
  const html = readFileSync(join(folder, 'index.html'), 'utf8')
  const seen = new Set<string>()
  const add = (file: string): void => {
    if (seen.has(file)) return
    seen.add(file)
    const text = readFileSync(join(folder, 'assets', file), 'utf8')
    // what is imported from the top of a module is loaded with it; what is imported in a call comes later
    for (const [, other] of text.matchAll(/(?:^|[;}])import(?:[^"'()]*?from)?["']\.\/([\w.-]+\.js)["']/g))
      if (other !== undefined) add(other)
  }
  for (const [, file] of html.matchAll(/assets\/([\w.-]+\.(?:js|css))"/g)) if (file !== undefined) add(file)
  const sizes = await Promise.all([...seen].map((file) => sent(`${base}/assets/${file}`)))
  return sizes.reduce((sum, size) => sum + size, 0)
}
