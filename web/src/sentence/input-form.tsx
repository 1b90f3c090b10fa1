import { useState } from 'react'
import { ownValue, wildcard, type Recipe } from '@fabula/core'
import { KeepOrLeave } from '../ui/parts.tsx'
import type { Story } from '../story/use-story.ts'

/** What comes in at a start: what it is called, and by which names of files a replay knows it. */
export const InputForm = ({
  story,
  input,
  close,
}: {
  story: Story
  input: Recipe['inputs'][number]
  close: () => void
}) => {
  const [name, setName] = useState(input.name)
  const [pattern, setPattern] = useState(input.files ?? '')
  const { recipe, files } = story.flow
  const taken = recipe.inputs.some((one) => one.id !== input.id && one.name === name.trim())
  const strangers =
    pattern.trim() === ''
      ? []
      : (ownValue(files, input.id) ?? []).filter((file) => !wildcard(pattern.trim()).test(file.name))
  const keep = (): void => {
    if (name.trim() === '' || taken) return
    const { files: _files, ...rest } = input
    const next = { ...rest, name: name.trim(), ...(pattern.trim() === '' ? {} : { files: pattern.trim() }) }
    void story.save(
      { ...recipe, inputs: recipe.inputs.map((one) => (one.id === input.id ? next : one)) },
      'what comes in, called otherwise',
    )
    close()
  }
  const hint = () => {
    if (taken) return `Another input is called ${name.trim()}. Take another name.`
    if (strangers[0]) return `${strangers[0].name}, which is open now, would not be known by this.`
    return '* stands for any run of letters, ? for one. By this a replay knows which file goes where.'
  }
  return (
    <span
      className="mt-2 grid gap-1.5 font-sans text-[12.5px]"
      onClick={(event) => event.stopPropagation()}
      onKeyDown={(event) => (
        event.stopPropagation(),
        event.key === 'Escape' ? close() : event.key === 'Enter' && keep()
      )}
    >
      <label className="grid gap-0.5">
        What comes in is called
        <input className="field" autoFocus value={name} onChange={(event) => setName(event.target.value)} />
      </label>
      <label className="grid gap-0.5">
        Its files are named like
        <input
          className="field font-data"
          placeholder="any name"
          value={pattern}
          onChange={(event) => setPattern(event.target.value)}
        />
      </label>
      <span className="text-ink-3">{hint()}</span>
      <KeepOrLeave words="Keep it" keep={keep} leave={close} disabled={name.trim() === '' || taken} />
    </span>
  )
}
