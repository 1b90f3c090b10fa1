import { figure, unreadableCells } from '@fabula/core'
import { isOfSample } from '../story/sample-figures.ts'
import type { Story } from '../story/use-story.ts'

/** The tally above the table: the same changes in numbers. */
export const Tally = ({ story }: { story: Story }) => {
  const statistics = story.statisticsHere
  if (!statistics || story.stepIndex === 0) return null
  const lost = unreadableCells(statistics.unreadable)
  const parts: readonly (readonly [number, string, string])[] = [
    [statistics.cellsChanged, `${statistics.cellsChanged === 1 ? 'value changes' : 'values change'}`, 'text-changed'],
    [statistics.rowsLeft, `${statistics.rowsLeft === 1 ? 'row leaves' : 'rows leave'}`, 'text-removed'],
    [statistics.rowsCame, `${statistics.rowsCame === 1 ? 'row comes' : 'rows come'}`, 'text-added'],
    [statistics.columnsAdded.length, 'new columns', 'text-added'],
    [statistics.columnsDropped.length, 'columns leave', 'text-removed'],
    [lost, 'unreadable', 'text-removed'],
  ]
  const reported = parts.filter(([n], i) => n > 0 || i === 1)
  return (
    <div
      role="status"
      className="figures flex items-center gap-4 border-b border-line px-3.5 py-1 text-[12.5px] text-ink-2"
    >
      {reported.map(([n, words, tone]) => (
        <span key={words}>
          <b className={n > 0 ? tone : ''}>{figure(n)}</b>{' '}
          {n === 1 ? words.replace('columns leave', 'column leaves').replace('new columns', 'new column') : words}
        </span>
      ))}
      {isOfSample(story.flow.files) && <span>of a sample</span>}
      {story.diffMode === 'changes' && (
        <button
          type="button"
          className="ml-auto text-token hover:underline"
          onClick={() => story.setOnly(story.only === 'all' ? 'changed' : 'all')}
        >
          {story.only === 'all' ? 'Show only changed rows' : 'Show all rows'}
        </button>
      )}
    </div>
  )
}
