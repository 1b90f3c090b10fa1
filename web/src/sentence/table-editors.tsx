import { useEffect, useEffectEvent } from 'react'
import { selectedNames, type Condition, type Schema, type Step, type StepOf } from '@fabula/core'
import { Segments } from '../ui/parts.tsx'
import { ConditionEditor } from './condition-editor.tsx'
import type { Story } from '../story/use-story.ts'
import { useTableSchema } from '../story/table-schema.ts'

export const TableEditor = ({ step, story }: { step: StepOf<'start-from'>; story: Story }) => (
  <ul className="grid gap-0.5">
    {story.usableTables.map(({ id, name }) => (
      <li key={id}>
        <button
          type="button"
          aria-pressed={step.table === id}
          className="w-full rounded px-2 py-1 text-left hover:bg-sunk aria-pressed:font-semibold"
          onClick={() => story.reword({ ...step, table: id })}
        >
          {name}
        </button>
      </li>
    ))}
  </ul>
)

type CheckWay = 'every' | 'unique' | 'rows' | 'total' | 'share'
const checkWays: readonly (readonly [CheckWay, string])[] = [
  ['every', 'every row'],
  ['unique', 'no two alike'],
  ['rows', 'how many rows'],
  ['total', 'a total'],
  ['share', 'a share'],
]

type Total = {
  readonly column: string
  readonly equals: number | { readonly table: string; readonly column: string }
  readonly within?: number
}
/** A total held against a number, or against that of a column of another table: of the one it was made from, for instance. */
const TotalFields = ({ step, numeric, story }: { step: StepOf<'check'>; numeric: readonly string[]; story: Story }) => {
  const total = ('total' in step ? step.total : { column: '', equals: 0 }) as Total
  const { equals } = total
  const other = typeof equals === 'number' ? undefined : equals
  const there = useTableSchema(story, other?.table ?? '').filter(({ type }) => type === 'integer' || type === 'decimal')
  const set = (next: Partial<Total>): void => story.reword({ ...step, total: { ...total, ...next } } as Step)
  const likely = there.find(({ name }) => name === total.column)?.name ?? there[0]?.name
  // the other table's columns come after it was chosen
  const chooseLikely = useEffectEvent(() => {
    if (other && likely !== undefined && !there.some(({ name }) => name === other.column))
      set({ equals: { table: other.table, column: likely } })
  })
  useEffect(() => chooseLikely(), [other?.table, likely])
  return (
    <div className="flex flex-wrap items-center gap-2">
      the total of
      <select
        className="field"
        aria-label="The total of"
        value={total.column}
        onChange={(event) => set({ column: event.target.value })}
      >
        {numeric.map((name) => (
          <option key={name}>{name}</option>
        ))}
      </select>
      is
      <select
        className="field"
        aria-label="Held against"
        value={other?.table ?? ''}
        onChange={(event) =>
          set({ equals: event.target.value === '' ? 0 : { table: event.target.value, column: total.column } })
        }
      >
        <option value="">a number</option>
        {story.usableTables.map(({ id, name }) => (
          <option key={id} value={id}>
            that of a column of {name}
          </option>
        ))}
      </select>
      {other ? (
        <select
          className="field"
          aria-label="Column there"
          value={other.column}
          onChange={(event) => set({ equals: { table: other.table, column: event.target.value } })}
        >
          {[...new Set([other.column, ...there.map(({ name }) => name)])].map((name) => (
            <option key={name}>{name}</option>
          ))}
        </select>
      ) : (
        <input
          className="field figures w-[130px]"
          type="number"
          aria-label="is"
          defaultValue={typeof equals === 'number' ? equals : ''}
          onChange={(event) => !Number.isNaN(event.target.valueAsNumber) && set({ equals: event.target.valueAsNumber })}
        />
      )}
      <label className="flex items-center gap-2">
        give or take
        <input
          className="field figures w-[90px]"
          type="number"
          min={0}
          aria-label="give or take"
          defaultValue={total.within ?? 0.005}
          onChange={(event) => event.target.valueAsNumber >= 0 && set({ within: event.target.valueAsNumber })}
        />
      </label>
    </div>
  )
}

/** What must hold, and in which words it is reported. */
export const CheckEditor = ({ step, schema, story }: { step: StepOf<'check'>; schema: Schema; story: Story }) => {
  const way = checkWays.find(([key]) => key in step)?.[0] ?? 'every'
  const { id, kind } = step
  const base = { id, kind, else: step.else, say: step.say }
  const first = schema[0]?.name ?? ''
  const numeric = schema.filter(({ type }) => type === 'integer' || type === 'decimal')
  const choose = (next: CheckWay): void => {
    const assertion = () => {
      if (next === 'every') return { every: { column: first, op: 'is-filled' } }
      if (next === 'unique') return { unique: [first] }
      if (next === 'rows') return { rows: { 'at-least': 1 } }
      if (next === 'total') return { total: { column: numeric[0]?.name ?? first, equals: 0 } }
      return { share: { where: { column: first, op: 'is-empty' }, 'at-most': 0.05 } }
    }
    return story.reword({
      ...base,
      ...assertion(),
    } as Step)
  }
  const limits = (
    value: Readonly<Record<string, unknown>>,
    put: (next: Record<string, unknown>) => void,
    factor: number,
  ) =>
    (['at-least', 'at-most'] as const).map((end) => (
      <label key={end} className="flex items-center gap-2">
        {end === 'at-least' ? 'at least' : 'at most'}
        <input
          className="field figures w-[110px]"
          type="number"
          aria-label={end}
          defaultValue={value[end] === undefined ? '' : Number(value[end]) * factor}
          onChange={(event) =>
            put(
              Object.fromEntries(
                Object.entries({
                  ...value,
                  [end]: Number.isNaN(event.target.valueAsNumber) ? undefined : event.target.valueAsNumber / factor,
                }).filter(([, one]) => one !== undefined),
              ),
            )
          }
        />
        {factor === 100 && '%'}
      </label>
    ))
  return (
    <div className="grid w-[520px] gap-3">
      <Segments label="What is checked" value={way} of={checkWays} onChange={choose} />
      {'every' in step && (
        <ConditionEditor
          story={story}
          step={step}
          schema={schema}
          value={step.every as Condition}
          set={(every) => story.reword({ ...step, every } as Step)}
        />
      )}
      {'unique' in step && uniqueColumns(schema, step, story)}
      {'rows' in step && (
        <div className="flex gap-4">
          {limits(step.rows as Record<string, unknown>, (rows) => story.reword({ ...step, rows } as Step), 1)}
        </div>
      )}
      {'share' in step && (
        <>
          <ConditionEditor
            story={story}
            step={step}
            schema={schema}
            value={(step.share as { where: Condition }).where}
            set={(where) => story.reword({ ...step, share: { ...(step.share as object), where } } as Step)}
          />
          <div className="flex gap-4">
            {limits(step.share as Record<string, unknown>, (share) => story.reword({ ...step, share } as Step), 100)}
          </div>
        </>
      )}
      {'total' in step && <TotalFields step={step} numeric={numeric.map(({ name }) => name)} story={story} />}
      <label className="grid gap-1">
        <span className="text-ink-2">In words, for whoever replays it</span>
        <input
          className="field"
          aria-label="In words"
          placeholder="as it stands above"
          defaultValue={String(step.say ?? '')}
          onChange={(event) => story.reword({ ...step, say: event.target.value } as Step)}
          onKeyDown={(event) => event.key === 'Enter' && event.stopPropagation()}
        />
      </label>
    </div>
  )
}

function uniqueColumns(schema: Schema, step: StepOf<'check'>, story: Story) {
  return (
    <ul className="grid grid-cols-2">
      {schema.map(({ name }) => {
        const chosen = selectedNames('unique' in step ? step.unique : [], schema)
        return (
          <li key={name}>
            <label className="flex items-center gap-2">
              <input
                type="checkbox"
                checked={chosen.includes(name)}
                onChange={() => {
                  const next = chosen.includes(name) ? chosen.filter((one) => one !== name) : [...chosen, name]
                  if (next.length > 0) story.reword({ ...step, unique: next } as Step)
                }}
              />{' '}
              {name}
            </label>
          </li>
        )
      })}
    </ul>
  )
}
