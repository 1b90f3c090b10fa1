import type { ReadOptions } from './read-options.ts'
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

/** The rows of names, counted from 1, in the file or in its range; none where there is no such row. */
export const headerRows = ({ header = 1 }: Pick<ReadOptions, 'header'>): readonly number[] => {
  if (header === 'none') return []
  if (typeof header === 'number') return [header]
  return header
}

/**
 * Where the rows of names and those below them stand, by the numbers of rows in the file: `heads` are the rows of names, rows
 * up to `top` are above the table, of a range only its own rows count.
 */
export const rowLayout = (read: Pick<ReadOptions, 'range' | 'header' | 'skip'>) => {
  const rectangle = read.range === undefined ? undefined : rectangleOf(read.range)
  const above = rectangle ? rectangle.top - 1 : 0
  const heads = headerRows(read)
    .map((head) => head + above)
    .sort((a, b) => a - b)
  const lastHead = heads.at(-1) ?? above
  return { rectangle, above, heads, lastHead, top: lastHead + (read.skip ?? 0) }
}

/** Tells the rows of names from the rows below them: `range`, `header`, `skip` and `footer` of `Read`, one row after the other. */
export class RowFilter<T> {
  private seen = 0
  private readonly layout
  private readonly footer: number
  private names: (readonly T[])[] = []
  private held: (readonly T[])[] = []
  constructor(read: ReadOptions) {
    this.layout = rowLayout(read)
    this.footer = read.footer ?? 0
  }
  /** Rows as they stand in the file; what of them is names, and what is body. */
  pass(rows: readonly (readonly T[])[]): { names?: (readonly T[])[]; body: readonly (readonly T[])[] } {
    const { rectangle, above, heads, lastHead, top } = this.layout
    const body: (readonly T[])[] = this.held
    let names: (readonly T[])[] | undefined
    for (const whole of rows) {
      const at = ++this.seen
      if (at <= above || (rectangle && at > rectangle.bottom)) continue
      const row = rectangle ? whole.slice(rectangle.left - 1, rectangle.right) : whole
      if (heads.includes(at)) {
        this.names.push(row)
        if (at === lastHead) names = this.names
      } else if (at > top) body.push(row)
    }
    this.held = this.footer === 0 ? [] : body.slice(Math.max(0, body.length - this.footer))
    const ready = this.footer === 0 ? body : body.slice(0, body.length - this.held.length)
    return names ? { names, body: ready } : { body: ready }
  }
}
