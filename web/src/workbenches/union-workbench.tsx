import { counted, figure } from '@fabula/core'
import type { AlignReply } from '@fabula/core/api'
import type { Story } from '../story/use-story.ts'
import { DragOnto, useDropPlace } from '../ui/drag-onto.tsx'
import { Button, Dot, Notice, Segments } from '../ui/parts.tsx'
import { AddTables } from './union-add-tables.tsx'
import { UnionCell } from './union-cell.tsx'
import { alignedInto, withTables, type ColumnSource } from './union-edits.ts'
import {
  cellsOf,
  emptyCells,
  openPartners,
  partnerReason,
  typesOf,
  withColumns,
  withOrigin,
  type AlignedColumn,
  type UnionStep,
} from './union-model.ts'
import { useUnion, type UnionModel } from './use-union.ts'

/** A column that may be one with a column of another name. */
const Partner = ({ union, partner }: { union: UnionModel; partner: AlignReply['partners'][number] }) => {
  const { step, story, columns, ids, nameOf } = union
  const { at, column, into } = partner
  const lay = (): void => {
    const target = columns.find(({ name }) => name === into)
    if (target) story.reword(alignedInto(step, { table: ids[at] ?? '', column }, into, cellsOf(target, ids)))
  }
  return (
    <Notice>
      <b>{column}</b> of {nameOf(ids[at] ?? '')} may be <b>{into}</b>: {partnerReason(partner)}.{' '}
      <Button look="link" className="py-0!" onClick={lay}>
        Lay them together
      </Button>
    </Notice>
  )
}

/** Which tables and columns are taken, and what may be aligned by hand. */
const Heading = ({ union, data }: { union: UnionModel; data: AlignReply }) => {
  const { step, story, ids, rows } = union
  const total = rows.reduce((sum, count) => sum + count, 0)
  return (
    <div className="grid gap-2 border-b border-line px-3.5 py-2.5">
      <AddTables step={step} story={story} />
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <Segments
          label="Which columns"
          value={step.columns === 'shared' ? 'shared' : 'all'}
          of={[
            ['all', 'all columns'],
            ['shared', 'only those that all have'],
          ]}
          onChange={(which) => story.reword(withColumns(step, which))}
        />
        <label className="flex items-center gap-2 text-[12.5px]">
          <input
            type="checkbox"
            checked={step.origin !== undefined}
            onChange={(event) => story.reword(withOrigin(step, event.target.checked))}
          />{' '}
          a column with the table’s name
        </label>
        <span className="figures ml-auto text-[12.5px] text-ink-3">
          {counted(ids.length, 'table')}, {counted(total, 'row')}
        </span>
      </div>
      {openPartners(data, step, ids)
        .slice(0, 6)
        .map((partner) => (
          <Partner key={`${partner.at}${partner.column}`} union={union} partner={partner} />
        ))}
    </div>
  )
}

/** The tables of the union, each with a way to take it out. */
const TableHeads = ({ union }: { union: UnionModel }) => {
  const { step, story, ids, rows, nameOf } = union
  const takeAway = (at: number): void => {
    const rest = step.with.filter((_, i) => i !== at - 1)
    story.reword(withTables(step, rest))
  }
  return (
    <thead className="sticky top-0 z-10 bg-sheet">
      <tr className="*:border-b *:border-line-strong *:px-2.5 *:py-1.5 *:text-left">
        <th scope="col" className="sticky left-0 min-w-[150px] bg-sheet font-serif text-[13px]">
          Column
        </th>
        {ids.map((id, at) => (
          <th key={at} scope="col" className="min-w-[120px] font-serif text-[13px] font-semibold">
            <span className="flex items-center gap-1.5">
              <Dot entry={story.recipe.tables.findIndex((table) => table.id === id)} />{' '}
              <span className="truncate">{nameOf(id)}</span>
              {at > 0 && step.with.length > 1 && (
                <button
                  type="button"
                  aria-label={`Take ${nameOf(id)} away`}
                  className="ml-auto px-1 font-sans text-ink-3 hover:text-ink"
                  onClick={() => takeAway(at)}
                >
                  ×
                </button>
              )}
            </span>
            <span className="figures block font-sans text-[12px] font-normal text-ink-3">
              {counted(rows[at] ?? 0, 'row')}
            </span>
          </th>
        ))}
      </tr>
    </thead>
  )
}

/** A column of the union, and where each table has it; columns are dropped on it. */
const ColumnRow = ({ union, column }: { union: UnionModel; column: AlignedColumn }) => {
  const { step, rows } = union
  const { ref, isOver } = useDropPlace(column.name)
  const leaves = step.columns === 'shared' && column.from.some((cell) => !cell)
  const types = typesOf(column)
  return (
    <tr
      ref={ref}
      className={`*:border-b *:border-line *:px-2.5 *:py-1 *:align-top ${leaves ? 'text-ink-3 line-through' : ''} ${isOver ? 'bg-token-tint' : ''}`}
    >
      <th scope="row" className="sticky left-0 bg-sheet text-left font-semibold">
        {column.name}
        <span className="block font-sans text-[12px] font-normal text-ink-3">
          {types.differ ? <span className="text-changed">{types.words}</span> : types.words}
        </span>
      </th>
      {column.from.map((cell, at) => (
        <td
          key={at}
          className={cell ? '' : 'bg-removed-tint'}
          title={cell ? undefined : `${counted(rows[at] ?? 0, 'row')} will be empty`}
        >
          <UnionCell union={union} column={column} at={at} />
        </td>
      ))}
    </tr>
  )
}

/** Lays a dragged column into another row, unless its table has a column there. */
const layColumn = ({ step, story, ids, nameOf }: UnionModel, source: ColumnSource, into: AlignedColumn): void => {
  const there = into.from[ids.indexOf(source.table)]
  const taken = there && there.column !== source.column
  story.setProblem(
    taken
      ? `${nameOf(source.table)} has a column in ${into.name} already: ${there.column}. Take that away first.`
      : undefined,
  )
  if (!taken) story.reword(alignedInto(step, source, into.name, cellsOf(into, ids)))
}

/** Tables under one another: which column each has, which may be one, which types differ. */
export const UnionWorkbench = ({ step, story }: { step: UnionStep; story: Story }) => {
  const union = useUnion(step, story)
  const { data, error } = union
  if (error)
    return (
      <div className="p-4">
        <Notice kind="removed">{error.message}</Notice>
      </div>
    )
  if (!data) return <p className="p-4 text-ink-3">Laying the tables under one another…</p>
  return (
    <div className="grid min-h-0 flex-1 grid-rows-[auto_minmax(0,1fr)]">
      <Heading union={union} data={data} />
      <div className="min-h-0 overflow-auto" role="region" tabIndex={0} aria-label="Which table has which column">
        <DragOnto
          nameOf={(thing) => (JSON.parse(thing) as ColumnSource).column}
          drop={(thing, place) => {
            const into = data.columns.find(({ name }) => name === place)
            if (into) layColumn(union, JSON.parse(thing) as ColumnSource, into)
          }}
        >
          <table className="figures w-full text-[12.5px]">
            <TableHeads union={union} />
            <tbody>
              {data.columns.map((column) => (
                <ColumnRow key={column.name} union={union} column={column} />
              ))}
            </tbody>
          </table>
        </DragOnto>
        <p className="px-3.5 py-2 text-[12px] text-ink-3">
          A column of another name is dragged to the row it belongs to; what is tinted stays empty in{' '}
          {figure(emptyCells(data.columns, union.rows))} cells.
        </p>
      </div>
    </div>
  )
}
