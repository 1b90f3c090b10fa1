import { useQuery } from '@tanstack/react-query'
import { counted } from '@fabula/core'
import type { PreviewReply } from '@fabula/core/api'
import { previewQuery } from '../api/queries.ts'
import { Written } from '../grid/cells.tsx'
import type { Story } from '../story/use-story.ts'

/** A corner of a table: its first columns and rows, and how much more there is. */
const Corner = ({
  title,
  view,
  rows,
  marked,
}: {
  title: string
  view: PreviewReply
  rows: number
  marked: ReadonlySet<string>
}) => {
  const names = view.columns.filter(({ state }) => state !== 'removed')
  // what the change is about stands in the corner, beside the first column
  const shown = [
    ...names.slice(0, 1),
    ...names.slice(1).filter(({ name }) => marked.has(name)),
    ...names.slice(1).filter(({ name }) => !marked.has(name)),
  ].slice(0, 4)
  return (
    <figure className="grid gap-1">
      <figcaption className="text-[12px] text-ink-3">
        {title}: {counted(names.length, 'column')}, {counted(view.total, 'row')}
      </figcaption>
      <table className="figures w-full table-fixed border border-line text-[11.5px]">
        <thead>
          <tr className="bg-sunk *:truncate *:border-b *:border-line *:px-1.5 *:py-0.5 *:text-left *:font-semibold">
            {shown.map(({ name }) => (
              <th key={name} scope="col" className={marked.has(name) ? 'text-token' : ''}>
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {view.rows.slice(0, rows).map(({ row, cells }) => (
            <tr key={row} className="*:truncate *:border-b *:border-line *:px-1.5 *:py-0.5">
              {shown.map(({ name, type }) => (
                <td key={name}>
                  <Written text={cells[view.columns.findIndex((column) => column.name === name)] ?? null} type={type} />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </figure>
  )
}

/** From this, to this: a corner of the table before the sentence and after it. */
export const ShapePanel = ({ story }: { story: Story }) => {
  const { endpoint, flow, cursor } = story
  const id = story.draft?.step.id
  const before = useQuery(previewQuery(endpoint, flow.files, cursor, 'before', 'all', 0))
  const after = useQuery(previewQuery(endpoint, flow.files, cursor, 'after', 'all', 0))
  const broken = story.steps.find((step) => step.id === id)?.state !== 'fine'
  if (!before.data || !after.data || broken || before.data.total === 0) return null
  const old = new Set(before.data.columns.map(({ name }) => name))
  const now = new Set(after.data.columns.map(({ name }) => name))
  return (
    <section aria-label="From this, to this" className="grid gap-2">
      <Corner
        title="From this"
        view={before.data}
        rows={3}
        marked={new Set([...old].filter((name) => !now.has(name)))}
      />
      <span aria-hidden className="text-center text-rubric">
        ↓
      </span>
      <Corner title="To this" view={after.data} rows={5} marked={new Set([...now].filter((name) => !old.has(name)))} />
    </section>
  )
}
