import { Tooltip } from 'radix-ui'
import type { ReactNode } from 'react'

const waitBefore = 450

/** Words that come when one stays on a control, with the mouse or by the keys: what it does, where its name does not tell. */
export const Tip = ({ words, children }: { words: string; children: ReactNode }) => (
  <Tooltip.Provider delayDuration={waitBefore}>
    <Tooltip.Root>
      <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
      {/* inside of the page, so that it belongs to a landmark */}
      <Tooltip.Portal container={document.querySelector('main')}>
        <Tooltip.Content
          sideOffset={5}
          collisionPadding={8}
          className="z-[60] max-w-[260px] rounded-md border border-line-strong bg-ink px-2.5 py-1.5 text-[12px] text-paper"
        >
          {words}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  </Tooltip.Provider>
)
