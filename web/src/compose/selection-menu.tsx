import { ContextMenu } from 'radix-ui'
import type { ReactNode } from 'react'
import type { Story } from '../story/use-story.ts'
import { verbGroups } from '../story/verb-groups.ts'
import type { TraceSubject } from '../tracing/subject.ts'
import { traceQuestions } from './trace-questions.ts'

const item =
  'flex min-h-6 cursor-pointer items-center gap-4 rounded px-2 py-1 outline-none data-highlighted:bg-token-tint'

/** What the menu holds; worked out while it is open. */
const MenuItems = ({ story, ask }: { story: Story; ask: (subject: TraceSubject) => void }) => (
  <>
    {traceQuestions(story).map(({ words, subject }) => (
      <ContextMenu.Item key={words} className={`${item} font-semibold text-token`} onSelect={() => ask(subject)}>
        {words}
      </ContextMenu.Item>
    ))}
    {verbGroups(story.selection, story.draftContext).map(({ heading, verbs }) => (
      <ContextMenu.Group key={heading}>
        <ContextMenu.Label className="px-2 pt-2 pb-0.5 text-[12px] font-semibold text-ink-3">
          {heading}
        </ContextMenu.Label>
        {verbs.map((verb) => (
          <ContextMenu.Item key={verb.name} className={item} onSelect={() => story.act(verb)}>
            <span className="min-w-0 truncate">{verb.name}</span>
            {verb.key && <span className="ml-auto text-[12px] text-ink-3">{verb.key}</span>}
          </ContextMenu.Item>
        ))}
      </ContextMenu.Group>
    ))}
  </>
)

/** The verbs of the selection, and where it comes from, at the pointer: opened by a right click or the menu key. */
export const SelectionMenu = ({
  story,
  ask,
  children,
}: {
  story: Story
  ask: (subject: TraceSubject) => void
  children: ReactNode
}) => (
  <ContextMenu.Root modal={false}>
    <ContextMenu.Trigger asChild>{children}</ContextMenu.Trigger>
    <ContextMenu.Portal container={document.querySelector('main')}>
      <ContextMenu.Content
        collisionPadding={8}
        tabIndex={0}
        className="z-50 max-h-(--radix-context-menu-content-available-height) w-[280px] overflow-auto rounded-lg border border-line-strong bg-sheet p-1.5 text-[13px] text-ink"
      >
        <MenuItems story={story} ask={ask} />
      </ContextMenu.Content>
    </ContextMenu.Portal>
  </ContextMenu.Root>
)
