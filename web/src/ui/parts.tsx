import { Popover } from 'radix-ui'
import type { ComponentProps, KeyboardEvent, ReactNode } from 'react'

const looks = {
  main: 'bg-rubric text-on-rubric font-semibold hover:brightness-95',
  ghost: 'border border-line-strong bg-sheet text-ink-2 hover:text-ink',
  quiet: 'text-ink-2 hover:text-ink hover:bg-sunk',
  link: 'text-rubric font-semibold hover:underline px-0!',
} as const

export const Button = ({
  look = 'ghost',
  className = '',
  ...rest
}: ComponentProps<'button'> & { look?: keyof typeof looks }) => (
  <button
    type="button"
    {...rest}
    className={`rounded-md px-3 py-1.5 disabled:opacity-45 ${looks[look]} ${className}`}
  />
)

/** How a small form ends: what it says is kept, or left. */
export const KeepOrLeave = ({
  words,
  keep,
  leave,
  disabled = false,
}: {
  words: string
  keep: () => void
  leave: () => void
  disabled?: boolean
}) => (
  <span className="flex gap-2">
    <Button className="py-1!" disabled={disabled} onClick={keep}>
      {words}
    </Button>
    <Button look="quiet" className="py-1!" onClick={leave}>
      Leave it
    </Button>
  </span>
)

export const Key = ({ children }: { children: ReactNode }) => (
  <kbd className="rounded border border-line-strong bg-sheet px-1 font-sans text-[12px] text-ink-3">{children}</kbd>
)

const walkKeys: ReadonlyMap<string, number> = new Map([
  ['ArrowRight', 1],
  ['ArrowDown', 1],
  ['ArrowLeft', -1],
  ['ArrowUp', -1],
])

/** Moves the focus by an arrow among the buttons of a group that is one stop of the Tab key; its new place, from 0. */
export const walkGroup = (event: KeyboardEvent<HTMLElement>): number | undefined => {
  const by = walkKeys.get(event.key)
  if (by === undefined) return undefined
  event.preventDefault()
  event.stopPropagation()
  const buttons = [...event.currentTarget.querySelectorAll('button')]
  const at = (buttons.findIndex((one) => one === event.target) + by + buttons.length) % buttons.length
  buttons[at]?.focus()
  return at
}

/** One of a few, shown side by side: a radio group, in which arrows choose. */
export const Segments = <T extends string>({
  label,
  value,
  of,
  onChange,
}: {
  label: string
  /** None of them may be chosen yet. */
  value: T | ''
  of: readonly (readonly [T, string])[]
  onChange: (value: T) => void
}) => {
  const walk = (event: KeyboardEvent<HTMLElement>): void => {
    const at = walkGroup(event)
    const next = at === undefined ? undefined : of[at]
    if (next) onChange(next[0])
  }
  const stop = of.some(([one]) => one === value) ? value : of[0]?.[0]
  return (
    <div
      role="radiogroup"
      aria-label={label}
      className="flex w-fit max-w-full flex-wrap rounded-lg bg-sunk p-0.5 text-[12.5px]"
      onKeyDown={walk}
    >
      {of.map(([one, words]) => (
        <button
          key={one}
          type="button"
          role="radio"
          aria-checked={one === value}
          tabIndex={one === stop ? 0 : -1}
          data-state={one === value ? 'on' : 'off'}
          onClick={() => onChange(one)}
          className="rounded-md px-2.5 py-1 whitespace-nowrap text-ink-2 data-[state=on]:bg-sheet data-[state=on]:font-semibold data-[state=on]:text-ink"
        >
          {words}
        </button>
      ))}
    </div>
  )
}

/** A slot of a sentence with its editor below it. */
export const Editable = ({
  text,
  label,
  open,
  onOpenChange,
  children,
}: {
  text: string
  label: string
  open: boolean
  onOpenChange: (open: boolean) => void
  children: ReactNode
}) => (
  <Popover.Root open={open} onOpenChange={onOpenChange}>
    <Popover.Trigger asChild>
      {/* a span, for a button never breaks over two lines as words of a sentence do */}
      <span
        role="button"
        tabIndex={0}
        className="slot cursor-pointer"
        aria-label={`${label}: ${text}`}
        onKeyDown={(event) => {
          // in a draft Enter keeps the sentence; its words are opened by the other keys of a button with a menu
          const opens = [' ', 'ArrowDown', ...(event.currentTarget.closest('[data-state=draft]') ? [] : ['Enter'])]
          if (!opens.includes(event.key)) return
          event.preventDefault()
          event.stopPropagation()
          onOpenChange(true)
        }}
      >
        {text}
      </span>
    </Popover.Trigger>
    <Popover.Portal>
      <Popover.Content
        align="start"
        sideOffset={6}
        collisionPadding={12}
        className="z-50 max-h-[min(560px,var(--radix-popover-content-available-height))] max-w-[680px] min-w-[260px] overflow-auto rounded-lg border border-line-strong bg-sheet p-3 text-[13px] text-ink"
        aria-label={label}
      >
        {children}
      </Popover.Content>
    </Popover.Portal>
  </Popover.Root>
)

export const Notice = ({
  children,
  kind = 'changed',
}: {
  children: ReactNode
  kind?: 'changed' | 'added' | 'removed'
}) => {
  const tint = () => {
    if (kind === 'changed') return 'bg-changed-tint'
    if (kind === 'added') return 'bg-added-tint'
    return 'bg-removed-tint'
  }
  return (
    <div
      role={kind === 'removed' ? 'alert' : 'note'}
      className={`rounded-lg px-3 py-2 text-[12.5px] ${tint()} text-ink`}
    >
      {children}
    </div>
  )
}

export const Dot = ({ entry }: { entry: number }) => (
  <i
    aria-hidden
    className="inline-block size-[11px] flex-none rounded-full"
    style={{ background: `var(--strand-${(entry % 5) + 1})` }}
  />
)
