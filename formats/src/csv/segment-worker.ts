// A thread that reads segments of CSV files, one after the other, as formats/src/csv/segment-threads.ts asks for them.
import { parentPort } from 'node:worker_threads'
import { buffersOf } from '@fabula/core/reading'
import { useCompiledKernels } from '@fabula/core/compiled'
import { readSegment, SegmentProgress } from './segment.ts'
import type { SegmentOrder, SegmentReply } from './segment-threads.ts'

useCompiledKernels()
parentPort?.on('message', ({ request, shared, port }: SegmentOrder) => {
  const segment = readSegment(request, new SegmentProgress(shared))
  let reply: SegmentReply
  if (segment) {
    const { columns, ...counts } = segment
    let width = 0
    for (const column of columns) {
      port.postMessage(column, buffersOf(column) as ArrayBuffer[])
      width++
    }
    reply = { ...counts, width }
  }
  parentPort?.postMessage(reply)
})
