import { type GridColumn, type GridRow } from './cells.tsx'

export type GridPosition = { readonly row: number; readonly at: number }

export const between = (n: number, a: number, b: number): boolean => n >= Math.min(a, b) && n <= Math.max(a, b)

/** What a cell's background says: its row was removed or added, it was changed, could not be read, or is chosen. */
export const tintOf = (row: GridRow, column: GridColumn, c: number, chosen: boolean): string => {
  if (row.state === 'removed' || column.state === 'removed') return 'bg-removed-tint text-removed line-through'
  if (row.bad?.includes(c)) return 'bg-removed-tint'
  if (row.old?.[c] !== undefined) return 'changed-mark bg-changed-tint'
  if (row.state === 'added' || column.state === 'added') return 'bg-added-tint'
  if (chosen) return 'bg-token-tint'
  return 'bg-sheet'
}

/** The part of a cell's text that is selected with the mouse, where what is shown is as long as what it is. */
export const selectedPart = (cell: HTMLElement, text: string): { from: number; to: number } | undefined => {
  const picked = window.getSelection()
  if (!picked || picked.isCollapsed || picked.rangeCount === 0) return undefined
  const { startContainer, endContainer, startOffset, endOffset } = picked.getRangeAt(0)
  if (
    startContainer !== endContainer ||
    startContainer.nodeType !== Node.TEXT_NODE ||
    !cell.contains(startContainer) ||
    startContainer.textContent?.length !== text.length
  )
    return undefined
  return { from: startOffset, to: endOffset }
}
