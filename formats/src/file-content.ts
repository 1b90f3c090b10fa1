import { constants, isUtf8 } from 'node:buffer'
import { figure } from '@fabula/core'
import { partsOf, wholeCharacters, windowBytes, type FileParts } from './file-parts.ts'
import { HeldFile } from './held-file.ts'
import { FileProblem } from './problem.ts'

/** The bytes of a file, some or all of them. */
export interface FileContent extends FileParts {
  /** The open file that holds them, which other threads of this process can read as well. */
  readonly descriptor?: number
  /** All bytes. @throws FileProblem where they are more than a buffer can hold. */
  all(): Buffer
}

/** The content of a file held in memory. */
export const contentOf = (bytes: Buffer): FileContent => ({
  size: bytes.length,
  part: (from, length) => bytes.subarray(from, from + length),
  all: () => bytes,
})

/** The content of a file on disk, of which no more is held than was asked for last. @throws what Node throws where it cannot be opened. */
export const contentAt = (path: string, name: string): FileContent => {
  const file = new HeldFile(path)
  const { size } = file
  return {
    ...partsOf(file),
    descriptor: file.descriptor,
    all: () => {
      if (size > constants.MAX_LENGTH)
        throw new FileProblem(
          `${name} has ${figure(size)} bytes, more than can be read of a file of its kind. Text in UTF-8 can be of any size: export it as CSV in UTF-8, or in several files.`,
        )
      const bytes = Buffer.allocUnsafeSlow(size)
      file.fill(bytes, 0)
      return bytes
    },
  }
}

/** Whether a file is UTF-8 from its first byte to its last. */
export const isUtf8Content = (content: FileContent): boolean => {
  for (let at = 0; at < content.size;) {
    const part = content.part(at, windowBytes)
    const last = at + part.length === content.size
    const whole = last ? part.length : wholeCharacters(part)
    if (whole === 0 || !isUtf8(part.subarray(0, whole))) return false
    at += whole
  }
  return true
}
