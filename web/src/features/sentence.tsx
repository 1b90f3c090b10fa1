import { useState } from 'react'
import { useNavigate } from 'react-router'
import { sentenceFor, type Sentence, type Slot, type Step } from '@fabula/core'
import { Editable } from '../ui/parts.tsx'
import { SlotEditor } from './editors.tsx'
import type { Story } from './story-state.ts'

const nounOf: Readonly<Record<Slot['editor'], string>> = {
  columns: 'columns', column: 'column', name: 'name', value: 'value', condition: 'condition', formula: 'formula', choice: 'choice', number: 'number', text: 'text', measures: 'measures', sortKeys: 'order', types: 'type', renames: 'names', change: 'change of names', formats: 'date forms', open: 'file', slice: 'rows', grid: 'cells', pairs: 'values', oneColumn: 'column', values: 'values', cleanings: 'cleaning', groups: 'groups', cases: 'cases', separator: 'where it is split', pieces: 'pieces', take: 'part', labels: 'labels', labelsFound: 'labels', windowMeasures: 'figures', pivotValues: 'figures', table: 'table', join: 'match', union: 'tables', check: 'check',
}

const EditableSlot = ({ slot, step, story }: { slot: Slot; step: Step; story: Story }) => {
  const [open, setOpen] = useState(false)
  const navigate = useNavigate()
  // how a file is opened is decided on the sheet itself, which needs the width of the page
  const elsewhere = slot.editor === 'open' && (story.flow.files[String(step.input)] ?? []).length > 0
  // groups are taken on a bench above the table, which opens with the draft
  const onBench = slot.editor === 'groups'
  const change = (next: boolean): void => (next && onBench ? story.reword(step) : next && elsewhere ? void navigate(`${story.place.home}/open/${String(step.input)}`) : setOpen(next))
  return (
    <Editable text={slot.text} label={nounOf[slot.editor]} open={open} onOpenChange={change}>
      <SlotEditor slot={slot} step={step} story={story} close={() => setOpen(false)} />
    </Editable>
  )
}

/** A sentence whose underlined words are edited in place. Without a story it is only read. */
export const SentenceText = ({ step, story }: { step: Step; story?: Story | undefined }) => {
  const parts: Sentence = sentenceFor(step)
  return (
    <>
      {parts.map((part, i) =>
        typeof part === 'string' ? <span key={i}>{part}</span> : story ? <EditableSlot key={i} slot={part} step={step} story={story} /> : <b key={i} className="font-medium text-token">{part.text}</b>,
      )}
    </>
  )
}
