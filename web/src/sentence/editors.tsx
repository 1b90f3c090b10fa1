import { useState } from 'react'
import {
  ownValue,
  selectedNames,
  typeWords,
  scalarTypes,
  wildcard,
  type Cleaning,
  type Schema,
  type Selector,
  type SentenceSlot,
  type Step,
} from '@fabula/core'
import { Button, Segments } from '../ui/parts.tsx'
import { CasesEditor } from './cases-editor.tsx'
import { FormulaEditor } from './formula-editor.tsx'
import { LabelsEditor, LabelsFoundEditor } from './label-editors.tsx'
import { MeasureRows, PivotValueRows, WindowRows } from './measure-rows.tsx'
import { PiecesEditor, SeparatorEditor, TakeEditor } from './text-editors.tsx'
import { CheckEditor, TableEditor } from './table-editors.tsx'
import { ValueField } from './value-field.tsx'
import { type AnyValue } from '../story/values.ts'
import { ConditionEditor } from './condition-editor.tsx'
import { GridEditor } from './grid-editor.tsx'
import type { Story } from '../story/use-story.ts'
import { CleaningsEditor, PairsEditor, typeHere, ValuesEditor, writtenAs, type PlainValue } from './value-editors.tsx'

type EditPath = readonly (string | number)[]
const at = (value: unknown, path: EditPath): unknown =>
  path.reduce<unknown>((one, key) => ownValue(one as Record<string, unknown> | undefined, String(key)), value)
const put = (value: unknown, path: EditPath, next: unknown): unknown => {
  const [first, ...rest] = path
  if (first === undefined) return next
  if (Array.isArray(value)) return value.map((one, i) => (i === first ? put(one, rest, next) : (one as unknown)))
  return {
    ...(value as object),
    [first]: put(ownValue(value as Record<string, unknown> | undefined, String(first)), rest, next),
  }
}

/** The editor of a slot: every change is a new draft at once. */
export const SlotEditor = ({
  slot,
  step,
  story,
  close,
}: {
  slot: SentenceSlot
  step: Step
  story: Story
  close: () => void
}) => {
  const schema = story.schemaBefore(step.id)
  const value = at(step, slot.path)
  const set = (next: unknown): void => story.reword(put(step, slot.path, next) as Step)
  switch (slot.editor) {
    case 'columns':
      return (
        <ColumnsEditor
          value={(value as Selector | undefined) ?? { all: true }}
          schema={schema}
          set={set}
          mayBeNone={step.kind === 'summarise' || step.kind === 'pivot' || step.kind === 'window'}
        />
      )
    case 'column':
      return (
        <ColumnList
          names={schema.map(({ name }) => name)}
          chosen={Object.keys((value as object | undefined) ?? {})}
          toggle={(name) => set({ [name]: name })}
        />
      )
    case 'name':
    case 'text':
      return (
        <TextEditor
          label={slot.editor === 'name' ? 'Name' : 'Text'}
          value={String(value ?? '')}
          set={set}
          done={close}
        />
      )
    case 'choice':
      return (
        <div className="grid gap-0.5">
          {slot.choices?.map(([key, words]) => (
            <button
              key={key}
              type="button"
              className="rounded px-2 py-1 text-left hover:bg-sunk"
              onClick={() => {
                const parsed = () => {
                  if (key === 'true') return true
                  if (key === 'false') return false
                  return key
                }
                return (set(parsed()), close())
              }}
            >
              {words}
            </button>
          ))}
        </div>
      )
    case 'condition':
      return <ConditionEditor story={story} step={step} schema={schema} value={value as never} set={set} />
    case 'formula':
      return (
        <FormulaEditor
          value={String(value ?? '')}
          schema={schema}
          parameters={story.recipe.parameters ?? []}
          set={set}
        />
      )
    case 'types':
      return (
        <div className="grid gap-0.5">
          {scalarTypes.map((type) => (
            <button
              key={type}
              type="button"
              aria-pressed={type === value}
              className="rounded px-2 py-1 text-left hover:bg-sunk aria-pressed:font-semibold"
              onClick={() => (set(type), close())}
            >
              {typeWords[type]}
            </button>
          ))}
        </div>
      )
    case 'formats':
      return (
        <FormatsEditor
          value={(value as readonly string[] | undefined) ?? []}
          set={(next) =>
            story.reword(
              next.length > 0
                ? ({ ...step, formats: next } as Step)
                : (Object.fromEntries(Object.entries(step).filter(([key]) => key !== 'formats')) as unknown as Step),
            )
          }
        />
      )
    case 'measures':
      return <MeasureRows value={value as never} schema={schema} set={set} />
    case 'sortKeys':
      return <SortEditor value={(value as readonly SortKeyValue[] | undefined) ?? []} schema={schema} set={set} />
    case 'renames':
      return (
        <RenamesEditor
          value={(value as Record<string, string> | undefined) ?? {}}
          schema={schema}
          set={set}
          done={close}
        />
      )
    case 'change':
      return <ChangeEditor value={(value as Record<string, unknown> | undefined) ?? {}} set={set} />
    case 'slice':
      return <SliceEditor step={step} set={(params) => story.reword({ id: step.id, kind: 'slice', ...params })} />
    case 'open':
      return <p>No file stands here yet. Drop one on the Replay page.</p>
    case 'pairs':
      return <PairsEditor step={step} schema={schema} story={story} />
    case 'grid':
      return <GridEditor step={step} reword={story.reword} />
    case 'oneColumn':
      return (
        <ColumnList
          names={schema.map(({ name }) => name)}
          chosen={[String(value)]}
          toggle={(name) => (set(name), close())}
        />
      )
    case 'values':
      return (
        <ValuesEditor
          value={(value as readonly PlainValue[] | undefined) ?? []}
          type={typeHere(step, schema)}
          set={set}
        />
      )
    case 'cleanings':
      return <CleaningsEditor value={(value as readonly Cleaning[] | undefined) ?? []} set={set} />
    case 'value':
      return (
        <ValueField
          label="Value"
          value={(value as AnyValue | undefined) ?? null}
          schema={schema}
          story={story}
          set={set}
          read={(text) => (text === '' ? null : writtenAs(text, typeHere(step, schema)))}
          done={close}
        />
      )
    case 'groups':
    case 'join':
    case 'union':
      return null
    case 'cases':
      return <CasesEditor step={step} schema={schema} story={story} />
    case 'table':
      return <TableEditor step={step} story={story} />
    case 'check':
      return <CheckEditor step={step} schema={schema} story={story} />
    case 'labels':
      return <LabelsEditor step={step} schema={schema} story={story} />
    case 'labelsFound':
      return <LabelsFoundEditor step={step} story={story} />
    case 'pivotValues':
      return <PivotValueRows value={value as never} schema={schema} set={set} />
    case 'windowMeasures':
      return <WindowRows value={value as never} schema={schema} set={set} />
    case 'separator':
      return <SeparatorEditor step={step} story={story} />
    case 'pieces':
      return <PiecesEditor step={step} story={story} />
    case 'take':
      return <TakeEditor step={step} story={story} />
    case 'number':
      return (
        <TextEditor
          label="Number"
          value={String(value ?? '')}
          set={(text) => Number.isFinite(Number(text)) && set(Number(text))}
          done={close}
        />
      )
  }
}

const TextEditor = ({
  label,
  value,
  set,
  done,
}: {
  label: string
  value: string
  set: (value: string) => void
  done: () => void
}) => (
  <label className="grid gap-1">
    <span className="text-ink-2">{label}</span>
    <input
      className="field"
      autoFocus
      defaultValue={value}
      onChange={(event) => event.target.value !== '' && set(event.target.value)}
      onKeyDown={(event) => event.key === 'Enter' && (event.stopPropagation(), done())}
    />
  </label>
)

const ColumnList = ({
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
const ColumnsEditor = ({
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

const commonFormats: readonly (readonly [string, string])[] = [
  ['dd/MM/yyyy', '02/05/2031, day first'],
  ['yyyy-MM-dd', '2031-05-02'],
  ['MM/dd/yyyy', '05/02/2031, month first'],
  ['d.M.yyyy', '2.5.2031'],
  ['d MMM yyyy', '2 May 2031'],
  ['dd/MM/yyyy HH:mm', '02/05/2031 09:30'],
]
const FormatsEditor = ({ value, set }: { value: readonly string[]; set: (value: readonly string[]) => void }) => {
  const toggle = (format: string): void =>
    set(value.includes(format) ? value.filter((one) => one !== format) : [...value, format])
  return (
    <div className="grid w-[300px] gap-1">
      {[
        ...commonFormats,
        ...value
          .filter((format) => !commonFormats.some(([one]) => one === format))
          .map((format) => [format, format] as const),
      ].map(([format, sample]) => (
        <label key={format} className="flex items-center gap-2 rounded px-1 py-0.5 hover:bg-sunk">
          <input type="checkbox" checked={value.includes(format)} onChange={() => toggle(format)} />{' '}
          <span className="figures">{sample}</span>
        </label>
      ))}
      <label className="mt-1 grid gap-1">
        <span className="text-ink-2">Another form, such as dd-MM-yy</span>
        <input
          className="field"
          onKeyDown={(event) =>
            event.key === 'Enter' &&
            event.currentTarget.value !== '' &&
            (event.stopPropagation(), toggle(event.currentTarget.value), (event.currentTarget.value = ''))
          }
        />
      </label>
    </div>
  )
}

type SortKeyValue = { readonly column: string; readonly descending?: boolean; readonly natural?: boolean }
const SortEditor = ({
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

const RenamesEditor = ({
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

const ChangeEditor = ({ value, set }: { value: Record<string, unknown>; set: (value: unknown) => void }) => {
  const change = (key: string, next: unknown): void =>
    set(
      Object.fromEntries(
        Object.entries({ ...value, [key]: next }).filter(([, one]) => one !== '' && one !== false && one !== undefined),
      ),
    )
  return (
    <div className="grid w-[320px] gap-2">
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={value.trim === true}
          onChange={(event) => change('trim', event.target.checked)}
        />{' '}
        Take spaces at the ends off
      </label>
      {(['find', 'replace', 'prefix', 'suffix'] as const).map((key) => (
        <label key={key} className="grid grid-cols-[110px_1fr] items-center gap-2">
          {{ find: 'Find', replace: 'Put instead', prefix: 'Put before', suffix: 'Put after' }[key]}
          <input
            className="field"
            defaultValue={String(value[key] ?? '')}
            onChange={(event) => change(key, event.target.value)}
          />
        </label>
      ))}
      <label className="grid grid-cols-[110px_1fr] items-center gap-2">
        Letters
        <select
          className="field"
          value={String(value.case ?? '')}
          onChange={(event) => change('case', event.target.value)}
        >
          <option value="">as they are</option>
          <option value="lower">small</option>
          <option value="upper">large</option>
          <option value="title">Large First Letters</option>
        </select>
      </label>
    </div>
  )
}

type SliceKey = 'first' | 'last' | 'skip' | 'every'
const SliceEditor = ({ step, set }: { step: Step; set: (params: Record<string, number>) => void }) => {
  const key = (['first', 'last', 'skip', 'every'] as const).find((one) => one in step) ?? 'first'
  return (
    <div className="flex items-center gap-2">
      <select
        className="field"
        aria-label="Which rows"
        value={key}
        onChange={(event) => set({ [event.target.value as SliceKey]: Math.max(1, Number(step[key])) })}
      >
        <option value="first">the first rows</option>
        <option value="last">the last rows</option>
        <option value="skip">all but the first rows</option>
        <option value="every">one row in every</option>
      </select>
      <input
        className="field figures w-[110px]"
        type="number"
        min={key === 'every' ? 1 : 0}
        aria-label="How many"
        defaultValue={Number(step[key])}
        onChange={(event) =>
          Number.isInteger(event.target.valueAsNumber) &&
          event.target.valueAsNumber >= (key === 'every' ? 1 : 0) &&
          set({ [key]: event.target.valueAsNumber })
        }
      />
    </div>
  )
}
