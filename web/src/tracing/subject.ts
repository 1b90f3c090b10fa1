import { counted, figure, type ColumnType } from '@fabula/core'
import type { FollowRequest, LostReply, TableQueryRequest, TraceReply } from '@fabula/core/api'
import { csvOfTexts } from '../ui/download.ts'

/** A row of a file, or a typed-in one. */
export type SourceName = FollowRequest['from']
/** What is asked about: a row or a cell of a table after a step, a row of a source, or the rows that a table lost. */
export type TraceSubject =
  | {
      readonly kind: 'back'
      /** Of the cell, where one is asked of. */ readonly type?: ColumnType
      readonly table: string
      readonly step: string
      /** Counted from 1. */ readonly row: number
      readonly column?: string
      readonly value?: string | null
    }
  | { readonly kind: 'forward'; readonly from: SourceName }
  | {
      readonly kind: 'lost'
      readonly table: string
      /** Between these sentences; from the files to the result where one is absent. */
      readonly since?: string
      readonly until?: string
    }
  | { readonly kind: 'sheet'; readonly of: SheetPlace; /** The row it is opened on. */ readonly row: number }

/** A file or sheet of an input; its first where the file is absent. */
export type SheetPlace = TableQueryRequest<'sheet'>['of']

/** A source row as people name it. */
export const sourceWords = (from: SourceName, nameOf: (table: string) => string): string =>
  'entered' in from
    ? `row ${from.row} of ${nameOf(from.entered)}`
    : `row ${from.row} of ${from.sheet === undefined ? from.file : `${from.sheet} in ${from.file}`}`

type Sources = TraceReply['sources']
/** The rows of one file, sheet or typed-in table among those that something comes from. */
export type SourceGroup = {
  readonly key: string
  readonly title: string
  readonly columns: readonly string[]
  readonly rows: Sources
  /** Those of the rows that a figure passed over. */
  readonly passedOver: ReadonlySet<Sources[number]>
}

/** Source rows by file, sheet or typed-in table, in their order, with the columns that any of them shows. */
export const sourceGroups = (
  sources: Sources,
  nameOf: (table: string) => string,
  passed: Sources = [],
): SourceGroup[] => {
  const groups = new Map<string, Sources[number][]>()
  for (const source of [...sources, ...passed]) {
    const key = 'entered' in source ? source.entered : `${source.input} ${source.file} ${source.sheet ?? ''}`
    const known = groups.get(key)
    if (known) known.push(source)
    else groups.set(key, [source])
  }
  const passedOver = new Set(passed)
  return [...groups].map(([key, rows]) => {
    const [first] = rows
    const title = () => {
      if (!first) return ''
      if ('entered' in first) return nameOf(first.entered)
      return first.sheet === undefined ? first.file : `${first.file}, ${first.sheet}`
    }
    return {
      key,
      title: title(),
      columns: [...new Set(rows.flatMap(({ values }) => Object.keys(values)))],
      rows: rows.sort((a, b) => a.row - b.row),
      passedOver,
    }
  })
}

type LostInput = LostReply['inputs'][number]

/** “1,110 of 1,204 rows of Visits are in it; 94 left.” `of`: what they are in. */
export const lostWords = ({ name, opened, inResult, withoutFigure }: LostInput, of = 'it'): string => {
  const left = opened - inResult
  const figureless =
    withoutFigure !== null && withoutFigure > 0 ? ` ${figure(withoutFigure)} of those in it enter no figure.` : ''
  return `${figure(inResult)} of ${counted(opened, 'row')} of ${name} ${inResult === 1 ? 'is' : 'are'} in ${of}; ${left === 0 ? 'none left' : `${figure(left)} left`}.${figureless}`
}

/** So many reasons are named in a sentence. */
const mostReasons = 4
/** “61 at Takings 5, Status is Cancelled; 31 at Takings 5, Status is Test”: why rows left, the most frequent first. */
export const reasonWords = ({ left }: LostInput): string => {
  const named = left.slice(0, mostReasons).map(({ count, place, why }) => `${figure(count)} at ${place}, ${why}`)
  const rest = left.slice(mostReasons).reduce((sum, { count }) => sum + count, 0)
  const all = [...named, ...(rest > 0 ? [`${figure(rest)} more for other reasons`] : [])]
  return all.length === 0 ? '' : `${all.join('; ')}.`
}

const lostColumns = ['Input', 'File', 'Sheet', 'Row', 'Left at', 'Why']

/** The rows that left as CSV: where each is, and at which sentence and why it left. */
export const lostCsv = ({ inputs }: LostReply): string => {
  const rows = inputs.flatMap(({ name, left }) =>
    left.flatMap(({ place, sentence, why, rows: all }) =>
      all.map(({ file, sheet = null, row }) => [name, file, sheet, String(row), `${place} ${sentence}`, why]),
    ),
  )
  return csvOfTexts(lostColumns, rows)
}
