import { createHash, randomUUID } from 'node:crypto'
import { createReadStream, createWriteStream, type ReadStream } from 'node:fs'
import { access, mkdir, open, rename, rm } from 'node:fs/promises'
import { join } from 'node:path'
import type { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import type { Database } from './database.ts'

/** Bytes stored once under their SHA-256, in data/files; the database knows which there are. */
export class FileStore {
  private readonly folder: string
  private readonly database: Database
  constructor(data: string, database: Database) {
    this.folder = join(data, 'files')
    this.database = database
  }
  path(hash: string): string {
    if (!/^[0-9a-f]{64}$/.test(hash)) throw new Error('not a hash')
    return join(this.folder, hash.slice(0, 2), hash)
  }
  /** Stored for good when it answers: written, synced, and only then put in its place. */
  async add(source: Readable): Promise<{ hash: string; size: number }> {
    await mkdir(join(this.folder, 'new'), { recursive: true })
    const part = join(this.folder, 'new', randomUUID())
    const sum = createHash('sha256')
    let size = 0
    try {
      await pipeline(
        source,
        async function* (pieces: AsyncIterable<Buffer>) {
          for await (const piece of pieces) {
            sum.update(piece)
            size += piece.length
            yield piece
          }
        },
        createWriteStream(part),
      )
      const file = await open(part)
      await file.sync()
      await file.close()
      const hash = sum.digest('hex')
      await mkdir(join(this.folder, hash.slice(0, 2)), { recursive: true })
      await rename(part, this.path(hash))
      await this.database.query('insert into files (hash, size) values ($1, $2) on conflict do nothing', hash, size)
      return { hash, size }
    } finally {
      await rm(part, { force: true })
    }
  }
  async has(hash: string): Promise<boolean> {
    try {
      await access(this.path(hash))
      return true
    } catch {
      return false
    }
  }
  read(hash: string): ReadStream {
    return createReadStream(this.path(hash))
  }
}
