import { isIP } from 'node:net'
import { rootCertificates, type ConnectionOptions } from 'node:tls'
import pg from 'pg'
import { Refusal } from '../refusal.ts'

export type Connection = {
  readonly host: string
  readonly port: number
  readonly database: string
  readonly user: string
  readonly password: string
  /** How the connection is protected; `ca`: certificates of authorities in PEM, beside those the machine trusts. */ readonly tls:
    'none' | 'verified' | 'any'
  readonly ca?: string | undefined
}
/** A table by its name, or what a query gives. */
export type Wanted = { readonly schema: string; readonly table: string } | { readonly query: string }

const quoted = (name: string): string => `"${name.replaceAll('"', '""')}"`
const selectOf = (wanted: Wanted): string =>
  'query' in wanted
    ? wanted.query.trim().replace(/;\s*$/, '')
    : `select * from ${quoted(wanted.schema)}.${quoted(wanted.table)}`

const bool = 16
const zoned = 1184
const moments = [1114, zoned, 1083]
const bytea = 17
/** Values as text, the way a CSV file writes them: true, ISO dates, the wall clock without a zone. */
const shown = (text: string | null, type: number): string => {
  if (text === null) return ''
  if (type === bool) return text === 't' ? 'true' : 'false'
  // moments are kept to the millisecond, without their zone
  if (moments.includes(type)) return text.replace(/(\.\d{3})\d+/, '$1').replace(/[+-]\d\d(?::\d\d)?$/, '')
  return type === bytea ? `${text.length / 2 - 1} bytes` : text
}
const cell = (text: string): string => (/[",\r\n]|^ | $/.test(text) ? `"${text.replaceAll('"', '""')}"` : text)

/** `verified` checks the chain and the name (RFC 6125); a CA of one's own stands beside those of the machine. */
const tlsOf = ({ tls, ca, host }: Connection): false | ConnectionOptions => {
  if (tls === 'none') return false
  if (tls === 'any') return { rejectUnauthorized: false }
  return {
    rejectUnauthorized: true,
    servername: isIP(host) ? '' : host,
    ...(ca ? { ca: [...rootCertificates, ca] } : {}),
  }
}

const connected = async (connection: Connection): Promise<pg.Client> => {
  const { host, port, database, user, password } = connection
  const client = new pg.Client({
    host,
    port,
    database,
    user,
    password,
    ssl: tlsOf(connection),
    connectionTimeoutMillis: 10_000,
    types: { getTypeParser: () => (text: string) => text } as never,
  })
  // a server that goes away between two queries says so here; without a listener that would end the process
  client.on('error', () => undefined)
  try {
    await client.connect()
  } catch (error) {
    throw new Refusal('database-unreachable', { ...connection, reason: (error as Error).message })
  }
  return client
}

/** A server that went away while it was asked. */
const goneAway = (error: unknown, { database, host, port }: Connection): Refusal | undefined => {
  const { code = '', message } = error as NodeJS.ErrnoException
  const gone =
    /^(?:ECONNRESET|EPIPE|57P0[123])$/.test(code) || /connection (?:terminated|ended)|not queryable/i.test(message)
  return gone ? new Refusal('database-gone', { database, host, port }) : undefined
}

/** A client in a transaction that can only read; what goes wrong is said plainly. */
const withClient = async <T>(connection: Connection, work: (client: pg.Client) => Promise<T>): Promise<T> => {
  const client = await connected(connection)
  try {
    await client.query("set datestyle = 'ISO, YMD'; set intervalstyle = 'iso_8601'; begin transaction read only")
    return await work(client)
  } catch (error) {
    if (error instanceof Refusal) throw error
    throw goneAway(error, connection) ?? new Refusal('database-refused', { reason: (error as Error).message })
  } finally {
    await client.end().catch(() => undefined)
  }
}

/** A client that may write, in no transaction yet. */
export const withWriter = async (
  connection: Connection,
  work: (
    query: (text: string, values?: readonly unknown[]) => Promise<{ rows: Record<string, unknown>[] }>,
  ) => Promise<void>,
): Promise<void> => {
  const client = await connected(connection)
  try {
    await work((text, values) => client.query(text, values as unknown[] | undefined))
  } catch (error) {
    throw goneAway(error, connection) ?? error
  } finally {
    await client.end().catch(() => undefined)
  }
}

export const postgresTables = (connection: Connection): Promise<{ schema: string; table: string; rows: number }[]> =>
  withClient(connection, async (client) => {
    const { rows } = await client.query<{ schema: string; table: string; rows: string }>(
      "select n.nspname as schema, c.relname as table, greatest(c.reltuples, 0)::bigint as rows from pg_class c join pg_namespace n on n.oid = c.relnamespace where c.relkind in ('r', 'v', 'm', 'p', 'f') and n.nspname not in ('pg_catalog', 'information_schema') and n.nspname not like 'pg\\_%' and has_table_privilege(c.oid, 'select') order by 1, 2",
    )
    return rows.map((row) => ({ ...row, rows: Number(row.rows) }))
  })

/** A named statement goes by the extended protocol, which takes one statement and no more. */
const declare = (client: pg.Client, wanted: Wanted): Promise<unknown> =>
  client.query({ name: 'fabula', text: `declare fabula_rows no scroll cursor for ${selectOf(wanted)}` })
const fetch = (client: pg.Client, count: number) =>
  client.query<(string | null)[]>({ text: `fetch ${count} from fabula_rows`, rowMode: 'array' })

export const postgresLook = (connection: Connection, wanted: Wanted): Promise<{ names: string[]; rows: string[][] }> =>
  withClient(connection, async (client) => {
    await declare(client, wanted)
    const { fields, rows } = await fetch(client, 20)
    return {
      names: fields.map(({ name }) => name),
      rows: rows.map((row) => row.map((value, c) => shown(value, fields[c]?.dataTypeID ?? 0))),
    }
  })

const aBatch = 5000

/** All rows as the pieces of a CSV file. */
export async function* postgresCsv(
  connection: Connection,
  wanted: Wanted,
  report: (rows: number) => void,
): AsyncGenerator<Buffer> {
  const pieces: Buffer[] = []
  let wake: () => void = () => undefined
  let done = false
  let fault: unknown
  const reading = withClient(connection, async (client) => {
    await declare(client, wanted)
    let total = 0
    for (;;) {
      const { fields, rows } = await fetch(client, aBatch)
      if (total === 0) pieces.push(Buffer.from(`${fields.map(({ name }) => cell(name)).join(',')}\n`))
      if (rows.length > 0)
        pieces.push(
          Buffer.from(
            `${rows.map((row) => row.map((value, c) => cell(shown(value, fields[c]?.dataTypeID ?? 0))).join(',')).join('\n')}\n`,
          ),
        )
      total += rows.length
      report(total)
      wake()
      if (rows.length < aBatch) return
      // no more is read than is written
      while (pieces.length > 4 && !done) await new Promise((resolve) => setTimeout(resolve, 5))
    }
  })
    .catch((error: unknown) => (fault = error))
    .finally(() => {
      done = true
      wake()
    })
  for (;;) {
    const piece = pieces.shift()
    if (piece) yield piece
    else if (done) break
    else await new Promise<void>((resolve) => (wake = resolve))
  }
  await reading
  if (fault) throw fault
}
