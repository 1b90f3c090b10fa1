import type { Story } from '../story/use-story.ts'
import { Button, Notice } from '../ui/parts.tsx'
import { PageControls } from './page-controls.tsx'
import { ColumnDifferences, DifferenceFigures } from './reconcile-figures.tsx'
import { keyOf } from './reconcile-model.ts'
import { DifferentRows } from './reconcile-rows.tsx'
import { useReconcile, type ReconcileModel } from './use-reconcile.ts'

/** The two moments that are held against each other; the second is where the story stands. */
const Moments = ({ model: { here, there, moments, choose }, story }: { model: ReconcileModel; story: Story }) => (
  <div className="flex flex-wrap items-center gap-2 border-b border-line px-3.5 py-2.5 font-serif text-[14px]">
    What differs between
    <select
      className="field max-w-[300px] font-sans text-[13px]"
      aria-label="Held against"
      value={keyOf(here)}
      onChange={(event) => choose(event.target.value)}
    >
      {moments
        .filter((one) => keyOf(one) !== keyOf(there))
        .map((one) => (
          <option key={keyOf(one)} value={keyOf(one)}>
            {one.words}
          </option>
        ))}
    </select>
    and {story.table?.name}, after sentence {story.stepIndex + 1}?
    <Button look="quiet" className="ml-auto py-0.5! font-sans text-[13px]" onClick={() => story.setStageView('rows')}>
      Back to the rows
    </Button>
  </div>
)

const Differences = ({ model }: { model: ReconcileModel }) => {
  const { data, error, isFetching } = model
  if (error)
    return (
      <div className="p-3">
        <Notice kind="removed">{error.message}</Notice>
      </div>
    )
  if (!data) return <p className="p-4 text-ink-3">Holding the rows against each other…</p>
  return (
    <div
      className="grid grid-cols-[minmax(0,1fr)_minmax(300px,0.8fr)] max-[900px]:grid-cols-1 border-b border-line"
      aria-busy={isFetching}
    >
      <DifferenceFigures model={model} data={data} />
      <ColumnDifferences model={model} data={data} />
    </div>
  )
}

/** Why two tables, or one table after two of its sentences, differ: rows of one only, changed cells, totals by column. */
export const ReconcileView = ({ story }: { story: Story }) => {
  const model = useReconcile(story)
  const { data, show, from, setFrom } = model
  return (
    <div className="grid min-h-0 flex-1 grid-rows-[auto_auto_minmax(0,1fr)]">
      <Moments model={model} story={story} />
      <Differences model={model} />
      {data && (
        <div className="min-h-0 overflow-auto" role="region" tabIndex={0} aria-label="The rows that differ">
          <DifferentRows shown={data.shown} />
          {data.shown.total === 0 && (
            <p className="p-4 font-serif text-[14px] text-ink-3 italic">
              {show === 'different' ? 'Nothing differs: the same rows stand in both.' : 'No such rows.'}
            </p>
          )}
          <PageControls from={from} shown={data.shown.rows.length} total={data.shown.total} go={setFrom} />
        </div>
      )}
    </div>
  )
}
