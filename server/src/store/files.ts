import { createHash, randomUUID } from 'node:crypto'
import { createReadStream, createWriteStream, type ReadStream } from 'node:fs'
import { access, mkdir, open, readdir, rename, rm, stat } from 'node:fs/promises'
import { join } from 'node:path'
import { PassThrough, type Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { Refusal } from '../refusal.ts'
import type { StatementRunner } from './statements.ts'
import { tooLarge } from './file-name.ts'

/** A name in a folder is on disk only once the folder is (fsync(2)). */
const syncFolder = async (path: string): Promise<void> => {
  const folder = await open(path)
  try {
    await folder.sync()
  } finally {
    await folder.close()
  }
}

/** A stream that can fail without taking along the one it comes from; one that is cut off fails it. */
const apart = (source: Readable): PassThrough => {
  const kept = new PassThrough()
  const cut = (): void => {
    if (!source.readableEnded) kept.destroy(Object.assign(new Error('cut off'), { code: 'ECONNRESET' }))
  }
  source.once('close', cut)
  source.once('error', (error) => kept.destroy(error))
  return source.pipe(kept)
}

/** Why an upload was not kept, as a refusal for its sender. */
const uploadProblem = (error: unknown, name: string): unknown => {
  const { code } = error as NodeJS.ErrnoException
  if (code === 'ENOSPC' || code === 'EDQUOT') return new Refusal('disk-full', { name })
  if (code === 'EROFS' || code === 'EACCES' || code === 'EPERM') return new Refusal('read-only', { name })
  if (code === 'ERR_STREAM_PREMATURE_CLOSE' || code === 'ECONNRESET' || code === 'ABORT_ERR')
    return new Refusal('cut-upload', { name })
  return error
}

/** Bytes stored once under their SHA-256, in data/files; the database knows which there are. */
export class FileStore {
  private readonly folder: string
  private readonly database: StatementRunner
  constructor(data: string, database: StatementRunner) {
    this.folder = join(data, 'files')
    this.database = database
  }
  path(hash: string): string {
    if (!/^[0-9a-f]{64}$/.test(hash)) throw new Error('not a hash')
    return join(this.folder, hash.slice(0, 2), hash)
  }
  /** Stored for good when it answers: written, synced, put in its place, and the folder synced too. `most`: the largest size in bytes; a larger one is refused under its `name`. */
  async add(
    source: Readable,
    { most = Infinity, name = 'The file' }: { readonly most?: number; readonly name?: string } = {},
  ): Promise<{ hash: string; size: number }> {
    const part = join(this.folder, 'new', randomUUID())
    const sum = createHash('sha256')
    let size = 0
    const kept = apart(source)
    try {
      await mkdir(join(this.folder, 'new'), { recursive: true })
      await pipeline(
        kept,
        async function* (pieces: AsyncIterable<Buffer>) {
          for await (const piece of pieces) {
            sum.update(piece)
            size += piece.length
            if (size > most) throw tooLarge(name, most)
            yield piece
          }
        },
        createWriteStream(part, { flush: true }),
      )
      const hash = sum.digest('hex')
      const folder = join(this.folder, hash.slice(0, 2))
      await mkdir(folder, { recursive: true })
      await rename(part, this.path(hash))
      await syncFolder(folder)
      await syncFolder(this.folder)
      await this.database.query('insert into files (hash, size) values ($1, $2) on conflict do nothing', hash, size)
      return { hash, size }
    } catch (error) {
      // the rest is let through unread, so that whoever sends it hears why
      source.unpipe(kept)
      source.resume()
      throw uploadProblem(error, name)
    } finally {
      await rm(part, { force: true })
    }
  }
  /** Removes what uploads and replays left half written when the server ended. */
  async sweep(): Promise<void> {
    await rm(join(this.folder, 'new'), { recursive: true, force: true })
    for (const name of await readdir(this.folder).catch(() => []))
      if (name.endsWith('.part')) await rm(join(this.folder, name), { force: true })
  }
  /** Its size in bytes. */
  async size(hash: string): Promise<number> {
    return (await stat(this.path(hash))).size
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
