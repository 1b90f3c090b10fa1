import type { Schema } from '@fabula/core'
import type { Story } from '../story/use-story.ts'
import { type AnyValue } from '../story/values.ts'

type ValueSource = 'value' | 'column' | 'parameter'
const sourceOf = (value: AnyValue): ValueSource => {
  if (typeof value === 'object' && value !== null) {
    if ('column' in value) return 'column'
    return 'parameter'
  }
  return 'value'
}
const written = (text: string): AnyValue => {
  if (text === '') return null
  if (/^-?\d+(\.\d+)?$/.test(text) && !/^-?0\d/.test(text)) return Number(text)
  if (text === 'true') return true
  if (text === 'false') return false
  return text
}

/** A value written out, of another column, or asked at replay. `read` makes of what is typed a value. */
export const ValueField = ({
  label,
  value,
  schema,
  story,
  set,
  read = written,
  date = false,
  done,
}: {
  label: string
  value: AnyValue
  schema: Schema
  story: Story
  set: (value: AnyValue) => void
  read?: (text: string) => AnyValue
  date?: boolean
  done?: () => void
}) => {
  const source = sourceOf(value)
  const parameters = story.recipe.parameters ?? []
  const choose = (next: ValueSource): void => {
    const source = () => {
      if (next === 'column') return { column: schema[0]?.name ?? '' }
      if (next === 'parameter') return { parameter: parameters[0]?.name ?? '' }
      return null
    }
    return set(source())
  }
  return (
    <span className="flex flex-wrap items-center gap-1.5">
      {source === 'value' && (
        <input
          className="field w-[130px]"
          type={date ? 'date' : 'text'}
          aria-label={label}
          placeholder="nothing"
          defaultValue={value === null ? '' : String(value as string | number | boolean)}
          onChange={(event) => set(read(event.target.value))}
          onKeyDown={(event) => event.key === 'Enter' && (event.stopPropagation(), done?.())}
        />
      )}
      {source === 'column' && (
        <select
          className="field max-w-[150px]"
          aria-label={label}
          value={(value as { column: string }).column}
          onChange={(event) => set({ column: event.target.value })}
        >
          {schema.map(({ name }) => (
            <option key={name}>{name}</option>
          ))}
        </select>
      )}
      {source === 'parameter' && (
        <select
          className="field max-w-[150px]"
          aria-label={label}
          value={(value as { parameter: string }).parameter}
          onChange={(event) => set({ parameter: event.target.value })}
        >
          {parameters.map(({ name }) => (
            <option key={name}>{name}</option>
          ))}
        </select>
      )}
      <select
        className="field text-[12px] text-ink-3"
        aria-label={`${label}: where it comes from`}
        title="Where the value comes from"
        value={source}
        onChange={(event) => choose(event.target.value as ValueSource)}
      >
        <option value="value">written here</option>
        <option value="column">a column</option>
        {parameters.length > 0 && <option value="parameter">asked at replay</option>}
      </select>
    </span>
  )
}
