import { stepKinds, type StepKindName } from '@fabula/core'
import { useEffect, useRef } from 'react'
import { Link } from 'react-router'
import { Button } from '../ui/parts.tsx'
import { VerbHelp } from './verb-help.tsx'

/** The help on a verb beside the work; Escape and Close leave it. */
const VerbPanel = ({ kind, close }: { kind: StepKindName; close: () => void }) => {
  const heading = useRef<HTMLHeadingElement>(null)
  useEffect(() => heading.current?.focus(), [kind])
  return (
    <aside
      aria-label="Help"
      className="min-h-0 min-w-0 overflow-auto border-l border-line px-5 py-4"
      onKeyDown={(event) => {
        if (event.key !== 'Escape') return
        event.stopPropagation()
        close()
      }}
    >
      <div className="flex items-start gap-3">
        <h2 ref={heading} tabIndex={-1} className="font-serif text-[18px] leading-tight font-semibold outline-none!">
          {stepKinds[kind].verb.replace('…', '')}
        </h2>
        <Button look="quiet" className="ml-auto py-1!" onClick={close}>
          Close
        </Button>
      </div>
      <VerbHelp kind={kind} />
      <p className="pt-3 text-[12.5px]">
        <Link to={`/help/verbs/${kind}`} className="font-semibold text-rubric hover:underline">
          All of the help
        </Link>
      </p>
    </aside>
  )
}
export default VerbPanel
