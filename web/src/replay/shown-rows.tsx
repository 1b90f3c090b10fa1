import { stepPlace, type CompatibilityFinding } from '@fabula/core'
import type { QueryData } from '@fabula/core/api'
import { createContext, useContext, useMemo, useState, type ReactNode } from 'react'
import { useFlow } from '../story/flow-context.ts'
import { Button } from '../ui/parts.tsx'
import { RowsDialog, type CountedRows } from './rows-dialog.tsx'

const ShowRows = createContext<((rows: CountedRows) => void) | undefined>(undefined)

/** Figures and findings in it open their rows, on the data of a replay or of one that is tried; no rows where there is no data here. */
export const WithRows = ({ data, children }: { data: QueryData | undefined; children: ReactNode }) => {
  const [rows, setRows] = useState<CountedRows>()
  return (
    <ShowRows value={data && setRows}>
      {children}
      {data && rows && <RowsDialog rows={rows} data={data} close={() => setRows(undefined)} />}
    </ShowRows>
  )
}

/** Opens rows in the dialog of the `WithRows` around it; undefined where their data is not here. */
export const useShowRows = (): ((rows: CountedRows) => void) | undefined => useContext(ShowRows)

/** The way to the rows of a finding; nothing where it is about none. */
export const FindingRowsLink = ({ finding: { shows, sentence } }: { finding: CompatibilityFinding }) => {
  const { recipe } = useFlow().flow
  const show = useShowRows()
  const rows = useMemo((): CountedRows | undefined => {
    const table = recipe.tables.find(({ steps }) => steps.some(({ id }) => id === shows?.step))?.id
    if (!shows || table === undefined) return undefined
    const { step, only = 'all', texts } = shows
    const what = texts ? `${texts.column} is ${texts.of.join(' or ')}` : sentence
    return {
      table,
      step,
      diffMode: 'changes',
      only,
      ...(texts ? { texts: { column: texts.column, of: [...texts.of] } } : {}),
      title: `${stepPlace(recipe, step)}: ${what}`,
    }
  }, [recipe, shows, sentence])
  if (!rows || !show) return null
  return (
    <Button look="link" className="py-0! text-[13px]" onClick={() => show(rows)}>
      See its rows
    </Button>
  )
}
