import { Refusal } from '../refusal.ts'
import { fetchJson, type Reach } from './web.ts'

/** OData version 4, JSON format 4.01: the service document, collections, @odata.nextLink. OASIS, 2020. */
type ODataRecord = Record<string, unknown>
const isRecord = (value: unknown): value is ODataRecord =>
  typeof value === 'object' && value !== null && !Array.isArray(value)

const valueOf = (data: unknown, host: string): ODataRecord[] => {
  const value = isRecord(data) ? data.value : undefined
  if (!Array.isArray(value) || !value.every(isRecord)) throw new Refusal('not-odata', { host })
  return value
}

const rooted = (service: string): string => (service.endsWith('/') ? service : `${service}/`)

/** The tables that a service offers. */
export const odataTables = async (service: string, reach: Reach): Promise<string[]> => {
  const { url, data } = await fetchJson(rooted(service), reach)
  return valueOf(data, url.host).flatMap(({ kind = 'EntitySet', name, url: at }) => {
    if (kind === 'EntitySet' && typeof at === 'string') return [at]
    if (kind === 'EntitySet' && typeof name === 'string') return [name]
    return []
  })
}

const plain = (record: ODataRecord): ODataRecord =>
  Object.fromEntries(Object.entries(record).filter(([key]) => !key.includes('@')))
const addressOf = (
  service: string,
  table: string,
  columns: readonly string[],
  more: Record<string, string> = {},
): string => {
  const url = new URL(table, rooted(service))
  if (columns.length > 0) url.searchParams.set('$select', columns.join(','))
  for (const [key, value] of Object.entries(more)) url.searchParams.set(key, value)
  return url.href
}

/** The first records of a table, for a look before it is taken. */
export const odataLook = async (service: string, table: string, reach: Reach): Promise<ODataRecord[]> => {
  const { url, data } = await fetchJson(addressOf(service, table, [], { $top: '20' }), reach)
  return valueOf(data, url.host).slice(0, 20).map(plain)
}

const mostPages = 20_000

/** All records of a table, page after page, as the pieces of one JSON document { "value": [ … ] }. */
export async function* odataRecords(
  service: string,
  table: string,
  columns: readonly string[],
  reach: Reach,
  report: (rows: number) => void,
): AsyncGenerator<Buffer> {
  let next: string | undefined = addressOf(service, table, columns)
  let rows = 0
  let size = 0
  yield Buffer.from('{"value":[')
  for (let page = 0; next !== undefined; page++) {
    if (page >= mostPages) throw new Refusal('endless', { table, pages: mostPages })
    const { url, data } = (await fetchJson(next, reach)) as { url: URL; data: unknown }
    const records = valueOf(data, url.host).map(plain)
    const text = records.map((record) => JSON.stringify(record)).join(',\n')
    size += text.length
    if (size > reach.maxBytes) throw new Refusal('large-table', { table, most: reach.maxBytes })
    if (records.length > 0) yield Buffer.from(`${rows > 0 ? ',\n' : ''}${text}`)
    rows += records.length
    report(rows)
    const link = (data as ODataRecord)['@odata.nextLink']
    next = typeof link === 'string' ? new URL(link, url).href : undefined
  }
  yield Buffer.from(']}')
}
