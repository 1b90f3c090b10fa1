import { createServer } from 'node:http'
import { fileURLToPath } from 'node:url'
import { join, resolve } from 'node:path'
import { pino } from 'pino'
import { buildApp } from './app.ts'
import { loadDemo } from './demo.ts'
import { limitsFromEnvironment, Supervisor } from './compute/supervisor.ts'
import { Cluster } from './services/cluster.ts'
import { Proofs } from './services/proofs.ts'
import { Replays } from './services/replays.ts'
import { Database } from './store/database.ts'
import { FileStore } from './store/files.ts'
import { Flows } from './store/flows.ts'
import { Links } from './store/links.ts'
import { FolderTaken, lockFolder } from './store/lock.ts'
import { OwnerKey } from './store/owner.ts'
import { Runs } from './store/runs.ts'
import { Secrets } from './store/secrets.ts'
import { Shelf } from './store/shelf.ts'
import { SourceStore } from './store/sources.ts'
import { Watches } from './store/watches.ts'
import { taker } from './services/fetch-source.ts'
import { Watcher } from './watch/watcher.ts'

const root = fileURLToPath(new URL('../..', import.meta.url))
const host = process.env.HOST ?? '127.0.0.1'
const port = Number(process.env.PORT ?? 4310)
const data = resolve(process.env.FABULA_DATA ?? join(root, 'data'))
const log = pino({ level: process.env.LOG_LEVEL ?? 'warn' })

const stopWith = (sentence: string): never => {
  process.stderr.write(`${sentence}\n`)
  process.exit(1)
}

const take = (): Promise<() => void> =>
  lockFolder(data, () =>
    stopWith(`The lock on the data folder ${data} was lost, so the server stops before another one writes there too.`),
  ).catch((error: unknown) =>
    stopWith(
      error instanceof FolderTaken
        ? error.message
        : `The data folder ${data} cannot be used: ${(error as Error).message}.`,
    ),
  )

// what Fabula writes is for its own user alone, in this process and those that it starts
process.umask(0o077)
const release = await take()
const owner = new OwnerKey(data)
const database = await Database.open(join(data, 'database')).catch((error: unknown) => {
  release()
  return stopWith(
    `The database in ${join(data, 'database')} cannot be opened: ${(error as Error).message.split('\n')[0] ?? ''} Nothing was changed. If the folder is damaged, put back a copy of it; the files that were brought in lie in ${join(data, 'files')}.`,
  )
})
const files = new FileStore(data, database)
const flows = new Flows(database)
const shelf = new Shelf(database, files)
const sources = new SourceStore(database, new Secrets(data))
const runs = new Runs(database)
const compute = new Supervisor(data, limitsFromEnvironment(), (error) => log.error(error))
const cluster = Cluster.fromEnvironment(process.env)
const replays = new Replays({
  flows,
  runs,
  compute,
  connection: (name) => sources.connection(name),
  registerFile: async ({ hash, size }) =>
    void (await database.query('insert into files (hash, size) values ($1, $2) on conflict do nothing', hash, size)),
  pathOf: (hash) => files.path(hash),
  fault: (error) => log.error(error),
  cluster,
})
const services = {
  flows,
  proofs: new Proofs(compute),
  runs,
  replays,
  links: new Links(database),
  watches: new Watches(database),
  files,
  shelf,
  sources,
  reach: {
    allowPrivate: process.env.FABULA_ALLOW_PRIVATE === '1',
    maxBytes: Number(process.env.FABULA_MAX_FETCH ?? 1e9),
    timeoutMs: 30_000,
  },
  compute,
  cluster,
}
await files.sweep()
await loadDemo(services, join(root, 'demo'))
const fromSource = taker(services)
const watcher = new Watcher({
  ...services,
  fetchAnew: async (source) => (await fromSource(await sources.asked(source), source)).files,
  fault: (error) => log.error(error),
})
await replays.resume()

const list = (text: string | undefined): string[] =>
  (text ?? '')
    .split(',')
    .map((name) => name.trim().toLowerCase())
    .filter(Boolean)
const names = ['localhost', '127.0.0.1', '[::1]', ...(host === '0.0.0.0' || host === '::' ? [] : [host])]
const hosts = [
  ...names.flatMap((name) => [`${name}:${port}`, ...(port === 80 ? [name] : [])]),
  ...list(process.env.FABULA_HOSTS),
]
const loopback = ['127.0.0.1', '::1', 'localhost'].includes(host)
const proxies = list(process.env.FABULA_TRUST_PROXY)
// named hosts and trusted proxies say that others reach this server: then the key is asked for
const alone = loopback && proxies.length === 0 && list(process.env.FABULA_HOSTS).length === 0
const server = createServer(
  buildApp({
    services,
    log,
    web: join(root, 'web/dist'),
    demo: join(root, 'demo'),
    hosts,
    maxUpload: Number(process.env.FABULA_MAX_UPLOAD ?? 16e9),
    owner,
    alone,
    proxies,
  }),
)
// a slow line may take longer over a large file than Node's five minutes; a connection on which nothing moves is closed
server.requestTimeout = 0
server.timeout = 20 * 60_000
// longer than a proxy keeps an idle connection (nginx: 60 s), which would else send a request into one that is being closed
server.keepAliveTimeout = 65_000
server.on('error', (error: NodeJS.ErrnoException) => {
  release()
  stopWith(
    error.code === 'EADDRINUSE'
      ? `Port ${port} is taken by another program. Start Fabula with PORT set to another.`
      : `The server cannot listen: ${error.message}.`,
  )
})
watcher.start(Number(process.env.FABULA_WATCH_SECONDS ?? 10) * 1000)
const address = `http://${loopback ? 'localhost' : host}:${port}`
server.listen(port, host, () => {
  process.stdout.write(
    owner.isNew
      ? `Fabula is at ${address}/#${owner.fragment}\nThis address makes a browser the owner's; it is told this once. The key stays in ${join(data, 'owner.key')}.\n`
      : `Fabula is at ${address}\n`,
  )
  compute.warm()
})

let ending = false
const end = async (): Promise<void> => {
  if (ending) return
  ending = true
  server.close()
  watcher.stop()
  compute.close()
  await database.close()
  release()
  process.exit(0)
}
process.on('SIGTERM', () => void end())
process.on('SIGINT', () => void end())
