import { useQuery } from '@tanstack/react-query'
import { counted, figure, typeWords } from '@fabula/core'
import { factsQuery } from '../api/queries.ts'
import { FindingNotes, Figures, ValueBars } from './columns/column-facts.tsx'
import type { Story } from './story-state.ts'
import { verbsFor } from './verbs.ts'

/** What the selected column holds: facts, distribution, commonest values, what looks wrong. */
const ColumnCard = ({ story, column }: { story: Story; column: string }) => {
  const { data } = useQuery(factsQuery(story.place, story.flow.files, story.stand, [column]))
  const facts = data?.facts[column]
  if (!facts) return <p className="text-ink-3">Counting…</p>
  const most = Math.max(1, ...facts.common.map(({ count }) => count))
  const spread = facts.type !== 'text' && facts.type !== 'boolean'
  const highest = Math.max(1, ...facts.bars.map(({ count }) => count))
  return (
    <>
      <Figures facts={facts} />
      {spread && (
        <div role="group" aria-label={`How ${column} is spread`} className="flex h-[44px] items-end gap-px">
          {facts.bars.map(({ label, count, where }) => (
            <button key={label} type="button" title={`${label}: ${counted(count, 'row')}`} aria-label={`${label}: ${counted(count, 'row')}`} className="min-w-[3px] flex-1 bg-bar hover:bg-token" style={{ height: count > 0 ? Math.max(3, (count / highest) * 44) : 1 }} onClick={() => where && story.begin({ kind: 'filter', where })} />
          ))}
        </div>
      )}
      <ValueBars label="Commonest values" bars={facts.common.slice(0, spread ? 4 : 8)} most={most} choose={({ label }) => story.setSelection({ kind: 'cell', column, row: -1, value: label })} />
      {facts.patterns.length > 1 && (
        <p className="text-[12px] text-ink-3">
          Written like <span className="figures">{facts.patterns.slice(0, 3).map(({ label, count }) => `${label} (${figure(count)})`).join(', ')}</span>
        </p>
      )}
      <FindingNotes facts={facts} begin={(step) => story.begin(step as never)} />
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
