import {
  cleanings,
  cleaningWords,
  selectedNames,
  type Cleaning,
  type Schema,
  type Selector,
  type Step,
  type StepOf,
  isKind,
  replacementPairs,
  type Replacement,
} from '@fabula/core'
import { Button } from '../ui/parts.tsx'
import type { Story } from '../story/use-story.ts'
import { typedNumber } from '../story/typed-number.ts'

export type PlainValue = string | number | boolean
/** The type of the first column that a step's selector means. */
export const typeHere = (step: Step, schema: Schema): Schema[number]['type'] => {
  const [measured] = isKind(step, 'pivot') ? step.values : []
  if (measured) {
    if (['only', 'min', 'max', 'first', 'last'].includes(measured.how))
      return schema.find(({ name }) => name === measured.column)?.type ?? 'text'
    if (measured.how === 'join') return 'text'
    return 'decimal'
  }
  const [first] = selectedNames('columns' in step ? (step.columns as Selector) : [], schema)
  return schema.find(({ name }) => name === first)?.type ?? 'text'
}
/** What is typed, as a value of a type where it reads as one. */
export const writtenAs = (text: string, type: Schema[number]['type']): PlainValue => {
  if (type === 'integer' || type === 'decimal') return typedNumber(text) ?? text
  if (type === 'boolean' && /^(?:true|false)$/.test(text)) return text === 'true'
  return text
}

/** What is found and what stands there instead; a single pair and several are written alike. */
export const PairsEditor = ({ step, schema, story }: { step: StepOf<'replace'>; schema: Schema; story: Story }) => {
  const pairs = replacementPairs(step)
  const type = typeHere(step, schema)
  const valueOf = (text: string): PlainValue | null => (text === '' ? null : writtenAs(text, type))
  const set = (next: readonly Replacement[]): void => {
    const { id, kind, note, off, columns, match, ignoreCase } = step
    story.reword({ id, kind, note, off, columns, match, ignoreCase, pairs: next } as Step)
  }
  const put = (i: number, side: 'find' | 'with', text: string): void =>
    set(pairs.map((pair, k) => (k === i ? { ...pair, [side]: valueOf(text) } : pair)))
  return (
    <div className="grid w-[440px] gap-1.5">
      {pairs.map((pair, i) => (
        <div key={i} className="grid grid-cols-[1fr_auto_1fr_auto] items-center gap-2">
          <input
            className="field"
            aria-label={`Find ${i + 1}`}
            defaultValue={String(pair.find ?? '')}
            onChange={(event) => put(i, 'find', event.target.value)}
          />
          becomes
          <input
            className="field"
            aria-label={`Becomes ${i + 1}`}
            placeholder="empty"
            defaultValue={String(pair.with ?? '')}
            onChange={(event) => put(i, 'with', event.target.value)}
          />
          <Button
            look="quiet"
            aria-label={`Take pair ${i + 1} out`}
            disabled={pairs.length === 1}
            onClick={() => set(pairs.filter((_, k) => k !== i))}
          >
            ×
          </Button>
        </div>
      ))}
      <Button
        className="justify-self-start"
        onClick={() => set([...pairs, { find: type === 'text' ? '…' : (pairs[0]?.find ?? null), with: null }])}
      >
        Another value
      </Button>
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={step.ignoreCase === true}
          onChange={(event) =>
            story.reword(
              (event.target.checked
                ? { ...step, ignoreCase: true }
                : Object.fromEntries(Object.entries(step).filter(([key]) => key !== 'ignoreCase'))) as Step,
            )
          }
        />{' '}
        whatever the case
      </label>
    </div>
  )
}

/** A list of values, one a line. */
export const ValuesEditor = ({
  value,
  type,
  set,
}: {
  value: readonly PlainValue[]
  type: Schema[number]['type']
  set: (value: readonly PlainValue[]) => void
}) => (
  <label className="grid w-[280px] gap-1">
    <span className="text-ink-2">Values, one a line</span>
    <textarea
      className="field min-h-[96px]"
      autoFocus
      defaultValue={value.map(String).join('\n')}
      onKeyDown={(event) => event.key === 'Enter' && event.stopPropagation()}
      onChange={(event) => {
        const lines = event.target.value.split('\n').filter((line) => line !== '')
        if (lines.length > 0) set(lines.map((line) => writtenAs(line, type)))
      }}
    />
  </label>
)

/** What is done to the text, in the order in which it is ticked. */
export const CleaningsEditor = ({
  value,
  set,
}: {
  value: readonly Cleaning[]
  set: (value: readonly Cleaning[]) => void
}) => (
  <div className="grid gap-0.5">
    {cleanings.map((act) => (
      <label key={act} className="flex items-center gap-2 rounded px-1.5 py-1 hover:bg-sunk">
        <input
          type="checkbox"
          checked={value.includes(act)}
          onChange={() =>
            value.includes(act) ? value.length > 1 && set(value.filter((one) => one !== act)) : set([...value, act])
          }
        />
        {cleaningWords[act]}
        {value.length > 1 && value.includes(act) && (
          <span className="figures ml-auto pl-3 text-[12px] text-ink-3">{value.indexOf(act) + 1}</span>
        )}
      </label>
    ))}
  </div>
)
