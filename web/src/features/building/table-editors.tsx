import { joinHows, joinWords, selectedNames, type Condition, type JoinHow, type Schema, type Selector, type Step } from '@fabula/core'
import { Button, Segments } from '../../ui/parts.tsx'
import { ConditionEditor } from '../condition-editor.tsx'
import type { Story } from '../story-state.ts'
import { useTableSchema } from './table-schema.ts'

const without = (step: Step, ...keys: readonly string[]): Step => Object.fromEntries(Object.entries(step).filter(([key]) => !keys.includes(key))) as unknown as Step
/** Tables that may be used here: all others that do not use this one. */
const othersOf = (story: Story): { id: string; name: string }[] => story.usableTables

export const TableEditor = ({ step, story }: { step: Step; story: Story }) => (
  <ul className="grid gap-0.5">
    {othersOf(story).map(({ id, name }) => (
      <li key={id}>
        <button type="button" aria-pressed={step.table === id} className="w-full rounded px-2 py-1 text-left hover:bg-sunk aria-pressed:font-semibold" onClick={() => story.reword({ ...step, table: id })}>
          {name}
        </button>
      </li>
    ))}
  </ul>
)

type On = { readonly left: string; readonly right: string }
/** What is matched with what, by which keys, and what is kept and brought. */
export const JoinEditor = ({ step, schema, story }: { step: Step; schema: Schema; story: Story }) => {
  const other = useTableSchema(story, String(step.with))
  const on = (step.on as readonly On[] | undefined) ?? []
  const how = step.how as JoinHow
  const set = (next: Partial<Record<string, unknown>>): void => story.reword({ ...step, ...next } as Step)
  const bring = step.bring as Selector | undefined
  const keys = on.map(({ right }) => right)
  const brought = bring === undefined ? other.map(({ name }) => name).filter((name) => !keys.includes(name)) : selectedNames(bring, other)
  const account = story.steps.find(({ id }) => id === step.id)?.account
  const select = (label: string, value: string, names: readonly string[], put: (name: string) => void) => (
    <select className="field min-w-0 flex-1" aria-label={label} value={value} onChange={(event) => put(event.target.value)}>
      {[...new Set([value, ...names])].map((name) => (
        <option key={name}>{name}</option>
      ))}
    </select>
  )
  return (
    <div className="grid w-[560px] gap-3">
      <label className="flex items-center gap-2">
        <span className="text-ink-2">Match with</span>
        <select className="field flex-1" aria-label="Match with" value={String(step.with)} onChange={(event) => set({ with: event.target.value })}>
          {othersOf(story).map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </label>
      {how !== 'cross' && (
        <div className="grid gap-1.5">
          {on.map((one, i) => (
            <div key={i} className="flex items-center gap-2">
              {i === 0 ? 'where' : 'and'}
              {select(`Key here, ${i + 1}`, one.left, schema.map(({ name }) => name), (left) => set({ on: on.map((old, k) => (k === i ? { ...old, left } : old)) }))}
              is
              {select(`Key there, ${i + 1}`, one.right, other.map(({ name }) => name), (right) => set({ on: on.map((old, k) => (k === i ? { ...old, right } : old)) }))}
              <Button look="quiet" aria-label={`Take key ${i + 1} out`} disabled={on.length === 1} onClick={() => set({ on: on.filter((_, k) => k !== i) })}>
                ×
              </Button>
            </div>
          ))}
          <div className="flex items-center gap-4 text-ink-2">
            <Button look="link" className="py-0!" onClick={() => set({ on: [...on, { left: schema[0]?.name ?? '', right: other[0]?.name ?? '' }] })}>
              Another key
            </Button>
            {(['ignoreCase', 'trim'] as const).map((option) => (
              <label key={option} className="flex items-center gap-1.5">
                <input type="checkbox" checked={step[option] === true} onChange={(event) => (event.target.checked ? set({ [option]: true }) : story.reword(without(step, option)))} /> {option === 'trim' ? 'spaces at the ends aside' : 'whatever the case'}
              </label>
            ))}
          </div>
        </div>
      )}
      <div role="radiogroup" aria-label="What is kept" className="grid gap-0.5">
        {joinHows.map((one) => (
          <label key={one} className="flex items-center gap-2 rounded px-1 py-0.5 hover:bg-sunk">
            <input type="radio" name="join-how" checked={how === one} onChange={() => set({ how: one })} />
            <span aria-hidden className="flex h-[10px] w-[48px]">
              {(['left', 'both', 'right'] as const).map((side) => {
                const kept = one === 'cross' || (side === 'both' ? !one.endsWith('-only') : side === 'left' ? one === 'left' || one === 'full' || one === 'left-only' : one === 'right' || one === 'full' || one === 'right-only')
                return <i key={side} className={`flex-1 border border-ink-3 ${kept ? 'bg-token' : ''}`} />
              })}
            </span>
            {joinWords[one]}
          </label>
        ))}
      </div>
      {how !== 'left-only' && how !== 'right-only' && how !== 'cross' && (
        <Segments label="Which matches" value={(step.matches as 'all' | 'first' | 'one' | undefined) ?? 'all'} of={[['all', 'every match'], ['first', 'the first'], ['one', 'one, or stop']]} onChange={(matches) => (matches === 'all' ? story.reword(without(step, 'matches')) : set({ matches }))} />
      )}
      {how !== 'left-only' && (
        <div>
          <p className="text-ink-2">Bring</p>
          <ul className="grid max-h-[130px] grid-cols-2 overflow-auto">
            {other.map(({ name }) => (
              <li key={name}>
                <label className="flex items-center gap-2 py-0.5">
                  <input
                    type="checkbox"
                    checked={brought.includes(name)}
                    onChange={() => {
                      const next = brought.includes(name) ? brought.filter((one) => one !== name) : [...brought, name]
                      if (next.length > 0) set({ bring: next })
                    }}
                  />
                  <span className="truncate font-data">{name}</span>
                </label>
              </li>
            ))}
          </ul>
        </div>
      )}
      {account && (
        <p className="figures text-[12.5px] text-ink-2">
          {account.notes.matched ?? 0} rows match · {account.notes.unmatchedLeft ?? 0} here match nothing · {account.notes.unmatchedRight ?? 0} there match nothing{account.notes.multiplied ? ` · ${account.notes.multiplied} rows more, for keys that repeat` : ''}
        </p>
      )}
    </div>
  )
}

type Pair = { readonly into: string; readonly from: readonly { readonly table: string; readonly column: string }[] }
const OneOfUnion = ({ story, id, own, pairs, set }: { story: Story; id: string; own: Schema; pairs: readonly Pair[]; set: (pairs: readonly Pair[]) => void }) => {
  const schema = useTableSchema(story, id)
  const alone = schema.filter(({ name }) => !own.some((field) => field.name === name))
  const table = story.table?.id ?? ''
  if (alone.length === 0) return null
  const partner = (column: string): string => pairs.find(({ from }) => from.some((one) => one.table === id && one.column === column))?.into ?? ''
  return (
    <div className="grid gap-1 border-t border-line pt-2">
      <p className="text-ink-2">Only {story.recipe.tables.find((one) => one.id === id)?.name ?? id} has</p>
      {alone.map(({ name }) => (
        <label key={name} className="grid grid-cols-[1fr_auto_1fr] items-center gap-2">
          <span className="truncate font-data">{name}</span> is
          <select
            className="field"
            aria-label={`${name} is`}
            value={partner(name)}
            onChange={(event) => {
              const rest = pairs.map((pair) => ({ ...pair, from: pair.from.filter((one) => !(one.table === id && one.column === name)) })).filter((pair) => pair.from.some((one) => one.table !== table))
              const into = event.target.value
              if (into === '') return set(rest)
              const known = rest.find((pair) => pair.into === into)
              return set(known ? rest.map((pair) => (pair === known ? { ...pair, from: [...pair.from, { table: id, column: name }] } : pair)) : [...rest, { into, from: [{ table, column: into }, { table: id, column: name }] }])
            }}
          >
            <option value="">a column of its own</option>
            {own.map((field) => (
              <option key={field.name} value={field.name}>
                the same as {field.name}
              </option>
            ))}
          </select>
        </label>
      ))}
    </div>
  )
}

/** Which tables are laid underneath, and which differently named columns are one. */
export const UnionEditor = ({ step, schema, story }: { step: Step; schema: Schema; story: Story }) => {
  const tables = step.with as readonly string[]
  const pairs = (step.pairs as readonly Pair[] | undefined) ?? []
  const setPairs = (next: readonly Pair[]): void => story.reword(next.length > 0 ? ({ ...step, pairs: next } as Step) : without(step, 'pairs'))
  return (
    <div className="grid w-[440px] gap-2">
      {othersOf(story).map(({ id, name }) => (
        <label key={id} className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={tables.includes(id)}
            onChange={() => {
              const next = tables.includes(id) ? tables.filter((one) => one !== id) : [...tables, id]
              if (next.length > 0) story.reword({ ...step, with: next } as Step)
            }}
          />
          {name}
        </label>
      ))}
      <label className="flex items-center gap-2">
        <input type="checkbox" checked={step.origin !== undefined} onChange={(event) => story.reword(event.target.checked ? ({ ...step, origin: 'Table' } as Step) : without(step, 'origin'))} /> a column with the table’s name
      </label>
      {tables.map((id) => (
        <OneOfUnion key={id} story={story} id={id} own={schema} pairs={pairs} set={setPairs} />
      ))}
    </div>
  )
}

type CheckWay = 'every' | 'unique' | 'rows' | 'total' | 'share'
const checkWays: readonly (readonly [CheckWay, string])[] = [['every', 'every row'], ['unique', 'no two alike'], ['rows', 'how many rows'], ['total', 'a total'], ['share', 'a share']]

/** What must hold, and in which words it is told. */
export const CheckEditor = ({ step, schema, story }: { step: Step; schema: Schema; story: Story }) => {
  const way = checkWays.find(([key]) => key in step)?.[0] ?? 'every'
  const { id, kind } = step
  const base = { id, kind, else: step.else, say: step.say }
  const first = schema[0]?.name ?? ''
  const numeric = schema.filter(({ type }) => type === 'integer' || type === 'decimal')
  const choose = (next: CheckWay): void =>
    story.reword({ ...base, ...(next === 'every' ? { every: { column: first, op: 'is-filled' } } : next === 'unique' ? { unique: [first] } : next === 'rows' ? { rows: { 'at-least': 1 } } : next === 'total' ? { total: { column: numeric[0]?.name ?? first, equals: 0 } } : { share: { where: { column: first, op: 'is-empty' }, 'at-most': 0.05 } }) } as Step)
  const limits = (value: Readonly<Record<string, unknown>>, put: (next: Record<string, unknown>) => void, factor: number) =>
    (['at-least', 'at-most'] as const).map((end) => (
      <label key={end} className="flex items-center gap-2">
        {end === 'at-least' ? 'at least' : 'at most'}
        <input className="field figures w-[110px]" type="number" aria-label={end} defaultValue={value[end] === undefined ? '' : Number(value[end]) * factor} onChange={(event) => put(Object.fromEntries(Object.entries({ ...value, [end]: Number.isNaN(event.target.valueAsNumber) ? undefined : event.target.valueAsNumber / factor }).filter(([, one]) => one !== undefined)))} />
        {factor === 100 && '%'}
      </label>
    ))
  return (
    <div className="grid w-[520px] gap-3">
      <Segments label="What is checked" value={way} of={checkWays} onChange={choose} />
      {'every' in step && <ConditionEditor story={story} step={step} schema={schema} value={step.every as Condition} set={(every) => story.reword({ ...step, every } as Step)} />}
      {'unique' in step && (
        <ul className="grid grid-cols-2">
          {schema.map(({ name }) => {
            const chosen = selectedNames(step.unique as Selector, schema)
            return (
              <li key={name}>
                <label className="flex items-center gap-2">
                  <input type="checkbox" checked={chosen.includes(name)} onChange={() => { const next = chosen.includes(name) ? chosen.filter((one) => one !== name) : [...chosen, name]; if (next.length > 0) story.reword({ ...step, unique: next } as Step) }} /> {name}
                </label>
              </li>
            )
          })}
        </ul>
      )}
      {'rows' in step && <div className="flex gap-4">{limits(step.rows as Record<string, unknown>, (rows) => story.reword({ ...step, rows } as Step), 1)}</div>}
      {'share' in step && (
        <>
          <ConditionEditor story={story} step={step} schema={schema} value={(step.share as { where: Condition }).where} set={(where) => story.reword({ ...step, share: { ...(step.share as object), where } } as Step)} />
          <div className="flex gap-4">{limits(step.share as Record<string, unknown>, (share) => story.reword({ ...step, share } as Step), 100)}</div>
        </>
      )}
      {'total' in step && (
        <div className="flex flex-wrap items-center gap-2">
          the total of
          <select className="field" aria-label="The total of" value={String((step.total as { column: string }).column)} onChange={(event) => story.reword({ ...step, total: { ...(step.total as object), column: event.target.value } } as Step)}>
            {numeric.map(({ name }) => (
              <option key={name}>{name}</option>
            ))}
          </select>
          is
          <input className="field figures w-[130px]" type="number" aria-label="is" defaultValue={typeof (step.total as { equals: unknown }).equals === 'number' ? Number((step.total as { equals: number }).equals) : ''} onChange={(event) => !Number.isNaN(event.target.valueAsNumber) && story.reword({ ...step, total: { ...(step.total as object), equals: event.target.valueAsNumber } } as Step)} />
        </div>
      )}
      <label className="grid gap-1">
        <span className="text-ink-2">In words, for whoever replays it</span>
        <input className="field" aria-label="In words" defaultValue={String(step.say ?? '')} onChange={(event) => story.reword({ ...step, say: event.target.value } as Step)} onKeyDown={(event) => event.key === 'Enter' && event.stopPropagation()} />
      </label>
    </div>
  )
}
