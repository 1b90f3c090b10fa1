import { figure } from '@fabula/core'
import type { ReconcileReply } from '@fabula/core/api'
import { isNumeric, Written } from '../grid/cells.tsx'

type Shown = ReconcileReply['shown']
type State = Shown['rows'][number]['state']

const marks: Readonly<Record<State, string>> = { removed: '−', added: '+', same: '' }
const rowTints: Readonly<Record<State, string>> = {
  removed: 'bg-removed-tint text-removed *:not-first:line-through',
  added: 'bg-added-tint',
  same: '',
}
const headTones: Readonly<Record<State, string>> = { removed: 'text-removed', added: 'text-added', same: '' }

const Head = ({ column: { name, type, state } }: { column: Shown['columns'][number] }) => (
  <th scope="col" className={`${isNumeric(type) ? 'text-right!' : ''} ${headTones[state]}`}>
    {marks[state] === '' ? '' : `${marks[state]} `}
    {name}
  </th>
)

const Row = ({ row, columns }: { row: Shown['rows'][number]; columns: Shown['columns'] }) => (
  <tr
    data-state={row.state}
    className={`h-[27px] *:border-b *:border-line *:px-2.5 *:whitespace-pre ${rowTints[row.state]}`}
  >
    <td className="text-right text-[12px] text-ink-3">
      {marks[row.state]} {figure(row.row + 1)}
    </td>
    {row.cells.map((cell, c) => {
      const old = row.old?.[c]
      return (
        <td
          key={c}
          className={`max-w-[240px] truncate ${isNumeric(columns[c]?.type ?? 'text') ? 'text-right' : ''} ${old === undefined ? '' : 'changed-mark relative bg-changed-tint'}`}
        >
          {old !== undefined && (
            <s className="mr-1.5 text-[0.92em] text-changed">
              <Written text={old} type={columns[c]?.type ?? 'text'} />
            </s>
          )}
          <Written text={cell} type={columns[c]?.type ?? 'text'} />
        </td>
      )
    })}
  </tr>
)

/** The rows that differ, with what was there struck beside what is there now. */
export const DifferentRows = ({ shown: { columns, rows } }: { shown: Shown }) => (
  <table className="figures text-[12.5px]">
    <thead className="sticky top-0 z-10 bg-sheet">
      <tr className="*:border-b *:border-line-strong *:px-2.5 *:py-1.5 *:text-left *:font-semibold">
        <th scope="col">row</th>
        {columns.map((column) => (
          <Head key={column.name} column={column} />
        ))}
      </tr>
    </thead>
    <tbody>
      {rows.map((row, i) => (
        <Row key={i} row={row} columns={columns} />
      ))}
    </tbody>
  </table>
)
