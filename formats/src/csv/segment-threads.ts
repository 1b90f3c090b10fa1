import { availableParallelism } from 'node:os'
import { MessageChannel, receiveMessageOnPort, Worker, type MessagePort } from 'node:worker_threads'
import type { ColumnSegment, TableSegment } from '@fabula/core/reading'
import { SegmentProgress, type SegmentRequest } from './segment.ts'

/** More threads than these wait for memory, not for cores. */
const mostThreads = 3

let script: URL | undefined
let smallest = Infinity
const idle: Worker[] = []
let made = 0

/** Files of at least so many bytes are read by several threads from now on, which run this script: what segment-worker.ts was built to. */
export const useReadingThreads = (worker: URL | undefined, bytes = 16 << 20): void => {
  script = worker
  smallest = bytes
}

/** How many threads beside this one can read a file of so many bytes now. */
export const freeThreads = (bytes: number): number =>
  script === undefined || bytes < smallest
    ? 0
    : idle.length + Math.max(0, Math.min(mostThreads, availableParallelism() - 1) - made)

const takeThread = (): Worker => {
  const known = idle.pop()
  if (known) return known
  made++
  return new Worker(script as URL)
}

/** A segment that is being read. */
export type SegmentReading = {
  readonly progress: SegmentProgress
  /** Undefined where it cannot be used: the rows are to be read by the caller then. Never rejected. */
  readonly result: Promise<TableSegment | undefined>
  /** Lets go of what was not taken of the result. */
  readonly close: () => void
}

/** What a thread is told: the segment, how it says how far it is, and where its columns go. */
export type SegmentOrder = {
  readonly request: SegmentRequest
  readonly shared: SharedArrayBuffer
  readonly port: MessagePort
}
/** What it answers when all columns are sent; undefined as from `readSegment`. */
export type SegmentReply = (Omit<TableSegment, 'columns'> & { readonly width: number }) | undefined

/** Columns that were sent, taken one after the other, so that each can go before the next is had. */
function* columnsFrom(port: MessagePort, width: number): Generator<ColumnSegment> {
  for (let c = 0; c < width; c++) yield (receiveMessageOnPort(port) as { message: ColumnSegment }).message
}

/** Reads a segment in a thread that is free. */
export const readInThread = (request: SegmentRequest): SegmentReading => {
  const progress = new SegmentProgress()
  const { port1, port2 } = new MessageChannel()
  const worker = takeThread()
  // the process stays while it reads, and may end when it does not
  worker.ref()
  const result = new Promise<TableSegment | undefined>((resolve) => {
    const settle = (lost: boolean, segment: TableSegment | undefined): void => {
      worker.off('message', answered).off('error', failed).off('exit', failed)
      if (lost) made--
      else idle.push(worker)
      worker.unref()
      resolve(segment)
    }
    const answered = (reply: SegmentReply): void =>
      settle(false, reply && { ...reply, columns: columnsFrom(port1, reply.width) })
    const failed = (): void => settle(true, undefined)
    worker.on('message', answered).on('error', failed).on('exit', failed)
  })
  worker.postMessage({ request, shared: progress.shared, port: port2 } satisfies SegmentOrder, [port2])
  return { progress, result, close: () => port1.close() }
}
