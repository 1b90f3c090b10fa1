import type { SampleReply } from '@fabula/core/api'
import { Button } from '../ui/parts.tsx'
import { askedTitle, toggledColumn, withColumns } from './source-model.ts'
import type { Sources } from './use-sources.ts'

/** A table's first rows, and which of its columns are wanted. */
const Sample = ({
  sample,
  chosen,
  toggle,
}: {
  sample: SampleReply
  chosen: readonly string[] | undefined
  toggle: ((name: string) => void) | undefined
}) => (
  <div className="min-h-0 overflow-auto border border-line" tabIndex={0} aria-label="The first rows">
    <table className="figures border-collapse text-[12.5px]">
      <thead>
        <tr>
          {sample.names.map((name) => (
            <th
              key={name}
              scope="col"
              className="sticky top-0 border-r border-b border-line bg-paper px-2.5 py-1.5 text-left font-semibold whitespace-nowrap"
            >
              {toggle ? (
                <label className="flex items-center gap-1.5">
                  <input
                    type="checkbox"
                    checked={chosen === undefined || chosen.includes(name)}
                    onChange={() => toggle(name)}
                  />{' '}
                  {name}
                </label>
              ) : (
                name
              )}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {sample.rows.map((row, r) => (
          <tr key={r} className="h-[27px]">
            {row.map((cell, c) => (
              <td key={c} className="max-w-[240px] truncate border-r border-b border-line px-2.5">
                {cell === '' ? <span className="text-ink-3 italic">empty</span> : cell}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  </div>
)

/** The first rows of what is asked for, before it is taken. */
export const SamplePane = ({ sources }: { sources: Sources }) => {
  const { asked, sample, columns, setColumns, take, progress, kind } = sources
  const toggle = (name: string): void => setColumns(toggledColumn(sample?.names ?? [], columns, name))
  return (
    <section aria-label="What it holds" className="flex min-h-0 min-w-0 flex-col gap-3 bg-sheet p-4">
      {sample && asked ? (
        <>
          <div className="flex items-center gap-3">
            <h2 className="truncate font-serif text-[15px] font-semibold">{askedTitle(asked)}, its first rows</h2>
            <Button
              look="main"
              className="ml-auto flex-none"
              disabled={take.isPending || columns?.length === 0}
              onClick={() => take.mutate(withColumns(asked, columns))}
            >
              Take it
            </Button>
          </div>
          <Sample sample={sample} chosen={columns} toggle={asked.kind === 'odata' ? toggle : undefined} />
        </>
      ) : (
        <p className="p-4 font-serif text-ink-3 italic">
          {kind === 'web' || kind === 'cluster'
            ? 'What is fetched opens on the sheet, where you decide how it is read.'
            : 'Choose a table to see its first rows before you take it.'}
        </p>
      )}
      {take.isPending && (
        <p role="status" className="figures text-ink-2">
          Fetching. {progress?.doing}
        </p>
      )}
    </section>
  )
}
