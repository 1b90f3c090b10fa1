import { closeSync, fstatSync, openSync } from 'node:fs'
import { fillFrom } from './file-parts.ts'

/** Files are closed when nobody can read from them any more. */
const closing = new FinalizationRegistry<number>((file) => closeSync(file))

/** A file that stays open, so that it can be read even after it was removed. */
export class HeldFile {
  readonly size: number
  readonly descriptor: number
  /** @throws what Node throws where it cannot be opened. */
  constructor(path: string) {
    this.descriptor = openSync(path, 'r')
    closing.register(this, this.descriptor)
    this.size = fstatSync(this.descriptor).size
  }
  /** Fills a view with the bytes from a place on. @throws where the file ends before. */
  fill(view: Uint8Array, from: number): void {
    fillFrom(this.descriptor, view, from)
  }
}
