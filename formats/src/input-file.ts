import { createHash } from 'node:crypto'
import { basename } from 'node:path'
import { contentAt, contentOf, type FileContent } from './file-content.ts'
import { windowBytes } from './file-parts.ts'
import type { InputFile } from './open-input.ts'

const hashOf = (content: FileContent): string => {
  const hash = createHash('sha256')
  for (let at = 0; at < content.size; at += windowBytes) hash.update(content.part(at, windowBytes))
  return hash.digest('hex')
}
const inputFile = (name: string, content: FileContent): InputFile => ({ name, content, hash: hashOf(content) })

/** A file held in memory. */
export const fileFromBytes = (name: string, bytes: Buffer): InputFile => inputFile(name, contentOf(bytes))
/** A file on disk. Throws what Node throws where it cannot be read. */
export const fileFromPath = (path: string): InputFile => inputFile(basename(path), contentAt(path, basename(path)))
