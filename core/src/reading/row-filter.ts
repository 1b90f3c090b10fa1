import { headerRows, type ReadOptions } from './read-options.ts'
import { rectangleOf } from './sheet-range.ts'

/**
 * Several rows of names as one. A name in an upper row goes on to the right until the next, as a heading over
 * several columns does; a part that repeats the one above it is said once.
 */
export const joinedNames = (rows: readonly (readonly string[])[]): string[] => {
  const [only] = rows
  if (rows.length <= 1) return [...(only ?? [])]
  const width = Math.max(0, ...rows.map((row) => row.length))
  const filled = rows.map((row, r) => {
    let last = ''
    return Array.from({ length: width }, (_, c) =>
      r === rows.length - 1 ? (row[c] ?? '') : (last = (row[c] ?? '') || last),
    )
  })
  return Array.from({ length: width }, (_, c) =>
    [...new Set(filled.map((row) => row[c] as string).filter((part) => part !== ''))].join(' '),
  )
}

/** Tells the rows of names from the rows below them: `range`, `header`, `skip` and `footer` of `Read`, one row after the other. */
export class RowFilter<T> {
  private seen = 0
  private readonly heads: number[]
  private readonly top: number
  private readonly footer: number
  private readonly rectangle
  private names: (readonly T[])[] = []
  private held: (readonly T[])[] = []
  constructor(read: ReadOptions) {
    this.heads = [...headerRows(read)].sort((a, b) => a - b)
    this.top = (this.heads.at(-1) ?? 0) + (read.skip ?? 0)
    this.footer = read.footer ?? 0
    this.rectangle = read.range === undefined ? undefined : rectangleOf(read.range)
  }
  /** Rows as they stand in the file; what of them is names, and what is body. */
  pass(rows: readonly (readonly T[])[]): { names?: (readonly T[])[]; body: readonly (readonly T[])[] } {
    const body: (readonly T[])[] = this.held
    let names: (readonly T[])[] | undefined
    for (const whole of rows) {
      const at = ++this.seen - (this.rectangle ? this.rectangle.top - 1 : 0)
      if (at < 1 || (this.rectangle && this.seen > this.rectangle.bottom)) continue
      const row = this.rectangle ? whole.slice(this.rectangle.left - 1, this.rectangle.right) : whole
      if (this.heads.includes(at)) {
        this.names.push(row)
        if (at === this.heads.at(-1)) names = this.names
      } else if (at > this.top) body.push(row)
    }
    this.held = this.footer === 0 ? [] : body.slice(Math.max(0, body.length - this.footer))
    const ready = this.footer === 0 ? body : body.slice(0, body.length - this.held.length)
    return names ? { names, body: ready } : { body: ready }
  }
}
