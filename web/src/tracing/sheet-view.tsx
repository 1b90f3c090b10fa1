import { columnLetters, figure, type Recipe } from '@fabula/core'
import type { QueryData, SheetReply } from '@fabula/core/api'
import { useQuery } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { sheetQuery } from '../api/queries.ts'
import { shownText } from '../grid/cells.tsx'
import { useFlow } from '../story/flow-context.ts'
import { Button, Notice } from '../ui/parts.tsx'
import type { SheetPlace, SourceName } from './subject.ts'

/** So many rows are shown at a time, the row it is opened on among the first. */
const pageRows = 60
const rowsAbove = 8

const placeWords = ({ file = '', sheet }: SheetPlace): string => (sheet === undefined ? file : `${file}, ${sheet}`)

/** Which sheet, and which of its rows are shown. */
const SheetControls = ({
  reply: { total, parts, shown },
  first,
  goTo,
  choose,
}: {
  reply: SheetReply
  first: number
  goTo: (row: number) => void
  choose: (place: SheetPlace) => void
}) => (
  <div className="mb-2 flex flex-wrap items-center gap-3 text-[12.5px]">
    {parts.length > 1 && (
      <select
        aria-label="File or sheet"
        className="max-w-full rounded-md border border-line bg-sheet px-2 py-1"
        value={parts.findIndex((one) => placeWords(one) === placeWords(shown))}
        onChange={({ target }) => choose(parts[Number(target.value)] ?? shown)}
      >
        {parts.map((one, i) => (
          <option key={placeWords(one)} value={i}>
            {placeWords(one)}
          </option>
        ))}
      </select>
    )}
    <label className="flex items-center gap-2">
      From row
      <input
        type="number"
        min={1}
        max={total}
        value={first}
        className="figures w-24 rounded-md border border-line bg-sheet px-2 py-1"
        onChange={({ target }) => goTo(Math.floor(target.valueAsNumber) || 1)}
      />
    </label>
    <span role="status" className="text-ink-3">
      of {figure(total)}
    </span>
    <Button look="link" className="py-0!" disabled={first === 1} onClick={() => goTo(first - pageRows)}>
      Earlier rows
    </Button>
    <Button look="link" className="py-0!" disabled={first + pageRows > total} onClick={() => goTo(first + pageRows)}>
      Later rows
    </Button>
  </div>
)

/** Rows of a file as they stand in it, opened on one of them; each can be followed forward. */
export const SheetView = ({
  recipe,
  of,
  row,
  data,
  follow,
}: {
  recipe: Recipe
  of: SheetPlace
  row: number
  data: QueryData | undefined
  follow: (from: SourceName) => void
}) => {
  const { flow, endpoint } = useFlow()
  const [place, setPlace] = useState(of)
  const [first, setFirst] = useState(Math.max(1, row - rowsAbove))
  const marked = useRef<HTMLTableRowElement>(null)
  const asked = { recipe, of: place, first, count: pageRows, ...(data ? { data } : {}) }
  const reply = useQuery(sheetQuery(endpoint, [flow.edit, flow.files], asked))
  const shown = reply.data
  useEffect(() => void marked.current?.scrollIntoView({ block: 'nearest' }), [shown])
  if (reply.error) return <Notice kind="removed">{reply.error.message}</Notice>
  if (!shown) return <p className="font-serif text-ink-3 italic">Opening the file…</p>
  const { total, rows } = shown
  const width = Math.max(shown.columns?.length ?? 0, ...rows.map(({ cells }) => cells.length))
  const goTo = (next: number): void => setFirst(Math.min(Math.max(1, next), Math.max(1, total)))
  return (
    <>
      <SheetControls
        reply={shown}
        first={first}
        goTo={goTo}
        choose={(next) => {
          setPlace(next)
          setFirst(1)
        }}
      />
      <div className="overflow-auto rounded-lg border border-line" role="region" tabIndex={0} aria-label="The sheet">
        <table className="figures w-full text-[12px]">
          <thead>
            <tr className="text-left text-ink-3 *:border-b *:border-line *:px-2 *:py-1 *:font-normal">
              <th scope="col">row</th>
              {Array.from({ length: width }, (_, c) => (
                <th key={c} scope="col">
                  {shown.columns?.[c] ?? columnLetters(c + 1)}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map(({ at, cells }) => (
              <tr
                key={at}
                ref={at === row ? marked : undefined}
                aria-current={at === row && placeWords(shown.shown) === placeWords(of) ? 'true' : undefined}
                className="aria-[current]:bg-changed-tint *:border-b *:border-line *:px-2 *:py-1"
              >
                <th scope="row" className="text-left font-normal">
                  <button
                    type="button"
                    className="text-token hover:underline"
                    aria-label={`What became of row ${at}`}
                    onClick={() => follow({ ...shown.shown, row: at })}
                  >
                    {at}
                  </button>
                </th>
                {Array.from({ length: width }, (_, c) => (
                  <td key={c} className="max-w-[220px] truncate whitespace-pre" title={cells[c]}>
                    {shownText(cells[c] ?? '')}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </>
  )
}
