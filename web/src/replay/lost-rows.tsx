import { tableNames, writtenTables } from '@fabula/core'
import type { QueryData } from '@fabula/core/api'
import { useState } from 'react'
import { useFlow } from '../story/flow-context.ts'
import type { TraceSubject } from '../tracing/subject.ts'
import { TracePanel } from '../tracing/trace-panel.tsx'
import { Dialog } from '../ui/dialog.tsx'
import { Button } from '../ui/parts.tsx'

/** Of each written table the way to the rows of the files that are not in it; they are counted when it is asked. */
export const LostRows = ({ data }: { data: QueryData }) => {
  const { recipe } = useFlow().flow
  const [subjects, setSubjects] = useState<readonly TraceSubject[]>([])
  const nameOf = tableNames(recipe)
  const close = (): void => setSubjects([])
  return (
    <p className="mb-4 flex flex-wrap gap-3 text-[13px]">
      {writtenTables(recipe).map((table) => (
        <Button key={table} look="link" className="py-0!" onClick={() => setSubjects([{ kind: 'lost', table }])}>
          Which rows are not in {nameOf(table)}?
        </Button>
      ))}
      {subjects.length > 0 && (
        <Dialog size="narrow" title="Every row accounted for" close={close}>
          <TracePanel recipe={recipe} subjects={subjects} data={data} show={setSubjects} />
        </Dialog>
      )}
    </p>
  )
}
