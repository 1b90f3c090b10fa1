import { useState } from 'react'
import { parameterUsers, renameParameter, scalarTypes, typeWords, type Parameter } from '@fabula/core'
import { Button } from '../ui/parts.tsx'
import type { Story } from '../story/use-story.ts'
import { typedNumber } from '../story/typed-number.ts'

export const parameterInput = (type: Parameter['type']): { type: string; step?: string } => {
  if (type === 'date') return { type: 'date' }
  if (type === 'datetime') return { type: 'datetime-local', step: '1' }
  if (type === 'time') return { type: 'time', step: '1' }
  return { type: 'text' }
}
/** What is typed, as the recipe holds it. */
const written = (text: string, type: Parameter['type']): Parameter['value'] => {
  if (text === '') return null
  if (type === 'integer' || type === 'decimal') return typedNumber(text) ?? text
  if (type === 'boolean') return text === 'true'
  return text
}

/** A value's name; a click writes it anew, and every sentence that uses it follows. */
const ParameterName = ({ story, name }: { story: Story; name: string }) => {
  const [naming, setNaming] = useState(false)
  const { recipe } = story.flow
  const rename = (next: string): void => {
    setNaming(false)
    if (next === '' || next === name) return
    if (recipe.parameters?.some((one) => one.name === next))
      return story.setProblem(`A value is called ${next} already. Give this one another name.`)
    void story.save(renameParameter(recipe, name, next), 'a value renamed')
  }
  if (naming)
    return (
      <input
        className="field w-[110px] font-serif"
        aria-label={`New name of ${name}`}
        autoFocus
        defaultValue={name}
        onBlur={(event) => rename(event.target.value.trim())}
        onKeyDown={(event) => (
          event.stopPropagation(),
          event.key === 'Enter' ? event.currentTarget.blur() : event.key === 'Escape' && setNaming(false)
        )}
      />
    )
  return (
    <button
      type="button"
      aria-label={`Rename ${name}`}
      title="Give it another name"
      disabled={story.draft !== undefined}
      className="truncate font-serif text-[13.5px] font-medium text-rubric hover:underline"
      onClick={() => setNaming(true)}
    >
      {name}
    </button>
  )
}

/** What is asked at every replay: a name, a type, the value it has here. */
export const Parameters = ({ story }: { story: Story }) => {
  const [adding, setAdding] = useState(false)
  const [name, setName] = useState('')
  const [type, setType] = useState<Parameter['type']>('date')
  const parameters = story.flow.recipe.parameters ?? []
  const save = (next: readonly Parameter[], what: string): void => {
    const { parameters: _parameters, ...rest } = story.flow.recipe
    void story.save(next.length > 0 ? { ...rest, parameters: next } : rest, what)
  }
  const add = (): void => {
    const chooseFirst = () => {
      const today = new Date().toISOString().slice(0, 10)
      if (type === 'date') return today
      if (type === 'datetime') return `${today}T08:00:00`
      if (type === 'time') return '08:00:00'
      if (type === 'boolean') return true
      if (type === 'text') return 'text'
      return 0
    }
    const first = chooseFirst()
    save([...parameters, { name: name.trim(), type, value: first }], 'a value asked at replay')
    setName('')
    setAdding(false)
  }
  if (parameters.length === 0 && !adding)
    return (
      <p className="pb-1 pl-[38px] text-[12.5px] text-ink-3">
        <Button look="link" className="py-0!" disabled={story.draft !== undefined} onClick={() => setAdding(true)}>
          Add a value asked at replay
        </Button>
      </p>
    )
  return (
    <section aria-label="Asked at replay" className="mb-2 border-b border-line pr-3.5 pb-2 pl-[38px] text-[12.5px]">
      <h2 className="mb-1 text-[12px] font-semibold text-ink-3">Asked at replay</h2>
      <ul className="grid gap-1">
        {parameters.map((one) => {
          const uses = parameterUsers(story.flow.recipe, one.name).length
          const usesText = () => {
            if (uses === 0) return 'not used yet'
            if (uses === 1) return 'used once'
            return `used in ${uses} sentences`
          }
          return parameterRow(one, story, save, parameters, usesText, uses)
        })}
      </ul>
      {adding ? (
        <div className="mt-1.5 flex items-center gap-2">
          <input
            className="field w-[130px]"
            aria-label="Name of the value"
            placeholder="its name, such as As of"
            autoFocus
            value={name}
            onChange={(event) => setName(event.target.value)}
            onKeyDown={(event) => event.key === 'Enter' && (event.stopPropagation(), name.trim() !== '' && add())}
          />
          <select
            className="field"
            aria-label="Type of the value"
            value={type}
            onChange={(event) => setType(event.target.value as Parameter['type'])}
          >
            {scalarTypes.map((one) => (
              <option key={one} value={one}>
                {typeWords[one]}
              </option>
            ))}
          </select>
          <Button
            className="py-1!"
            disabled={name.trim() === '' || parameters.some((one) => one.name === name.trim())}
            onClick={add}
          >
            Add
          </Button>
        </div>
      ) : (
        <Button
          look="link"
          className="py-0! text-[12.5px]"
          disabled={story.draft !== undefined}
          onClick={() => setAdding(true)}
        >
          Another
        </Button>
      )}
    </section>
  )
}

function parameterRow(
  one: Parameter,
  story: Story,
  save: (next: readonly Parameter[], what: string) => void,
  parameters: readonly Parameter[],
  usesText: () => string,
  uses: number,
) {
  return (
    <li key={one.name} className="flex items-center gap-2">
      <ParameterName story={story} name={one.name} />
      {one.type === 'boolean' ? (
        <select
          className="field"
          aria-label={one.name}
          value={String(one.value)}
          onChange={(event) =>
            save(
              parameters.map((other) => (other === one ? { ...one, value: event.target.value === 'true' } : other)),
              'a value changed',
            )
          }
        >
          <option>true</option>
          <option>false</option>
        </select>
      ) : (
        <input
          key={String(one.value)}
          className="field figures w-[128px]"
          {...parameterInput(one.type)}
          aria-label={one.name}
          defaultValue={one.value === null || one.value === undefined ? '' : String(one.value)}
          onBlur={(event) =>
            String(one.value ?? '') !== event.target.value &&
            save(
              parameters.map((other) =>
                other === one ? { ...one, value: written(event.target.value, one.type) ?? null } : other,
              ),
              'a value changed',
            )
          }
          onKeyDown={(event) => event.key === 'Enter' && (event.stopPropagation(), event.currentTarget.blur())}
        />
      )}
      <span className="ml-auto text-[12px] whitespace-nowrap text-ink-3">{usesText()}</span>
      <Button
        look="quiet"
        className="px-1.5! py-0!"
        aria-label={`Ask ${one.name} no more`}
        disabled={uses > 0 || story.draft !== undefined}
        title={uses > 0 ? 'Sentences use it' : ''}
        onClick={() =>
          save(
            parameters.filter((other) => other !== one),
            'a value asked no more',
          )
        }
      >
        ×
      </Button>
    </li>
  )
}
