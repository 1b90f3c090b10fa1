import { ownValue } from '@fabula/core'
import type { ColumnFacts } from '@fabula/core/api'
import { memo, type KeyboardEvent, type RefObject } from 'react'
import { DragList } from '../ui/drag-list.tsx'
import { GridColumns } from './grid-columns.tsx'
import { Head } from './head.tsx'
import { headHeight, numberWidth } from './layout.ts'
import type { GridModel, GridShape } from './use-grid.ts'
import { ViewMenu } from './view-menu.tsx'

type Facts = Readonly<Record<string, ColumnFacts>>
type HeadsProps = {
  readonly shape: GridShape
  /** The grid as it is when a head is used. */
  readonly grid: RefObject<GridModel>
  readonly facts: Facts
  readonly drafting: boolean
}

const GridColumnHead = ({
  shape: { layout, columns, chosen },
  grid,
  at,
  left,
  facts,
  drafting,
  stop,
}: HeadsProps & {
  /** The position among the columns in sight. */
  at: number
  left: number
  /** It is the one head that Tab reaches. */
  stop: boolean
}) => {
  const c = layout.shown[at] ?? 0
  const column = columns[c]
  if (!column) return null
  const { name } = column
  const resize = (width: number): void => {
    const { view, setView } = grid.current
    setView({ widths: { ...view.widths, [name]: width / view.zoom } })
  }
  return (
    <Head
      column={column}
      at={c}
      left={left}
      width={layout.widths[at] ?? 120}
      on={chosen.includes(name)}
      stop={stop}
      facts={ownValue(facts, name)}
      drafting={drafting}
      choose={(one, more, span) => grid.current.choose(one, more, span)}
      resize={resize}
      fit={() => grid.current.fit([name])}
      rename={(next) => grid.current.story.begin({ kind: 'rename', names: { [name]: next } })}
    />
  )
}

/** The heads in sight; drawn anew only when one of them changes, not whenever rows scroll. */
const Heads = memo((props: HeadsProps) => {
  const { shape } = props
  const { frozen, shown } = shape.layout
  const here = [...shape.layout.frozenLefts.keys(), ...shape.inSight.map(({ index }) => index + frozen)]
  const chosenAt = here.find((at) => shape.chosen.includes(shape.columns[shown[at] ?? 0]?.name ?? ''))
  const stop = chosenAt ?? here[0]
  const head = (at: number, left: number) => {
    const column = shape.columns[shown[at] ?? 0]
    return <GridColumnHead key={`${column?.state}${column?.name}`} {...props} at={at} left={left} stop={at === stop} />
  }
  /** The dragged column, with all that are selected where it is one of them, goes to the place of another. */
  const drop = (dragged: string, place: string): void => {
    const names = shown.map((c) => shape.columns[c]?.name ?? '')
    const moved = shape.chosen.includes(dragged) ? shape.chosen : [dragged]
    const to = names.indexOf(dragged) > names.indexOf(place) ? { before: place } : { after: place }
    if (!moved.includes(place)) props.grid.current.story.begin({ kind: 'move', columns: moved, to })
  }
  return (
    <DragList
      ids={here.map((at) => shape.columns[shown[at] ?? 0]?.name ?? '')}
      nameOf={(id) => `Column ${id}`}
      way="across"
      drop={drop}
    >
      <GridColumns shape={shape} layer="z-20" column={head} />
    </DragList>
  )
})

/** Arrows walk the heads, with Shift they select; down leads into the table. */
const walkHeads = (event: KeyboardEvent<HTMLElement>, grid: GridModel): void => {
  const head = event.target instanceof HTMLElement ? event.target.closest('[role=columnheader]') : null
  const c = Number(head?.getAttribute('aria-colindex') ?? 0) - 1
  const at = grid.layout.shown.indexOf(c)
  if (at < 0 || event.target instanceof HTMLInputElement) return
  const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key]
  if (by !== undefined) {
    event.preventDefault()
    grid.walkTo(at, Math.max(0, Math.min(grid.layout.shown.length - 1, at + by)), event.shiftKey)
  } else if (event.key === 'ArrowDown') {
    event.preventDefault()
    grid.scroller.current?.focus()
    grid.goTo({ row: grid.active?.row ?? 0, at })
  } else if (event.key === ' ' && event.ctrlKey) {
    event.preventDefault()
    grid.choose(grid.columns[c]?.name ?? '', true, false)
  }
}

/** The heads of the columns, and the menu of the view above the row numbers. */
export const GridHead = ({ grid, latest, facts }: { grid: GridModel; latest: RefObject<GridModel>; facts: Facts }) => {
  const { columns, view, setView } = grid
  return (
    <div
      role="row"
      aria-rowindex={1}
      className="relative flex border-b border-line-strong bg-sheet"
      style={{ height: headHeight }}
      onKeyDown={(event) => walkHeads(event, grid)}
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
      <Heads shape={grid.shape} grid={latest} facts={facts} drafting={grid.story.draft !== undefined} />
    </div>
  )
}
