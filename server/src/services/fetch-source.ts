import { Readable } from 'node:stream'
import type { FileRef, SourceAsked } from '@fabula/core/api'
import type { FileStore } from '../store/files.ts'
import type { Shelf } from '../store/shelf.ts'
import type { SourceStore } from '../store/sources.ts'
import { odataRecords } from '../sources/odata.ts'
import { postgresCsv } from '../sources/postgresql.ts'
import { bytesOf, fetchAnswer, nameOf, type Reach } from '../sources/web.ts'

/** What fetching from sources needs. */
export type TakeServices = {
  readonly files: FileStore
  readonly shelf: Shelf
  readonly sources: SourceStore
  readonly reach: Reach
}
const stemOf = (text: string): string =>
  text
    .replace(/[^\p{L}\p{N}._-]+/gu, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 80) || 'table'

/** Takes what a source gives now into the store and onto the shelf; `known` is a source that was asked before. */
export const taker = ({ files, shelf, sources, reach }: TakeServices) => {
  /** What a source gives now, as a file. */
  const take = async (
    asked: SourceAsked,
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
  const takeAndKeep = async (
    asked: SourceAsked,
    known?: number,
    report: (rows: number) => void = () => undefined,
  ): Promise<{ file: FileRef; source: number }> => {
    const { name, title, pieces } = await take(asked, report)
    const stored = await files.add(Readable.from(pieces))
    const source = known ?? (await sources.add(title, asked))
    const file = { name, ...stored }
    await shelf.add(file, source)
    return { file, source }
  }
  return takeAndKeep
}
