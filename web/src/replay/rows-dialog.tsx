import { counted } from '@fabula/core'
import type { PreviewReply, PreviewRequest, QueryData } from '@fabula/core/api'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { rowsQuery } from '../api/queries.ts'
import { Cell, isNumeric } from '../grid/cells.tsx'
import { tintOf } from '../grid/grid-cells.ts'
import { useFlow } from '../story/flow-context.ts'
import { Dialog } from '../ui/dialog.tsx'
import { Notice } from '../ui/parts.tsx'
import type { TraceSubject } from '../tracing/subject.ts'
import { TracePanel } from '../tracing/trace-panel.tsx'
import { PageControls, pageRows } from '../workbenches/page-controls.tsx'

/** Rows of a sentence that a figure or a finding counts. */
export type CountedRows = Pick<PreviewRequest, 'table' | 'step' | 'diffMode' | 'only' | 'texts'> & {
  /** What they are, as the head of the dialog says it. */
  readonly title: string
}

const marks: Readonly<Record<PreviewReply['rows'][number]['state'], string>> = { added: '+', removed: '−', same: '' }

const RowsTable = ({ reply, trace }: { reply: PreviewReply; trace: (row: PreviewReply['rows'][number]) => void }) => (
  <table className="figures text-[12.5px]">
    <thead className="sticky top-0 z-10 bg-sheet text-left">
      <tr className="*:border-b *:border-line-strong *:px-2.5 *:py-1.5 *:font-semibold">
        <th scope="col" className="text-right font-normal! text-ink-3">
          row
        </th>
        {reply.columns.map(({ name, type, state }) => (
          <th
            key={name}
            scope="col"
            className={`${isNumeric(type) ? 'text-right' : ''} ${state === 'removed' ? 'text-removed line-through' : ''}`}
          >
            {name}
          </th>
        ))}
      </tr>
    </thead>
    <tbody>
      {reply.rows.map((row, i) => (
        <tr key={i} data-state={row.state} className="*:border-b *:border-line *:px-2.5 *:py-[5px]">
          <th scope="row" className="text-right font-normal whitespace-nowrap text-ink-3">
            {marks[row.state]}{' '}
            <button
              type="button"
              className="text-token hover:underline"
              aria-label={`Where row ${row.row + 1} comes from`}
              onClick={() => trace(row)}
            >
              {row.row + 1}
            </button>
          </th>
          {reply.columns.map((column, c) => (
            <td
              key={column.name}
              className={`max-w-[240px] truncate whitespace-pre ${isNumeric(column.type) ? 'text-right' : ''} ${tintOf(row, column, c, false)}`}
            >
              <Cell row={row} column={column} at={c} />
            </td>
          ))}
        </tr>
      ))}
    </tbody>
  </table>
)

/** The rows behind a figure of a replay, on the files of that replay. */
export const RowsDialog = ({ rows, data, close }: { rows: CountedRows; data: QueryData; close: () => void }) => {
  const { flow, endpoint } = useFlow()
  const [from, setFrom] = useState(0)
  const [subjects, setSubjects] = useState<readonly TraceSubject[]>([])
  const { table, step, diffMode, only, texts, title } = rows
  const reply = useQuery(
    rowsQuery(
      endpoint,
      [flow.edit, flow.files],
      { recipe: flow.recipe, table, step },
      { diffMode, only, ...(texts ? { texts } : {}), from, count: pageRows, data },
    ),
  )
  const problem = reply.error?.message
  const trace = ({ row, state }: PreviewReply['rows'][number]): void => {
    const steps = flow.recipe.tables.find(({ id }) => id === table)?.steps ?? []
    const at = steps.findIndex(({ id }) => id === step)
    // a row that left, and one that is shown as it was before, stands in the table before the sentence
    const before = state === 'removed' || texts !== undefined
    const of = before ? steps[at - 1]?.id : step
    if (of !== undefined) setSubjects([{ kind: 'back', table, step: of, row: row + 1 }])
  }
  const words = () => {
    if (problem !== undefined) return ''
    return reply.data ? counted(reply.data.total, 'row') : 'Looking for them…'
  }
  return (
    <Dialog size="wide" title={title} status={words()} close={close}>
      {problem !== undefined && <Notice kind="removed">{problem}</Notice>}
      <div className="grid min-h-0 flex-1 auto-cols-fr grid-flow-col">
        <div className="min-h-0 overflow-auto" role="region" tabIndex={0} aria-label={title}>
          {reply.data && <RowsTable reply={reply.data} trace={trace} />}
          {reply.data && (
            <PageControls from={from} shown={reply.data.rows.length} total={reply.data.total} go={setFrom} />
          )}
        </div>
        {subjects.length > 0 && (
          <TracePanel
            recipe={flow.recipe}
            subjects={subjects}
            data={data}
            show={setSubjects}
            close={() => setSubjects([])}
          />
        )}
      </div>
    </Dialog>
  )
}
