import { useState } from 'react'
import { useNavigate } from 'react-router'
import {
  ownValue,
  sentenceFor,
  tableNames,
  type Recipe,
  type Sentence,
  type SentenceSlot,
  type Step,
  openedBy,
} from '@fabula/core'
import { Dot, Editable } from '../ui/parts.tsx'
import { SlotEditor } from './editors.tsx'
import type { Story } from '../story/use-story.ts'

const nounOf: Readonly<Record<SentenceSlot['editor'], string>> = {
  columns: 'columns',
  column: 'column',
  name: 'name',
  value: 'value',
  condition: 'condition',
  formula: 'formula',
  choice: 'choice',
  number: 'number',
  text: 'text',
  measures: 'measures',
  sortKeys: 'order',
  types: 'type',
  renames: 'names',
  change: 'change of names',
  formats: 'date forms',
  open: 'file',
  slice: 'rows',
  grid: 'cells',
  pairs: 'values',
  oneColumn: 'column',
  values: 'values',
  cleanings: 'cleaning',
  groups: 'groups',
  cases: 'cases',
  separator: 'where it is split',
  pieces: 'pieces',
  take: 'part',
  labels: 'labels',
  labelsFound: 'labels',
  windowMeasures: 'figures',
  pivotValues: 'figures',
  table: 'table',
  join: 'match',
  union: 'tables',
  check: 'check',
}

/** A new sentence that names a column as it is called asks for the name at once. */
const asksForName = ({ editor }: SentenceSlot, step: Step, { draft }: Story): boolean =>
  editor === 'renames' &&
  draft?.isNew === true &&
  draft.step.id === step.id &&
  'names' in step &&
  Object.entries((step.names ?? {}) as Readonly<Record<string, string>>).some(([old, next]) => old === next)

const EditableSlot = ({ slot, step, story }: { slot: SentenceSlot; step: Step; story: Story }) => {
  const [open, setOpen] = useState(() => asksForName(slot, step, story))
  const navigate = useNavigate()
  // how a file is opened is decided on the sheet itself, which needs the width of the page
  const input = openedBy(step)?.input ?? ''
  const elsewhere = slot.editor === 'open' && (ownValue(story.flow.files, input) ?? []).length > 0
  // groups, matches and tables laid underneath are decided on a bench, which opens with the draft
  const onWorkbench = slot.editor === 'groups' || slot.editor === 'join' || slot.editor === 'union'
  const change = (next: boolean): void => {
    if (next && onWorkbench) return story.reword(step)
    if (next && elsewhere) return void navigate(`${story.endpoint.home}/open/${input}`)
    return setOpen(next)
  }
  return (
    <Editable text={slot.text} label={nounOf[slot.editor]} open={open} onOpenChange={change}>
      <SlotEditor slot={slot} step={step} story={story} close={() => setOpen(false)} />
    </Editable>
  )
}

/** The colour of a table's strand, before its name. */
const TableDot = ({ recipe, table }: { recipe: Recipe; table: string }) => (
  <span className="mr-1">
    <Dot entry={recipe.tables.findIndex(({ id }) => id === table)} />
  </span>
)

/** A sentence whose underlined words are edited in place. Without a story it is only read. */
export const SentenceText = ({ step, recipe, story }: { step: Step; recipe: Recipe; story?: Story | undefined }) => {
  const parts: Sentence = sentenceFor(step, tableNames(recipe))
  return (
    <>
      {parts.map((part, i) =>
        typeof part === 'string' ? (
          <span key={i}>{part}</span>
        ) : (
          <span key={i}>
            {part.table !== undefined && <TableDot recipe={recipe} table={part.table} />}
            {story ? (
              <EditableSlot slot={part} step={step} story={story} />
            ) : (
              <b className="font-medium text-token">{part.text}</b>
            )}
          </span>
        ),
      )}
    </>
  )
}
