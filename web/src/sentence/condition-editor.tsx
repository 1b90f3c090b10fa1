import type { ColumnType } from '@fabula/core'
import { useQuery } from '@tanstack/react-query'
import { useState, type JSX } from 'react'
import {
  conditionOps,
  isTest,
  opWords,
  type Condition,
  type ConditionOp,
  type Schema,
  type Step,
  type Test,
  figure,
} from '@fabula/core'
import { valuesQuery } from '../api/queries.ts'
import { Button, Segments } from '../ui/parts.tsx'
import { useWriting, writtenLabel } from '../ui/writing.ts'
import { ValueField } from './value-field.tsx'
import { type AnyValue } from '../story/values.ts'
import type { Story } from '../story/use-story.ts'
import { typedNumber } from '../story/typed-number.ts'

type ConditionField = Schema[number]
const textOps: readonly ConditionOp[] = [
  'contains',
  'contains-not',
  'starts-with',
  'starts-not-with',
  'ends-with',
  'matches',
]
const opsFor = (type: ConditionField['type'] | undefined): readonly ConditionOp[] =>
  conditionOps.filter((op) => type === 'text' || !textOps.includes(op))

const typed = (text: string, type: ConditionField['type'] | undefined): string | number | boolean | null => {
  if (text === '') return null
  if (type === 'integer' || type === 'decimal') return typedNumber(text) ?? text
  if (type === 'boolean') return text === 'true'
  return text
}
const shown = (value: unknown): string => {
  if (value === null || value === undefined) return ''
  if (typeof value === 'object') return ''
  return String(value)
}

/** The same test with another op: what it compares with is kept where it still means something. */
const withOp = (test: Test, op: ConditionOp, type: ConditionField['type'] | undefined): Test => {
  const options = { ...(test.ignoreCase ? { ignoreCase: true } : {}), ...(test.trim ? { trim: true } : {}) }
  const chooseValue = () => {
    if ('value' in test) return test.value
    if ('values' in test) return test.values[0] ?? null
    if ('from' in test) return test.from
    return null
  }
  const value = chooseValue()
  const column = test.column
  if (op === 'is-empty' || op === 'is-filled') return { column, op, ...options }
  const listed = () => {
    if ('values' in test) return test.values
    if (value === null) return []
    return [value]
  }
  if (op === 'is-one-of' || op === 'is-none-of') return { column, op, values: listed(), ...options }
  if (op === 'between') return { column, op, from: value, to: value, ...options }
  const needsText = textOps.includes(op)
  return {
    column,
    op,
    value: needsText && typeof value !== 'string' ? '' : (value ?? (type === 'text' ? '' : null)),
    ...options,
  }
}

const Values = ({
  story,
  step,
  column,
  type,
  chosen,
  toggle,
}: {
  story: Story
  step: Step
  column: string
  type: ColumnType
  chosen: readonly string[]
  toggle: (value: string) => void
}) => {
  const before = story.steps[story.steps.findIndex(({ id }) => id === step.id) - 1]?.id ?? ''
  const { data } = useQuery(
    valuesQuery(story.endpoint, story.flow.files, { ...story.cursor, step: before }, before === '' ? '' : column),
  )
  const [search, setSearch] = useState('')
  const writing = useWriting()
  const found = (data?.values ?? []).filter(({ label }) => label.toLowerCase().includes(search.toLowerCase()))
  return (
    <div>
      <input
        className="field mb-1 w-full"
        placeholder="Find a value"
        aria-label="Find a value"
        value={search}
        onChange={(event) => setSearch(event.target.value)}
      />
      <ul className="max-h-[190px] overflow-auto">
        {found.slice(0, 200).map(({ label, count }) => (
          <li key={label}>
            <label className="flex items-center gap-2 rounded px-1 py-0.5 hover:bg-sunk">
              <input type="checkbox" checked={chosen.includes(label)} onChange={() => toggle(label)} />
              <span className="flex-1 truncate font-data whitespace-pre">{writtenLabel(label, type, writing)}</span>
              <span className="figures text-ink-3">{figure(count)}</span>
            </label>
          </li>
        ))}
      </ul>
    </div>
  )
}

const TestEditor = ({
  story,
  step,
  schema,
  value,
  set,
  remove,
}: {
  story: Story
  step: Step
  schema: Schema
  value: Test
  set: (value: Condition) => void
  remove: (() => void) | undefined
}) => {
  const type = schema.find(({ name }) => name === value.column)?.type
  const input = (label: string, held: unknown, put: (next: string | number | boolean | null) => void) =>
    type === 'boolean' ? (
      <select
        className="field"
        aria-label={label}
        value={shown(held)}
        onChange={(event) => put(event.target.value === 'true')}
      >
        <option value="true">true</option>
        <option value="false">false</option>
      </select>
    ) : (
      <ValueField
        label={label}
        value={held as AnyValue}
        schema={schema}
        story={story}
        date={type === 'date'}
        read={(text) => typed(text, type)}
        set={(next) => put(next as never)}
      />
    )
  return (
    <div className="grid gap-2">
      {testColumns(value, set, schema, type, input, remove)}
      {'values' in value && (
        <Values
          story={story}
          step={step}
          column={value.column}
          type={type ?? 'text'}
          chosen={value.values.map(shown)}
          toggle={(label) =>
            set({
              ...value,
              values: value.values.map(shown).includes(label)
                ? value.values.filter((one) => shown(one) !== label)
                : [...value.values, typed(label, type)],
            })
          }
        />
      )}
      {type === 'text' && value.op !== 'is-empty' && value.op !== 'is-filled' && (
        <div className="flex gap-4 text-ink-2">
          <label className="flex items-center gap-1.5">
            <input
              type="checkbox"
              checked={value.ignoreCase === true}
              onChange={(event) => set({ ...value, ignoreCase: event.target.checked })}
            />{' '}
            whatever the case
          </label>
          <label className="flex items-center gap-1.5">
            <input
              type="checkbox"
              checked={value.trim === true}
              onChange={(event) => set({ ...value, trim: event.target.checked })}
            />{' '}
            spaces at the ends aside
          </label>
        </div>
      )}
    </div>
  )
}

/** One test, or several of which all or any must hold. What it cannot draw (nested, formulas) is edited as a formula. */
export const ConditionEditor = ({
  story,
  step,
  schema,
  value,
  set,
}: {
  story: Story
  step: Step
  schema: Schema
  value: Condition
  set: (value: Condition) => void
}) => {
  const joint: 'all' | 'any' = 'any' in value ? 'any' : 'all'
  const chooseTests = () => {
    if ('all' in value) return value.all
    if ('any' in value) return value.any
    return [value]
  }
  const tests: readonly Condition[] = chooseTests()
  const write = (next: readonly Condition[], how = joint): void => {
    const [only] = next
    const combined = () => {
      if (next.length === 1 && only) return only
      if (how === 'all') return { all: next }
      return { any: next }
    }
    set(combined())
  }
  return (
    <div className="grid min-w-[460px] gap-2">
      {tests.length > 1 && (
        <Segments
          label="How the tests join"
          value={joint}
          of={[
            ['all', 'all of these'],
            ['any', 'any of these'],
          ]}
          onChange={(how) => write(tests, how)}
        />
      )}
      {tests.map((one, i) =>
        isTest(one) ? (
          <TestEditor
            key={`${i}${one.column}`}
            story={story}
            step={step}
            schema={schema}
            value={one}
            set={(next) => write(tests.map((old, k) => (k === i ? next : old)))}
            remove={tests.length > 1 ? () => write(tests.filter((_, k) => k !== i)) : undefined}
          />
        ) : (
          <label key={i} className="grid gap-1">
            <span className="text-ink-2">
              {'formula' in one
                ? 'A formula that is true or false'
                : 'Conditions inside conditions are kept as they are.'}
            </span>
            {'formula' in one && (
              <input
                className="field font-mono"
                defaultValue={one.formula}
                onChange={(event) =>
                  event.target.value && write(tests.map((old, k) => (k === i ? { formula: event.target.value } : old)))
                }
              />
            )}
          </label>
        ),
      )}
      <div className="flex gap-4">
        <Button
          look="link"
          className="py-0!"
          onClick={() => write([...tests, { column: schema[0]?.name ?? '', op: 'is-filled' }])}
        >
          Another test
        </Button>
        <Button look="link" className="py-0!" onClick={() => write([...tests, { formula: 'TRUE' }])}>
          A formula
        </Button>
      </div>
    </div>
  )
}

function testColumns(
  value: Test,
  set: (value: Condition) => void,
  schema: Schema,
  type: ColumnType | undefined,
  input: (label: string, held: unknown, put: (next: string | number | boolean | null) => void) => JSX.Element,
  remove: (() => void) | undefined,
) {
  return (
    <div className="flex flex-wrap items-center gap-2">
      <select
        className="field max-w-[170px]"
        aria-label="Column"
        value={value.column}
        onChange={(event) => set({ column: event.target.value, op: 'is-filled' })}
      >
        {schema.map(({ name }) => (
          <option key={name}>{name}</option>
        ))}
      </select>
      <select
        className="field"
        aria-label="Test"
        value={value.op}
        onChange={(event) => set(withOp(value, event.target.value as ConditionOp, type))}
      >
        {opsFor(type).map((op) => (
          <option key={op} value={op}>
            {opWords[op]}
          </option>
        ))}
      </select>
      {'value' in value && input('Value', value.value, (next) => set({ ...value, value: next }))}
      {'from' in value && (
        <>
          {input('From', value.from, (next) => set({ ...value, from: next }))} and{' '}
          {input('To', value.to, (next) => set({ ...value, to: next }))}
        </>
      )}
      {remove && (
        <Button look="quiet" aria-label="Take this test out" onClick={remove}>
          ×
        </Button>
      )}
    </div>
  )
}
