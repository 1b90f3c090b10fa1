import { counted, figure, formatDecimal } from '@fabula/core'
import type { ColumnFacts } from '@fabula/core/api'
import { figureOf } from '../story/sample-figures.ts'
import { useWriting, writtenLabel, writtenValue, type Writing } from '../ui/writing.ts'
import { Notice, walkGroup } from '../ui/parts.tsx'

/** The figures of a column as name and value. */
const figuresOf = (facts: ColumnFacts, ofSample: boolean, writing: Writing): (readonly [string, string])[] => {
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
    ['Filled', figureOf(`${figure(facts.filled)} of ${figure(facts.rows)}`, ofSample)],
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
export const Figures = ({
  facts,
  before,
  ofSample,
}: {
  facts: ColumnFacts
  before?: ColumnFacts | undefined
  ofSample: boolean
}) => {
  const writing = useWriting()
  const old = new Map(before ? figuresOf(before, ofSample, writing) : [])
  return (
    <dl className="grid grid-cols-[auto_1fr] gap-x-2 gap-y-0.5 text-[12.5px]">
      {figuresOf(facts, ofSample, writing).map(([name, value]) => (
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

/** Pixels of the highest bar of a column's spread. */
const spreadHeight = 44

/**
 * How the values of a column are spread. The bars are narrower than a target may be, so they are one stop of the Tab
 * key in which arrows walk; every verb of the column filters too.
 */
export const SpreadBars = ({
  column,
  facts,
  only,
}: {
  column: string
  facts: ColumnFacts
  /** Drafts a filter to the rows of a bar. */
  only: (where: NonNullable<ColumnFacts['bars'][number]['where']>) => void
}) => {
  const writing = useWriting()
  const highest = Math.max(1, ...facts.bars.map(({ count }) => count))
  return (
    <div
      role="group"
      aria-label={`How ${column} is spread`}
      className="flex items-end gap-px"
      style={{ height: spreadHeight }}
      onKeyDown={walkGroup}
    >
      {facts.bars.map(({ label, count, where }, i) => (
        <button
          key={label}
          type="button"
          tabIndex={i === 0 ? 0 : -1}
          title={`${writtenLabel(label, facts.type, writing)}: ${counted(count, 'row')}`}
          aria-label={`${writtenLabel(label, facts.type, writing)}: ${counted(count, 'row')}`}
          className="group/bar flex h-full min-w-[3px] flex-1 items-end"
          onClick={() => where && only(where)}
        >
          <i
            aria-hidden
            className="block w-full bg-bar group-hover/bar:bg-token"
            style={{ height: count > 0 ? Math.max(3, (count / highest) * spreadHeight) : 1 }}
          />
        </button>
      ))}
    </div>
  )
}

export const dotted = (label: string): string => label.replace(/^ +| +$/g, (run) => '·'.repeat(run.length))

type ValueBarsProps = {
  label: string
  bars: ColumnFacts['common']
  type: ColumnFacts['type']
  most: number
  choose: (bar: ColumnFacts['common'][number]) => void
  ticked?: readonly string[]
  tick?: (value: string) => void
}

/** Values with how many rows hold each; a click chooses one, ticks choose several. */
export const ValueBars = ({ label, bars, type, most, choose, ticked = [], tick }: ValueBarsProps) => {
  const writing = useWriting()
  const written = bars.map((bar) => ({ ...bar, words: writtenLabel(bar.label, type, writing) }))
  return (
    <ul aria-label={label} className="figures text-[12.5px]">
      {written.map(({ words, ...bar }) => (
        <li key={bar.label} className="flex min-h-[25px] items-center gap-2">
          {tick && (
            <input
              type="checkbox"
              aria-label={`Tick ${words}`}
              checked={ticked.includes(bar.label)}
              onChange={() => tick(bar.label)}
            />
          )}
          <button
            type="button"
            disabled={!bar.where}
            title={`${words}: ${counted(bar.count, 'row')}`}
            className="grid w-full min-w-0 grid-cols-[minmax(0,1fr)_56px_44px] items-center gap-2 rounded py-0.5 text-left enabled:hover:bg-sunk"
            onClick={() => choose(bar)}
          >
            <span className="truncate whitespace-pre">{dotted(words)}</span>
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
}

/** A few labels, each with its rows, behind a word or two. */
export const LabelNote = ({ words, labels }: { words: string; labels: ColumnFacts['patterns'] }) => (
  <p className="text-[12px] text-ink-3">
    {words}{' '}
    <span className="figures">
      {labels
        .slice(0, 3)
        .map(({ label, count }) => `${label} (${figure(count)})`)
        .join(', ')}
    </span>
  </p>
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
