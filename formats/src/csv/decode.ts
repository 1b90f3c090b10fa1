import { ownValue } from '@fabula/core'
import { isUtf8 } from 'node:buffer'
import { StringDecoder } from 'node:string_decoder'
import iconv from 'iconv-lite'
import { contentOf, isUtf8Content, type FileContent } from '../file-content.ts'
import { FileProblem } from '../problem.ts'

/** The encodings of text files. */
export type Encoding = 'utf-8' | 'utf-16le' | 'utf-16be' | 'windows-1252'
const names: Readonly<Record<string, Encoding>> = {
  utf8: 'utf-8',
  'utf-8': 'utf-8',
  'utf-16': 'utf-16le',
  'utf-16le': 'utf-16le',
  'utf-16be': 'utf-16be',
  'windows-1252': 'windows-1252',
  cp1252: 'windows-1252',
  latin1: 'windows-1252',
  'iso-8859-1': 'windows-1252',
}

const byMark = (bytes: Buffer): { encoding: Encoding; length: number } | undefined => {
  if (bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf) return { encoding: 'utf-8', length: 3 }
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return { encoding: 'utf-16le', length: 2 }
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return { encoding: 'utf-16be', length: 2 }
  return undefined
}

/** UTF-16 without a mark: every other byte of plain text is NUL. */
const byNuls = (bytes: Buffer): Encoding | undefined => {
  const sample = bytes.subarray(0, 4096)
  const counts = [0, 0]
  sample.forEach((byte, i) => {
    if (byte === 0) counts[i % 2] = (counts[i % 2] ?? 0) + 1
  })
  const half = sample.length / 2
  if ((counts[1] ?? 0) > half * 0.4 && counts[0] === 0) return 'utf-16le'
  if ((counts[0] ?? 0) > half * 0.4 && counts[1] === 0) return 'utf-16be'
  return undefined
}

/** By byte order mark, by NULs, by whether the bytes are UTF-8; else Windows-1252. */
export const detectEncoding = (content: FileContent): Encoding => {
  const start = content.part(0, 4096)
  return byMark(start)?.encoding ?? byNuls(start) ?? (isUtf8Content(content) ? 'utf-8' : 'windows-1252')
}

const firstBadByte = (bytes: Buffer): number => {
  let low = 0
  let high = bytes.length
  while (low < high) {
    const middle = (low + high) >> 1
    const cut = bytes.subarray(0, middle + 1)
    if (
      isUtf8(cut) ||
      isUtf8(cut.subarray(0, Math.max(0, cut.length - 1))) ||
      isUtf8(cut.subarray(0, Math.max(0, cut.length - 2))) ||
      isUtf8(cut.subarray(0, Math.max(0, cut.length - 3)))
    )
      low = middle + 1
    else high = middle
  }
  while (low > 0 && !isUtf8(bytes.subarray(0, low))) low--
  return low
}

const pieceSize = 4 << 20

/** The text of a file in pieces, without its byte order mark. Bytes that are not the encoding are refused, never replaced. */
// eslint-disable-next-line complexity -- one pass over the bytes of a file, encoding by encoding
export function* textPieces(
  bytes: Buffer,
  name: string,
  stated: string | undefined,
): Generator<{ text: string; done: number }> {
  const mark = byMark(bytes)
  const encoding =
    mark?.encoding ?? (stated === undefined ? detectEncoding(contentOf(bytes)) : ownValue(names, stated.toLowerCase()))
  if (!encoding)
    throw new FileProblem(
      `${name} is said to be written in ${stated}, which is not known here. Choose UTF-8, UTF-16 or Windows-1252.`,
    )
  const plain = bytes.subarray(mark?.length ?? 0)
  const body = encoding === 'utf-16be' && plain.length % 2 === 0 ? Buffer.from(plain).swap16() : plain
  if (encoding === 'utf-8' && !isUtf8(body))
    throw new FileProblem(
      `${name} is not written in UTF-8: byte ${firstBadByte(body) + 1} does not belong there. Choose another encoding, such as Windows-1252.`,
    )
  if (encoding.startsWith('utf-16') && body.length % 2 === 1)
    throw new FileProblem(`${name} is not written in UTF-16: it ends in half a character. Choose another encoding.`)
  const decoder = encoding === 'windows-1252' ? undefined : new StringDecoder(encoding === 'utf-8' ? 'utf8' : 'utf16le')
  for (let at = 0; at < body.length; at += pieceSize) {
    const piece = body.subarray(at, at + pieceSize)
    const text = decoder ? decoder.write(piece) : iconv.decode(piece, 'windows-1252')
    if (text.includes('\0'))
      throw new FileProblem(
        `${name} holds zero bytes, as no text file does. It may be a workbook or another format; open it as what it is.`,
      )
    yield { text, done: Math.min(body.length, at + pieceSize) / body.length }
  }
}

/** The first line that holds a byte beyond ASCII, as each encoding reads it: where they differ, the eye tells which is right. */
export const encodingSamples = (bytes: Buffer): { encoding: Encoding; text: string }[] => {
  const at = bytes.subarray(0, 4 << 20).findIndex((byte) => byte > 127)
  if (at < 0) return []
  const start = Math.max(bytes.lastIndexOf(10, at) + 1, at - 40)
  const breaks = bytes.indexOf(10, at)
  const line = bytes.subarray(start, Math.min(breaks < 0 ? bytes.length : breaks, at + 60))
  const wide = bytes.subarray(start - (start % 2), start - (start % 2) + 120)
  return [...new Set(Object.values(names))].map((encoding) => ({
    encoding,
    text: iconv
      .decode(encoding.startsWith('utf-16') ? wide : line, encoding)
      .replace(/[\r\n]+/g, ' ')
      .slice(0, 60),
  }))
}
