import type { ReactNode } from 'react'
import { useWriting, writtenValue } from '../ui/writing.ts'
import type { ColumnFacts, PreviewReply } from '@fabula/core/api'

export type GridRow = PreviewReply['rows'][number]
export type GridColumn = PreviewReply['columns'][number]

export const isNumeric = (type: GridColumn['type']): boolean => type === 'integer' || type === 'decimal'
/** What the head of a column calls its type. */
export const typeLabels: Readonly<Record<GridColumn['type'], string>> = {
  text: 'text',
  integer: 'whole number',
  decimal: 'number',
  boolean: 'yes or no',
  date: 'date',
  datetime: 'date and time',
  time: 'time',
  list: 'list',
}

/** Empty is visible, spaces at the ends are dots, line breaks a mark. */
export const shownText = (text: string | null): ReactNode => {
  if (text === null || text === '') return <span className="text-ink-3 italic">empty</span>
  if (!/^\s|\s$|[\r\n\t]/.test(text)) return text
  return text
    .replace(/^ +| +$/g, (run) => '·'.repeat(run.length))
    .replace(/\r\n|\r|\n/g, '↵')
    .replace(/\t/g, '→')
}
/** A value of a type as the reader writes it; where that leaves something out, the whole stands in its title. */
export const Written = ({ text, type }: { text: string | null; type: GridColumn['type'] }) => {
  const writing = useWriting()
  if (text === null || type === 'text' || type === 'list' || type === 'boolean') return shownText(text)
  const written = writtenValue(text, type, writing)
  if (written === text) return text
  return <span title={text}>{written}</span>
}

/** A cell: what was there struck beside what is there now. */
export const Cell = ({ row, column, at }: { row: GridRow; column: GridColumn; at: number }) => {
  const old = row.old?.[at]
  const bad = row.bad?.includes(at)
  // a row that came never had a cell in a column that went
  if (column.state === 'removed' && row.state === 'added') return null
  return (
    <>
      {old !== undefined && (
        <s className={`mr-1.5 text-[0.92em] ${bad ? 'text-removed' : 'text-changed'}`}>
          <span className="sr-only">was </span>
          <Written text={old} type={bad ? 'text' : column.type} />
        </s>
      )}
      {old !== undefined && <span className="sr-only">, now </span>}
      {bad && <span className="mr-1 text-removed">unreadable</span>}
      {!bad && <Written text={row.cells[at] ?? null} type={column.type} />}
    </>
  )
}

/** How a column is spread, in the head of the table. */
export const Bars = ({ facts, height }: { facts: ColumnFacts | undefined; height: number }) => {
  const bars = facts?.bars.slice(0, 14) ?? []
  const most = Math.max(1, ...bars.map(({ count }) => count))
  return (
    <div aria-hidden className="mt-1.5 flex items-end gap-px" style={{ height }}>
      {bars.map(({ count }, i) => (
        <i key={i} className="flex-1 bg-bar" style={{ height: Math.max(count > 0 ? 2 : 0, (count / most) * height) }} />
      ))}
    </div>
  )
}
