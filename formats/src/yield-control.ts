/**
 * Called now and then while a file is read, with the share that is done and the rows so far. It may tell somebody, let
 * other work have its turn, or throw to stop the reading.
 */
export type YieldControl = (share: number, rows: number) => Promise<void> | void
