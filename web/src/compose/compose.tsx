import { stepKinds, type StepKindName } from '@fabula/core'
import { useQuery } from '@tanstack/react-query'
import { lazy, Suspense, useCallback, useEffect, useEffectEvent, useRef, useState } from 'react'
import { useNavigate } from 'react-router'
import { previewQuery } from '../api/queries.ts'
import { ChartsView } from '../charts/charts-view.tsx'
import { Grid } from '../grid/grid.tsx'
import { ColumnsView } from '../profile/columns-view.tsx'
import { useFlow } from '../story/flow-context.ts'
import { useStory, type Story } from '../story/use-story.ts'
import { Button, Notice, Segments } from '../ui/parts.tsx'
import { Tip } from '../ui/tip.tsx'
import { useNarrow } from '../ui/use-narrow.ts'
import { ReconcileView } from '../workbenches/reconcile-view.tsx'
import { Workbench } from '../workbenches/workbench.tsx'
import { KeysDialog } from './keys-dialog.tsx'
import { MapView } from './map-view.tsx'
import { SelectionPanel } from './panel.tsx'
import { SelectionMenu } from './selection-menu.tsx'
import { RowStrip } from './row-strip.tsx'
import { StoryColumn, useWidth } from './story-column.tsx'
import { hasTablesWorkbench, TableHeading } from './table-heading.tsx'
import { Tally } from './tally.tsx'
import { useDraftFocus } from './use-draft-focus.ts'
import { useKeys } from './use-keys.ts'
import { TracePanel } from '../tracing/trace-panel.tsx'
import { traceQuestions } from './trace-questions.ts'
import { downloadTable } from './download-table.ts'
import type { StoryCommand } from '../story/verbs.ts'
import type { TraceSubject } from '../tracing/subject.ts'

const VerbPanel = lazy(() => import('../help/verb-panel.tsx'))

/** A recipe that came without data: it is given some where it is replayed. */
const NoFiles = ({ replay }: { replay: () => void }) => (
  <div className="p-8">
    <h2 className="font-serif text-[18px] font-semibold">This story has no file yet</h2>
    <p className="mt-1 mb-4 text-ink-2">
      It came as a recipe. Give it an export on the Replay page to see what it makes of it.
    </p>
    <Button look="main" onClick={replay}>
      Replay on new exports
    </Button>
  </div>
)

/** Undo, redo and replay in the header of the page, as long as Compose is shown. */
const useTools = ({ flow, travel }: Story, replay: () => void): void => {
  const { setTools } = useFlow()
  const showTools = useEffectEvent(() => {
    setTools(
      <>
        <Button look="quiet" disabled={!flow.canUndo} onClick={() => void travel('undo')}>
          ↶ Undo
        </Button>
        <Button look="quiet" disabled={!flow.canRedo} onClick={() => void travel('redo')}>
          ↷ Redo
        </Button>
        <Tip words="Drop next month’s files; nothing is written before you have seen what comes of it">
          <Button look="main" onClick={replay}>
            Replay on new exports
          </Button>
        </Tip>
      </>,
    )
  })
  useEffect(() => {
    showTools()
    return () => setTools(undefined)
  }, [flow.canUndo, flow.canRedo, flow.edit, setTools])
}

/** Opens the way of a cell, or the rows that a table lost. */
type Ask = (subject: TraceSubject) => void

/** The rows with what is known of their columns, beneath the workbench of the draft's values if it has one. */
const Rows = ({ story, ask }: { story: Story; ask: Ask }) => (
  <>
    {story.draft && stepKinds[story.draft.step.kind].workbench === 'values' && (
      <Workbench step={story.draft.step} story={story} />
    )}
    <SelectionMenu story={story} ask={ask}>
      <div className="flex min-h-0 flex-1 flex-col">
        <Grid story={story} facts={story.headFacts} />
      </div>
    </SelectionMenu>
  </>
)

/** What the stage view shows. */
const Stage = ({ story, ask }: { story: Story; ask: Ask }) => {
  switch (story.stageView) {
    case 'map':
      return <MapView story={story} />
    case 'reconcile':
      return <ReconcileView key={story.table?.id} story={story} />
    case 'columns':
      return <ColumnsView story={story} />
    case 'picture':
      return <ChartsView story={story} />
    case 'rows':
      return <Rows story={story} ask={ask} />
  }
}

/** Says the sentence of the draft to a screen reader once its preview is there. */
const DraftAnnouncement = ({ story, shown }: { story: Story; shown: boolean }) => {
  const statistics = story.steps.find(({ id }) => id === story.draft?.step.id)?.statistics
  return (
    <p aria-live="polite" className="sr-only">
      {story.draft && shown ? `Draft: ${statistics?.sentence ?? ''}` : ''}
    </p>
  )
}

/** The table beside the story: its heading, the tally of changes, what went wrong, and the rows or what takes their place. */
const TableSection = ({ story, wide, replay, ask }: { story: Story; wide: boolean; replay: () => void; ask: Ask }) => {
  const { flow, draft, diffMode, only, stageView } = story
  const view = useQuery(previewQuery(story.endpoint, flow.files, story.cursor, diffMode, only, 0))
  const noFiles = flow.recipe.inputs.length > 0 && Object.keys(flow.files).length === 0
  const onWorkbench = hasTablesWorkbench(story) && !story.outcome && !noFiles
  const problem = story.problem ?? (noFiles ? undefined : view.error?.message)
  const content = () => {
    if (noFiles) return <NoFiles replay={replay} />
    if (onWorkbench && draft) return <Workbench step={draft.step} story={story} />
    return <Stage story={story} ask={ask} />
  }
  return (
    <section aria-label="The table" className="flex min-h-0 min-w-0 flex-col bg-sheet">
      <TableHeading story={story} onWorkbench={onWorkbench} />
      {stageView === 'rows' && !onWorkbench && <Tally story={story} />}
      {problem && (
        <div className="p-3">
          <Notice kind="removed">{problem}</Notice>
        </div>
      )}
      {content()}
      {!wide && <RowStrip story={story} />}
      <DraftAnnouncement story={story} shown={view.data !== undefined} />
    </section>
  )
}

/** Whether what is shown needs the width of the page, so that the panel of the selection makes room. */
const needsWidth = ({ draft, stageView }: Story): boolean =>
  draft ? stepKinds[draft.step.kind].workbench !== undefined : stageView === 'map' || stageView === 'reconcile'

/** Below this width, in pixels, the story, the table and the card are shown one at a time. */
const narrowFrom = 1000
type Pane = 'story' | 'table' | 'card'

/** What is shown where there is room for one: the story while a draft stands, the card where something is asked. */
const usePane = (story: Story, asked: boolean): readonly [Pane, (pane: Pane) => void] => {
  const [pane, setPane] = useState<Pane>('table')
  const draft = story.draft?.step.id
  const [before, setBefore] = useState({ draft, asked })
  // while it is drawn, not after: the focus goes into the draft once that is in sight
  if (before.draft !== draft || before.asked !== asked) {
    setBefore({ draft, asked })
    if (before.draft !== draft) setPane(draft === undefined ? 'table' : 'story')
    else if (asked) setPane('card')
  }
  return [pane, setPane]
}

const PaneChoice = ({ pane, show, card }: { pane: Pane; show: (pane: Pane) => void; card: boolean }) => (
  <div className="border-b border-line px-3 py-1">
    {/* the heading of the page stands above the table, which is not in sight */}
    {pane !== 'table' && <h1 className="sr-only">The story and what is selected in it</h1>}
    <Segments<Pane>
      label="What is shown"
      value={pane}
      of={[['story', 'The story'], ['table', 'The table'], ...(card ? [['card', 'What is selected'] as const] : [])]}
      onChange={show}
    />
  </div>
)

/** Where a story is written: its sentences, the table they make, and what is known of the selection. */
export const Compose = () => {
  const story = useStory()
  const navigate = useNavigate()
  const focus = useRef<() => void>(() => undefined)
  const rememberFocus = useCallback((run: () => void) => void (focus.current = run), [])
  const [keys, setKeys] = useState(false)
  const [helped, setHelped] = useState<StepKindName>()
  const [left, setLeft] = useWidth('story-width', 392, 300, 620)
  const replay = (): void => void navigate(`${story.endpoint.home}/replay`)
  useTools(story, replay)
  const [subjects, setSubjects] = useState<readonly TraceSubject[]>([])
  const ask: Ask = (subject) => setSubjects([subject])
  const trace = (): void => {
    const [first] = traceQuestions(story)
    if (first) ask(first.subject)
  }
  const narrow = useNarrow(narrowFrom)
  const [pane, setPane] = usePane(story, subjects.length > 0 || helped !== undefined)
  useDraftFocus(story)
  useKeys(story, {
    focusComposer: () => focus.current(),
    showKeys: () => setKeys((shown) => !shown),
    trace,
  })
  const commands: Readonly<Record<StoryCommand, () => void>> = {
    undo: () => void story.travel('undo'),
    redo: () => void story.travel('redo'),
    download: () => void downloadTable(story),
    replay,
    'hand over': () => void navigate(`${story.endpoint.home}/hand-over`),
    keys: () => setKeys(true),
    find: () => story.setFinding(true),
    map: () => story.setStageView('map'),
    reconcile: () => story.setStageView('reconcile'),
  }
  const command = (name: StoryCommand): void => commands[name]()
  const wide = needsWidth(story)
  const traces = subjects.length > 0 && !wide
  const right = () => {
    if (wide) return ''
    if (helped && !traces) return ' 420px'
    return traces ? ' 520px' : ' 268px'
  }
  const help = helped !== undefined && !traces && !wide
  const card = () => {
    if (wide) return null
    if (traces)
      return (
        <TracePanel recipe={story.cursor.recipe} subjects={subjects} show={setSubjects} close={() => setSubjects([])} />
      )
    if (help)
      return (
        <Suspense>
          <VerbPanel kind={helped} close={() => setHelped(undefined)} />
        </Suspense>
      )
    return <SelectionPanel story={story} ask={ask} help={setHelped} />
  }
  const hiddenUnless = (here: boolean): string => (here ? 'contents' : 'hidden')
  return (
    <main
      className="grid min-h-0"
      style={
        narrow
          ? { gridTemplateRows: 'auto minmax(0,1fr)', gridTemplateColumns: 'minmax(0,1fr)' }
          : { gridTemplateColumns: `${traces ? '' : `${left}px `}minmax(0,1fr)${right()}` }
      }
    >
      {narrow && <PaneChoice pane={pane} show={setPane} card={!wide} />}
      {/* the way of a cell takes the place of the story, which stays as it is */}
      <div className={hiddenUnless(narrow ? pane === 'story' : !traces)}>
        <StoryColumn story={story} focusRef={rememberFocus} command={command} width={left} setWidth={setLeft} />
      </div>
      <div className={hiddenUnless(!narrow || pane === 'table')}>
        <TableSection story={story} wide={wide} replay={replay} ask={ask} />
      </div>
      <div className={hiddenUnless(!narrow || pane === 'card')}>{card()}</div>
      {keys && <KeysDialog close={() => setKeys(false)} />}
    </main>
  )
}
