import { useQuery } from '@tanstack/react-query'
import { useState, type DragEvent } from 'react'
import { counted, figure, listed, typeWords, type Step, type StepOf } from '@fabula/core'
import type { AlignReply } from '@fabula/core/api'
import { alignQuery } from '../api/queries.ts'
import { Button, Dot, Notice, Segments } from '../ui/parts.tsx'
import type { Story } from '../story/use-story.ts'
import { cursorBefore, without } from './cursor-before.ts'
import { isMoved, alignedInto, onItsOwn, takenApart, withTables, type ColumnSource } from './union-edits.ts'
import { AddTables } from './union-add-tables.tsx'

const dragged = 'application/x-fabula-column'
type AlignedColumnReply = AlignReply['columns'][number]

/** What stands in a row of the matrix, as pairs write it. */
const cellsOf = ({ from }: AlignedColumnReply, ids: readonly string[]): ColumnSource[] =>
  from.flatMap((cell, at) => (cell ? [{ table: ids[at] ?? '', column: cell.column }] : []))

/** A cell of the matrix: a table's column, which can be dragged to another row, laid elsewhere or taken apart. */
const MatrixCell = ({
  cell,
  column,
  cells,
  step,
  story,
  columns,
  at,
}: {
  cell: AlignedColumnReply['from'][number]
  column: AlignedColumnReply
  cells: readonly ColumnSource[]
  step: StepOf<'union'>
  story: Story
  columns: readonly AlignedColumnReply[]
  at: ColumnSource | undefined
}) => {
  const [open, setOpen] = useState(false)
  if (!cell || !at) return <span className="text-ink-3 italic">none</span>
  const lone = columns.filter((other) => other.name !== column.name)
  const apartName = (): string => {
    let name = `${cell.column} 2`
    for (let n = 3; columns.some((other) => other.name === name); n++) name = `${cell.column} ${n}`
    return name
  }
  return (
    <span className="block">
      <button
        type="button"
        draggable
        onDragStart={(event) => event.dataTransfer.setData(dragged, JSON.stringify(at))}
        aria-expanded={open}
        title="Drag it to another row, or click"
        className={`max-w-full cursor-grab truncate rounded px-1 text-left hover:bg-sunk ${cell.column === column.name ? '' : 'bg-token-tint text-token'}`}
        onClick={() => setOpen(!open)}
      >
        {cell.column}
        {cell.type === column.type ? (
          ''
        ) : (
          <span className="ml-1 text-changed">({typeWords[cell.type].replace(/^an? /, '')})</span>
        )}
      </button>
      {open && (
        <span className="grid gap-1 py-1 font-sans">
          <select
            className="field max-w-[150px] text-[12.5px]"
            aria-label={`${cell.column} is the same as`}
            value=""
            onChange={(event) => {
              const into = columns.find(({ name }) => name === event.target.value)
              if (into)
                story.reword(
                  alignedInto(
                    step,
                    at,
                    into.name,
                    cellsOf(into, [story.table?.id ?? '', ...(step.with as readonly string[])]),
                  ),
                )
              setOpen(false)
            }}
          >
            <option value="">is the same as…</option>
            {lone.map(({ name }) => (
              <option key={name}>{name}</option>
            ))}
          </select>
          {isMoved(step, at) ? (
            <Button
              look="link"
              className="justify-self-start py-0! text-[12.5px]"
              onClick={() => (story.reword(onItsOwn(step, at)), setOpen(false))}
            >
              Take it away again
            </Button>
          ) : (
            cells.length > 1 && (
              <Button
                look="link"
                className="justify-self-start py-0! text-[12.5px]"
                onClick={() => (story.reword(takenApart(step, at, apartName())), setOpen(false))}
              >
                It is something else
              </Button>
            )
          )}
        </span>
      )}
    </span>
  )
}

/** Tables under one another: which column each has, which may be one, which types differ. */
// eslint-disable-next-line max-lines-per-function -- one flat piece of markup
export const UnionWorkbench = ({ step, story }: { step: StepOf<'union'>; story: Story }) => {
  const tables = step.with as readonly string[]
  const ids = [story.table?.id ?? '', ...tables]
  const { data, error } = useQuery(
    alignQuery(story.place, story.flow.files, cursorBefore(story, step.id), {
      with: tables,
      ...(step.pairs ? { pairs: step.pairs } : {}),
      ...(step.apart ? { apart: step.apart } : {}),
    }),
  )
  const [over, setOver] = useState<string>()
  if (error)
    return (
      <div className="p-4">
        <Notice kind="removed">{error.message}</Notice>
      </div>
    )
  if (!data) return <p className="p-4 text-ink-3">Laying the tables under one another…</p>
  const nameOf = (id: string): string => story.recipe.tables.find((table) => table.id === id)?.name ?? id
  const shown = ids.map((id, at) => ({ id, at, rows: data.tables[at]?.rows ?? 0 }))
  const total = shown.reduce((sum, { rows }) => sum + rows, 0)
  const partners = data.partners.filter(({ at, column }) => !isMoved(step, { table: ids[at] ?? '', column }))
  const all = step.columns !== 'shared'
  const drop = (event: DragEvent, column: AlignedColumnReply): void => {
    const text = event.dataTransfer.getData(dragged)
    setOver(undefined)
    if (text === '') return
    event.preventDefault()
    const cell = JSON.parse(text) as ColumnSource
    const at = ids.indexOf(cell.table)
    const there = column.from[at]
    if (there && there.column !== cell.column)
      return story.setProblem(
        `${nameOf(cell.table)} has a column in ${column.name} already: ${there.column}. Take that away first.`,
      )
    story.setProblem(undefined)
    story.reword(alignedInto(step, cell, column.name, cellsOf(column, ids)))
  }
  return (
    <div className="grid min-h-0 flex-1 grid-rows-[auto_minmax(0,1fr)]">
      {unionHeading(step, story, all, ids, total, partners, nameOf, data)}
      <div className="min-h-0 overflow-auto" role="region" tabIndex={0} aria-label="Which table has which column">
        <table className="figures w-full text-[12.5px]">
          {unionHead(shown, story, nameOf, tables, step)}
          <tbody>
            {data.columns.map((column) => {
              const cells = cellsOf(column, ids)
              const left = !all && column.from.some((cell) => !cell)
              const types = [...new Set(column.from.flatMap((cell) => (cell ? [cell.type] : [])))]
              return (
                <tr
                  key={column.name}
                  className={`*:border-b *:border-line *:px-2.5 *:py-1 *:align-top ${left ? 'text-ink-3 line-through' : ''} ${over === column.name ? 'bg-token-tint' : ''}`}
                  onDragOver={(event) =>
                    event.dataTransfer.types.includes(dragged) && (event.preventDefault(), setOver(column.name))
                  }
                  onDragLeave={() => setOver(undefined)}
                  onDrop={(event) => drop(event, column)}
                >
                  <th scope="row" className="sticky left-0 bg-sheet text-left font-semibold">
                    {column.name}
                    <span className="block font-sans text-[12px] font-normal text-ink-3">
                      {types.length > 1 ? (
                        <span className="text-changed">
                          {listed(types.map((type) => typeWords[type]))}: becomes {typeWords[column.type]}
                        </span>
                      ) : (
                        typeWords[column.type].replace(/^an? /, '')
                      )}
                    </span>
                  </th>
                  {column.from.map((cell, at) => (
                    <td
                      key={at}
                      className={cell ? '' : 'bg-removed-tint'}
                      title={cell ? undefined : `${counted(shown[at]?.rows ?? 0, 'row')} will be empty`}
                    >
                      <MatrixCell
                        cell={cell}
                        column={column}
                        cells={cells}
                        step={step}
                        story={story}
                        columns={data.columns}
                        at={cell ? { table: ids[at] ?? '', column: cell.column } : undefined}
                      />
                    </td>
                  ))}
                </tr>
              )
            })}
          </tbody>
        </table>
        <p className="px-3.5 py-2 text-[12px] text-ink-3">
          A column of another name is dragged to the row it belongs to; what is tinted stays empty in{' '}
          {figure(
            data.columns.reduce(
              (sum, { from }) => sum + from.reduce((n, cell, at) => n + (cell ? 0 : (shown[at]?.rows ?? 0)), 0),
              0,
            ),
          )}{' '}
          cells.
        </p>
      </div>
    </div>
  )
}

function unionHeading(
  step: StepOf<'union'>,
  story: Story,
  all: boolean,
  ids: string[],
  total: number,
  partners: { at: number; column: string; into: string; share: number; alike: boolean }[],
  nameOf: (id: string) => string,
  data: AlignReply,
) {
  return (
    <div className="grid gap-2 border-b border-line px-3.5 py-2.5">
      <AddTables step={step} story={story} />
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <Segments
          label="Which columns"
          value={all ? 'all' : 'shared'}
          of={[
            ['all', 'all columns'],
            ['shared', 'only those that all have'],
          ]}
          onChange={(columns) =>
            story.reword(columns === 'all' ? without(step, 'columns') : ({ ...step, columns } as Step))
          }
        />
        <label className="flex items-center gap-2 text-[12.5px]">
          <input
            type="checkbox"
            checked={step.origin !== undefined}
            onChange={(event) =>
              story.reword(event.target.checked ? ({ ...step, origin: 'Table' } as Step) : without(step, 'origin'))
            }
          />{' '}
          a column with the table’s name
        </label>
        <span className="figures ml-auto text-[12.5px] text-ink-3">
          {counted(ids.length, 'table')}, {counted(total, 'row')}
        </span>
      </div>
      {partners.slice(0, 6).map(({ at, column, into, share, alike }) => (
        <Notice key={`${at}${column}`}>
          <b>{column}</b> of {nameOf(ids[at] ?? '')} may be <b>{into}</b>:{' '}
          {[
            ...(share > 0 ? [`${Math.round(share * 100)} % of its values stand there too`] : []),
            ...(alike ? ['the names are alike'] : []),
          ].join(', and ')}
          .{' '}
          <Button
            look="link"
            className="py-0!"
            onClick={() => {
              const aim = data.columns.find(({ name }) => name === into)
              if (aim) story.reword(alignedInto(step, { table: ids[at] ?? '', column }, into, cellsOf(aim, ids)))
            }}
          >
            Lay them together
          </Button>
        </Notice>
      ))}
    </div>
  )
}

function unionHead(
  shown: { id: string; at: number; rows: number }[],
  story: Story,
  nameOf: (id: string) => string,
  tables: readonly string[],
  step: StepOf<'union'>,
) {
  return (
    <thead className="sticky top-0 z-10 bg-sheet">
      <tr className="*:border-b *:border-line-strong *:px-2.5 *:py-1.5 *:text-left">
        <th scope="col" className="sticky left-0 min-w-[150px] bg-sheet font-serif text-[13px]">
          Column
        </th>
        {shown.map(({ id, at, rows }) => (
          <th key={at} scope="col" className="min-w-[120px] font-serif text-[13px] font-semibold">
            <span className="flex items-center gap-1.5">
              <Dot entry={story.recipe.tables.findIndex((table) => table.id === id)} />{' '}
              <span className="truncate">{nameOf(id)}</span>
              {at > 0 && tables.length > 1 && (
                <button
                  type="button"
                  aria-label={`Take ${nameOf(id)} away`}
                  className="ml-auto px-1 font-sans text-ink-3 hover:text-ink"
                  onClick={() =>
                    story.reword(
                      withTables(
                        step,
                        tables.filter((_, i) => i !== at - 1),
                      ),
                    )
                  }
                >
                  ×
                </button>
              )}
            </span>
            <span className="figures block font-sans text-[12px] font-normal text-ink-3">{counted(rows, 'row')}</span>
          </th>
        ))}
      </tr>
    </thead>
  )
}
