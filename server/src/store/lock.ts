import { spawn } from 'node:child_process'
import {
  chmodSync,
  closeSync,
  existsSync,
  mkdirSync,
  openSync,
  readFileSync,
  rmSync,
  writeFileSync,
  writeSync,
} from 'node:fs'
import { join } from 'node:path'

/** Thrown where another server has the data folder. */
export class FolderTaken extends Error {}

const taken = (folder: string, by: string): FolderTaken =>
  new FolderTaken(
    `The data folder ${folder} is in use by another Fabula server${by}. Stop that one, or start this one with FABULA_DATA set to another folder.`,
  )

/** The program that locks a file in the kernel, for as long as it or what it started lives: util-linux, on every Linux. */
const flock = ['/usr/bin/flock', '/bin/flock'].find((path) => existsSync(path))
const conflict = 75

/**
 * A lock on the file itself (flock(2)): it holds across containers that share the folder, and the kernel lets it go when
 * this process ends, however it ends, for the holder reads from a pipe of ours until that closes.
 */
const lockFile = (folder: string, path: string, program: string, lost: () => void): Promise<() => void> =>
  new Promise((resolve, reject) => {
    const owner = path.replace(/\.lock$/, '.pid')
    const holder = spawn(
      program,
      ['--nonblock', '--conflict-exit-code', String(conflict), path, 'sh', '-c', 'echo held; exec cat >/dev/null'],
      { stdio: ['pipe', 'pipe', 'ignore'], detached: true },
    )
    let held = false
    let released = false
    holder.unref()
    holder.stdin.on('error', () => undefined)
    holder.stdout.once('data', () => {
      held = true
      writeFileSync(owner, String(process.pid))
      resolve(() => {
        released = true
        rmSync(owner, { force: true })
        holder.stdin.end()
      })
    })
    holder.on('error', reject)
    holder.on('exit', (code) => {
      if (held) {
        if (!released) lost()
        return
      }
      const pid = existsSync(owner) ? ` (process ${readFileSync(owner, 'utf8')})` : ''
      reject(code === conflict ? taken(folder, pid) : new Error(`the file ${path} cannot be locked`))
    })
  })

const lives = (pid: number): boolean => {
  try {
    process.kill(pid, 0)
    return true
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM'
  }
}

/** Where no program locks files: a file that names the process. It does not hold across containers. */
const lockByNumber = (folder: string, path: string): (() => void) => {
  for (let attempt = 0; ; attempt++) {
    try {
      const file = openSync(path, 'wx')
      writeSync(file, String(process.pid))
      closeSync(file)
      return () => rmSync(path, { force: true })
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST' || attempt > 3) throw error
    }
    const pid = Number(readFileSync(path, 'utf8'))
    if (pid > 0 && lives(pid)) throw taken(folder, ` (process ${pid})`)
    rmSync(path, { force: true })
  }
}

/** Makes the folder, for its user alone, and takes it for this process: the database takes no lock itself. `lost` is called where the lock is lost while it is held. Returns what lets it go. */
export const lockFolder = async (folder: string, lost: () => void): Promise<() => void> => {
  mkdirSync(folder, { recursive: true, mode: 0o700 })
  chmodSync(folder, 0o700)
  const path = join(folder, 'server.lock')
  return flock ? lockFile(folder, path, flock, lost) : lockByNumber(folder, path)
}
