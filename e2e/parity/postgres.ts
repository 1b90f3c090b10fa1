import { execFileSync } from 'node:child_process'
import { chmodSync } from 'node:fs'
import { join } from 'node:path'

const bin = '/usr/lib/postgresql/15/bin'
const asPostgres = (...words: string[]): void =>
  void execFileSync('runuser', ['-u', 'postgres', '--', ...words], { stdio: 'ignore' })

export type RealPostgres = { readonly port: number; readonly stop: () => void }

/** Debian's PostgreSQL server with a cluster of its own in a folder, on a socket there and, where asked, on this machine's loopback. */
export const startPostgres = (folder: string, listen = '', settings: readonly string[] = []): RealPostgres => {
  const cluster = join(folder, 'pg')
  chmodSync(folder, 0o777)
  asPostgres(`${bin}/initdb`, '-D', cluster, '-E', 'UTF8', '--locale=C.UTF-8', '--auth-host=trust')
  const options = [`-k ${folder}`, `-c listen_addresses='${listen}'`, ...settings.map((setting) => `-c ${setting}`)]
  const start = (attempt: number): number => {
    const port = 20_000 + Math.floor(Math.random() * 10_000)
    try {
      const words = ['-D', cluster, '-w', '-t', '300', '-o', [`-p ${port}`, ...options].join(' ')]
      asPostgres(`${bin}/pg_ctl`, ...words, '-l', `${cluster}.log`, 'start')
      return port
    } catch (error) {
      // another program may have the port
      if (attempt === 5) throw error
      return start(attempt + 1)
    }
  }
  const port = start(1)
  return { port, stop: () => asPostgres(`${bin}/pg_ctl`, '-D', cluster, '-m', 'immediate', 'stop') }
}
