import { scalarTypes, selectedNames, wildcard, type Schema, type Selector } from '@fabula/core'
import { useState } from 'react'
import { Button, Segments } from '../ui/parts.tsx'

export const ColumnList = ({
  names,
  chosen,
  toggle,
}: {
  names: readonly string[]
  chosen: readonly string[]
  toggle: (name: string) => void
}) => {
  const [search, setSearch] = useState('')
  const found = names.filter((name) => name.toLowerCase().includes(search.toLowerCase()))
  return (
    <div>
      {names.length > 8 && (
        <input
          className="field mb-2 w-full"
          placeholder="Find a column"
          aria-label="Find a column"
          value={search}
          onChange={(event) => setSearch(event.target.value)}
        />
      )}
      <ul className="max-h-[260px] overflow-auto">
        {found.slice(0, 300).map((name) => (
          <li key={name}>
            <label className="flex items-center gap-2 rounded px-1.5 py-1 hover:bg-sunk">
              <input type="checkbox" checked={chosen.includes(name)} onChange={() => toggle(name)} />
              <span className="font-data">{name}</span>
            </label>
          </li>
        ))}
      </ul>
    </div>
  )
}

type Rule = 'list' | 'all' | 'except' | 'like' | 'type' | 'span'

const ruleOf = (selector: Selector): Rule => {
  if (Array.isArray(selector)) return 'list'
  if ('except' in selector) return 'except'
  if ('like' in selector) return 'like'
  if ('type' in selector) return 'type'
  if ('from' in selector) return 'span'
  return 'all'
}

/** Names one by one, or a rule that takes in what appears next month. */
export const ColumnsEditor = ({
  value,
  schema,
  set,
  mayBeNone,
}: {
  value: Selector
  schema: Schema
  set: (value: unknown) => void
  mayBeNone: boolean
}) => {
  const rule = ruleOf(value)
  const names = schema.map(({ name }) => name)
  const chooseList = () => {
    if (Array.isArray(value)) return value as readonly string[]
    if ('except' in value) return value.except
    return []
  }
  const list = chooseList()
  const meant = selectedNames(value, schema)
  const choose = (next: Rule): void => {
    if (next === 'list') set(meant.length > 0 ? meant : names.slice(0, 1))
    else if (next === 'all') set({ all: true })
    else if (next === 'except') set({ except: names.filter((name) => !meant.includes(name)) })
    else if (next === 'like') set({ like: `${meant[0]?.slice(0, 3) ?? ''}*` })
    else if (next === 'type') set({ type: 'number' })
    else set({ from: meant[0] ?? names[0], to: meant.at(-1) ?? names.at(-1) })
  }
  const toggle = (name: string): void => {
    const next = list.includes(name) ? list.filter((one) => one !== name) : [...list, name]
    if (rule === 'except') set({ except: next })
    else if (next.length > 0 || mayBeNone) set(next)
  }
  return (
    <div className="grid w-[330px] gap-2">
      <label className="flex items-center gap-2">
        <span className="text-ink-2">Choose</span>
        <select
          className="field flex-1"
          aria-label="How columns are chosen"
          value={rule}
          onChange={(event) => choose(event.target.value as Rule)}
        >
          <option value="list">these columns, by name</option>
          <option value="except">all but these</option>
          <option value="all">all columns</option>
          <option value="like">names like a pattern</option>
          <option value="type">all of a type</option>
          <option value="span">from one to another</option>
        </select>
      </label>
      {(rule === 'list' || rule === 'except') && (
        <ColumnList names={[...new Set([...names, ...list])]} chosen={list} toggle={toggle} />
      )}
      {rule === 'like' && 'like' in value && (
        <input
          className="field"
          aria-label="Pattern"
          defaultValue={value.like}
          onChange={(event) => event.target.value && wildcard(event.target.value) && set({ like: event.target.value })}
        />
      )}
      {rule === 'type' && 'type' in value && (
        <select
          className="field"
          aria-label="Type"
          value={value.type}
          onChange={(event) => set({ type: event.target.value })}
        >
          {['number', ...scalarTypes, 'list'].map((type) => (
            <option key={type}>{type}</option>
          ))}
        </select>
      )}
      {rule === 'span' && 'from' in value && (
        <div className="flex items-center gap-2">
          {(['from', 'to'] as const).map((end) => (
            <select
              key={end}
              className="field flex-1"
              aria-label={end}
              value={value[end]}
              onChange={(event) => set({ ...value, [end]: event.target.value })}
            >
              {names.map((name) => (
                <option key={name}>{name}</option>
              ))}
            </select>
          ))}
        </div>
      )}
      <p className="figures text-[12px] text-ink-3">
        {meant.length} of {names.length} columns
        {rule === 'list' ? '' : '; columns that appear later are judged by the rule'}
      </p>
    </div>
  )
}

export type SortKeyValue = { readonly column: string; readonly descending?: boolean; readonly natural?: boolean }

export const SortEditor = ({
  value,
  schema,
  set,
}: {
  value: readonly SortKeyValue[]
  schema: Schema
  set: (value: readonly SortKeyValue[]) => void
}) => (
  <div className="grid w-[480px] gap-2">
    {value.map((key, i) => (
      <div key={i} className="flex items-center gap-2">
        <select
          className="field flex-1"
          aria-label={`Sort by, ${i + 1}`}
          value={key.column}
          onChange={(event) => set(value.map((one, k) => (k === i ? { ...one, column: event.target.value } : one)))}
        >
          {schema.map(({ name }) => (
            <option key={name}>{name}</option>
          ))}
        </select>
        <Segments
          label={`Direction, ${i + 1}`}
          value={key.descending ? 'down' : 'up'}
          of={[
            ['up', 'low to high'],
            ['down', 'high to low'],
          ]}
          onChange={(way) => set(value.map((one, k) => (k === i ? { ...one, descending: way === 'down' } : one)))}
        />
        <Button
          look="quiet"
          aria-label={`Take key ${i + 1} out`}
          disabled={value.length === 1}
          onClick={() => set(value.filter((_, k) => k !== i))}
        >
          ×
        </Button>
      </div>
    ))}
    <Button
      className="justify-self-start"
      onClick={() =>
        set([
          ...value,
          {
            column: schema.find(({ name }) => !value.some((key) => key.column === name))?.name ?? schema[0]?.name ?? '',
          },
        ])
      }
    >
      Then by another
    </Button>
  </div>
)

export const RenamesEditor = ({
  value,
  schema,
  set,
  done,
}: {
  value: Record<string, string>
  schema: Schema
  set: (value: Record<string, string>) => void
  done: () => void
}) => {
  const others = schema.filter(({ name }) => !(name in value))
  return (
    <div className="grid w-[420px] gap-2">
      {Object.entries(value).map(([old, next], i) => (
        <label key={old} className="grid grid-cols-[1fr_auto_1fr] items-center gap-2">
          <span className="truncate font-data">{old}</span> becomes
          <input
            className="field"
            aria-label={`New name of ${old}`}
            autoFocus={i === 0}
            defaultValue={next}
            onFocus={(event) => event.target.select()}
            onChange={(event) => event.target.value && set({ ...value, [old]: event.target.value })}
            onKeyDown={(event) => event.key === 'Enter' && (event.stopPropagation(), done())}
          />
        </label>
      ))}
      {others.length > 0 && (
        <select
          className="field justify-self-start"
          aria-label="Rename another column"
          value=""
          onChange={(event) => set({ ...value, [event.target.value]: event.target.value })}
        >
          <option value="">Rename another…</option>
          {others.map(({ name }) => (
            <option key={name}>{name}</option>
          ))}
        </select>
      )}
    </div>
  )
}
