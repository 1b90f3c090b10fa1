export { FileProblem } from './problem.ts'
export {
  chosenSheets,
  openInput,
  type InputFile,
  type OpenedFiles,
  type OpenedFile,
  type OpenedPart,
} from './open-input.ts'
export { lookAtFile, type RawLook } from './look.ts'
export type { YieldControl } from './yield-control.ts'
export { outputPieces, UnwritableTable } from './write/index.ts'
export { writeToDatabases, type Query } from './write/postgresql.ts'
export { contentAt, contentOf, type FileContent } from './file-content.ts'
export { useReadingThreads } from './csv/segment-threads.ts'
export { fileFromBytes, fileFromPath } from './input-file.ts'
export { openedBuffers } from './columns/layout.ts'
export { readColumnsFile } from './columns/read.ts'
export { writeColumnsFile } from './columns/write.ts'
export { openSourceRows } from './trace/source-rows.ts'
export type { OpenRows } from './trace/input-rows.ts'
export { Tracer } from './trace/tracer.ts'
export {
  sourceWords,
  TraceProblem,
  type BackReport,
  type FateReport,
  type ForwardReport,
  type TracedInput,
  type TraceRow,
} from './trace/reports.ts'
