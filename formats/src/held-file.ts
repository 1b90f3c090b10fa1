import { closeSync, fstatSync, openSync, readSync } from 'node:fs'

/** Files are closed when nobody can read from them any more. */
const closing = new FinalizationRegistry<number>((file) => closeSync(file))

/** A file that stays open, so that it can be read even after it was removed. */
export class HeldFile {
  readonly size: number
  private readonly file: number
  /** @throws what Node throws where it cannot be opened. */
  constructor(path: string) {
    this.file = openSync(path, 'r')
    closing.register(this, this.file)
    this.size = fstatSync(this.file).size
  }
  /** Fills a view with the bytes from a place on. @throws where the file ends before. */
  fill(view: Uint8Array, from: number): void {
    for (let at = 0; at < view.length;) {
      const read = readSync(this.file, view, at, Math.min(1 << 30, view.length - at), from + at)
      if (read === 0) throw new Error('the file is cut short')
      at += read
    }
  }
}
