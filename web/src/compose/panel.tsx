import { useQuery } from '@tanstack/react-query'
import { ownValue, counted, typeWords, stepKinds, type Selection, type StepKindName } from '@fabula/core'
import { factsQuery } from '../api/queries.ts'
import type { TraceSubject } from '../tracing/subject.ts'
import { traceQuestions } from './trace-questions.ts'
import { UnionFiles } from '../workbenches/union-files.tsx'
import { BuilderPanel } from './builder-panel.tsx'
import { builderNamed } from '../story/builders.ts'
import { DatesPanel } from './dates-panel.tsx'
import { ShapePanel } from './shape-panel.tsx'
import { FindingNotes, Figures, LabelNote, SpreadBars, ValueBars } from '../profile/column-facts.tsx'
import { figureOf, isOfSample } from '../story/sample-figures.ts'
import type { Story } from '../story/use-story.ts'
import { verbGroups, type VerbGroup } from '../story/verb-groups.ts'
import { unionFilesId, type Verb } from '../story/verbs.ts'

/** The selected cell's whole text; a part of it can be selected here too, with the keys as with the mouse. */
const CellText = ({ story, cell }: { story: Story; cell: Extract<Selection, { kind: 'cell' | 'part' }> }) => {
  const text = cell.value ?? ''
  const part = cell.kind === 'part' ? text.slice(cell.from, cell.to) : ''
  const select = (from: number, to: number): void => {
    const { column, row } = cell
    if (to > from) story.setSelection({ kind: 'part', column, row, value: text, from, to })
  }
  return (
    <label className="grid gap-1">
      <span className="text-[12px] text-ink-3">
        {part === '' ? 'The text of the cell; select a part of it' : `“${part}” is selected`}
      </span>
      {/* not read-only, for the keys would not move in it; what is typed is refused */}
      <textarea
        key={text}
        rows={Math.min(4, Math.ceil(text.length / 30))}
        aria-label="The text of the cell"
        className="field figures resize-none text-[12.5px]"
        defaultValue={text}
        onBeforeInput={(event) => event.preventDefault()}
        onPaste={(event) => event.preventDefault()}
        onCut={(event) => event.preventDefault()}
        onDrop={(event) => event.preventDefault()}
        onKeyDown={(event) => /^(?:Backspace|Delete|Enter)$/.test(event.key) && event.preventDefault()}
        onSelect={({ currentTarget: { selectionStart, selectionEnd } }) => select(selectionStart, selectionEnd)}
      />
    </label>
  )
}

/** What the selected column holds: facts, distribution, commonest values, what looks wrong. */
const ColumnCard = ({ story, column }: { story: Story; column: string }) => {
  const { data } = useQuery(factsQuery(story.endpoint, story.flow.files, story.cursor, [column]))
  const facts = ownValue(data?.facts, column)
  if (!facts) return <p className="text-ink-3">Counting…</p>
  const most = Math.max(1, ...facts.common.map(({ count }) => count))
  const spread = facts.type !== 'text' && facts.type !== 'boolean'
  const ticked = story.selection.kind === 'values' ? story.selection.values : []
  const tick = (value: string): void => {
    const values = ticked.includes(value) ? ticked.filter((one) => one !== value) : [...ticked, value]
    story.setSelection(values.length > 0 ? { kind: 'values', column, values } : { kind: 'columns', columns: [column] })
  }
  const findings = facts.dates ? facts.findings.filter(({ topic }) => topic !== 'type') : facts.findings
  return (
    <>
      <Figures facts={facts} ofSample={isOfSample(story.flow.files)} />
      {spread && <SpreadBars column={column} facts={facts} only={(where) => story.begin({ kind: 'filter', where })} />}
      {facts.dates && (
        <DatesPanel key={`${column}/${story.step?.id ?? ''}`} story={story} column={column} forms={facts.dates} />
      )}
      <ValueBars
        label="Commonest values"
        bars={facts.common.slice(0, spread ? 4 : 8)}
        type={facts.type}
        most={most}
        choose={({ label }) => story.setSelection({ kind: 'cell', column, row: -1, value: label })}
        {...(facts.type === 'list' ? {} : { ticked, tick })}
      />
      {facts.patterns.length > 1 && <LabelNote words="Written like" labels={facts.patterns} />}
      <FindingNotes findings={findings} begin={(step) => story.begin(step as never)} />
    </>
  )
}

/** The kind of sentence that a verb writes: the page of the help that is about it. */
const kindOfVerb = ({ step, steps }: Verb): StepKindName => (step ?? steps?.[0])?.kind ?? 'derive'

const VerbList = ({
  group: { heading, verbs },
  act,
  help,
}: {
  group: VerbGroup
  act: (verb: Verb) => void
  help: (kind: StepKindName) => void
}) => (
  <div>
    <h3 className="mb-1 text-[12px] font-semibold text-ink-3">{heading}</h3>
    <ul>
      {verbs.map((verb) => (
        <li key={verb.name} className="group flex items-center border-b border-line">
          <button
            type="button"
            className="flex min-h-[28px] min-w-0 flex-1 items-center text-left hover:text-rubric"
            onClick={() => act(verb)}
            onKeyDown={(event) => {
              if (event.key !== '?') return
              event.stopPropagation()
              help(kindOfVerb(verb))
            }}
          >
            <span className="min-w-0">{verb.name}</span>{' '}
            {verb.key && <span className="ml-auto pl-2 text-[12px] text-ink-3">{verb.key}</span>}
          </button>
          {!verb.draw && (
            <button
              type="button"
              tabIndex={-1}
              aria-label={`Help on ${verb.name}`}
              className="size-6 flex-none rounded text-[12px] text-ink-3 opacity-0 group-focus-within:opacity-100 group-hover:opacity-100 hover:bg-sunk hover:text-ink pointer-coarse:opacity-100"
              onClick={() => help(kindOfVerb(verb))}
            >
              ?
            </button>
          )}
        </li>
      ))}
    </ul>
  </div>
)

/** What can be asked about where the selection comes from; the first has the key. */
const TraceButtons = ({ story, ask }: { story: Story; ask: (subject: TraceSubject) => void }) => (
  <>
    {traceQuestions(story).map(({ words, subject }, i) => (
      <button
        key={words}
        type="button"
        className="-mt-px flex w-full border-y border-line py-[6px] text-left font-semibold text-token hover:underline"
        onClick={() => ask(subject)}
      >
        {words}
        {i === 0 && <span className="ml-auto text-[12px] font-normal text-ink-3">W</span>}
      </button>
    ))}
  </>
)

/** The card follows the selection: what it is, and in verbs what can be done with just that. */
export const SelectionPanel = ({
  story,
  ask,
  help,
}: {
  story: Story
  ask: (subject: TraceSubject) => void
  /** Opens the help on a kind of sentence beside the work. */
  help: (kind: StepKindName) => void
}) => {
  const { selection, schemaHere, table, building } = story
  const names = schemaHere.map(({ name }) => name)
  const chooseColumns = () => {
    if (selection.kind === 'columns') return selection.columns.filter((name) => names.includes(name))
    if (selection.kind !== 'table' && names.includes(selection.column)) return [selection.column]
    return []
  }
  const columns = chooseColumns()
  const [only] = columns
  const here: Selection = columns.length === 0 ? { kind: 'table' } : selection
  const type = schemaHere.find(({ name }) => name === only)?.type
  const rows = story.statisticsHere?.rowsOut
  const builder = builderNamed(building?.id)
  const body = () => {
    if (building?.id === unionFilesId) return <UnionFiles story={story} />
    if (builder && building)
      return (
        <BuilderPanel
          key={`${builder.id}${building.columns.join()}${JSON.stringify(building.answers)}`}
          builder={builder}
          columns={building.columns}
          given={building.answers}
          story={story}
        />
      )
    return (
      <>
        {(here.kind === 'cell' || here.kind === 'part') && here.value !== null && type === 'text' && (
          <CellText story={story} cell={here} />
        )}
        {columns.length === 1 && only !== undefined && here.kind !== 'part' && (
          <ColumnCard story={story} column={only} />
        )}
        {columns.length === 0 && (
          <p className="text-[12.5px] text-ink-2">
            Select a column by its name, a cell, a part of its text, or several columns with Shift or Ctrl, to see what
            they hold and what can be done with them.
          </p>
        )}
        <div>
          <TraceButtons story={story} ask={ask} />
        </div>
        {verbGroups(here, story.draftContext).map((group) => (
          <VerbList key={group.heading} group={group} act={story.act} help={help} />
        ))}
      </>
    )
  }
  const selectedText = () => {
    if (here.kind === 'values') return ` · ${counted(here.values.length, 'value')}`
    if (here.kind !== 'cell') return ''
    return here.value === null ? ' · an empty cell' : ` · “${here.value.slice(0, 40)}”`
  }
  const subheading = () => {
    if (columns.length === 0)
      return `the whole table · ${counted(names.length, 'column')}${rows === undefined ? '' : ` · ${figureOf(counted(rows, 'row'), isOfSample(story.flow.files))}`}`
    if (columns.length === 1 && type) return `${typeWords[type].replace(/^an? /, '')} column${selectedText()}`
    return columns.slice(0, 6).join(', ')
  }
  const heading = () => {
    if (columns.length === 0) return table?.name ?? ''
    if (columns.length === 1) return only
    return counted(columns.length, 'column')
  }
  return (
    <aside
      aria-label="What is selected"
      className="flex min-h-0 flex-col gap-3 overflow-auto border-l border-line px-4 py-3.5"
    >
      <div>
        <h2 className="font-serif text-[15px] font-semibold break-words">{heading()}</h2>
        <p className="text-[12px] text-ink-3">{subheading()}</p>
      </div>
      {story.draft && stepKinds[story.draft.step.kind].reshapes && <ShapePanel story={story} />}
      {body()}
    </aside>
  )
}
