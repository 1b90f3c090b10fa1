import { useRouteError } from 'react-router'
import { Button, Notice } from '../ui/parts.tsx'

/** What stands in place of a page that met a fault of ours: what happened, that nothing is lost, what to do. */
export const Fault = () => {
  const error = useRouteError()
  return (
    <main className="mx-auto max-w-[560px] p-12">
      <h1 className="mb-3 font-serif text-[22px] font-semibold">This page met a fault of Fabula itself</h1>
      <p className="mb-3 font-serif text-[14.5px] text-ink-2">
        Your story is kept as it was before. Reload the page to go on; if the fault comes again, undo the last change.
      </p>
      <Notice kind="removed">{error instanceof Error ? error.message : 'The page could not be drawn.'}</Notice>
      <div className="mt-4 flex gap-2">
        <Button look="main" onClick={() => location.reload()}>
          Reload the page
        </Button>
        <Button onClick={() => location.assign('/')}>To all stories</Button>
      </div>
    </main>
  )
}
