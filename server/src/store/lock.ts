import { chmodSync, closeSync, mkdirSync, openSync, readFileSync, rmSync, writeSync } from 'node:fs'
import { join } from 'node:path'

export class FolderTaken extends Error {}

/** When a process began, as the kernel has it: with the number it names one process for good. Elsewhere than on Linux only the number is known. */
const beginningOf = (pid: number): string => {
  try {
    return readFileSync(`/proc/${pid}/stat`, 'utf8').replace(/^.*\) /s, '').split(' ')[19] ?? ''
  } catch {
    return ''
  }
}
const lives = (pid: number): boolean => {
  try {
    process.kill(pid, 0)
    return true
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM'
  }
}

/** Takes the folder for this process, for the database takes no lock itself. Returns what lets it go. */
export const lockFolder = (folder: string): (() => void) => {
  mkdirSync(folder, { recursive: true, mode: 0o700 })
  chmodSync(folder, 0o700)
  const path = join(folder, 'server.lock')
  for (let attempt = 0; ; attempt++) {
    try {
      const file = openSync(path, 'wx')
      writeSync(file, `${process.pid} ${beginningOf(process.pid)}`)
      closeSync(file)
      return () => rmSync(path, { force: true })
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST' || attempt > 3) throw error
    }
    const [pid = '0', began = ''] = readFileSync(path, 'utf8').split(' ')
    if (Number(pid) > 0 && lives(Number(pid)) && beginningOf(Number(pid)) === began) throw new FolderTaken(`The data folder ${folder} is in use by another Fabula server (process ${pid}). Stop that one, or start this one with FABULA_DATA set to another folder.`)
    rmSync(path, { force: true })
  }
}
