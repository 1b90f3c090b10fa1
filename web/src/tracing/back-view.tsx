import { counted, ownValue, tableNames, type Recipe } from '@fabula/core'
import type { QueryData, TraceReply } from '@fabula/core/api'
import { useQuery } from '@tanstack/react-query'
import { traceQuery } from '../api/queries.ts'
import { shownText } from '../grid/cells.tsx'
import { useFlow } from '../story/flow-context.ts'
import { Button, Notice } from '../ui/parts.tsx'
import { sourceGroups, type SourceGroup, type SourceName, type TraceSubject } from './subject.ts'

/** So many source rows are listed; how many there are is said. */
const mostListed = 100

const nameOf = (source: TraceReply['sources'][number]): SourceName =>
  'entered' in source
    ? { entered: source.entered, row: source.row }
    : {
        input: source.input,
        file: source.file,
        row: source.row,
        ...(source.sheet === undefined ? {} : { sheet: source.sheet }),
      }

const SourceTable = ({
  group,
  follow,
  open,
}: {
  group: SourceGroup
  follow: (from: SourceName) => void
  open: (from: SourceName) => void
}) => {
  const [first] = group.rows
  return (
    <div
      className="mt-2 overflow-auto rounded-lg border border-line"
      role="region"
      tabIndex={0}
      aria-label={group.title}
    >
      <table className="figures w-full text-[12px]">
        <caption className="border-b border-line px-2.5 py-1.5 text-left font-sans text-ink-2">
          <span className="flex gap-3">
            {group.title} · {counted(group.rows.length, 'row')}
            {first && 'file' in first && (
              <Button look="link" className="ml-auto py-0! text-[12px]!" onClick={() => open(nameOf(first))}>
                open the sheet here
              </Button>
            )}
          </span>
        </caption>
        <thead>
          <tr className="text-left text-ink-3 *:border-b *:border-line *:px-2 *:py-1 *:font-normal">
            <th scope="col">row</th>
            {group.columns.map((column) => (
              <th key={column} scope="col">
                {column}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {group.rows.map((source) => (
            <tr
              key={source.row}
              className={`*:border-b *:border-line *:px-2 *:py-1 ${group.passedOver.has(source) ? 'text-ink-3' : ''}`}
            >
              <th scope="row" className="text-left font-normal">
                <button
                  type="button"
                  className="text-token hover:underline"
                  aria-label={`What became of row ${source.row}`}
                  onClick={() => follow(nameOf(source))}
                >
                  {source.row}
                  {group.passedOver.has(source) && <span className="ml-1 text-ink-3">passed over</span>}
                  {(source.times ?? 1) > 1 && <span className="ml-1 text-ink-3">{source.times}×</span>}
                </button>
              </th>
              {group.columns.map((column) => (
                <td
                  key={column}
                  className={`whitespace-pre ${source.columns?.includes(column) && !group.passedOver.has(source) ? 'bg-changed-tint font-semibold' : ''}`}
                >
                  {shownText(ownValue(source.values, column) ?? null)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}

/** Where a row or a cell comes from: what each sentence did to it, the newest first, down to the rows of the files. */
export const BackView = ({
  recipe,
  subject,
  data,
  follow,
  open,
}: {
  subject: Extract<TraceSubject, { kind: 'back' }>
  recipe: Recipe
  data: QueryData | undefined
  follow: (from: SourceName) => void
  open: (from: SourceName) => void
}) => {
  const { flow, endpoint } = useFlow()
  const { table, step, row, column } = subject
  const reply = useQuery(
    traceQuery(
      endpoint,
      [flow.edit, flow.files],
      { recipe: recipe, table, step },
      { row, ...(column === undefined ? {} : { column }), limit: mostListed, ...(data ? { data } : {}) },
    ),
  )
  if (reply.error) return <Notice kind="removed">{reply.error.message}</Notice>
  if (!reply.data) return <p className="font-serif text-ink-3 italic">Following it back…</p>
  const { count, sources, steps, passedOver } = reply.data
  return (
    <>
      <p role="status" className="mb-3 text-[12.5px] text-ink-2">
        {count === 0 ? 'It comes from no row of a file.' : `It comes from ${counted(count, 'row')}.`}
        {count > sources.length && ` The first ${sources.length} are listed.`}
        {passedOver.count > 0 &&
          ` ${counted(passedOver.count, 'row')} of the group ${passedOver.count === 1 ? 'is' : 'are'} passed over: empty, or not read.`}
      </p>
      <ol className="ml-1 border-l-2 border-added">
        {[...steps].reverse().map(({ id, sentence, did }) => (
          <li key={id} className="relative border-b border-line py-2 pl-4">
            <span
              aria-hidden
              className="absolute top-3.5 -left-[6px] size-2.5 rounded-full border-2 border-added bg-sheet"
            />
            <span className="block font-serif text-[14px]">{sentence}</span>
            <span className="figures text-[12.5px] text-ink-2">{did}</span>
          </li>
        ))}
        <li className="pl-4">
          {sourceGroups(sources, tableNames(recipe), passedOver.sources).map((group) => (
            <SourceTable key={group.key} group={group} follow={follow} open={open} />
          ))}
        </li>
      </ol>
      {sources.length > 0 && (
        <p className="mt-3 text-[12px] text-ink-3">A row’s number follows it forward: what became of it everywhere.</p>
      )}
    </>
  )
}
