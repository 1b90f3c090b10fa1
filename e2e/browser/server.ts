import { spawn, type ChildProcess } from 'node:child_process'
import { once } from 'node:events'
import { createHash } from 'node:crypto'
import { cpSync, existsSync, mkdtempSync, readFileSync, renameSync, rmSync } from 'node:fs'
import { createServer } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

export const root = join(import.meta.dirname, '../..')
export const demo = (name: string): string => join(root, 'demo', name)

export const freePort = async (): Promise<number> => {
  const probe = createServer().listen(0, '127.0.0.1')
  await once(probe, 'listening')
  const { port } = probe.address() as { port: number }
  probe.close()
  await once(probe, 'close')
  return port
}

export type Running = {
  readonly base: string
  readonly data: string
  readonly process: ChildProcess
  readonly said: () => string
  readonly stop: (signal?: NodeJS.Signals) => Promise<void>
}

/** A data folder as the first start leaves it, made once for each build: making the database takes seconds, copying it does not. */
const template = async (): Promise<string> => {
  const build = createHash('sha256')
    .update(readFileSync(join(root, 'server/dist/stamp')))
    .update(root)
    .digest('hex')
    .slice(0, 16)
  const place = join(tmpdir(), `fabula-template-${build}`)
  if (existsSync(place)) return place
  const making = mkdtempSync(join(tmpdir(), 'fabula-making-'))
  await (await startServer(making)).stop()
  try {
    renameSync(making, place)
  } catch {
    // another test made it meanwhile
    rmSync(making, { recursive: true, force: true })
  }
  return place
}

/** A fresh data folder with the demo in it. */
export const freshData = async (): Promise<string> => {
  const data = mkdtempSync(join(tmpdir(), 'fabula-data-'))
  cpSync(await template(), data, { recursive: true })
  return data
}

/** The built server on a folder of its own; resolves when it prints its address, or when it ends. */
export const startServer = async (
  given?: string,
  port?: number,
  more: Readonly<Record<string, string>> = {},
): Promise<Running> => {
  const data = given ?? (await freshData())
  const at = port ?? (await freePort())
  const child = spawn(process.execPath, [join(root, 'server/dist/main.js')], {
    env: { ...process.env, PORT: String(at), FABULA_DATA: data, HOST: '127.0.0.1', ...more },
  })
  let said = ''
  const ready = new Promise<void>((resolve) => {
    const hear = (piece: Buffer): void => {
      said += piece.toString()
      if (said.includes('Fabula is at')) resolve()
    }
    child.stdout.on('data', hear)
    child.stderr.on('data', hear)
    child.once('exit', () => resolve())
  })
  await ready
  const stop = async (signal: NodeJS.Signals = 'SIGTERM'): Promise<void> => {
    if (child.exitCode !== null || child.signalCode !== null) return
    const gone = once(child, 'exit')
    child.kill(signal)
    await gone
  }
  return { base: `http://localhost:${at}`, data, process: child, said: () => said, stop }
}

/** The stand-in for an OData service that ships with the product, on a port of its own. */
export const startOData = async (): Promise<{ readonly address: string; readonly close: () => void }> => {
  const { serveOData } = (await import(join(root, 'scripts/odata.mjs'))) as {
    serveOData: (port: number) => Promise<{ address: string; close: () => void }>
  }
  return serveOData(0)
}
