import { readdir, stat } from 'node:fs/promises'
import { isAbsolute, join } from 'node:path'
import { Refusal } from '../refusal.ts'

/** A file of a watched folder; `key` changes when it does. */
export type Found = { readonly name: string; readonly path: string; readonly key: string; readonly changedAt: number }

/** Files that are no exports: hidden ones, those still being written by a browser or an office program. */
const unfinished = /^[.~]|\.(?:part|tmp|crdownload|download)$|^~\$/i

/** The files of a folder of this server, those changed last at the end. */
export const filesIn = async (folder: string): Promise<Found[]> => {
  const names = await readdir(folder)
  const found = await Promise.all(
    names
      .filter((name) => !unfinished.test(name))
      .map(async (name): Promise<Found[]> => {
        const path = join(folder, name)
        const info = await stat(path).catch(() => undefined)
        return info?.isFile() && info.size > 0
          ? [{ name, path, key: `${name}|${info.size}|${Math.floor(info.mtimeMs)}`, changedAt: info.mtimeMs }]
          : []
      }),
  )
  return found.flat().sort((a, b) => a.changedAt - b.changedAt || (a.name < b.name ? -1 : 1))
}

/** Refuses a folder that cannot be watched, in words. */
export const checkFolder = async (folder: string): Promise<Found[]> => {
  if (!isAbsolute(folder)) throw new Refusal('no-folder', { folder, fault: 'relative' })
  try {
    return await filesIn(folder)
  } catch (error) {
    const fault = () => {
      if ((error as NodeJS.ErrnoException).code === 'ENOENT') return 'absent'
      if ((error as NodeJS.ErrnoException).code === 'ENOTDIR') return 'file'
      return 'unreadable'
    }
    throw new Refusal('no-folder', { folder, fault: fault() })
  }
}
