import { useState } from 'react'
import { useDragged } from '../ui/drag-onto.tsx'
import { Button } from '../ui/parts.tsx'
import { alignedInto, isMoved, onItsOwn, takenApart, type ColumnSource } from './union-edits.ts'
import { apartName, cellsOf, otherType, type AlignedColumn } from './union-model.ts'
import type { UnionModel } from './use-union.ts'

type CellProps = { readonly union: UnionModel; readonly column: AlignedColumn; readonly source: ColumnSource }

/** What can be done with a column: laid elsewhere, taken away again, or taken apart from the others. */
const CellChoices = ({ union, column, source, close }: CellProps & { readonly close: () => void }) => {
  const { step, story, columns, ids } = union
  const others = columns.filter(({ name }) => name !== column.name)
  const reword = (next: typeof step): void => {
    story.reword(next)
    close()
  }
  const lay = (name: string): void => {
    const into = columns.find((one) => one.name === name)
    if (into) story.reword(alignedInto(step, source, name, cellsOf(into, ids)))
    close()
  }
  const away = () => {
    if (isMoved(step, source))
      return (
        <Button
          look="link"
          className="justify-self-start py-0! text-[12.5px]"
          onClick={() => reword(onItsOwn(step, source))}
        >
          Take it away again
        </Button>
      )
    if (cellsOf(column, ids).length <= 1) return null
    return (
      <Button
        look="link"
        className="justify-self-start py-0! text-[12.5px]"
        onClick={() => reword(takenApart(step, source, apartName(source.column, columns)))}
      >
        It is something else
      </Button>
    )
  }
  return (
    <span className="grid gap-1 py-1 font-sans">
      <select
        className="field max-w-[150px] text-[12.5px]"
        aria-label={`${source.column} is the same as`}
        value=""
        onChange={(event) => lay(event.target.value)}
      >
        <option value="">is the same as…</option>
        {others.map(({ name }) => (
          <option key={name}>{name}</option>
        ))}
      </select>
      {away()}
    </span>
  )
}

/** A cell of the matrix: a table's column, which can be dragged to another row, laid elsewhere or taken apart. */
export const UnionCell = ({
  union,
  column,
  at,
}: {
  union: UnionModel
  column: AlignedColumn
  /** The position of the table among those of the union. */
  at: number
}) => {
  const [open, setOpen] = useState(false)
  const cell = column.from[at]
  const source = { table: union.ids[at] ?? '', column: cell?.column ?? '' }
  const dragged = useDragged(JSON.stringify(source))
  if (!cell) return <span className="text-ink-3 italic">none</span>
  const type = otherType(cell.type, column.type)
  return (
    <span className="block">
      <button
        type="button"
        {...dragged}
        aria-expanded={open}
        title="Drag it to another row, or click"
        className={`min-h-6 max-w-full cursor-grab truncate rounded px-1 text-left hover:bg-sunk ${cell.column === column.name ? '' : 'bg-token-tint text-token'}`}
        onClick={() => setOpen(!open)}
      >
        {cell.column}
        {type !== '' && <span className="ml-1 text-changed">{type}</span>}
      </button>
      {open && <CellChoices union={union} column={column} source={source} close={() => setOpen(false)} />}
    </span>
  )
}
