import { useState } from 'react'
import type { SplitBy, Step, Take, StepOf } from '@fabula/core'
import { Segments } from '../ui/parts.tsx'
import type { Story } from '../story/use-story.ts'
import { without } from '../story/without.ts'

const common: readonly (readonly [string, string])[] = [
  [';', 'semicolon ;'],
  [',', 'comma ,'],
  [', ', 'comma and blank'],
  ['; ', 'semicolon and blank'],
  ['/', 'slash /'],
  ['|', 'bar |'],
  ['-', 'hyphen -'],
  [' ', 'blank'],
  ['\n', 'line break'],
  ['\t', 'tab'],
]

/** The sign at which a text is split: one of the common ones, or any text as it is typed. */
const SignField = ({ sign, set }: { sign: string; set: (sign: string) => void }) => {
  // what is typed stays as it is, also where it is one of the common signs on the way to a longer one
  const [typed, setTyped] = useState(() => (common.some(([one]) => one === sign) ? '' : sign))
  return (
    <div className="flex items-center gap-2">
      <select
        className="field"
        aria-label="The sign"
        value={typed === '' ? sign : ''}
        onChange={(event) => {
          setTyped('')
          if (event.target.value !== '') set(event.target.value)
        }}
      >
        {common.map(([one, words]) => (
          <option key={one} value={one}>
            {words}
          </option>
        ))}
        <option value="">another</option>
      </select>
      <input
        className="field figures w-[100px]"
        aria-label="Another sign"
        value={typed}
        placeholder="another"
        onChange={(event) => {
          setTyped(event.target.value)
          if (event.target.value !== '') set(event.target.value)
        }}
      />
    </div>
  )
}

/** Where a text is split: at a sign, at a pattern, after so many characters; every time, the first or the last. */
export const SeparatorEditor = ({ step, story }: { step: StepOf<'split'>; story: Story }) => {
  const by = step.by as SplitBy
  const chooseWay = () => {
    if ('delimiter' in by) return 'delimiter'
    if ('pattern' in by) return 'pattern'
    return 'widths'
  }
  const way = chooseWay()
  const set = (next: SplitBy): void =>
    story.reword({ ...('widths' in next ? without(step, 'at') : step), by: next } as Step)
  return (
    <div className="grid w-[330px] gap-2.5">
      <Segments
        label="How it is split"
        value={way}
        of={[
          ['delimiter', 'at a sign'],
          ['pattern', 'at a pattern'],
          ['widths', 'by length'],
        ]}
        onChange={(next) => {
          const separatorFor = () => {
            if (next === 'delimiter') return { delimiter: ';' }
            if (next === 'pattern') return { pattern: '[,;]\\s*' }
            return { widths: [4, 2, 2] }
          }
          return set(separatorFor())
        }}
      />
      {'delimiter' in by && <SignField sign={by.delimiter} set={(delimiter) => set({ delimiter })} />}
      {'pattern' in by && (
        <input
          className="field font-mono"
          aria-label="The pattern"
          defaultValue={by.pattern}
          onChange={(event) => event.target.value !== '' && set({ pattern: event.target.value })}
        />
      )}
      {'widths' in by && (
        <label className="grid gap-1">
          <span className="text-ink-2">Characters of each piece, such as 4, 2, 2</span>
          <input
            className="field"
            defaultValue={by.widths.join(', ')}
            onChange={(event) => {
              const widths = event.target.value
                .split(/[^0-9]+/)
                .map(Number)
                .filter((n) => n > 0)
              if (widths.length > 0) set({ widths })
            }}
          />
        </label>
      )}
      {way !== 'widths' && (
        <Segments
          label="Which times"
          value={(step.at as 'every' | 'first' | 'last' | undefined) ?? 'every'}
          of={[
            ['every', 'every time'],
            ['first', 'the first'],
            ['last', 'the last'],
          ]}
          onChange={(at) => story.reword(at === 'every' ? without(step, 'at') : ({ ...step, at } as Step))}
        />
      )}
    </div>
  )
}

/** What the pieces become: named columns, as many columns as there are pieces, or rows. */
export const PiecesEditor = ({ step, story }: { step: StepOf<'split'>; story: Story }) => {
  const into = step.into as 'rows' | { columns: readonly string[] | 'found' }
  const chooseWay = () => {
    if (into === 'rows') return 'rows'
    if (into.columns === 'found') return 'found'
    return 'named'
  }
  const way = chooseWay()
  const column = String(step.column)
  const set = (next: typeof into): void => story.reword({ ...step, into: next } as Step)
  return (
    <div className="grid w-[340px] gap-2.5">
      <Segments
        label="What the pieces become"
        value={way}
        of={[
          ['rows', 'rows'],
          ['found', 'as many columns'],
          ['named', 'these columns'],
        ]}
        onChange={(next) =>
          set(next === 'rows' ? 'rows' : { columns: next === 'found' ? 'found' : [`${column} 1`, `${column} 2`] })
        }
      />
      {way === 'named' && into !== 'rows' && (
        <label className="grid gap-1">
          <span className="text-ink-2">Names, one a line; what is beyond stays joined in the last</span>
          <textarea
            className="field min-h-[84px]"
            aria-label="Names of the pieces"
            defaultValue={(into.columns as readonly string[]).join('\n')}
            onKeyDown={(event) => event.key === 'Enter' && event.stopPropagation()}
            onChange={(event) => {
              const names = event.target.value.split('\n').filter((name) => name.trim() !== '')
              if (names.length > 0) set({ columns: names })
            }}
          />
        </label>
      )}
      {way === 'found' && (
        <p className="text-[12.5px] text-ink-3">
          A cell with more pieces next month makes more columns; no piece is lost.
        </p>
      )}
      {way === 'rows' && (
        <p className="text-[12.5px] text-ink-3">Each piece becomes a row; the other columns repeat.</p>
      )}
    </div>
  )
}

type Way = 'before' | 'after' | 'between' | 'first' | 'last' | 'from' | 'pattern'
const ways: readonly (readonly [Way, string])[] = [
  ['before', 'what stands before'],
  ['after', 'what stands after'],
  ['between', 'what stands between'],
  ['first', 'the first characters'],
  ['last', 'the last characters'],
  ['from', 'characters from a place on'],
  ['pattern', 'a pattern'],
]
const wayOf = (take: Take): Way => ways.find(([way]) => way in take)?.[0] ?? 'first'
const begun: Readonly<Record<Way, Take>> = {
  before: { before: '-' },
  after: { after: '-' },
  between: { between: ['(', ')'] },
  first: { first: 3 },
  last: { last: 3 },
  from: { from: 1, length: 3 },
  pattern: { pattern: '\\d+' },
}

/** Which part of a text is taken. */
export const TakeEditor = ({ step, story }: { step: StepOf<'extract'>; story: Story }) => {
  const take = step.take as Take
  const set = (next: Take): void => story.reword({ ...step, take: next } as Step)
  const text = (label: string, value: string, put: (text: string) => void) => (
    <input
      key={label}
      className="field w-[120px]"
      aria-label={label}
      defaultValue={value}
      onChange={(event) => event.target.value !== '' && put(event.target.value)}
    />
  )
  const number = (label: string, value: number, put: (n: number) => void) => (
    <input
      key={label}
      className="field figures w-[90px]"
      type="number"
      min={1}
      aria-label={label}
      defaultValue={value}
      onChange={(event) =>
        Number.isInteger(event.target.valueAsNumber) &&
        event.target.valueAsNumber > 0 &&
        put(event.target.valueAsNumber)
      }
    />
  )
  const located = 'before' in take || 'after' in take || 'between' in take || 'pattern' in take
  return (
    <div className="grid w-[380px] gap-2.5">
      <select
        className="field"
        aria-label="What is taken"
        value={wayOf(take)}
        onChange={(event) => set(begun[event.target.value as Way])}
      >
        {ways.map(([way, words]) => (
          <option key={way} value={way}>
            {words}
          </option>
        ))}
      </select>
      <div className="flex flex-wrap items-center gap-2">
        {'before' in take && text('Before', take.before, (before) => set({ before }))}
        {'after' in take && text('After', take.after, (after) => set({ after }))}
        {'between' in take && [
          text('From after', take.between[0], (one) => set({ between: [one, take.between[1]] })),
          ' and ',
          text('Up to', take.between[1], (one) => set({ between: [take.between[0], one] })),
        ]}
        {'first' in take && number('How many', take.first, (first) => set({ first }))}
        {'last' in take && number('How many', take.last, (last) => set({ last }))}
        {'from' in take && [
          number('From', take.from, (from) => set({ ...take, from })),
          ' how many ',
          number('How many', take.length, (length) => set({ ...take, length })),
        ]}
        {'pattern' in take && (
          <input
            className="field w-[260px] font-mono"
            aria-label="The pattern"
            defaultValue={take.pattern}
            onChange={(event) => event.target.value !== '' && set({ ...take, pattern: event.target.value })}
          />
        )}
      </div>
      {located && (
        <Segments
          label="Which one"
          value={(step.occurrence as 'first' | 'last' | undefined) ?? 'first'}
          of={[
            ['first', 'the first'],
            ['last', 'the last'],
          ]}
          onChange={(which) =>
            story.reword(which === 'first' ? without(step, 'occurrence') : ({ ...step, occurrence: which } as Step))
          }
        />
      )}
    </div>
  )
}
