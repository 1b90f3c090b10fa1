import {
  compareRecipes,
  counted,
  type ChangeMark,
  type ComparedLine,
  type ComparedTable,
  type Recipe,
} from '@fabula/core'
import type { EditionsReply, FlowReply } from '@fabula/core/api'
import * as api from '@fabula/core/api'
import { useMutation, useQuery, useQueryClient, type UseMutationResult } from '@tanstack/react-query'
import { useState, type Dispatch, type SetStateAction } from 'react'
import { ask } from '../api/client.ts'
import { editionsQuery, type Endpoint } from '../api/queries.ts'
import { moment } from '../ui/moments.ts'
import { Button, Notice } from '../ui/parts.tsx'

const signs: Readonly<Record<ChangeMark, string>> = { same: '', added: '+', removed: '−', changed: '≈', moved: '↕' }
const signWords: Readonly<Record<ChangeMark, string>> = {
  same: 'as before',
  added: 'new',
  removed: 'gone',
  changed: 'changed',
  moved: 'moved',
}
const tints: Readonly<Record<ChangeMark, string>> = {
  same: '',
  added: 'bg-added-tint',
  removed: 'bg-removed-tint',
  changed: 'bg-changed-tint',
  moved: 'bg-changed-tint',
}
const inks: Readonly<Record<ChangeMark, string>> = {
  same: 'text-ink-3',
  added: 'text-added',
  removed: 'text-removed',
  changed: 'text-changed',
  moved: 'text-changed',
}

const Line = ({ line }: { line: ComparedLine }) => (
  <li className={`grid grid-cols-[22px_24px_1fr] rounded px-1.5 py-1 font-serif text-[14px] ${tints[line.mark]}`}>
    <b aria-label={signWords[line.mark]} className={inks[line.mark]}>
      {signs[line.mark]}
    </b>
    <span className="figures text-[12px] leading-[21px] text-ink-3">{line.mark === 'removed' ? '' : line.number}</span>
    <span className={line.mark === 'same' ? 'text-ink-2' : ''}>
      {line.before !== undefined && line.mark !== 'same' && line.before !== line.after && (
        <s className="block text-ink-3">{line.before}</s>
      )}
      {line.after !== undefined && <span>{line.after}</span>}
      {line.before === line.after && line.mark === 'changed' && (
        <span className="block font-sans text-[12px] text-ink-3">
          The words are the same; what stands behind them changed.
        </span>
      )}
    </span>
  </li>
)

const TableLines = ({ table }: { table: ComparedTable }) => {
  const [whole, setWhole] = useState(false)
  const same = table.lines.filter(({ mark }) => mark === 'same').length
  const shown = whole ? table.lines : table.lines.filter(({ mark }) => mark !== 'same')
  const markText = () => {
    if (table.mark === 'added') return 'a new table'
    if (table.mark === 'removed') return 'taken out'
    return ''
  }
  return (
    <section aria-label={table.name} className="mb-4">
      <h2 className="mb-1 flex items-baseline gap-2 font-serif text-[14.5px] font-semibold">
        {table.name}
        {table.mark !== 'same' && (
          <span className={`font-sans text-[12px] font-medium ${inks[table.mark]}`}>{markText()}</span>
        )}
        {same > 0 && (
          <Button look="quiet" className="py-0! font-sans text-[12px] font-medium" onClick={() => setWhole(!whole)}>
            {whole ? 'only what changed' : `${counted(same, 'sentence')} as before`}
          </Button>
        )}
      </h2>
      <ol className="grid gap-0.5">
        {shown.map((line) => (
          <Line key={`${line.step}${line.mark}`} line={line} />
        ))}
      </ol>
    </section>
  )
}

/** What changed from one state of the story to another. */
export const Comparison = ({ from, to }: { from: Recipe; to: Recipe }) => {
  const { tables, around } = compareRecipes(from, to)
  const changed = tables.filter(({ mark }) => mark !== 'same')
  if (changed.length + around.length === 0)
    return <p className="font-serif text-[14px] text-ink-2 italic">Word for word the same.</p>
  return (
    <>
      {changed.map((table) => (
        <TableLines key={table.id} table={table} />
      ))}
      {around.length > 0 && (
        <section aria-label="Around the story">
          <h2 className="mb-1 font-serif text-[14.5px] font-semibold">What goes in, is asked and comes out</h2>
          <ul className="grid gap-0.5">
            {around.map(({ mark, sentence }) => (
              <li
                key={sentence}
                className={`grid grid-cols-[22px_1fr] rounded px-1.5 py-1 font-serif text-[14px] ${tints[mark]}`}
              >
                <b aria-label={signWords[mark]} className={inks[mark]}>
                  {signs[mark]}
                </b>
                {sentence}
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  )
}

/** Named, frozen states of the story, and what changed between any two. */
export const Editions = ({ flow, endpoint }: { flow: FlowReply; endpoint: Endpoint }) => {
  const client = useQueryClient()
  const editions = useQuery(editionsQuery(endpoint)).data?.editions ?? []
  const [name, setName] = useState('')
  const [note, setNote] = useState('')
  const [pair, setPair] = useState<{ from: number; to: number | 'now' }>()
  const freeze = useMutation({
    mutationFn: () => ask(api.editionsReply, 'POST', `${endpoint.base}/editions`, { name, note }),
    onSuccess: (reply) => {
      client.setQueryData(editionsQuery(endpoint).queryKey, reply)
      setName('')
      setNote('')
      setPair(undefined)
    },
  })
  const newest = editions[0]
  const shown = pair ?? (newest ? { from: newest.id, to: 'now' as const } : undefined)
  const recipeOf = (id: number | 'now' | undefined): Recipe | undefined =>
    id === 'now' ? flow.recipe : editions.find((one) => one.id === id)?.recipe
  const [from, to] = [recipeOf(shown?.from), recipeOf(shown?.to)]
  return (
    <div className="grid min-h-0 grid-cols-[300px_1fr]">
      <section aria-label="Editions" className="overflow-auto border-r border-line p-[18px]">
        {flow.rights === 'all' && freezeForm(freeze, name, setName, note, setNote)}
        <ol className="grid gap-1">
          {editions.map((edition, i) => {
            const before = editions[i + 1]
            return (
              <li key={edition.id}>
                <button
                  type="button"
                  data-state={
                    shown?.from === (before ?? edition).id && shown.to === (before ? edition.id : 'now') ? 'on' : 'off'
                  }
                  className="w-full rounded-md px-2.5 py-1.5 text-left hover:bg-sunk data-[state=on]:bg-rubric-tint"
                  onClick={() =>
                    setPair(before ? { from: before.id, to: edition.id } : { from: edition.id, to: 'now' })
                  }
                >
                  <b className="font-serif text-[14px]">{edition.name}</b>
                  <span className="figures ml-2 text-[12px] text-ink-3">{moment(edition.at)}</span>
                  {edition.note && <span className="block text-[12.5px] text-ink-2">{edition.note}</span>}
                </button>
              </li>
            )
          })}
        </ol>
      </section>
      <section aria-label="What changed" className="overflow-auto px-6 py-[18px]" tabIndex={0}>
        {shown && from && to ? (
          <>
            <p className="mb-4 flex items-center gap-2 font-serif text-[15px]">
              From
              <select
                className="field"
                aria-label="From"
                value={shown.from}
                onChange={(event) => setPair({ ...shown, from: Number(event.target.value) })}
              >
                {editions.map(({ id, name: words }) => (
                  <option key={id} value={id}>
                    {words}
                  </option>
                ))}
              </select>
              to
              <select
                className="field"
                aria-label="To"
                value={String(shown.to)}
                onChange={(event) =>
                  setPair({ ...shown, to: event.target.value === 'now' ? 'now' : Number(event.target.value) })
                }
              >
                <option value="now">the story as it stands</option>
                {editions.map(({ id, name: words }) => (
                  <option key={id} value={id}>
                    {words}
                  </option>
                ))}
              </select>
            </p>
            <Comparison from={from} to={to} />
          </>
        ) : (
          <p className="font-serif text-[14px] text-ink-3 italic">
            Once there is an edition, what you changed since then stands here, sentence by sentence.
          </p>
        )}
      </section>
    </div>
  )
}

function freezeForm(
  freeze: UseMutationResult<EditionsReply, Error, void>,
  name: string,
  setName: Dispatch<SetStateAction<string>>,
  note: string,
  setNote: Dispatch<SetStateAction<string>>,
) {
  return (
    <form
      className="mb-4 grid gap-2"
      onSubmit={(event) => {
        event.preventDefault()
        freeze.mutate()
      }}
    >
      <p className="text-[12.5px] text-ink-2">
        An edition keeps the story as it reads now under a name. Links can stay on it whatever you change later.
      </p>
      <input
        className="field"
        aria-label="Name of the edition"
        placeholder="For the June close"
        maxLength={120}
        value={name}
        onChange={(event) => setName(event.target.value)}
      />
      <textarea
        className="field"
        aria-label="What to know about it"
        placeholder="What is new in it, and for whom"
        rows={2}
        maxLength={2000}
        value={note}
        onChange={(event) => setNote(event.target.value)}
      />
      <Button look="main" type="submit" className="justify-self-start" disabled={name.trim() === ''}>
        Freeze as an edition
      </Button>
      {freeze.error && <Notice kind="removed">{freeze.error.message}</Notice>}
    </form>
  )
}
