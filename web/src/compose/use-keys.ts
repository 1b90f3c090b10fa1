import type { Story } from '../story/use-story.ts'
import { verbsFor } from '../story/verbs.ts'
import { useWindowKeys } from '../ui/use-window-keys.ts'
import { keyCommand, type KeyCommand, type KeyPress } from './keys.ts'

const targetOf = (target: EventTarget | null): KeyPress['target'] => {
  if (!(target instanceof HTMLElement)) return 'other'
  const beside = target.closest('[role=dialog]') === null && target.closest('aside, [data-state=draft]') !== null
  if (beside && target.matches('input, select')) return 'line'
  if (target.matches('input, textarea, select') || target.isContentEditable) return 'field'
  if (!(target instanceof HTMLButtonElement || target instanceof HTMLAnchorElement)) return 'other'
  return target.closest('[role=columnheader]') ? 'head' : 'button'
}

const pressOf = (event: KeyboardEvent): KeyPress => ({
  key: event.key,
  mod: event.ctrlKey || event.metaKey,
  alt: event.altKey,
  shift: event.shiftKey,
  target: targetOf(event.target),
  taken: event.defaultPrevented,
})

/** Listens for the keys of Compose on the whole page. */
export const useKeys = (
  story: Story,
  {
    focusComposer,
    showKeys,
    trace,
  }: { readonly focusComposer: () => void; readonly showKeys: () => void; readonly trace: () => void },
): void => {
  const plain: Record<'find' | 'undo' | 'redo' | 'list keys' | 'keep' | 'discard' | 'trace', () => void> = {
    find: focusComposer,
    undo: () => void story.travel('undo'),
    redo: () => void story.travel('redo'),
    'list keys': showKeys,
    keep: () => void story.keep(),
    discard: story.discard,
    trace,
  }
  const actionOf = (command: KeyCommand): (() => void) | undefined => {
    if (command.do === 'show') return () => story.setDiffMode(command.diffMode)
    if (command.do !== 'verb') return plain[command.do]
    const verb = verbsFor(story.selection, story.draftContext).find(({ key }) => key === command.key)
    return verb && (() => story.act(verb))
  }
  useWindowKeys((event) => {
    const command = keyCommand(pressOf(event), story)
    const action = command && actionOf(command)
    if (!action) return
    event.preventDefault()
    action()
  })
}
