import { createReadStream } from 'node:fs'
import { Readable } from 'node:stream'
import type { FileRef, RowChoice, SourceAsked } from '@fabula/core/api'
import type { FileStore } from '../store/files.ts'
import type { Shelf } from '../store/shelf.ts'
import type { SourceStore } from '../store/sources.ts'
import { Refusal } from '../refusal.ts'
import type { Cluster } from './cluster.ts'
import { odataRecords } from '../sources/odata.ts'
import { postgresCsv } from '../sources/postgresql.ts'
import { bytesOf, fetchAnswer, nameOf, type Reach } from '../sources/web.ts'

/** What fetching from sources needs. */
export type TakeServices = {
  readonly files: FileStore
  readonly shelf: Shelf
  readonly sources: SourceStore
  readonly reach: Reach
  /** The cluster whose files are taken samples of. */ readonly cluster: Cluster | undefined
}
const stemOf = (text: string): string =>
  text
    .replace(/[^\p{L}\p{N}._-]+/gu, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 80) || 'table'

/** Rows of the files at paths of the cluster, as files that are kept, by the place of their path. @throws Refusal */
export const takeRowSamples = async (
  { files, cluster }: Pick<TakeServices, 'files' | 'cluster'>,
  paths: readonly string[],
  rows: RowChoice,
): Promise<FileRef[][]> => {
  if (!cluster) throw new Refusal('no-cluster')
  return cluster.sample(paths, rows, async (samples) => {
    const refs: FileRef[][] = paths.map(() => [])
    for (const { at, name, file, words } of samples) {
      const stored = await files.add(createReadStream(file), { name })
      refs[at]?.push({ name, ...stored, ...(words === undefined ? {} : { sample: words }) })
    }
    return refs
  })
}

/** Takes what a source gives now into the store and onto the shelf; `known` is a source that was asked before. */
export const taker = (services: TakeServices) => {
  const { files, shelf, sources, reach } = services
  /** What a source gives now, as a stream under a name; `title` names the source. */
  const stream = async (
    asked: Exclude<SourceAsked, { kind: 'cluster' }>,
    report: (rows: number) => void,
  ): Promise<{ name: string; title: string; pieces: AsyncIterable<Buffer> }> => {
    if (asked.kind === 'web') {
      const { url, answer } = await fetchAnswer(asked.address, reach)
      return { name: nameOf(url, answer), title: asked.address, pieces: bytesOf(answer, reach) }
    }
    if (asked.kind === 'odata')
      return {
        name: `${stemOf(asked.table)}.json`,
        title: `${asked.table} of ${asked.service}`,
        pieces: odataRecords(asked.service, asked.table, asked.columns, reach, report),
      }
    const connection = await sources.connection(asked.connection)
    const table = 'query' in asked.wanted ? 'query' : asked.wanted.table
    return {
      name: `${stemOf(table)}.csv`,
      title: `${table} of ${asked.connection}`,
      pieces: postgresCsv(connection, asked.wanted, report),
    }
  }
  const take = async (
    asked: SourceAsked,
    report: (rows: number) => void,
  ): Promise<{ title: string; taken: FileRef[] }> => {
    if (asked.kind === 'cluster')
      return { title: asked.path, taken: (await takeRowSamples(services, [asked.path], asked.rows)).flat() }
    const { name, title, pieces } = await stream(asked, report)
    return { title, taken: [{ name, ...(await files.add(Readable.from(pieces))) }] }
  }
  return async (
    asked: SourceAsked,
    known?: number,
    report: (rows: number) => void = () => undefined,
  ): Promise<{ files: FileRef[]; source: number }> => {
    const { title, taken } = await take(asked, report)
    const source = known ?? (await sources.add(title, asked))
    for (const file of taken) await shelf.add(file, source)
    return { files: taken, source }
  }
}
