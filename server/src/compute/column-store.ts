import { createHash } from 'node:crypto'
import { existsSync, linkSync, mkdirSync, readdirSync, rmSync, statSync, utimesSync } from 'node:fs'
import { join } from 'node:path'
import { readColumnsFile, writeColumnsFile, type OpenedFiles } from '@fabula/formats'

/** Changes whenever reading or the columns file's format does, so that what an older version read is not taken for today's. */
const readerVersion = 1
const unusedDays = 30
/** Inputs that are read within this time, in milliseconds, are not worth a file. */
const quickMs = 60

/**
 * Columns of inputs that were read once, in files of the data folder, named by what they were read from and how. Bounded
 * in size: those used longest ago leave first.
 */
export class ColumnStore {
  private readonly folder: string
  private readonly maxBytes: number
  constructor(data: string, maxBytes: number) {
    this.folder = join(data, 'columns')
    this.maxBytes = maxBytes
  }
  private path(key: string): string {
    return join(this.folder, `${createHash('sha256').update(`${readerVersion} ${key}`).digest('hex')}.columns`)
  }
  /** What was kept of an input; a file that is damaged is thrown away, and the input is read anew. */
  read(key: string): OpenedFiles | undefined {
    const path = this.path(key)
    if (!existsSync(path)) return undefined
    try {
      const opened = readColumnsFile(path)
      const now = new Date()
      utimesSync(path, now, now)
      return opened
    } catch {
      rmSync(path, { force: true })
      return undefined
    }
  }
  /** Keeps an input that took `ms` to read, under each of its keys. A full disk loses nothing: the input is then read anew next time. */
  async keep([key, ...others]: readonly [string, ...string[]], opened: OpenedFiles, ms: number): Promise<void> {
    const path = this.path(key)
    if (ms < quickMs || existsSync(path)) return
    try {
      mkdirSync(this.folder, { recursive: true, mode: 0o700 })
      if ((await writeColumnsFile(path, opened)) === undefined) return
      for (const other of others) if (!existsSync(this.path(other))) linkSync(path, this.path(other))
      this.sweep()
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code === undefined) throw error
    }
  }
  /** Removes what was long unused, what a killed process left half written, and the oldest beyond the bound. */
  sweep(now = Date.now()): void {
    if (!existsSync(this.folder)) return
    const files = readdirSync(this.folder)
      .flatMap((name) => {
        const path = join(this.folder, name)
        const info = statSync(path, { throwIfNoEntry: false })
        return info ? [{ path, bytes: info.size, usedAt: info.mtimeMs }] : []
      })
      .sort((a, b) => b.usedAt - a.usedAt)
    let held = 0
    for (const { path, bytes, usedAt } of files) {
      const age = now - usedAt
      const over = !path.endsWith('.columns')
        ? age > 3_600_000
        : age > unusedDays * 86_400_000 || held + bytes > this.maxBytes
      if (over) rmSync(path, { force: true })
      else held += bytes
    }
  }
}
