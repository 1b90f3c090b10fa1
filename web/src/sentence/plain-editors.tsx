import { useState } from 'react'
import { typedNumber } from '../story/typed-number.ts'
import { type StepOf } from '@fabula/core'

export const TextEditor = ({
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

/** A number as people type it; what is none is said, and the sentence keeps the last one. */
export const NumberEditor = ({
  value,
  set,
  done,
}: {
  value: unknown
  set: (value: number) => void
  done: () => void
}) => {
  const [refused, setRefused] = useState('')
  const change = (text: string): void => {
    const number = typedNumber(text)
    setRefused(number === undefined ? text : '')
    if (number !== undefined) set(number)
  }
  return (
    <div className="grid gap-1">
      <TextEditor label="Number" value={String(value ?? '')} set={change} done={done} />
      {refused !== '' && (
        <p role="alert" className="text-[12.5px] text-removed">
          “{refused}” is no number; the sentence keeps the last one.
        </p>
      )}
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

export const FormatsEditor = ({
  value,
  set,
}: {
  value: readonly string[]
  set: (value: readonly string[]) => void
}) => {
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

export const ChangeEditor = ({ value, set }: { value: Record<string, unknown>; set: (value: unknown) => void }) => {
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
type NewSlice = { readonly [K in SliceKey]?: number }

/** Which rows a slice keeps, and how many. */
const sliceOf = (step: StepOf<'slice'>): readonly [SliceKey, number] => {
  if ('first' in step) return ['first', step.first]
  if ('last' in step) return ['last', step.last]
  return 'skip' in step ? ['skip', step.skip] : ['every', step.every]
}

export const SliceEditor = ({ step, set }: { step: StepOf<'slice'>; set: (params: NewSlice) => void }) => {
  const [key, rows] = sliceOf(step)
  return (
    <div className="flex items-center gap-2">
      <select
        className="field"
        aria-label="Which rows"
        value={key}
        onChange={(event) => set({ [event.target.value as SliceKey]: Math.max(1, rows) })}
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
        defaultValue={rows}
        onChange={(event) =>
          Number.isInteger(event.target.valueAsNumber) &&
          event.target.valueAsNumber >= (key === 'every' ? 1 : 0) &&
          set({ [key]: event.target.valueAsNumber })
        }
      />
    </div>
  )
}
