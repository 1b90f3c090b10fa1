import type { SourceAsked } from '@fabula/core/api'
import { Refusal } from '../refusal.ts'
import type { Connection } from '../sources/postgresql.ts'
import type { StatementRunner } from './statements.ts'
import type { Secrets } from './secrets.ts'

/** Sources that can be asked again, and named connections; a password leaves the database only to connect. */
export class SourceStore {
  private readonly database: StatementRunner
  private readonly secrets: Secrets
  constructor(database: StatementRunner, secrets: Secrets) {
    this.database = database
    this.secrets = secrets
  }
  async add(name: string, asked: SourceAsked): Promise<number> {
    const [row] = await this.database.query(
      'insert into sources (kind, name, asked) values ($1, $2, $3) returning id',
      asked.kind,
      name,
      JSON.stringify(asked),
    )
    return Number(row?.id)
  }
  async asked(id: number): Promise<SourceAsked> {
    const [row] = await this.database.query('select asked from sources where id = $1', id)
    if (!row) throw new Refusal('no-source')
    return row.asked as SourceAsked
  }
  async connections(): Promise<
    { name: string; host: string; port: number; database: string; user: string; tls: Connection['tls'] }[]
  > {
    return (await this.database.query('select name, settings from connections order by name')).map(
      ({ name, settings }) => ({ name: name as string, ...(settings as Omit<Connection, 'password'>) }),
    )
  }
  async connect(name: string, { password, ...settings }: Connection): Promise<void> {
    await this.database.query(
      'insert into connections (name, settings, secret) values ($1, $2, $3) on conflict (name) do update set settings = excluded.settings, secret = excluded.secret, at = now()',
      name,
      JSON.stringify(settings),
      this.secrets.seal(password),
    )
  }
  async disconnect(name: string): Promise<void> {
    await this.database.query('delete from connections where name = $1', name)
  }
  async connection(name: string): Promise<Connection> {
    const [row] = await this.database.query('select settings, secret from connections where name = $1', name)
    if (!row) throw new Refusal('no-connection', { name })
    return { ...(row.settings as Omit<Connection, 'password'>), password: this.secrets.open(row.secret as string) }
  }
}
