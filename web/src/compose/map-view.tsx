import { useQueries } from '@tanstack/react-query'
import { ownValue, counted, inOrder, type RecipeTable, openedBy } from '@fabula/core'
import { storyQuery } from '../api/queries.ts'
import { Dot } from '../ui/parts.tsx'
import type { Story } from '../story/use-story.ts'
import { feedersOf, isWritten } from '../story/tables.ts'

const rowHeight = 58
const reach = 15

type Arc = {
  readonly from: number
  readonly to: number
  readonly lane: number
  readonly entry: number
  readonly key: string
}

/** Lanes so that arcs that overlap do not lie on one another; short arcs are nearest to the tables. */
const arcsOf = (tables: readonly RecipeTable[], entryOf: (id: string) => number): Arc[] => {
  const all = tables.flatMap((table, to) =>
    feedersOf(table).map((id) => ({
      from: tables.findIndex((one) => one.id === id),
      to,
      entry: entryOf(id),
      key: `${id}>${table.id}`,
    })),
  )
  const aligned: Arc[] = []
  for (const arc of all.filter(({ from }) => from >= 0).sort((a, b) => a.to - a.from - (b.to - b.from))) {
    const [low, high] = [Math.min(arc.from, arc.to), Math.max(arc.from, arc.to)]
    let lane = 0
    while (
      aligned.some(
        (other) => other.lane === lane && Math.min(other.from, other.to) < high && Math.max(other.from, other.to) > low,
      )
    )
      lane++
    aligned.push({ ...arc, lane })
  }
  return aligned
}

/** How the tables hang together: one under the other as they are made, with an arc from each to those it feeds. */
export const MapView = ({ story }: { story: Story }) => {
  const { recipe, files } = story.flow
  const tables = inOrder(recipe)
  const entryOf = (id: string): number => recipe.tables.findIndex((table) => table.id === id)
  const reported = useQueries({
    queries: tables.map((table) =>
      storyQuery(story.endpoint, files, { recipe, table: table.id, step: table.steps.at(-1)?.id ?? '' }),
    ),
  })
  const arcs = arcsOf(tables, entryOf)
  const width = 34 + reach * (Math.max(-1, ...arcs.map(({ lane }) => lane)) + 1)
  const middle = (at: number): number => at * rowHeight + rowHeight / 2
  return (
    <div
      className="min-h-0 flex-1 overflow-auto px-5 py-4"
      role="region"
      aria-label="How the tables hang together"
      tabIndex={0}
    >
      <p className="mb-3 max-w-[64ch] text-ink-2">
        Each table stands below those it is made from; an arc in its colour leads to every table that it feeds. Click
        one to read its story.
      </p>
      <div className="grid" style={{ gridTemplateColumns: `${width}px minmax(0, 760px)` }}>
        <svg width={width} height={tables.length * rowHeight} aria-hidden>
          {arcs.map(({ from, to, lane, entry, key }) => {
            const x = width - 8
            const out = x - 18 - lane * reach
            const [a, b] = [middle(from) + 5, middle(to) - 5]
            const colour = `var(--strand-${(entry % 5) + 1})`
            return (
              <g key={key} stroke={colour} fill="none" strokeWidth={2}>
                <path
                  d={`M${x} ${a} H${out + 8} Q${out} ${a} ${out} ${a + 8} V${b - 8} Q${out} ${b} ${out + 8} ${b} H${x}`}
                />
                <path d={`M${x - 6} ${b - 4} L${x} ${b} L${x - 6} ${b + 4}`} />
              </g>
            )
          })}
        </svg>
        <ol>
          {tables.map((table, at) => {
            const steps = reported[at]?.data?.steps
            const last = steps?.at(-1)
            const rows = steps?.findLast(({ statistics }) => statistics !== null)?.statistics?.rowsOut
            const broken = steps?.some(({ state }) => state === 'broken' || state === 'waiting')
            const opened = table.steps[0] && openedBy(table.steps[0])
            const source = opened ? (ownValue(files, opened.input) ?? []).map(({ name }) => name) : []
            const feeders = feedersOf(table).map((id) => recipe.tables.find((one) => one.id === id)?.name ?? id)
            const rowsText = () => {
              if (broken) return 'a sentence needs a mend'
              if (rows === undefined) return 'counting…'
              return counted(rows, 'row')
            }
            const origin = () => {
              if (source.length > 0)
                return `from ${source.slice(0, 2).join(', ')}${source.length > 2 ? ` and ${source.length - 2} more` : ''}`
              if (feeders.length > 0) return `from ${feeders.join(', ')}`
              return 'typed in'
            }
            return (
              <li key={table.id} className="border-b border-line" style={{ height: rowHeight }}>
                <button
                  type="button"
                  className="grid h-full w-full grid-cols-[16px_minmax(0,1fr)_auto] items-center gap-x-2 px-2 text-left hover:bg-sunk"
                  onClick={() => story.goTo(table.id, table.steps.at(-1)?.id ?? '')}
                >
                  <Dot entry={entryOf(table.id)} />
                  <span className="min-w-0">
                    <b className="block truncate font-serif text-[14.5px] font-semibold">{table.name}</b>
                    <span className="block truncate text-[12px] text-ink-3">
                      {origin()}
                      {isWritten(recipe, table.id) ? ' · written at every replay' : ''}
                    </span>
                  </span>
                  <span className={`figures text-right text-[12.5px] ${broken ? 'text-rubric' : 'text-ink-2'}`}>
                    {rowsText()}
                    <span className="block text-[12px] text-ink-3">
                      {last ? counted(last.columns.length, 'column') : ''} · {counted(table.steps.length, 'sentence')}
                    </span>
                  </span>
                </button>
              </li>
            )
          })}
        </ol>
      </div>
    </div>
  )
}
