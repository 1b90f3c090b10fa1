import { type ProgressReply, type SampleReply, type SourceAsked, type TakeReply } from '@fabula/core/api'
import { type UseMutationResult, type UseQueryResult } from '@tanstack/react-query'
import { type Dispatch, type SetStateAction } from 'react'
import { Button } from '../ui/parts.tsx'
import { type SourceKind } from './source-forms.tsx'

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

export function samplePane(
  sample: UseQueryResult<SampleReply>,
  asked: SourceAsked | undefined,
  title: () => string,
  take: UseMutationResult<TakeReply, Error, SourceAsked>,
  columns: readonly string[] | undefined,
  wanted: SourceAsked | undefined,
  setColumns: Dispatch<SetStateAction<readonly string[] | undefined>>,
  names: string[],
  kind: SourceKind,
  progress: UseQueryResult<ProgressReply>,
) {
  return (
    <section aria-label="What it holds" className="flex min-h-0 min-w-0 flex-col gap-3 bg-sheet p-4">
      {sample.data && asked ? (
        <>
          <div className="flex items-center gap-3">
            <h2 className="truncate font-serif text-[15px] font-semibold">{title()}, its first rows</h2>
            <Button
              look="main"
              className="ml-auto flex-none"
              disabled={take.isPending || columns?.length === 0}
              onClick={() => wanted && take.mutate(wanted)}
            >
              Take it
            </Button>
          </div>
          <Sample
            sample={sample.data}
            chosen={columns}
            toggle={
              asked.kind === 'odata'
                ? (name) =>
                    setColumns(
                      (columns ?? names).includes(name)
                        ? (columns ?? names).filter((one) => one !== name)
                        : names.filter((one) => one === name || (columns ?? names).includes(one)),
                    )
                : undefined
            }
          />
        </>
      ) : (
        <p className="p-4 font-serif text-ink-3 italic">
          {kind === 'web'
            ? 'What is fetched opens on the sheet, where you decide how it is read.'
            : 'Choose a table to see its first rows before you take it.'}
        </p>
      )}
      {take.isPending && (
        <p role="status" className="figures text-ink-2">
          Fetching. {progress.data?.doing}
        </p>
      )}
    </section>
  )
}
