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
  const worker = new Worker(script as URL)
  // what ends a thread ends no more than that; who waits for it hears of it below
  worker.on('error', () => undefined)
  worker.on('exit', () => {
    made--
    if (idle.includes(worker)) idle.splice(idle.indexOf(worker), 1)
  })
  return worker
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
    const answered = (reply: SegmentReply): void => {
      worker.off('exit', ended)
      worker.unref()
      idle.push(worker)
      resolve(reply && { ...reply, columns: columnsFrom(port1, reply.width) })
    }
    const ended = (): void => {
      worker.off('message', answered)
      resolve(undefined)
    }
    worker.once('message', answered).once('exit', ended)
  })
  worker.postMessage({ request, shared: progress.shared, port: port2 } satisfies SegmentOrder, [port2])
  return { progress, result, close: () => port1.close() }
}
