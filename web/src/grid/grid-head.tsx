import { ownValue } from '@fabula/core'
import type { ColumnFacts } from '@fabula/core/api'
import { GridColumns } from './grid-columns.tsx'
import { Head, type DropSide } from './head.tsx'
import { headHeight, numberWidth } from './layout.ts'
import type { GridModel } from './use-grid.ts'
import { ViewMenu } from './view-menu.tsx'

type Facts = Readonly<Record<string, ColumnFacts>>

const GridColumnHead = ({
  grid,
  at,
  left,
  facts,
}: {
  grid: GridModel
  /** The position among the columns in sight. */
  at: number
  left: number
  facts: Facts
}) => {
  const { layout, columns, view, setView, chosen, story } = grid
  const c = layout.shown[at] ?? 0
  const column = columns[c]
  if (!column) return null
  const { name } = column
  const drop = (dragged: string, side: DropSide): void => {
    if (dragged === name) return
    const moved = chosen.includes(dragged) ? chosen : [dragged]
    story.begin({ kind: 'move', columns: moved, to: side === 'before' ? { before: name } : { after: name } })
  }
  return (
    <Head
      column={column}
      at={c}
      left={left}
      width={layout.widths[at] ?? 120}
      on={chosen.includes(name)}
      facts={ownValue(facts, name)}
      drafting={story.draft !== undefined}
      choose={grid.choose}
      resize={(width) => setView({ widths: { ...view.widths, [name]: width / view.zoom } })}
      fit={() => grid.fit([name])}
      rename={(next) => story.begin({ kind: 'rename', names: { [name]: next } })}
      drop={drop}
    />
  )
}

/** The heads of the columns, and the menu of the view above the row numbers. */
export const GridHead = ({ grid, facts }: { grid: GridModel; facts: Facts }) => {
  const { layout, columns, view, setView } = grid
  const head = (at: number, left: number) => {
    const column = columns[layout.shown[at] ?? 0]
    return <GridColumnHead key={`${column?.state}${column?.name}`} grid={grid} at={at} left={left} facts={facts} />
  }
  return (
    <div
      role="row"
      aria-rowindex={1}
      className="relative flex border-b border-line-strong bg-sheet"
      style={{ height: headHeight }}
    >
      <div
        role="columnheader"
        aria-label="Row"
        className="sticky left-0 z-30 h-full flex-none border-r border-line bg-paper"
        style={{ width: numberWidth }}
      >
        <span className="block pt-1.5 pr-2 text-right text-[12px] text-ink-3">row</span>
        <ViewMenu
          view={view}
          change={setView}
          chosen={grid.chosen}
          names={columns.map(({ name }) => name)}
          fit={grid.fit}
          find={() => grid.setFinding(true)}
        />
      </div>
      <GridColumns grid={grid} layer="z-20" column={head} />
    </div>
  )
}
