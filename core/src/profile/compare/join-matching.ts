import { bucket, keyCodes } from '../../steps/shared/join-keys.ts'
import type { SharedCodes } from '../../table/codes.ts'
import type { JoinHow } from '../../steps/join/words.ts'
import type { ColumnType, TextColumn } from '../../table/column.ts'
import { mapText, testText } from '../../table/gather.ts'
import { IntList } from '../../kernels/memory.ts'
import { convert } from '../../reading/convert.ts'
import { textOfCell } from '../../table/cell-text.ts'
import type { Table } from '../../table/table.ts'

/** The part of a join that says which rows meet. */
export type JoinKeysAsked = {
  readonly on: readonly { readonly left: string; readonly right: string }[]
  readonly ignoreCase?: boolean | undefined
  readonly trim?: boolean | undefined
  readonly matches?: 'all' | 'first' | 'one' | undefined
}
/** Why a key finds no partner. */
export const reasons = ['case', 'spaces', 'case-and-spaces', 'zeros'] as const
/** One of the reasons. */
export type UnmatchedReason = (typeof reasons)[number]
/** Which rows of both tables are shown. */
export const joinShows = ['all', 'met', 'none', 'many', 'unused', ...reasons] as const
/** Which rows of the two tables are shown. */
export type JoinShow = (typeof joinShows)[number]

/** A page of rows of one table with how each is matched. */
export type MatchedSide = {
  readonly total: number
  readonly rows: readonly {
    readonly row: number
    readonly state: 'none' | 'one' | 'many'
    readonly cells: readonly (string | null)[]
  }[]
}
/** How many rows match, and what each way of joining would give. */
export type JoinMatchFigures = {
  /** Rows here that meet exactly one, several, none; those with an empty key are among the last. */
  readonly one: number
  readonly many: number
  readonly none: number
  readonly emptyHere: number
  /** Rows there that nothing here meets. */
  readonly unused: number
  /** The rows that each way of joining would give. */
  readonly gives: Readonly<Record<JoinHow, number>>
  /** Why rows here meet nothing: how many would meet a row if that were set aside. Zeros: on which side they lead. */
  readonly why: readonly {
    readonly reason: UnmatchedReason
    readonly rows: number
    readonly leading?: readonly ('left' | 'right')[]
  }[]
  /** Keys that several rows there have and that are met, those that multiply most first. */
  readonly repeated: readonly { readonly key: string; readonly here: number; readonly there: number }[]
  readonly repeatedKeys: number
}
/** Keys of different types: what reading one side as the other's type would meet. */
export type TypeWay = {
  readonly at: number
  readonly side: 'left' | 'right'
  readonly column: string
  readonly type: ColumnType
  readonly meets: number
}

const withoutZeros = (text: string): string => text.replace(/^(\s*)0+(?=\d)/, '$1')
const zeroless = (
  table: Table,
  names: readonly string[],
): { columns: ReturnType<Table['named']>[]; leads: boolean } => {
  let leads = false
  const columns = names.map((name) => {
    const column = table.named(name)
    if (column.type !== 'text') return column
    leads ||= testText(column as TextColumn, (text) => /^\s*0+\d/.test(text)).includes(1)
    return mapText(column as TextColumn, withoutZeros)
  })
  return { columns, leads }
}

const metIn = ({
  left,
  right,
  bound,
}: SharedCodes): { readonly here: Uint8Array; readonly there: Uint8Array; readonly counts: Int32Array } => {
  const counts = new Int32Array(bound)
  for (const code of right) if (code > 0) counts[code] = counts[code]! + 1
  const used = new Uint8Array(bound)
  const here = new Uint8Array(left.length)
  left.forEach((code, row) => {
    if (counts[code] === 0) return
    here[row] = 1
    used[code] = 1
  })
  const there = new Uint8Array(right.length)
  right.forEach((code, row) => (there[row] = used[code]!))
  return { here, there, counts }
}

const cellsOf = (table: Table, row: number): (string | null)[] =>
  table.schema.map(({ type }, c) => {
    const cell = table.cell(c, row)
    return cell === null ? null : textOfCell(type, cell)
  })

const sideOf = (
  table: Table,
  from: number,
  count: number,
  state: (row: number) => 'none' | 'one' | 'many',
  holds: ((row: number) => boolean) | undefined,
): MatchedSide => {
  const rows = new IntList()
  if (holds) for (let row = 0; row < table.rowCount; row++) if (holds(row)) rows.push(row)
  const picked = holds ? rows.done() : undefined
  const total = picked?.length ?? table.rowCount
  const shown = Array.from(
    { length: Math.max(0, Math.min(total, from + count) - from) },
    (_, i) => picked?.[from + i] ?? from + i,
  )
  return { total, rows: shown.map((row) => ({ row, state: state(row), cells: cellsOf(table, row) })) }
}

/** From which row on each side is shown, of those that are asked for. */
type PageStarts = readonly [here: number, there: number]

/** Two tables held against each other by keys of the same types: who meets whom, who does not and why. */
export class JoinMatching {
  private readonly left: Table
  private readonly right: Table
  private readonly how: JoinKeysAsked
  private readonly codes: SharedCodes
  private readonly met: ReturnType<typeof metIn>
  private readonly loose = new Map<UnmatchedReason, ReturnType<typeof metIn>>()
  private zeros: readonly ('left' | 'right')[] = []

  constructor(left: Table, right: Table, how: JoinKeysAsked) {
    this.left = left
    this.right = right
    this.how = how
    this.codes = this.codesWith({ ignoreCase: how.ignoreCase, trim: how.trim })
    this.met = metIn(this.codes)
  }
  private codesWith(seeing: { ignoreCase?: boolean | undefined; trim?: boolean | undefined }): SharedCodes {
    return keyCodes(
      this.how.on.map((one) => this.left.named(one.left)),
      this.how.on.map((one) => this.right.named(one.right)),
      seeing,
    )
  }
  /** What would meet if that were set aside. */
  private without(reason: UnmatchedReason): ReturnType<typeof metIn> {
    const known = this.loose.get(reason)
    if (known) return known
    const { ignoreCase, trim, on } = this.how
    let made: ReturnType<typeof metIn>
    if (reason === 'zeros') {
      const here = zeroless(
        this.left,
        on.map((one) => one.left),
      )
      const there = zeroless(
        this.right,
        on.map((one) => one.right),
      )
      this.zeros = [...(here.leads ? (['left'] as const) : []), ...(there.leads ? (['right'] as const) : [])]
      made = this.zeros.length === 0 ? this.met : metIn(keyCodes(here.columns, there.columns, { ignoreCase, trim }))
    } else
      made = metIn(
        this.codesWith({
          ignoreCase: ignoreCase === true || reason !== 'spaces',
          trim: trim === true || reason !== 'case',
        }),
      )
    this.loose.set(reason, made)
    return made
  }
  private state(counts: number): 'none' | 'one' | 'many' {
    if (counts === 0) return 'none'
    if (counts === 1) return 'one'
    return 'many'
  }
  private countHere(row: number): number {
    return this.met.counts[this.codes.left[row]!]!
  }

  figures(): JoinMatchFigures {
    const { codes, met, how, left, right } = this
    let one = 0
    let many = 0
    let emptyHere = 0
    let pairs = 0
    for (let row = 0; row < left.rowCount; row++) {
      const n = this.countHere(row)
      if (codes.left[row] === 0) emptyHere++
      if (n === 1) one++
      else if (n > 1) many++
      pairs += how.matches === undefined || how.matches === 'all' ? n : Math.min(n, 1)
    }
    const none = left.rowCount - one - many
    const unused = right.rowCount - met.there.reduce((sum, n) => sum + n, 0)
    const gives: Record<JoinHow, number> = {
      left: pairs + none,
      inner: pairs,
      right: pairs + unused,
      full: pairs + none + unused,
      'left-only': none,
      'right-only': unused,
      cross: left.rowCount * right.rowCount,
    }
    const isText = how.on.some(
      (pair) => left.named(pair.left).type === 'text' && right.named(pair.right).type === 'text',
    )
    const tried: readonly UnmatchedReason[] =
      none === emptyHere || !isText
        ? []
        : [
            ...(how.ignoreCase ? [] : (['case'] as const)),
            ...(how.trim ? [] : (['spaces'] as const)),
            ...(how.ignoreCase || how.trim ? [] : (['case-and-spaces'] as const)),
            'zeros',
          ]
    const why = tried.flatMap((reason) => {
      const rows = this.rowsFor(reason).reduce((sum, n) => sum + n, 0)
      return rows > 0 ? [{ reason, rows, ...(reason === 'zeros' ? { leading: this.zeros } : {}) }] : []
    })
    return { one, many, none, emptyHere, unused, gives, why, ...this.repeats() }
  }
  /** Rows here that meet nothing, and would without this; case and spaces together only where neither alone does it. */
  private rowsFor(reason: UnmatchedReason): Uint8Array {
    const { here } = this.without(reason)
    const alone = reason === 'case-and-spaces' ? [this.without('case').here, this.without('spaces').here] : []
    return here.map((met, row) => (met && !this.met.here[row] && !alone.some((one) => one[row]) ? 1 : 0))
  }
  private repeats(): Pick<JoinMatchFigures, 'repeated' | 'repeatedKeys'> {
    const here = new Int32Array(this.codes.bound)
    for (const code of this.codes.left) here[code] = here[code]! + 1
    const keys: number[] = []
    this.met.counts.forEach((n, code) => {
      if (n > 1 && here[code]! > 0) keys.push(code)
    })
    keys.sort((a, b) => this.met.counts[b]! * here[b]! - this.met.counts[a]! * here[a]!)
    const { starts, rows } = bucket(this.codes.right, this.codes.bound)
    const repeated = keys.slice(0, 5).map((code) => {
      const row = rows[starts[code]!]!
      const key = this.how.on.map(({ right }) => {
        const at = this.right.positionOf(right)
        return textOfCell(this.right.schema[at]?.type ?? 'text', this.right.cell(at, row) ?? '')
      })
      return { key: key.join(' · '), here: here[code]!, there: this.met.counts[code]! }
    })
    return { repeated, repeatedKeys: keys.length }
  }

  /** Exactly the rows that a figure counts, of both tables. */
  show(
    which: JoinShow,
    [from, fromThere]: PageStarts,
    count: number,
  ): { readonly left: MatchedSide; readonly right: MatchedSide } {
    const { met, codes } = this
    const usedMany = new Uint8Array(codes.bound)
    codes.left.forEach((code) => {
      if (met.counts[code]! > 1) usedMany[code] = 1
    })
    const stateHere = (row: number) => this.state(this.countHere(row))
    const stateThere = (row: number): 'none' | 'one' | 'many' => {
      if (!met.there[row]) return 'none'
      if (usedMany[codes.right[row]!]) return 'many'
      return 'one'
    }
    const holds: Readonly<
      Record<
        'all' | 'met' | 'none' | 'many' | 'unused',
        readonly [((row: number) => boolean) | undefined, ((row: number) => boolean) | undefined]
      >
    > = {
      all: [undefined, undefined],
      met: [(row) => this.countHere(row) === 1, (row) => stateThere(row) === 'one'],
      none: [(row) => this.countHere(row) === 0, undefined],
      many: [(row) => this.countHere(row) > 1, (row) => stateThere(row) === 'many'],
      unused: [undefined, (row) => !met.there[row]],
    }
    let [here, there] =
      which === 'all' || which === 'met' || which === 'none' || which === 'many' || which === 'unused'
        ? holds[which]
        : [undefined, undefined]
    if ((reasons as readonly string[]).includes(which)) {
      const reason = which as UnmatchedReason
      const mine = this.rowsFor(reason)
      const theirs = this.without(reason).there
      here = (row) => mine[row] === 1
      there = (row) => theirs[row] === 1 && !met.there[row]
    }
    return {
      left: sideOf(this.left, from, count, stateHere, here),
      right: sideOf(this.right, fromThere, count, stateThere, there),
    }
  }
}

/** Where keys have types that cannot meet: each side read as the other's type, and the rows here that would meet one then. */
export const typeWays = (left: Table, right: Table, how: JoinKeysAsked): TypeWay[] => {
  const differ = how.on.flatMap((pair, at) =>
    left.named(pair.left).type === right.named(pair.right).type ? [] : [{ at, pair }],
  )
  return differ.flatMap(({ at, pair }) =>
    (['left', 'right'] as const).map((side) => {
      const type = side === 'left' ? right.named(pair.right).type : left.named(pair.left).type
      const here = how.on.map((one, i) =>
        i === at && side === 'left' ? convert(left.named(one.left), { type }).column : left.named(one.left),
      )
      const there = how.on.map((one, i) =>
        i === at && side === 'right' ? convert(right.named(one.right), { type }).column : right.named(one.right),
      )
      const meets = differ.length > 1 ? 0 : metIn(keyCodes(here, there, how)).here.reduce((sum, n) => sum + n, 0)
      return { at, side, column: side === 'left' ? pair.left : pair.right, type, meets }
    }),
  )
}

/** Rows of the left table whose key finds no partner. */
export const rowsUnmatched = (
  left: Table,
  right: Table,
  [from, fromThere]: PageStarts,
  count: number,
): { readonly left: MatchedSide; readonly right: MatchedSide } => ({
  left: sideOf(left, from, count, () => 'one', undefined),
  right: sideOf(right, fromThere, count, () => 'one', undefined),
})
