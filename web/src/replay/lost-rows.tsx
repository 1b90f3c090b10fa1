import { tableNames, writtenTables } from '@fabula/core'
import type { QueryData } from '@fabula/core/api'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { lostQuery } from '../api/queries.ts'
import { useFlow } from '../story/flow-context.ts'
import { lostWords, reasonWords, type TraceSubject } from '../tracing/subject.ts'
import { TracePanel } from '../tracing/trace-panel.tsx'
import { Dialog } from '../ui/dialog.tsx'
import { Button } from '../ui/parts.tsx'

/** So many rows are counted without being asked; of more it takes seconds. */
const countedAtOnce = 200_000

/** Where every row of the inputs of one written table went, in a sentence each. */
const TableConservation = ({ table, data, ask }: { table: string; data: QueryData; ask: () => void }) => {
  const { flow, endpoint } = useFlow()
  const { recipe } = flow
  const name = tableNames(recipe)(table)
  const reply = useQuery(lostQuery(endpoint, [flow.edit, flow.files], { recipe, table, limit: 1, data }))
  const complete = reply.data?.inputs.every(({ left }) => left.length === 0) ?? false
  return (
    <>
      {reply.data?.inputs.map((input) => (
        <p key={input.input} className="mb-1">
          {lostWords(input, name)} <span className="text-ink-2">{reasonWords(input)}</span>
        </p>
      ))}
      {!complete && (
        <Button look="link" className="mb-2 px-0! py-0!" onClick={ask}>
          Which rows are not in {name}?
        </Button>
      )}
    </>
  )
}

/** Of each written table how many rows of the files are in it, and the way to those that are not. */
export const LostRows = ({ data, opened }: { data: QueryData; /** Rows of its files. */ opened: number }) => {
  const { recipe } = useFlow().flow
  const [subjects, setSubjects] = useState<readonly TraceSubject[]>([])
  const nameOf = tableNames(recipe)
  return (
    <div className="mb-4 text-[13px]">
      {writtenTables(recipe).map((table) => {
        const ask = (): void => setSubjects([{ kind: 'lost', table }])
        return opened <= countedAtOnce ? (
          <TableConservation key={table} table={table} data={data} ask={ask} />
        ) : (
          <Button key={table} look="link" className="py-0!" onClick={ask}>
            Which rows are not in {nameOf(table)}?
          </Button>
        )
      })}
      {subjects.length > 0 && (
        <Dialog size="narrow" title="Every row accounted for" close={() => setSubjects([])}>
          <TracePanel recipe={recipe} subjects={subjects} data={data} show={setSubjects} />
        </Dialog>
      )}
    </div>
  )
}
