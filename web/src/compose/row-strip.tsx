import { counted, figure, sentenceText, tableNames } from '@fabula/core'
import { figureOf, isOfSample } from '../story/sample-figures.ts'
import type { Story } from '../story/use-story.ts'

/** Pixels of the bar of the sentence with the most rows. */
const stripHeight = 34

/** How many rows stand after each sentence, at a glance. */
export const RowStrip = ({ story }: { story: Story }) => {
  const accounts = story.steps.flatMap(({ id, statistics }) => (statistics ? [{ id, rows: statistics.rowsOut }] : []))
  const most = Math.max(1, ...accounts.map(({ rows }) => rows))
  return (
    <div className="border-t border-line bg-paper px-3.5 pt-2 pb-2.5">
      <h2 className="mb-1 flex text-[12px] font-medium text-ink-3">
        Rows through the story
        <span className="figures ml-auto">
          {accounts.length > 0
            ? figureOf(
                `${figure(accounts[0]?.rows ?? 0)} → ${figure(accounts.at(-1)?.rows ?? 0)}`,
                isOfSample(story.flow.files),
              )
            : ''}
        </span>
      </h2>
      <div className="flex items-end gap-[3px]" style={{ height: stripHeight }}>
        {accounts.map(({ id, rows }) => {
          const step = story.table?.steps.find((one) => one.id === id)
          const drafted = story.draft?.step.id === id
          const colour = story.step?.id === id ? 'var(--rubric)' : 'color-mix(in srgb, var(--token) 24%, var(--paper))'
          return (
            // all of its height is pressed, the bar in it says how many rows
            <button
              key={id}
              type="button"
              aria-label={`After “${step ? sentenceText(step, tableNames(story.recipe)) : ''}”: ${counted(rows, 'row')}`}
              title={counted(rows, 'row')}
              disabled={story.draft !== undefined}
              onClick={() => story.goTo(story.table?.id ?? '', id)}
              className="flex h-full min-w-1 flex-1 items-end"
            >
              <i
                aria-hidden
                className={`block w-full rounded-t-[2px] ${drafted ? 'river-draft' : ''}`}
                style={{
                  height: Math.max(2, (rows / most) * stripHeight),
                  ...(drafted ? {} : { background: colour }),
                }}
              />
            </button>
          )
        })}
      </div>
    </div>
  )
}
