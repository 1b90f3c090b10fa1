import { useQueries } from '@tanstack/react-query'
import { lazy, Suspense, useState, type SetStateAction, type Dispatch } from 'react'
import { ownValue, counted, typeWords, type Schema, type Condition } from '@fabula/core'
import type { ColumnFacts } from '@fabula/core/api'
import { factsQuery, type Cursor } from '../api/queries.ts'
import { Button } from '../ui/parts.tsx'
import { useWriting, writtenLabel } from '../ui/writing.ts'
import { isOfSample } from '../story/sample-figures.ts'
import type { Story } from '../story/use-story.ts'
import { dotted, FindingNotes, Figures, LabelNote, ValueBars } from './column-facts.tsx'

const SpreadChart = lazy(() => import('./spread-chart.tsx'))
const aPage = 24
const aBatch = 6

/** Facts of columns, asked for a few at a time so that the first stand soon. */
const useFacts = (story: Story, cursor: Cursor, names: readonly string[], enabled: boolean) => {
  const batches = Array.from({ length: Math.ceil(names.length / aBatch) }, (_, i) =>
    names.slice(i * aBatch, (i + 1) * aBatch),
  )
  const replies = useQueries({
    queries: batches.map((batch) => ({
      ...factsQuery(story.endpoint, story.flow.files, cursor, batch),
      enabled: enabled && batch.length > 0,
    })),
  })
  return Object.assign({}, ...replies.map(({ data }) => data?.facts ?? {})) as NonNullable<
    (typeof replies)[number]['data']
  >['facts']
}

const previousOf = (story: Story): { cursor: Cursor; schema: Schema } | undefined => {
  const at = story.steps.findIndex(({ id }) => id === story.step?.id)
  const before = story.steps[at - 1]
  return before ? { cursor: { ...story.cursor, step: before.id }, schema: before.columns } : undefined
}

/** What one column holds, under its name. */
const ColumnBody = ({
  name,
  facts,
  before,
  story,
}: {
  name: string
  facts: ColumnFacts
  before: ColumnFacts | undefined
  story: Story
}) => {
  const writing = useWriting()
  const choose = (where: Condition | undefined): void => where && story.begin({ kind: 'filter', where })
  return (
    <>
      {facts.bars.length > 0 && (
        <Suspense fallback={<div className="h-[74px]" />}>
          <SpreadChart facts={facts} name={name} choose={choose} />
        </Suspense>
      )}
      <Figures facts={facts} before={before} ofSample={isOfSample(story.flow.files)} />
      <ValueBars
        label={`Commonest values of ${name}`}
        bars={facts.common.slice(0, 5)}
        type={facts.type}
        most={Math.max(1, ...facts.common.map(({ count }) => count))}
        choose={({ where }) => choose(where)}
      />
      {facts.rare.length > 0 && (
        <LabelNote
          words="Rarest:"
          labels={facts.rare.map(({ label, count }) => ({
            label: dotted(writtenLabel(label, facts.type, writing)),
            count,
          }))}
        />
      )}
      {facts.patterns.length > 0 && <LabelNote words="Written like" labels={facts.patterns} />}
      <FindingNotes findings={facts.findings} begin={(step) => story.begin(step as never)} />
    </>
  )
}

/** All columns side by side: what each holds, how it is spread, what looks wrong. */
export const ColumnsView = ({ story }: { story: Story }) => {
  const [find, setFind] = useState('')
  const [shown, setShown] = useState(aPage)
  const [beside, setBeside] = useState(false)
  const schema = story.schemaHere.filter(({ name }) => name.toLowerCase().includes(find.toLowerCase()))
  const page = schema.slice(0, shown)
  const facts = useFacts(
    story,
    story.cursor,
    page.map(({ name }) => name),
    true,
  )
  const before = previousOf(story)
  const shared = before
    ? page.map(({ name }) => name).filter((name) => before.schema.some((field) => field.name === name))
    : []
  const old = useFacts(story, before?.cursor ?? story.cursor, shared, beside && before !== undefined)
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      {columnsHeading(find, setFind, beside, before, setBeside, schema)}
      <div
        className="grid min-h-0 flex-1 auto-rows-min grid-cols-[repeat(auto-fill,minmax(230px,1fr))] overflow-auto"
        tabIndex={0}
        aria-label="All columns side by side"
      >
        {page.map(({ name, type }) => {
          const here = ownValue(facts, name)
          return (
            <section
              key={name}
              aria-label={`Column ${name}`}
              className="grid min-w-0 grid-cols-[minmax(0,1fr)] content-start gap-2 border-r border-b border-line p-3.5"
            >
              <div>
                <h2>
                  <button
                    type="button"
                    className="font-serif text-[14px] font-semibold break-all text-left hover:text-rubric"
                    onClick={() => story.setSelection({ kind: 'columns', columns: [name] })}
                  >
                    {name}
                  </button>
                </h2>
                <p className="text-[12px] text-ink-3">{typeWords[type].replace(/^an? /, '')}</p>
              </div>
              {here ? (
                <ColumnBody name={name} facts={here} before={beside ? ownValue(old, name) : undefined} story={story} />
              ) : (
                <p className="text-ink-3 italic">Counting…</p>
              )}
            </section>
          )
        })}
        {schema.length > shown && (
          <div className="col-span-full p-4">
            <Button onClick={() => setShown(shown + aPage)}>Show {Math.min(aPage, schema.length - shown)} more</Button>
          </div>
        )}
      </div>
    </div>
  )
}

function columnsHeading(
  find: string,
  setFind: Dispatch<SetStateAction<string>>,
  beside: boolean,
  before: { cursor: Cursor; schema: Schema } | undefined,
  setBeside: Dispatch<SetStateAction<boolean>>,
  schema: Schema,
) {
  return (
    <div className="flex items-center gap-3 border-b border-line px-3.5 py-2">
      <input
        className="field w-[200px]"
        placeholder="Find a column"
        aria-label="Find a column"
        value={find}
        onChange={(event) => setFind(event.target.value)}
      />
      <label className="flex items-center gap-1.5 text-ink-2">
        <input
          type="checkbox"
          checked={beside}
          disabled={!before}
          onChange={(event) => setBeside(event.target.checked)}
        />{' '}
        beside what was before this sentence
      </label>
      <span className="figures ml-auto text-[12px] text-ink-3">{counted(schema.length, 'column')}</span>
    </div>
  )
}
