import { counted, figure, type JoinHow, type joinHows } from '@fabula/core'
import type { MatchFigures } from './join-model.ts'

const keptWords = (how: JoinHow, here: string, there: string): string =>
  ({
    left: `Keep every row of ${here}`,
    inner: 'Only where both meet',
    full: 'Keep everything',
    'left-only': `Only ${here} that meet none`,
    right: `Keep every row of ${there}`,
    'right-only': `Only ${there} that meet none`,
    cross: 'Every row with every row',
  })[how]

const kept = (how: JoinHow): Readonly<Record<'left' | 'both' | 'right', boolean>> => ({
  left: ['left', 'full', 'left-only', 'cross'].includes(how),
  both: !how.endsWith('-only'),
  right: ['right', 'full', 'right-only', 'cross'].includes(how),
})

/** What a way of joining keeps, drawn: rows only here, rows that meet, rows only there. */
const KeptDrawing = ({ how, entries }: { how: JoinHow; entries: readonly [number, number] }) => (
  <span aria-hidden className="flex flex-none items-center gap-px">
    {(['left', 'both', 'right'] as const).map((part) => (
      <i
        key={part}
        className={`h-[12px] rounded-[3px] ${part === 'both' ? 'w-[18px]' : 'w-[10px]'} ${kept(how)[part] ? '' : 'border border-dashed border-ink-3'}`}
        style={
          kept(how)[part]
            ? {
                background:
                  part === 'both'
                    ? 'var(--ink-2)'
                    : `var(--strand-${(((entries[part === 'left' ? 0 : 1] % 5) + 5) % 5) + 1})`,
              }
            : {}
        }
      />
    ))}
  </span>
)

/** What each way of joining keeps, and how many rows it gives. */
export const Ways = ({
  how,
  matching,
  before,
  names,
  entries,
  choose,
}: {
  entries: readonly [number, number]
  how: JoinHow
  matching: MatchFigures | null
  before: number
  names: readonly [string, string]
  choose: (how: JoinHow) => void
}) => (
  <div
    role="radiogroup"
    aria-label="What is kept"
    className="grid grid-cols-4 gap-1.5 border-b border-line px-3.5 py-2"
  >
    {(
      [
        'left',
        'inner',
        'full',
        'left-only',
        'right',
        'right-only',
        'cross',
      ] as const satisfies readonly (typeof joinHows)[number][]
    ).map((one) => {
      const gives = matching?.gives[one]
      const change = gives === undefined ? 0 : gives - before
      return (
        <button
          key={one}
          type="button"
          role="radio"
          aria-checked={how === one}
          onClick={() => choose(one)}
          className={`min-w-0 rounded-md border px-2 py-1 text-left ${how === one ? 'border-rubric bg-sheet shadow-[0_0_0_1px_var(--rubric)]' : 'border-line-strong bg-paper hover:bg-sheet'}`}
        >
          <b className="block truncate font-serif text-[13px] font-semibold">{keptWords(one, ...names)}</b>
          <span className="flex min-w-0 items-center gap-2">
            <KeptDrawing how={one} entries={entries} />
            <span className="figures truncate text-[12px] text-ink-3">
              {gives === undefined ? 'needs a key' : counted(gives, 'row')}
              {gives !== undefined && change !== 0
                ? `, ${figure(Math.abs(change))} ${change > 0 ? 'more' : 'fewer'}`
                : ''}
            </span>
          </span>
        </button>
      )
    })}
  </div>
)
