import { counted, figure, tableNames, type Recipe } from '@fabula/core'
import type { FollowReply, QueryData } from '@fabula/core/api'
import { useQuery } from '@tanstack/react-query'
import { followQuery } from '../api/queries.ts'
import { shownText } from '../grid/cells.tsx'
import { useFlow } from '../story/flow-context.ts'
import { Button, Notice } from '../ui/parts.tsx'
import type { SourceName, TraceSubject } from './subject.ts'

/** So many rows of a result are listed. */
const mostListed = 20

const FateItem = ({
  fate,
  name,
  back,
}: {
  fate: FollowReply['fates'][number]
  name: string
  back: (row: number) => void
}) => (
  <li className="border-b border-line py-2">
    <b className="font-serif text-[14px]">{name}</b>
    {'left' in fate ? (
      <p>
        <span className="text-removed">left</span> at “{fate.left.sentence}” {fate.left.why}
      </p>
    ) : (
      <p>
        <span className="text-added">in {counted(fate.count, 'row')}</span>
        {fate.rows.map((row) => (
          <Button
            key={row}
            look="link"
            className="figures ml-2 py-0!"
            aria-label={`Where row ${row} of ${name} comes from`}
            onClick={() => back(row)}
          >
            {figure(row)}
          </Button>
        ))}
        {fate.count > fate.rows.length && ' …'}
      </p>
    )}
  </li>
)

/** What became of a row of a file in every table that it reaches. */
export const ForwardView = ({
  recipe,
  from,
  data,
  show,
  open,
}: {
  from: SourceName
  recipe: Recipe
  data: QueryData | undefined
  show: (subject: TraceSubject) => void
  open: (from: SourceName) => void
}) => {
  const { flow, endpoint } = useFlow()
  const reply = useQuery(
    followQuery(endpoint, [flow.edit, flow.files], {
      recipe,
      from,
      limit: mostListed,
      ...(data ? { data } : {}),
    }),
  )
  if (reply.error) return <Notice kind="removed">{reply.error.message}</Notice>
  if (!reply.data) return <p className="font-serif text-ink-3 italic">Following it forward…</p>
  const { values, fates } = reply.data
  const nameOf = tableNames(recipe)
  const back = (table: string, row: number): void => {
    const step = recipe.tables.find(({ id }) => id === table)?.steps.at(-1)?.id ?? ''
    show({ kind: 'back', table, step, row })
  }
  return (
    <>
      <dl className="mb-3 grid grid-cols-[120px_1fr] gap-x-3 gap-y-0.5 text-[12.5px]">
        {Object.entries(values).map(([name, text]) => (
          <div key={name} className="contents">
            <dt className="truncate text-ink-3">{name}</dt>
            <dd className="figures whitespace-pre-wrap">{shownText(text)}</dd>
          </div>
        ))}
      </dl>
      <ul role="status" className="border-t border-line text-[13px]">
        {fates.map((fate) => (
          <FateItem key={fate.table} fate={fate} name={nameOf(fate.table)} back={(row) => back(fate.table, row)} />
        ))}
        {fates.length === 0 && <li className="py-2 text-ink-2">It reaches no table that is written.</li>}
      </ul>
      {'file' in from && (
        <Button look="link" className="mt-3 px-0!" onClick={() => open(from)}>
          Open the sheet here
        </Button>
      )}
    </>
  )
}
