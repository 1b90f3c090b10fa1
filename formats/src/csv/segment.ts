import { TableBuilder, type ReadOptions, type SegmentStart, type TableSegment } from '@fabula/core/reading'
import { fillFrom, partsOf } from '../file-parts.ts'
import { NotPlain, Utf8Source } from './utf8-source.ts'

/** Rows of a CSV file from the byte `from` on, where a row begins, up to `end`, where one ends. */
export type SegmentRequest = {
  /** The open file, and how many bytes it has. */
  readonly descriptor: number
  readonly size: number
  readonly from: number
  readonly end: number
  readonly read: ReadOptions
  readonly asText: readonly string[]
  readonly start: SegmentStart
  /** Bytes. */
  readonly delimiter: number
  readonly quote: number
}
/** How far the reading of a segment is; shared by threads. */
export class SegmentProgress {
  readonly shared: SharedArrayBuffer
  private readonly cells: Int32Array
  constructor(shared = new SharedArrayBuffer(12)) {
    this.shared = shared
    this.cells = new Int32Array(shared)
  }
  get stopped(): boolean {
    return Atomics.load(this.cells, 0) !== 0
  }
  stop(): void {
    Atomics.store(this.cells, 0, 1)
  }
  get rows(): number {
    return Atomics.load(this.cells, 1)
  }
  /** The part that is read, from 0 to 1. */
  get share(): number {
    return Atomics.load(this.cells, 2) / 1e6
  }
  note(rows: number, share: number): void {
    Atomics.store(this.cells, 1, rows)
    Atomics.store(this.cells, 2, Math.floor(share * 1e6))
  }
}

/** Reads a segment; undefined where it was stopped, is no plain text, or does not begin and end between two rows. */
export const readSegment = (request: SegmentRequest, progress: SegmentProgress): TableSegment | undefined => {
  const { size, from, end, read, asText, start, delimiter, quote } = request
  const fill = (view: Uint8Array, at: number): void => fillFrom(request.descriptor, view, at)
  const source = new Utf8Source(partsOf({ size: end, fill }))
  const builder = new TableBuilder(read, new Set(asText))
  builder.goOn(start, (end - from) / size)
  try {
    const scan = builder.scan(source, from, delimiter, quote)
    for (;;) {
      const { value, done } = scan.next()
      if (done) return value === end ? builder.segment(source) : undefined
      if (progress.stopped) return undefined
      progress.note(builder.rowCount, (value - from) / (end - from))
    }
  } catch (error) {
    if (error instanceof NotPlain) return undefined
    throw error
  }
}
