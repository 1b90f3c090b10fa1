import { useState } from 'react'
import { cellsAsText, mostCopied } from './copy.ts'
import { copiedMessage, copyArea } from './grid-selection.ts'
import type { GridModel } from './use-grid.ts'

/** Copies what is selected to the clipboard; `message` says for a while how much it was. */
export const useCopy = ({ story, columns, total, layout, active, anchor, chosen }: GridModel) => {
  const [message, setMessage] = useState('')
  const copy = async (): Promise<void> => {
    const nameOf = (c: number): string => columns[c]?.name ?? ''
    const whole =
      story.selection.kind === 'columns' ? [...columns.keys()].filter((c) => chosen.includes(nameOf(c))) : undefined
    const area = copyArea({ total, shown: layout.shown, active, anchor, whole }, mostCopied)
    if (!area) return
    const names = area.whole ? area.columns.map(nameOf) : undefined
    const text = await cellsAsText(story, area.from, area.to, area.columns, names)
    await navigator.clipboard.writeText(text)
    setMessage(copiedMessage(area))
    setTimeout(() => setMessage(''), 2500)
  }
  return { copy, message }
}
