import { Dialog as Primitive } from 'radix-ui'
import type { ReactNode } from 'react'
import { Button } from './parts.tsx'

const sizes = {
  /** Nearly the whole window. */ wide: 'inset-x-[5vw] inset-y-[8vh]',
  narrow: 'top-[12vh] left-1/2 max-h-[76vh] w-[560px] max-w-[92vw] -translate-x-1/2',
} as const

/** A dialog over the page: Escape, a click beside it and Close leave it, and the focus goes back to where it was. */
export const Dialog = ({
  title,
  status = '',
  size,
  close,
  children,
}: {
  title: string
  /** Said beside the title, and read out when it changes. */
  status?: string
  size: keyof typeof sizes
  close: () => void
  children: ReactNode
}) => (
  <Primitive.Root open onOpenChange={close}>
    <Primitive.Portal>
      <Primitive.Overlay className="fixed inset-0 z-40 bg-ink/25" />
      <Primitive.Content
        aria-describedby={undefined}
        className={`fixed z-50 flex flex-col overflow-hidden rounded-xl border border-line-strong bg-sheet ${sizes[size]}`}
      >
        <header className="flex items-baseline gap-4 border-b border-line px-5 py-3">
          <Primitive.Title className="font-serif text-[16px] font-semibold">{title}</Primitive.Title>
          <span role="status" className="figures text-[12.5px] whitespace-nowrap text-ink-2">
            {status}
          </span>
          <Button look="quiet" className="ml-auto py-1!" onClick={close}>
            Close
          </Button>
        </header>
        {children}
      </Primitive.Content>
    </Primitive.Portal>
  </Primitive.Root>
)
