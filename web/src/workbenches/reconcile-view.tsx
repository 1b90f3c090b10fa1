import { useQuery } from '@tanstack/react-query'
import { useEffect, useState, type SetStateAction, type Dispatch } from 'react'
import { counted, figure, sentenceText, tableNames, type Recipe, type ReconcileShow } from '@fabula/core'
import type { ReconcileReply } from '@fabula/core/api'
import { reconcileQuery } from '../api/queries.ts'
import { Button, Notice } from '../ui/parts.tsx'
import { PageControls, pageRows } from './page-controls.tsx'
import { isNumeric, shownText } from '../grid/cells.tsx'
import type { Story } from '../story/use-story.ts'

type TablePosition = { readonly table: string; readonly step: string }
const keyOf = ({ table, step }: TablePosition): string => `${table}/${step}`
const difference = (a: number, b: number): string => {
  const by = Number((b - a).toPrecision(10))
  return by === 0 ? 'the same' : `${by > 0 ? '+' : '−'}${figure(Math.abs(by))}`
}

/** Columns that differ stand first. */
const weight = ({ here, there, changed, totalHere, totalThere }: ReconcileReply['columns'][number]): number => {
  if (here !== there) return 3
  if (changed > 0 || totalHere !== totalThere) return 2
  if (totalHere === undefined) return 0
  return 1
}

/** Why two tables, or two moments of a story, differ: rows that stand in one only, cells that changed, totals by column. */
/** How rows are paired, in words; `chosen` tells whether the keys were chosen by hand. */
const pairingText = ({ byLineage, keys, shared }: ReconcileReply, chosen: boolean): string => {
  if (byLineage) return 'Rows are followed from one sentence to the other'
  if (keys.length === shared.length && !chosen) return 'Rows are the same where all that both have is'
  return `Rows belong together where ${keys.join(' and ')} ${keys.length === 1 ? 'is' : 'are'} the same`
}
/** The keys with one put in or taken out. */
const keysWith = ({ byLineage, keys, shared }: ReconcileReply, chosen: boolean, name: string): string[] => {
  if (keys.includes(name)) return keys.filter((one) => one !== name)
  return byLineage || (!chosen && keys.length === shared.length) ? [name] : [...keys, name]
}

// eslint-disable-next-line max-lines-per-function -- one flat piece of markup
export const ReconcileView = ({ story }: { story: Story }) => {
  const { recipe } = story.flow
  const there: TablePosition = { table: story.table?.id ?? '', step: story.step?.id ?? '' }
  const moments = recipe.tables.flatMap((table) =>
    table.steps.map((step, i) => ({
      table: table.id,
      step: step.id,
      words: `${table.name}, after sentence ${i + 1}: ${sentenceText(step, tableNames(recipe))}`,
    })),
  )
  const own = moments.filter(({ table, step }) => table === there.table && step !== there.step)
  const elsewhere = recipe.tables
    .filter(({ id }) => id !== there.table)
    .map((table) => ({ table: table.id, step: table.steps.at(-1)?.id ?? '' }))
  // against the table as it came in, or where it is that, against another
  const before = own.filter(
    ({ step }) =>
      (story.table?.steps.findIndex(({ id }) => id === step) ?? 0) <
      (story.table?.steps.findIndex(({ id }) => id === there.step) ?? 0),
  )
  const [chosen, setChosen] = useState<TablePosition>()
  const here =
    chosen && moments.some((one) => keyOf(one) === keyOf(chosen))
      ? chosen
      : (before.at(-1) ?? elsewhere[0] ?? own[0] ?? there)
  const [keys, setKeys] = useState<readonly string[] | null>(null)
  const [show, setShow] = useState<ReconcileShow>('different')
  const [from, setFrom] = useState(0)
  useEffect(() => setFrom(0), [show, chosen, keys])
  const { data, error, isFetching } = useQuery(
    reconcileQuery(story.place, story.flow.files, {
      recipe,
      here: { table: here.table, step: here.step },
      there,
      keys: keys ? [...keys] : null,
      show,
      from,
      count: pageRows,
    }),
  )
  const nameOf = (moment: TablePosition): string => {
    const table = recipe.tables.find(({ id }) => id === moment.table)
    return here.table === there.table
      ? `after ${(table?.steps.findIndex(({ id }) => id === moment.step) ?? 0) + 1}`
      : (table?.name ?? '')
  }
  const [was, is] = [nameOf(here), nameOf(there)]
  const marks = { removed: '−', added: '+', same: '' } as const
  const content = () => {
    if (error)
      return (
        <div className="p-3">
          <Notice kind="removed">{error.message}</Notice>
        </div>
      )
    if (!data) return <p className="p-4 text-ink-3">Holding the rows against each other…</p>
    return (
      <div className="grid grid-cols-[minmax(0,1fr)_minmax(300px,0.8fr)] border-b border-line" aria-busy={isFetching}>
        {differenceFigures(data, here, there, was, is, show, setShow, keys, setKeys)}
        <div
          className="max-h-[190px] overflow-auto border-l border-line"
          role="region"
          tabIndex={0}
          aria-label="By column"
        >
          <table className="figures w-full text-[12.5px]">
            <thead className="sticky top-0 bg-sheet">
              <tr className="*:border-b *:border-line-strong *:px-2.5 *:py-1 *:text-right *:font-semibold">
                <th scope="col" className="text-left!">
                  Column
                </th>
                <th scope="col">cells changed</th>
                <th scope="col">total {was}</th>
                <th scope="col">total {is}</th>
                <th scope="col">difference</th>
              </tr>
            </thead>
            <tbody>
              {[...data.columns]
                .sort((one, other) => weight(other) - weight(one))
                .map(({ name, here: a, there: b, key, changed, totalHere, totalThere }) =>
                  columnDifference(name, a, b, key, data, changed, totalHere, totalThere),
                )}
            </tbody>
          </table>
        </div>
      </div>
    )
  }
  return (
    <div className="grid min-h-0 flex-1 grid-rows-[auto_auto_minmax(0,1fr)]">
      {momentChoices(here, setChosen, moments, setKeys, there, recipe, story)}
      {content()}
      {data && (
        <div className="min-h-0 overflow-auto" role="region" tabIndex={0} aria-label="The rows that differ">
          {differentRows(data, marks)}
          {data.shown.total === 0 && (
            <p className="p-4 font-serif text-[14px] text-ink-3 italic">
              {show === 'different' ? 'Nothing differs: the same rows stand in both.' : 'No such rows.'}
            </p>
          )}
          <PageControls from={from} shown={data.shown.rows.length} total={data.shown.total} go={setFrom} />
        </div>
      )}
    </div>
  )
}

function differenceFigures(
  data: ReconcileReply,
  here: TablePosition,
  there: TablePosition,
  was: string,
  is: string,
  show: string,
  setShow: Dispatch<SetStateAction<'different' | 'only-here' | 'only-there' | 'changed' | 'all'>>,
  keys: readonly string[] | null,
  setKeys: Dispatch<SetStateAction<readonly string[] | null>>,
) {
  return (
    <div className="figures grid content-start gap-0.5 px-2.5 py-2.5" role="group" aria-label="The difference">
      {(
        [
          [
            data.onlyHere,
            'only-here',
            `${data.onlyHere === 1 ? 'row stands' : 'rows stand'} only ${here.table === there.table ? `${was.replace('after', 'after sentence')}` : `in ${was}`}`,
            'text-removed',
          ],
          [
            data.onlyThere,
            'only-there',
            `${data.onlyThere === 1 ? 'row stands' : 'rows stand'} only ${here.table === there.table ? `${is.replace('after', 'after sentence')}` : `in ${is}`}`,
            'text-added',
          ],
          [data.changed, 'changed', `${data.changed === 1 ? 'row has' : 'rows have'} other values`, 'text-changed'],
          [data.same, 'all', `${data.same === 1 ? 'row is' : 'rows are'} the same`, ''],
        ] as const
      ).map(([n, which, words, tone]) => (
        <button
          key={which}
          type="button"
          aria-pressed={show === which}
          className="flex items-baseline gap-2 rounded px-1.5 py-0.5 text-left hover:bg-sunk aria-pressed:bg-token-tint"
          onClick={() => setShow(show === which ? 'different' : which)}
        >
          <b className={`min-w-[54px] text-right text-[16px] ${n > 0 ? tone : 'text-ink-3'}`}>{figure(n)}</b>{' '}
          <span className="text-ink-2">{words}</span>
        </button>
      ))}
      <p className="flex flex-wrap items-center gap-x-2 px-1.5 pt-1.5 text-[12.5px] text-ink-2">
        {pairingText(data, keys !== null)}
        <select
          className="field py-0! text-[12.5px]"
          aria-label="Tell rows apart by"
          value=""
          onChange={(event) => event.target.value !== '' && setKeys(keysWith(data, keys !== null, event.target.value))}
        >
          <option value="">change…</option>
          {data.shared.map((name) => (
            <option key={name} value={name}>
              {!data.byLineage && data.keys.includes(name) ? `✓ ${name}` : `by ${name}`}
            </option>
          ))}
        </select>
      </p>
      {data.repeated > 0 && (
        <p className="px-1.5 text-[12px] text-changed">
          {counted(data.repeated, 'row')} repeat{data.repeated === 1 ? 's' : ''} such a key; they are paired in their
          order.
        </p>
      )}
    </div>
  )
}

// eslint-disable-next-line complexity -- markup with a condition for each optional part
function columnDifference(
  name: string,
  a: boolean,
  b: boolean,
  key: boolean,
  data: ReconcileReply,
  changed: number,
  totalHere: number | undefined,
  totalThere: number | undefined,
) {
  return (
    <tr
      key={name}
      className={`*:border-b *:border-line *:px-2.5 *:py-0.5 *:text-right ${(!a && 'bg-added-tint') || (!b && 'bg-removed-tint') || ''}`}
    >
      <th scope="row" className="max-w-[140px] truncate text-left! font-normal">
        {!a && '+ '}
        {a && !b && '− '}
        {name}
        {key && !data.byLineage && data.keys.length < data.shared.length ? (
          <span className="ml-1 text-ink-3">key</span>
        ) : (
          ''
        )}
      </th>
      <td className={changed > 0 ? 'text-changed' : 'text-ink-3'}>{a && b && !key ? figure(changed) : ''}</td>
      <td>{totalHere === undefined ? '' : figure(Number(totalHere.toPrecision(10)))}</td>
      <td>{totalThere === undefined ? '' : figure(Number(totalThere.toPrecision(10)))}</td>
      <td
        className={
          totalHere !== undefined && totalThere !== undefined && totalHere !== totalThere
            ? 'text-changed'
            : 'text-ink-3'
        }
      >
        {totalHere === undefined || totalThere === undefined ? '' : difference(totalHere, totalThere)}
      </td>
    </tr>
  )
}

function momentChoices(
  here: TablePosition,
  setChosen: Dispatch<SetStateAction<TablePosition | undefined>>,
  moments: { table: string; step: string; words: string }[],
  setKeys: Dispatch<SetStateAction<readonly string[] | null>>,
  there: TablePosition,
  recipe: Recipe,
  story: Story,
) {
  return (
    <div className="flex flex-wrap items-center gap-2 border-b border-line px-3.5 py-2.5 font-serif text-[14px]">
      What differs between
      <select
        className="field max-w-[300px] font-sans text-[13px]"
        aria-label="Held against"
        value={keyOf(here)}
        onChange={(event) => (setChosen(moments.find((one) => keyOf(one) === event.target.value)), setKeys(null))}
      >
        {moments
          .filter((one) => keyOf(one) !== keyOf(there))
          .map((one) => (
            <option key={keyOf(one)} value={keyOf(one)}>
              {one.words}
            </option>
          ))}
      </select>
      and {recipe.tables.find(({ id }) => id === there.table)?.name}, after sentence{' '}
      {(story.table?.steps.findIndex(({ id }) => id === there.step) ?? 0) + 1}?
      <Button look="quiet" className="ml-auto py-0.5! font-sans text-[13px]" onClick={() => story.setStageView('rows')}>
        Back to the rows
      </Button>
    </div>
  )
}

function differentRows(data: ReconcileReply, marks: { readonly removed: '−'; readonly added: '+'; readonly same: '' }) {
  return (
    <table className="figures text-[12.5px]">
      <thead className="sticky top-0 z-10 bg-sheet">
        <tr className="*:border-b *:border-line-strong *:px-2.5 *:py-1.5 *:text-left *:font-semibold">
          <th scope="col">row</th>
          {data.shown.columns.map(({ name, type, state }) => {
            const tone = () => {
              if (state === 'added') return 'text-added'
              if (state === 'removed') return 'text-removed'
              return ''
            }
            return (
              <th key={name} scope="col" className={`${isNumeric(type) ? 'text-right!' : ''} ${tone()}`}>
                {state === 'added' && '+ '}
                {state === 'removed' && '− '}
                {name}
              </th>
            )
          })}
        </tr>
      </thead>
      <tbody>
        {data.shown.rows.map(({ row, state, cells, old }, i) => {
          const tint = () => {
            if (state === 'removed') return 'bg-removed-tint text-removed *:not-first:line-through'
            if (state === 'added') return 'bg-added-tint'
            return ''
          }
          return (
            <tr
              key={i}
              data-state={state}
              className={`h-[27px] *:border-b *:border-line *:px-2.5 *:whitespace-pre ${tint()}`}
            >
              <td className="text-right text-[12px] text-ink-3">
                {marks[state]} {figure(row + 1)}
              </td>
              {cells.map((cell, c) => (
                <td
                  key={c}
                  className={`max-w-[240px] truncate ${isNumeric(data.shown.columns[c]?.type ?? 'text') ? 'text-right' : ''} ${old?.[c] !== undefined ? 'changed-mark relative bg-changed-tint' : ''}`}
                >
                  {old?.[c] !== undefined && <s className="mr-1.5 text-[0.92em] text-changed">{shownText(old[c])}</s>}
                  {shownText(cell)}
                </td>
              ))}
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}
