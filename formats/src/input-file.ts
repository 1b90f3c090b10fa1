import { createHash } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { basename } from 'node:path'
import type { InputFile } from './open-input.ts'

/** A file held in memory; its hash is made when it is asked for. */
export const fileFromBytes = (name: string, bytes: Buffer): InputFile => {
  let known: string | undefined
  return {
    name,
    bytes,
    get hash() {
      return (known ??= createHash('sha256').update(bytes).digest('hex'))
    },
  }
}
/** Throws what Node throws where the file cannot be read. */
export const fileFromPath = (path: string): InputFile => fileFromBytes(basename(path), readFileSync(path))
