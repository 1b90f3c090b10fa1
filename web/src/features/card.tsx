import { useQuery } from '@tanstack/react-query'
import { counted, figure, formatDecimal, typeWords } from '@fabula/core'
import { factsQuery } from '../api/queries.ts'
import { Notice } from '../ui/parts.tsx'
import { Bars } from './grid.tsx'
import type { Story } from './story-state.ts'
import { verbsFor } from './verbs.ts'

const Fact = ({ name, value }: { name: string; value: string }) => (
  <>
    <dt className="text-ink-2">{name}</dt>
    <dd className="figures text-right font-medium">{value}</dd>
  </>
)

/** What the selected column holds: facts, distribution, commonest values, what looks wrong. */
const ColumnCard = ({ story, column }: { story: Story; column: string }) => {
  const { data } = useQuery(factsQuery(story.place, story.flow.files, story.stand, [column]))
  const facts = data?.facts[column]
  if (!facts) return <p className="text-ink-3">Counting…</p>
  const most = Math.max(1, ...facts.common.map(({ count }) => count))
  const numbers = facts.type !== 'text' && facts.type !== 'boolean'
  return (
    <>
      <dl className="grid grid-cols-[1fr_auto] gap-x-2 gap-y-0.5 text-[12.5px]">
        <Fact name="Filled" value={`${figure(facts.filled)} of ${figure(facts.rows)}`} />
        <Fact name="Different values" value={figure(facts.distinct)} />
        {facts.least !== undefined && <Fact name={facts.type === 'date' || facts.type === 'datetime' ? 'Earliest' : 'Least'} value={facts.least} />}
        {facts.greatest !== undefined && <Fact name={facts.type === 'date' || facts.type === 'datetime' ? 'Latest' : 'Greatest'} value={facts.greatest} />}
        {facts.mean !== undefined && <Fact name="Mean" value={formatDecimal(Number(facts.mean.toPrecision(6)))} />}
        {facts.longest !== undefined && <Fact name="Longest" value={counted(facts.longest, 'character')} />}
      </dl>
      {numbers && <Bars facts={facts} height={44} />}
      <ul aria-label="Commonest values" className="figures text-[12.5px]">
        {facts.common.slice(0, numbers ? 4 : 8).map(({ label, count }) => (
          <li key={label}>
            <button
              type="button"
              title={`Keep rows where it is ${label}`}
              className="grid w-full grid-cols-[1fr_70px_44px] items-center gap-2 rounded py-0.5 text-left hover:bg-sunk"
              onClick={() => story.setSelection({ kind: 'cell', column, row: -1, value: label })}
            >
              <span className="truncate whitespace-pre">{label.replace(/^ +| +$/g, (run) => '·'.repeat(run.length))}</span>
              <i aria-hidden className="h-[7px] rounded-[2px] bg-bar" style={{ width: `${Math.max(2, (count / most) * 70)}px` }} />
              <span className="text-right text-ink-3">{figure(count)}</span>
            </button>
          </li>
        ))}
      </ul>
      {facts.findings.map(({ sentence, verb, step }) => (
        <Notice key={sentence}>
          {sentence}{' '}
          <button type="button" className="font-semibold text-rubric" onClick={() => story.begin(step as never)}>
            {verb}
          </button>
        </Notice>
      ))}
    </>
  )
}

/** The card follows the selection: what it is, and in verbs what can be done with just that. */
export const Card = ({ story }: { story: Story }) => {
  const { selection, schemaHere, table } = story
  const names = schemaHere.map(({ name }) => name)
  const columns = selection.kind === 'columns' ? selection.columns.filter((name) => names.includes(name)) : selection.kind === 'cell' && names.includes(selection.column) ? [selection.column] : []
  const [only] = columns
  const here = columns.length === 0 ? { kind: 'table' as const } : selection
  const type = schemaHere.find(({ name }) => name === only)?.type
  const rows = story.steps.find(({ id }) => id === story.step?.id)?.account?.rowsOut
  return (
    <aside aria-label="What is selected" className="flex min-h-0 flex-col gap-3 overflow-auto border-l border-line px-4 py-3.5">
      <div>
        <h2 className="font-serif text-[15px] font-semibold break-words">{columns.length === 0 ? (table?.name ?? '') : columns.length === 1 ? only : counted(columns.length, 'column')}</h2>
        <p className="text-[12px] text-ink-3">
          {columns.length === 0 ? `the whole table · ${counted(names.length, 'column')}${rows === undefined ? '' : ` · ${counted(rows, 'row')}`}` : columns.length === 1 && type ? `${typeWords[type].replace(/^an? /, '')} column${selection.kind === 'cell' ? ` · ${selection.value === null ? 'an empty cell' : `“${selection.value.slice(0, 40)}”`}` : ''}` : columns.slice(0, 6).join(', ')}
        </p>
      </div>
      {columns.length === 1 && only !== undefined && <ColumnCard story={story} column={only} />}
      {columns.length === 0 && <p className="text-[12.5px] text-ink-2">Select a column by its name, a cell, or several columns with Shift or Ctrl, to see what they hold and what can be done with them.</p>}
      <div>
        <h3 className="mb-1 text-[12px] font-semibold text-ink-3">{columns.length === 0 ? 'With this table' : selection.kind === 'cell' ? 'With this cell' : columns.length === 1 ? 'With this column' : 'With these columns'}</h3>
        <ul>
          {verbsFor(here, schemaHere).map(({ name, key, step }) => (
            <li key={name} className="border-b border-line">
              <button type="button" className="flex w-full py-[4.5px] text-left hover:text-rubric" onClick={() => story.begin(step)}>
                <span className="truncate">{name}</span> {key && <span className="ml-auto pl-2 text-[12px] text-ink-3">{key}</span>}
              </button>
            </li>
          ))}
        </ul>
      </div>
    </aside>
  )
}
