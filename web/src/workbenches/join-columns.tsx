import { selectedNames, type Step, type StepOf } from '@fabula/core'
import { type MatchReply } from '@fabula/core/api'
import { type Story } from '../story/use-story.ts'
import { Segments } from '../ui/parts.tsx'
import { without } from '../story/without.ts'
import { keysOf } from './join-model.ts'

/** Which columns come along, and the names they get where both tables have one. */
export const Bring = ({ step, data, story }: { step: StepOf<'join'>; data: MatchReply; story: Story }) => {
  const { how, bring } = step
  const keys = keysOf(step).map(({ right }) => right)
  const there = data.right.columns
  const brought = bring
    ? selectedNames(bring, there)
    : there.map(({ name }) => name).filter((name) => how === 'right-only' || !keys.includes(name))
  const prefix = step.prefix ?? ''
  const mine = how === 'right-only' ? [] : data.left.columns.map(({ name }) => name)
  const set = (names: readonly string[]): void => {
    const ordered = there.map(({ name }) => name).filter((name) => names.includes(name))
    const whole = ordered.length === there.length - new Set(keys).size && ordered.every((name) => !keys.includes(name))
    if (ordered.length > 0)
      story.reword(whole && how !== 'right-only' ? without(step, 'bring') : ({ ...step, bring: ordered } as Step))
  }
  if (how === 'left-only') return null
  return (
    <div className="flex items-center gap-2 border-t border-line bg-paper px-3.5 py-2">
      <span className="text-ink-2">Bring</span>
      <span className="flex min-w-0 flex-1 flex-wrap gap-1.5 overflow-auto" style={{ maxHeight: 62 }}>
        {there.map(({ name }) => {
          const on = brought.includes(name)
          const clash = on && mine.includes(`${prefix}${name}`)
          const nameThere = () => {
            if (clash) return ` as ${prefix}${name} 2`
            if (on && prefix !== '') return ` as ${prefix}${name}`
            return ''
          }
          return (
            <button
              key={name}
              type="button"
              role="checkbox"
              aria-checked={on}
              onClick={() => set(on ? brought.filter((one) => one !== name) : [...brought, name])}
              className={`rounded-full border px-2.5 py-0.5 font-data text-[12.5px] ${on ? 'border-added bg-added-tint' : 'border-line-strong bg-sheet text-ink-2'}`}
            >
              {on ? '✓ ' : ''}
              {name}
              {nameThere()}
            </button>
          )
        })}
      </span>
      <label className="flex items-center gap-1.5 text-[12.5px] text-ink-2">
        with
        <input
          className="field w-[88px]"
          aria-label="Put before each brought name"
          placeholder="nothing"
          value={prefix}
          onChange={(event) =>
            story.reword(
              event.target.value === '' ? without(step, 'prefix') : ({ ...step, prefix: event.target.value } as Step),
            )
          }
          onKeyDown={(event) => event.key === 'Enter' && event.stopPropagation()}
        />
        before
      </label>
      {(how === 'left' || how === 'inner' || how === 'right' || how === 'full') && (
        <Segments
          label="Which matches"
          value={(step.matches as 'all' | 'first' | 'one' | undefined) ?? 'all'}
          of={[
            ['all', 'every match'],
            ['first', 'the first'],
            ['one', 'one, or stop'],
          ]}
          onChange={(matches) =>
            story.reword(matches === 'all' ? without(step, 'matches') : ({ ...step, matches } as Step))
          }
        />
      )}
    </div>
  )
}
