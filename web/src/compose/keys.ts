import type { Draft, StoryState } from '../story/story-state.ts'

/**
 * A key as it was pressed, and where: in a field that takes text; in a field of one line beside the draft, whose Enter keeps
 * it; on a button; on the head of a column.
 */
export type KeyPress = {
  readonly key: string
  /** Ctrl, or Cmd on a Mac. */
  readonly mod: boolean
  readonly alt: boolean
  readonly shift: boolean
  readonly target: 'field' | 'line' | 'button' | 'head' | 'other'
  /** An editor has taken the key for itself. */
  readonly taken: boolean
}

/** What a key does in Compose; `verb` names the key of a verb of the selection. */
export type KeyCommand =
  | { readonly do: 'find' | 'undo' | 'redo' | 'list keys' | 'keep' | 'discard' | 'trace' }
  | { readonly do: 'show'; readonly diffMode: StoryState['diffMode'] }
  | { readonly do: 'verb'; readonly key: string }

/** The keys of Compose as the help lists them. */
export const keyList: readonly (readonly [string, string])[] = [
  ['/', 'find a verb'],
  ['Enter', 'keep the draft'],
  ['Esc, Ctrl+Z', 'discard it'],
  ['Space or ↓ on an open word', 'change it'],
  ['[ and ]', 'before and after'],
  ['Ctrl+Z, Ctrl+Shift+Z', 'undo, redo'],
  ['F2', 'rename'],
  ['Delete', 'drop what is selected'],
  ['arrows, with Shift', 'move and select in the table'],
  ['arrows on a head', 'walk the columns, with Shift select them'],
  ['Ctrl+Space', 'select the column'],
  ['arrows on the number of a sentence', 'walk the story'],
  ['Space on the number of a sentence', 'pick it up; arrows move it, Space puts it down'],
  ['W', 'where a cell comes from'],
  ['Ctrl+F', 'find a column or a value'],
  ['Ctrl+C', 'copy cells or columns'],
  ['Ctrl + wheel', 'larger, smaller'],
  ['?', 'these keys; on a verb its help'],
]

const verbKeys: ReadonlyMap<string, string> = new Map([
  ['Delete', 'Del'],
  ['F2', 'F2'],
  ['f', 'F'],
  ['t', 'T'],
  ['s', 'S'],
])

const withModifier = ({ key, shift, target }: KeyPress, drafting: boolean): KeyCommand | undefined => {
  const letter = key.toLowerCase()
  if (letter === 'k') return { do: 'find' }
  if (target === 'field' || target === 'line') return undefined
  // what is not kept yet goes first, and nothing else with it
  if (letter === 'z' && drafting) return { do: 'discard' }
  if (letter === 'z') return { do: shift ? 'redo' : 'undo' }
  return letter === 'y' ? { do: 'redo' } : undefined
}

const onDraft = ({ key, target, taken }: KeyPress): KeyCommand | undefined => {
  if (key === 'Enter' && target !== 'button') return { do: 'keep' }
  return key === 'Escape' && !taken ? { do: 'discard' } : undefined
}

/** Keys that act wherever one is, but in a field. */
const onPage = (press: KeyPress, diffMode: StoryState['diffMode']): KeyCommand | undefined => {
  if (press.key === '/') return { do: 'find' }
  if (press.key.toLowerCase() === 'w') return { do: 'trace' }
  if (press.key === '?') return { do: 'list keys' }
  if (press.key === '[') return { do: 'show', diffMode: diffMode === 'before' ? 'changes' : 'before' }
  if (press.key === ']') return { do: 'show', diffMode: diffMode === 'after' ? 'changes' : 'after' }
  return undefined
}

/** The command of a key press; none while text is typed, but for the one that finds a verb. */
export const keyCommand = (
  press: KeyPress,
  { draft, diffMode, selection }: Pick<StoryState, 'diffMode' | 'selection'> & { readonly draft: Draft | undefined },
): KeyCommand | undefined => {
  if (press.mod) return withModifier(press, draft !== undefined)
  if (press.target === 'field' || press.alt) return undefined
  if (press.target === 'line') return draft && onDraft(press)
  const ofPage = onPage(press, diffMode)
  if (ofPage) return ofPage
  const ofDraft = draft && onDraft(press)
  if (ofDraft) return ofDraft
  const key = verbKeys.get(press.key)
  return key !== undefined && selection.kind !== 'table' ? { do: 'verb', key } : undefined
}
