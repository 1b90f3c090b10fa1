import { figure, sentenceText, tableNames, type Recipe, type Step } from '@fabula/core'
import type { LostReply, QueryData } from '@fabula/core/api'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { askTable, lostQuery } from '../api/queries.ts'
import { useFlow } from '../story/flow-context.ts'
import { downloadCsv } from '../ui/download.ts'
import { Button, Notice } from '../ui/parts.tsx'
import { lostCsv, lostWords, type SourceName, type TraceSubject } from './subject.ts'

/** So many rows of each reason are named on the page, and so many in the list that is downloaded. */
const mostNamed = 20
const mostListed = 100_000

type Reason = LostReply['inputs'][number]['left'][number]

const ReasonItem = ({
  reason,
  input,
  follow,
}: {
  reason: Reason
  input: string
  follow: (from: SourceName) => void
}) => {
  const [open, setOpen] = useState(false)
  const { count, place, why, sentence, rows } = reason
  return (
    <li className="border-b border-line py-1.5">
      <p className="grid grid-cols-[64px_1fr_auto] gap-2">
        <b className="figures text-removed">{figure(count)}</b>
        <span title={sentence}>
          at {place}: {why}
        </span>
        <Button look="link" className="py-0!" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? 'hide them' : 'see them'}
        </Button>
      </p>
      {open && (
        <p className="figures pl-[72px] text-[12.5px]">
          {rows.map(({ file, sheet, row }) => (
            <Button
              key={`${file}${sheet ?? ''}${row}`}
              look="link"
              className="mr-3 py-0! font-normal!"
              aria-label={`What became of row ${row} of ${file}`}
              onClick={() => follow({ input, file, row, ...(sheet === undefined ? {} : { sheet }) })}
            >
              {sheet ?? file} {row}
            </Button>
          ))}
          {count > rows.length && ` and ${figure(count - rows.length)} more`}
        </p>
      )}
    </li>
  )
}

const indexOf = (steps: readonly Step[], id: string): number => steps.findIndex((step) => step.id === id)

/** One end of what is counted: the files or the result, or a sentence of the table. */
const SentenceChoice = ({
  label,
  none,
  recipe,
  table,
  of,
  value,
  change,
}: {
  label: string
  none: string
  recipe: Recipe
  table: string
  of: readonly Step[]
  value: string
  change: (step: string) => void
}) => {
  const all = recipe.tables.find(({ id }) => id === table)?.steps ?? []
  return (
    <label className="grid grid-cols-[84px_1fr] items-center gap-2">
      {label}
      <select
        className="min-w-0 rounded-md border border-line bg-sheet px-2 py-1"
        value={value}
        onChange={({ target }) => change(target.value)}
      >
        <option value="">{none}</option>
        {of.map((step) => (
          <option key={step.id} value={step.id}>
            after {indexOf(all, step.id) + 1} {sentenceText(step, tableNames(recipe))}
          </option>
        ))}
      </select>
    </label>
  )
}

/** Of every input how many rows are in a table, and where and why the others left. */
export const LostView = ({
  recipe,
  subject,
  data,
  follow,
}: {
  subject: Extract<TraceSubject, { kind: 'lost' }>
  recipe: Recipe
  data: QueryData | undefined
  follow: (from: SourceName) => void
}) => {
  const { flow, endpoint } = useFlow()
  const [problem, setProblem] = useState('')
  const { table } = subject
  const [since, setSince] = useState(subject.since ?? '')
  const [until, setUntil] = useState(subject.until ?? '')
  const asked = {
    recipe,
    table,
    limit: mostNamed,
    ...(since === '' ? {} : { since }),
    ...(until === '' ? {} : { until }),
    ...(data ? { data } : {}),
  }
  const reply = useQuery(lostQuery(endpoint, [flow.edit, flow.files], asked))
  if (reply.error) return <Notice kind="removed">{reply.error.message}</Notice>
  if (!reply.data) return <p className="font-serif text-ink-3 italic">Counting every row…</p>
  const { inputs } = reply.data
  const save = async (): Promise<void> => {
    try {
      const all = await askTable(endpoint, 'lost', { ...asked, limit: mostListed })
      downloadCsv(`${recipe.name} rows that left`, lostCsv(all))
    } catch (error) {
      setProblem((error as Error).message)
    }
  }
  const steps = recipe.tables.find(({ id }) => id === table)?.steps.filter(({ off }) => !off) ?? []
  return (
    <>
      <div className="mb-3 grid gap-1.5 text-[12.5px]">
        <SentenceChoice
          label="Of the rows"
          none="that were opened"
          {...{ recipe, table }}
          of={until === '' ? steps.slice(0, -1) : steps.slice(0, indexOf(steps, until))}
          value={since}
          change={setSince}
        />
        <SentenceChoice
          label="to"
          none="the result"
          {...{ recipe, table }}
          of={since === '' ? steps : steps.slice(indexOf(steps, since) + 1)}
          value={until}
          change={setUntil}
        />
      </div>
      {inputs.map((one) => (
        <section key={one.input} aria-label={`Rows of ${one.name}`} className="mb-4">
          <p role="status" className="mb-1 font-serif text-[14px] font-semibold">
            {lostWords(one)}
          </p>
          <ul className="border-t border-line text-[13px]">
            {one.left.map((reason) => (
              <ReasonItem key={`${reason.step}${reason.why}`} reason={reason} input={one.input} follow={follow} />
            ))}
          </ul>
        </section>
      ))}
      {inputs.length === 0 && <p className="text-ink-2">No file goes into this table.</p>}
      {inputs.some(({ left }) => left.length > 0) && (
        <Button onClick={() => void save()}>Download the list of rows that left</Button>
      )}
      {problem !== '' && <Notice kind="removed">{problem}</Notice>}
    </>
  )
}
