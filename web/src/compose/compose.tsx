import { useQuery } from '@tanstack/react-query'
import { useCallback, useEffect, useRef, useState, type SetStateAction, type Dispatch, useEffectEvent } from 'react'
import { useNavigate } from 'react-router'
import { Workbench } from '../workbenches/workbench.tsx'
import { stepKinds, counted, figure, type RecipeTable } from '@fabula/core'
import { factsQuery, previewQuery } from '../api/queries.ts'
import { SelectionPanel } from './panel.tsx'
import { ColumnsView } from '../profile/columns-view.tsx'
import { Composer } from './composer.tsx'
import { Grid } from '../grid/grid.tsx'
import { MapView } from './map-view.tsx'
import { ChartsView } from '../charts/charts-view.tsx'
import { ReconcileView } from '../workbenches/reconcile-view.tsx'
import { RowStrip } from './row-strip.tsx'
import { TableList } from './table-list.tsx'
import { useStory, type StageView, type Draft, type Story } from '../story/use-story.ts'
import { verbsFor } from '../story/verbs.ts'
import { Button, Key, Notice, Segments } from '../ui/parts.tsx'
import { useFlow } from '../story/flow-context.ts'

/** The tally above the table: the same changes in numbers. */
const Tally = ({ story }: { story: Story }) => {
  const statistics = story.steps.find(({ id }) => id === story.step?.id)?.statistics
  const at = story.table?.steps.findIndex(({ id }) => id === story.step?.id) ?? 0
  if (!statistics || at === 0) return null
  const lost = Object.values(statistics.unreadable).reduce((a, b) => a + b, 0)
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
    <div role="status" className="figures flex gap-4 border-b border-line px-3.5 py-[7px] text-[12.5px] text-ink-2">
      {reported.map(([n, words, tone]) => (
        <span key={words}>
          <b className={n > 0 ? tone : ''}>{figure(n)}</b>{' '}
          {n === 1 ? words.replace('columns leave', 'column leaves').replace('new columns', 'new column') : words}
        </span>
      ))}
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

const typing = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && (target.matches('input, textarea, select') || target.isContentEditable)

/** The keys of Compose; none of them acts while text is typed. */
const useKeys = (story: Story, focusComposer: () => void, showKeys: () => void): void => {
  const latest = useRef({ story, focusComposer, showKeys })
  latest.current = { story, focusComposer, showKeys }
  useEffect(() => {
    // eslint-disable-next-line complexity -- markup with a condition for each optional part
    const hear = (event: KeyboardEvent): void => {
      const { story: now, focusComposer: focus, showKeys: show } = latest.current
      const mod = event.ctrlKey || event.metaKey
      const act = (run: () => void): void => {
        event.preventDefault()
        run()
      }
      if (mod && event.key.toLowerCase() === 'k') return act(focus)
      if (typing(event.target)) return
      if (mod && event.key.toLowerCase() === 'z') return act(() => void now.travel(event.shiftKey ? 'redo' : 'undo'))
      if (mod && event.key.toLowerCase() === 'y') return act(() => void now.travel('redo'))
      if (mod || event.altKey) return
      if (event.key === '/') return act(focus)
      if (event.key === '?') return act(show)
      if (event.key === '[') return act(() => now.setDiffMode(now.diffMode === 'before' ? 'changes' : 'before'))
      if (event.key === ']') return act(() => now.setDiffMode(now.diffMode === 'after' ? 'changes' : 'after'))
      if (event.key === 'Enter' && now.draft && !(event.target instanceof HTMLButtonElement))
        return act(() => void now.keep())
      // an editor that closes on Escape has taken the key for itself
      if (event.key === 'Escape' && now.draft && !event.defaultPrevented) return act(() => now.discard())
      if (now.selection.kind === 'table') return
      const key = { Delete: 'Del', F2: 'F2', f: 'F', t: 'T', s: 'S' }[event.key]
      const verb =
        key === undefined ? undefined : verbsFor(now.selection, now.schemaHere).find((one) => one.key === key)
      if (verb) act(() => now.act(verb))
    }
    window.addEventListener('keydown', hear)
    return () => window.removeEventListener('keydown', hear)
  }, [])
}

const keyList: readonly (readonly [string, string])[] = [
  ['/', 'find a verb'],
  ['Enter', 'keep the draft'],
  ['Esc', 'discard it'],
  ['[ and ]', 'before and after'],
  ['Ctrl+Z, Ctrl+Shift+Z', 'undo, redo'],
  ['F2', 'rename'],
  ['Delete', 'drop what is selected'],
  ['arrows, with Shift', 'move and select in the table'],
  ['Ctrl+F', 'find a column or a value'],
  ['Ctrl+C', 'copy cells or columns'],
  ['Ctrl + wheel', 'larger, smaller'],
]

/** A panel's width, kept from visit to visit. */
const useWidth = (name: string, start: number, low: number, high: number) => {
  const [width, setWidth] = useState(() => Number(localStorage.getItem(name) ?? start))
  const change = (next: number): void => {
    const held = Math.min(high, Math.max(low, next))
    setWidth(held)
    localStorage.setItem(name, String(held))
  }
  return [width, change] as const
}

// eslint-disable-next-line complexity, max-lines-per-function -- markup with a condition for each optional part
export const Compose = () => {
  const story = useStory()
  const { setTools } = useFlow()
  const navigate = useNavigate()
  const focus = useRef<() => void>(() => undefined)
  const rememberFocus = useCallback((run: () => void) => (focus.current = run), [])
  const [keys, setKeys] = useState(false)
  /** On a bench of several tables: what comes out of them, in their place. */
  const [outcome, setOutcome] = useState(false)
  const [left, setLeft] = useWidth('story-width', 392, 300, 620)
  const { flow, place, cursor, table, step, draft, diffMode, only, stageView, setStageView } = story
  // what a draft changes is shown in the rows
  const showRows = useEffectEvent(() => {
    if (draft) setStageView('rows')
    setOutcome(false)
  })
  useEffect(() => showRows(), [draft?.step.id])
  const showPicture = useEffectEvent(() => {
    if (story.drawing) setStageView('picture')
  })
  useEffect(() => showPicture(), [story.drawing?.at])
  useKeys(
    story,
    () => focus.current(),
    () => setKeys((shown) => !shown),
  )
  const view = useQuery(previewQuery(place, flow.files, cursor, diffMode, only, 0))
  const names = story.schemaHere.slice(0, 40).map(({ name }) => name)
  const facts = useQuery(factsQuery(place, flow.files, cursor, names, false))
  const travel = story.travel
  const showTools = useEffectEvent(() => {
    setTools(
      <>
        <Button look="quiet" disabled={!flow.canUndo} onClick={() => void travel('undo')}>
          ↶ Undo
        </Button>
        <Button look="quiet" disabled={!flow.canRedo} onClick={() => void travel('redo')}>
          ↷ Redo
        </Button>
        <Button look="main" onClick={() => void navigate(`${place.home}/replay`)}>
          Replay on new exports
        </Button>
      </>,
    )
  })
  useEffect(() => {
    showTools()
    return () => setTools(undefined)
  }, [flow.canUndo, flow.canRedo, flow.edit, setTools])
  const number = (table?.steps.findIndex(({ id }) => id === step?.id) ?? 0) + 1
  // a workbench needs the width of the page
  const workbench = draft && stepKinds[draft.step.kind].workbench
  const noFiles = flow.recipe.inputs.length > 0 && Object.keys(flow.files).length === 0
  const twoTables = workbench === 'tables'
  const onWorkbench = twoTables && !outcome && !noFiles
  const wide = workbench !== undefined || ((stageView === 'map' || stageView === 'reconcile') && !draft)
  const shownRows = story.steps.find(({ id }) => id === step?.id)?.statistics?.rowsOut
  const content = () => {
    if (noFiles)
      return (
        <div className="p-8">
          <h2 className="font-serif text-[18px] font-semibold">This story has no file yet</h2>
          <p className="mt-1 mb-4 text-ink-2">
            It came as a recipe. Give it an export on the Replay page to see what it makes of it.
          </p>
          <Button look="main" onClick={() => void navigate(`${place.home}/replay`)}>
            Replay on new exports
          </Button>
        </div>
      )
    if (onWorkbench && draft) return <Workbench step={draft.step} story={story} />
    if (stageView === 'map') return <MapView story={story} />
    if (stageView === 'reconcile') return <ReconcileView key={story.table?.id} story={story} />
    if (stageView === 'columns') return <ColumnsView story={story} />
    if (stageView === 'picture') return <ChartsView story={story} />
    return (
      <>
        {draft && workbench === 'values' && <Workbench step={draft.step} story={story} />}
        <Grid story={story} facts={facts.data?.facts ?? {}} />
      </>
    )
  }
  return (
    <main
      className="grid min-h-0"
      style={{ gridTemplateColumns: wide ? `${left}px minmax(0,1fr)` : `${left}px minmax(0,1fr) 268px` }}
    >
      {storyColumn(story, rememberFocus, left, setLeft)}
      <section aria-label="The table" className="flex min-h-0 min-w-0 flex-col bg-sheet">
        {tableHeading(
          stageView,
          draft,
          table,
          diffMode,
          number,
          twoTables,
          outcome,
          shownRows,
          setOutcome,
          story,
          setStageView,
          onWorkbench,
        )}
        {stageView === 'rows' && !onWorkbench && <Tally story={story} />}
        {(story.problem ?? (view.error && !noFiles ? view.error.message : undefined)) && (
          <div className="p-3">
            <Notice kind="removed">{story.problem ?? view.error?.message}</Notice>
          </div>
        )}
        {content()}
        {!wide && <RowStrip story={story} />}
      </section>
      {!wide && <SelectionPanel story={story} />}
      {keys && keysDialog()}
      <p aria-live="polite" className="sr-only">
        {draft && view.data
          ? `Draft: ${story.steps.find(({ id }) => id === draft.step.id)?.statistics?.sentence ?? ''}`
          : ''}
      </p>
    </main>
  )
}

function storyColumn(
  story: Story,
  rememberFocus: (run: () => void) => () => void,
  left: number,
  setLeft: (next: number) => void,
) {
  return (
    <section aria-label="The story" className="relative flex min-h-0 flex-col border-r border-line">
      <TableList story={story} />
      <Composer story={story} focusRef={rememberFocus} />
      <div
        role="separator"
        aria-orientation="vertical"
        aria-label="Width of the story"
        aria-valuenow={left}
        tabIndex={0}
        className="absolute top-0 -right-1 bottom-0 z-30 w-2 cursor-col-resize"
        onKeyDown={(event) =>
          event.key === 'ArrowLeft' ? setLeft(left - 16) : event.key === 'ArrowRight' && setLeft(left + 16)
        }
        onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
        onPointerMove={(event) => event.buttons === 1 && setLeft(event.clientX)}
      />
    </section>
  )
}

function tableHeading(
  stageView: StageView,
  draft: Draft | undefined,
  table: RecipeTable | undefined,
  diffMode: Story['diffMode'],
  number: number,
  twoTables: boolean,
  outcome: boolean,
  shownRows: number | undefined,
  setOutcome: Dispatch<SetStateAction<boolean>>,
  story: Story,
  setStageView: Dispatch<SetStateAction<StageView>>,
  onWorkbench: boolean,
) {
  return (
    <div className="flex items-center gap-3 border-b border-line px-3.5 py-2.5">
      <h1 className="truncate font-serif text-[14px] font-medium">
        {stageView === 'map' && !draft
          ? 'How the tables hang together'
          : `${table?.name ?? ''}, ${diffMode === 'before' ? 'before' : 'after'} sentence ${number}`}
      </h1>
      {twoTables && (
        <Segments
          label="The tables, or what comes out"
          value={outcome ? 'outcome' : 'tables'}
          of={[
            ['tables', 'The tables'],
            ['outcome', shownRows === undefined ? 'What comes out' : `What comes out: ${counted(shownRows, 'row')}`],
          ]}
          onChange={(next) => setOutcome(next === 'outcome')}
        />
      )}
      {!twoTables && stageView !== 'map' && (
        <Segments
          label="Rows, columns side by side, or a picture"
          value={stageView}
          of={[
            ['rows', shownRows === undefined ? 'Rows' : counted(shownRows, 'row')],
            ['columns', counted(story.schemaHere.length, 'column')],
            ['picture', 'Picture'],
          ]}
          onChange={setStageView}
        />
      )}
      <span className="ml-auto">
        {stageView === 'rows' && !onWorkbench && (
          <Segments
            label="What the table shows"
            value={diffMode}
            of={[
              ['before', 'Before'],
              ['changes', 'What changes'],
              ['after', 'After'],
            ]}
            onChange={story.setDiffMode}
          />
        )}
      </span>
    </div>
  )
}

function keysDialog() {
  return (
    <div
      role="dialog"
      aria-label="Keys"
      className="absolute right-6 bottom-6 z-50 rounded-lg border border-line-strong bg-sheet p-4"
    >
      <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1.5">
        {keyList.map(([key, words]) => (
          <div key={key} className="contents">
            <dt>
              <Key>{key}</Key>
            </dt>
            <dd>{words}</dd>
          </div>
        ))}
      </dl>
    </div>
  )
}
