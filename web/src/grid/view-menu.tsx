import { DropdownMenu } from 'radix-ui'
import { counted } from '@fabula/core'
import type { GridView } from './use-view.ts'

const item = 'cursor-pointer rounded px-2 py-1 outline-none data-highlighted:bg-token-tint data-disabled:text-ink-3'
const zooms = [0.8, 0.9, 1, 1.15, 1.3, 1.5]

type ViewMenuProps = {
  readonly view: GridView
  readonly change: (next: Partial<GridView>) => void
  readonly chosen: readonly string[]
  readonly names: readonly string[]
  readonly fit: (names: readonly string[]) => void
  readonly find: () => void
}

/** How the table is seen: nothing here changes the story. */
export const ViewMenu = ({ view, change, chosen, names, fit, find }: ViewMenuProps) => {
  const last = Math.max(-1, ...chosen.map((name) => names.indexOf(name)))
  const zoom = (by: number): void =>
    change({
      zoom:
        zooms[Math.max(0, Math.min(zooms.length - 1, zooms.findIndex((one) => one >= view.zoom - 0.001) + by))] ?? 1,
    })
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger asChild>
        <button
          type="button"
          aria-label="How the table is seen"
          className="h-[22px] w-full text-[12px] text-ink-3 hover:text-ink"
        >
          ⋯
        </button>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          className="z-50 min-w-[240px] rounded-lg border border-line-strong bg-sheet p-1.5 text-[13px]"
        >
          <DropdownMenu.Label className="px-2 py-1 text-[12px] text-ink-3">
            Only how it is seen; the story stays
          </DropdownMenu.Label>
          <DropdownMenu.Item className={item} onSelect={find}>
            Find a column or a value <span className="float-right pl-4 text-ink-3">Ctrl+F</span>
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} disabled={last < 0} onSelect={() => change({ frozen: last + 1 })}>
            Hold still up to the selected column
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} disabled={view.frozen === 0} onSelect={() => change({ frozen: 0 })}>
            Let all columns move
          </DropdownMenu.Item>
          <DropdownMenu.Item
            className={item}
            disabled={chosen.length === 0 || chosen.length >= names.length}
            onSelect={() => change({ hidden: [...view.hidden, ...chosen] })}
          >
            Put the selected columns out of sight
          </DropdownMenu.Item>
          <DropdownMenu.Item
            className={item}
            disabled={view.hidden.length === 0}
            onSelect={() => change({ hidden: [] })}
          >
            {view.hidden.length === 0
              ? 'Nothing is out of sight'
              : `Show ${counted(view.hidden.length, 'column')} again`}
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} onSelect={() => fit(chosen.length > 0 ? chosen : names)}>
            Fit {chosen.length > 0 ? 'the selected columns' : 'all columns'} to what they hold
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} disabled={view.zoom >= 1.5} onSelect={() => zoom(1)}>
            Larger <span className="float-right pl-4 text-ink-3">Ctrl + wheel</span>
          </DropdownMenu.Item>
          <DropdownMenu.Item className={item} disabled={view.zoom <= 0.8} onSelect={() => zoom(-1)}>
            Smaller
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}
