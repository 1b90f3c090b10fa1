import { sampleHeadRows, sampleWords, type RowChoice } from '@fabula/core/api'

/** From so many bytes on it is asked whether a sample is enough. */
const largeBytes = 300_000_000
/** How much of a file's start is looked at. */
const lookedBytes = 1 << 20

/** The sample and, in words, which rows of the file it has. */
type RowSample = { readonly file: File; readonly words: string }

const lineFeed = 10
const quote = 34
const delimiters = new Set([9, 44, 59, 124])

/**
 * Takes some records of delimited text (RFC 4180: a record goes over lines within quotes, which open at the start of a cell), which
 * comes in pieces.
 * @param keep whether a record is taken, by its number from 0
 * @param quoted whether the text has quotes at all; lines of JSON have none that matter
 */
export const recordCutter = (keep: (record: number) => boolean, quoted: boolean) => {
  let record = 0
  let inQuotes = false
  let atStart = true
  let afterQuote = false
  let isOpen = false
  /** Whether a record ends with this byte. */
  const step = (byte: number): boolean => {
    if (inQuotes) {
      inQuotes = byte !== quote
      afterQuote = !inQuotes
      return false
    }
    // two quotes within quotes are one of the text
    inQuotes = quoted && byte === quote && (atStart || afterQuote)
    afterQuote = false
    atStart = byte === lineFeed || delimiters.has(byte)
    return byte === lineFeed
  }
  return {
    /** The bytes of a piece that are kept. */
    take: (piece: Uint8Array<ArrayBuffer>): Uint8Array<ArrayBuffer>[] => {
      const kept: Uint8Array<ArrayBuffer>[] = []
      const next = (byte: number, from: number): number => {
        const found = piece.indexOf(byte, from)
        return found < 0 ? piece.length : found
      }
      let from = 0
      let nextQuote = -1
      const close = (to: number): void => {
        // a copy, since the piece would stay in memory as a whole
        if (to > from && keep(record)) kept.push(piece.slice(from, to))
        from = to
      }
      let at = 0
      while (at < piece.length) {
        if (nextQuote < at) nextQuote = quoted ? next(quote, at) : piece.length
        const end = inQuotes ? at : next(lineFeed, at)
        // a line without quotes is passed at once
        if (!inQuotes && end < nextQuote) at = end
        if (step(piece[at] as number)) {
          close(at + 1)
          record++
        }
        at++
      }
      isOpen = from < piece.length
      close(piece.length)
      return kept
    },
    /** How many records have ended. */
    get ended(): number {
      return record
    },
    /** How many have begun; the last may have no line end. */
    get begun(): number {
      return isOpen ? record + 1 : record
    },
  }
}

/** Whether rows of a file can be cut out as they are: large text of one byte a letter or UTF-8, with lines. */
export const isLargeText = async (file: File): Promise<boolean> => {
  if (file.size < largeBytes || !/\.(csv|tsv|tab|txt|jsonl|ndjson)$/i.test(file.name)) return false
  const start = new Uint8Array(await file.slice(0, lookedBytes).arrayBuffer())
  return start.includes(lineFeed) && !start.includes(0)
}

/** Of how many rows one is taken where the sample should have some 50 MB. */
export const fairOneIn = (bytes: number): number => Math.max(2, Math.ceil(bytes / 50_000_000))

const keeps = (choice: RowChoice) => (record: number) => {
  if (record < sampleHeadRows) return true
  return 'first' in choice ? record < choice.first : (record - sampleHeadRows) % choice.oneIn === 0
}

/** Cuts a sample out of a file without holding the file. `progress` is told the share that is read, from 0 to 1. */
export const cutRowSample = async (
  file: File,
  choice: RowChoice,
  progress: (share: number) => void,
): Promise<RowSample> => {
  const cutter = recordCutter(keeps(choice), !/\.(jsonl|ndjson)$/i.test(file.name))
  const pieces: Uint8Array<ArrayBuffer>[] = []
  const reader = file.stream().getReader()
  let read = 0
  const isEnough = (): boolean => 'first' in choice && cutter.ended >= Math.max(choice.first, sampleHeadRows)
  while (!isEnough()) {
    const { done, value } = await reader.read()
    if (done) break
    read += value.length
    progress(read / file.size)
    pieces.push(...cutter.take(value))
  }
  await reader.cancel()
  return { file: new File(pieces, file.name), words: sampleWords(choice, cutter.begun) }
}
