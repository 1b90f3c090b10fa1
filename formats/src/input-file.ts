import { createHash } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { basename } from 'node:path'
import type { InputFile } from './open-input.ts'

/** A file held in memory. */
export const fileFromBytes = (name: string, bytes: Buffer): InputFile => ({
  name,
  bytes,
  hash: createHash('sha256').update(bytes).digest('hex'),
})
/** Throws what Node throws where the file cannot be read. */
export const fileFromPath = (path: string): InputFile => fileFromBytes(basename(path), readFileSync(path))
