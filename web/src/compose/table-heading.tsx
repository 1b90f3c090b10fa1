import { counted, stepKinds } from '@fabula/core'
import type { StageView } from '../story/story-state.ts'
import { figureOf, isOfSample } from '../story/sample-figures.ts'
import type { Story } from '../story/use-story.ts'
import { Segments } from '../ui/parts.tsx'

/** Whether the draft has a workbench of several tables, which its result can take the place of. */
export const hasTablesWorkbench = ({ draft }: Story): boolean =>
  draft !== undefined && stepKinds[draft.step.kind].workbench === 'tables'

const titleOf = ({ stageView, draft, table, stepIndex, diffMode }: Story): string => {
  if (stageView === 'map' && !draft) return 'How the tables hang together'
  return `${table?.name ?? ''}, ${diffMode === 'before' ? 'before' : 'after'} sentence ${stepIndex + 1}`
}

const OutcomeChoice = ({ story, rows }: { story: Story; rows: string | undefined }) => (
  <Segments
    label="The tables, or what comes out"
    value={story.outcome ? 'outcome' : 'tables'}
    of={[
      ['tables', 'The tables'],
      ['outcome', rows === undefined ? 'What comes out' : `What comes out: ${rows}`],
    ]}
    onChange={(next) => story.setOutcome(next === 'outcome')}
  />
)

const StageChoice = ({ story, rows }: { story: Story; rows: string | undefined }) => (
  <Segments<StageView>
    label="Rows, columns side by side, or a picture"
    value={story.stageView}
    of={[
      ['rows', rows ?? 'Rows'],
      ['columns', counted(story.schemaHere.length, 'column')],
      ['picture', 'Picture'],
    ]}
    onChange={story.setStageView}
  />
)

const DiffChoice = ({ story }: { story: Story }) => (
  <Segments
    label="What the table shows"
    value={story.diffMode}
    of={[
      ['before', 'Before'],
      ['changes', 'What changes'],
      ['after', 'After'],
    ]}
    onChange={story.setDiffMode}
  />
)

/** The title of what stands beside the story, and the choice of what that is. */
export const TableHeading = ({ story, onWorkbench }: { story: Story; onWorkbench: boolean }) => {
  const count = story.statisticsHere?.rowsOut
  const rows = count === undefined ? undefined : figureOf(counted(count, 'row'), isOfSample(story.flow.files))
  const twoTables = hasTablesWorkbench(story)
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-1.5 border-b border-line px-3.5 py-2">
      <h1 className="line-clamp-2 min-w-[96px] flex-1 font-serif text-[14px] leading-tight font-medium">
        {titleOf(story)}
      </h1>
      {twoTables && <OutcomeChoice story={story} rows={rows} />}
      {!twoTables && story.stageView !== 'map' && <StageChoice story={story} rows={rows} />}
      <span className="ml-auto">{story.stageView === 'rows' && !onWorkbench && <DiffChoice story={story} />}</span>
    </div>
  )
}
