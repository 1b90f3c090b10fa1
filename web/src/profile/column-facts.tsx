import { counted, figure, formatDecimal } from '@fabula/core'
import type { ColumnFacts } from '@fabula/core/api'
import { useWriting, writtenValue, type Writing } from '../ui/writing.ts'
import { Notice } from '../ui/parts.tsx'

/** The figures of a column as name and value. */
const figuresOf = (facts: ColumnFacts, writing: Writing): (readonly [string, string])[] => {
  const type = facts.type === 'integer' ? 'decimal' : facts.type
  const written = (text: string | undefined): string | undefined =>
    text === undefined ? undefined : writtenValue(text, type, writing)
  const number = (n: number | undefined): string | undefined =>
    n === undefined ? undefined : writtenValue(formatDecimal(n), 'decimal', writing)
  const dated = facts.type === 'date' || facts.type === 'datetime'
  const lengths = () => {
    if (facts.longest === undefined) return undefined
    if (facts.shortest === facts.longest) return counted(facts.longest, 'character')
    return `${facts.shortest ?? 0} to ${counted(facts.longest, 'character')}`
  }
  const rows: (readonly [string, string | undefined])[] = [
    ['Filled', `${figure(facts.filled)} of ${figure(facts.rows)}`],
    ['Empty', facts.filled < facts.rows ? figure(facts.rows - facts.filled) : undefined],
    ['Different values', figure(facts.distinct)],
    [dated ? 'Earliest' : 'Least', written(facts.least)],
    [dated ? 'Latest' : 'Greatest', written(facts.greatest)],
    ['Mean', number(facts.mean)],
    ['Median', written(facts.median)],
    ['Middle half', facts.quarters && facts.quarters.map(written).join(' to ')],
    ['Standard deviation', number(facts.deviation)],
    ['Length', lengths()],
  ]
  return rows.flatMap(([name, value]) => (value === undefined ? [] : [[name, value] as const]))
}

/** What was another figure before the sentence stands struck beside it. */
export const Figures = ({ facts, before }: { facts: ColumnFacts; before?: ColumnFacts | undefined }) => {
  const writing = useWriting()
  const old = new Map(before ? figuresOf(before, writing) : [])
  return (
    <dl className="grid grid-cols-[auto_1fr] gap-x-2 gap-y-0.5 text-[12.5px]">
      {figuresOf(facts, writing).map(([name, value]) => (
        <div key={name} className="contents">
          <dt className="text-ink-2">{name}</dt>
          <dd className="figures text-right font-medium">
            {old.has(name) && old.get(name) !== value && (
              <s className="mr-1.5 font-normal text-changed">{old.get(name)}</s>
            )}
            {value}
          </dd>
        </div>
      ))}
    </dl>
  )
}

export const dotted = (label: string): string => label.replace(/^ +| +$/g, (run) => '·'.repeat(run.length))

type ValueBarsProps = {
  label: string
  bars: ColumnFacts['common']
  most: number
  choose: (bar: ColumnFacts['common'][number]) => void
  ticked?: readonly string[]
  tick?: (value: string) => void
}

/** Values with how many rows hold each; a click chooses one, ticks choose several. */
export const ValueBars = ({ label, bars, most, choose, ticked = [], tick }: ValueBarsProps) => (
  <ul aria-label={label} className="figures text-[12.5px]">
    {bars.map((bar) => (
      <li key={bar.label} className="flex min-h-[25px] items-center gap-2">
        {tick && (
          <input
            type="checkbox"
            aria-label={`Tick ${bar.label}`}
            checked={ticked.includes(bar.label)}
            onChange={() => tick(bar.label)}
          />
        )}
        <button
          type="button"
          disabled={!bar.where}
          title={`${bar.label}: ${counted(bar.count, 'row')}`}
          className="grid w-full min-w-0 grid-cols-[minmax(0,1fr)_56px_44px] items-center gap-2 rounded py-0.5 text-left enabled:hover:bg-sunk"
          onClick={() => choose(bar)}
        >
          <span className="truncate whitespace-pre">{dotted(bar.label)}</span>
          <i
            aria-hidden
            className="h-[7px] rounded-[2px] bg-bar"
            style={{ width: `${Math.max(2, (bar.count / most) * 56)}px` }}
          />
          <span className="text-right text-ink-3">{figure(bar.count)}</span>
        </button>
      </li>
    ))}
  </ul>
)

export const FindingNotes = ({
  findings,
  begin,
}: {
  findings: ColumnFacts['findings']
  begin: (step: Record<string, unknown>) => void
}) => (
  <>
    {findings.map(({ sentence, verb, step }) => (
      <Notice key={sentence}>
        {sentence}{' '}
        <button type="button" className="font-semibold text-rubric" onClick={() => begin(step)}>
          {verb}
        </button>
      </Notice>
    ))}
  </>
)
