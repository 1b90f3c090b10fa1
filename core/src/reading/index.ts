/** What a thread needs that reads parts of files: a small part of the core, so that it starts sooner. */
export { TableBuilder } from './table-builder.ts'
export type { ReadOptions } from './read-options.ts'
export { buffersOf, type ColumnSegment, type SegmentStart, type TableSegment } from './segments.ts'
