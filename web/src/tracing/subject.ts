import { columnOf, counted, figure, Table, writeCsv } from '@fabula/core'
import type { FollowRequest, LostReply, TraceReply } from '@fabula/core/api'

/** A row of a file, or a typed-in one. */
export type SourceName = FollowRequest['from']
/** What is asked about: a row or a cell of a table after a step, a row of a source, or the rows that a table lost. */
export type TraceSubject =
  | {
      readonly kind: 'back'
      readonly table: string
      readonly step: string
      /** Counted from 1. */ readonly row: number
      readonly column?: string
      readonly value?: string | null
    }
  | { readonly kind: 'forward'; readonly from: SourceName }
  | { readonly kind: 'lost'; readonly table: string }

/** A source row as people name it. */
export const sourceWords = (from: SourceName, nameOf: (table: string) => string): string =>
  'entered' in from
    ? `row ${from.row} of ${nameOf(from.entered)}`
    : `row ${from.row} of ${from.sheet === undefined ? from.file : `${from.sheet} in ${from.file}`}`

/** The rows of one file, sheet or typed-in table among those that something comes from. */
export type SourceGroup = {
  readonly key: string
  readonly title: string
  readonly columns: readonly string[]
  readonly rows: TraceReply['sources']
}

/** Source rows by file, sheet or typed-in table, in their order, with the columns that any of them shows. */
export const sourceGroups = (sources: TraceReply['sources'], nameOf: (table: string) => string): SourceGroup[] => {
  const groups = new Map<string, TraceReply['sources']>()
  for (const source of sources) {
    const key = 'entered' in source ? source.entered : `${source.input} ${source.file} ${source.sheet ?? ''}`
    groups.set(key, [...(groups.get(key) ?? []), source])
  }
  return [...groups].map(([key, rows]) => {
    const [first] = rows
    const title = () => {
      if (!first) return ''
      if ('entered' in first) return nameOf(first.entered)
      return first.sheet === undefined ? first.file : `${first.file}, ${first.sheet}`
    }
    return { key, title: title(), columns: [...new Set(rows.flatMap(({ values }) => Object.keys(values)))], rows }
  })
}

type LostInput = LostReply['inputs'][number]

/** “1,110 of 1,204 rows of Visits are in it; 94 left.” */
export const lostWords = ({ name, opened, inResult, withoutFigure }: LostInput): string => {
  const left = opened - inResult
  const figureless =
    withoutFigure !== null && withoutFigure > 0 ? ` ${figure(withoutFigure)} of those in it enter no figure.` : ''
  return `${figure(inResult)} of ${counted(opened, 'row')} of ${name} ${inResult === 1 ? 'is' : 'are'} in it; ${left === 0 ? 'none left' : `${figure(left)} left`}.${figureless}`
}

const lostColumns = ['Input', 'File', 'Sheet', 'Row', 'Left at', 'Why']

/** The rows that left as CSV: where each is, and at which sentence and why it left. */
export const lostCsv = ({ inputs }: LostReply): string => {
  const rows = inputs.flatMap(({ name, left }) =>
    left.flatMap(({ place, sentence, why, rows: all }) =>
      all.map(({ file, sheet = null, row }) => [name, file, sheet, String(row), `${place} ${sentence}`, why]),
    ),
  )
  const columns = lostColumns.map((_, c) =>
    columnOf(
      'text',
      rows.map((row) => row[c] ?? null),
    ),
  )
  return writeCsv(Table.of(lostColumns, columns, rows.length), true)
}
