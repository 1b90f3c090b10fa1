import type { ReactNode } from 'react'
import type { MatchReply } from '@fabula/core/api'
import { Dot } from '../ui/parts.tsx'
import { isNumeric, Written } from '../grid/cells.tsx'
import { PageControls } from './page-controls.tsx'

type MatchSideReply = MatchReply['left']
const tints = { none: 'bg-removed-tint', one: '', many: 'bg-changed-tint' } as const
const marks = { none: '∅', one: '', many: '×' } as const

/** One of two tables on the join bench: its key columns first, rows that meet none or several tinted and marked. */
export const WorkbenchTable = ({
  name,
  entry,
  side,
  keys,
  marked,
  from,
  go,
  reported,
}: {
  name: string
  entry: number
  side: MatchSideReply
  keys: readonly string[]
  /** Whether rows are marked by how many they meet. */ marked: boolean
  from: number
  go: (from: number) => void
  reported: ReactNode
}) => {
  const order = [
    ...keys.flatMap((key) => side.columns.flatMap((field, at) => (field.name === key ? [at] : []))),
    ...side.columns.flatMap((field, at) => (keys.includes(field.name) ? [] : [at])),
  ]
  const { shown } = side
  return (
    <section aria-label={`${name} on the bench`} className="flex min-h-0 min-w-0 flex-col">
      <h2 className="flex items-center gap-2 px-3.5 pt-2.5 pb-1.5 font-serif text-[14px] font-semibold">
        <Dot entry={entry} /> <span className="truncate">{name}</span>
        <span className="figures ml-auto font-sans text-[12px] font-normal text-ink-3">{reported}</span>
      </h2>
      <div className="min-h-0 flex-1 overflow-auto" role="region" tabIndex={0} aria-label={`Rows of ${name}`}>
        <table className="figures text-[12.5px]">
          <thead className="sticky top-0 z-10 bg-sheet">
            <tr>
              <th className="w-[14px]">
                <span className="sr-only">how it meets</span>
              </th>
              {order.map((at) => (
                <th
                  key={at}
                  scope="col"
                  className={`max-w-[170px] truncate border-b border-line-strong px-2 py-1.5 font-semibold ${isNumeric(side.columns[at]?.type ?? 'text') ? 'text-right' : 'text-left'} ${keys.includes(side.columns[at]?.name ?? '') ? 'bg-token-tint text-token' : ''}`}
                >
                  {side.columns[at]?.name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {shown.rows.map(({ row, state, cells }) => {
              const label = () => {
                if (marked && state !== 'one') {
                  if (state === 'none') return 'meets none'
                  return 'meets several'
                }
                return undefined
              }
              return (
                <tr key={row} data-state={marked ? state : 'one'} className={`h-[27px] ${marked ? tints[state] : ''}`}>
                  <td className="pl-1.5 text-[12px] text-removed" aria-label={label()}>
                    {marked ? marks[state] : ''}
                  </td>
                  {order.map((at) => (
                    <td
                      key={at}
                      className={`max-w-[170px] truncate border-b border-line px-2 whitespace-pre ${isNumeric(side.columns[at]?.type ?? 'text') ? 'text-right' : ''}`}
                    >
                      <Written text={cells[at] ?? null} type={side.columns[at]?.type ?? 'text'} />
                    </td>
                  ))}
                </tr>
              )
            })}
          </tbody>
        </table>
        {shown.total === 0 && <p className="px-3.5 py-3 font-serif text-ink-3 italic">No such rows.</p>}
        <PageControls from={from} shown={shown.rows.length} total={shown.total} go={go} />
      </div>
    </section>
  )
}
