import { counted, figure, type ReconcileShow } from '@fabula/core'
import type { ReconcileReply } from '@fabula/core/api'
import { columnWeight, isShownKey, keysWith, pairingText, sameTotal, totalDifference } from './reconcile-model.ts'
import type { ReconcileModel } from './use-reconcile.ts'

/** By which columns rows belong together. */
const Pairing = ({ model: { keys, setKeys }, data }: { model: ReconcileModel; data: ReconcileReply }) => (
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
)

/** How many rows differ, and how; each figure shows its rows. */
export const DifferenceFigures = ({ model, data }: { model: ReconcileModel; data: ReconcileReply }) => {
  const { here, there, names, show, setShow } = model
  const only = (name: string): string =>
    here.table === there.table ? name.replace('after', 'after sentence') : `in ${name}`
  const counts: readonly (readonly [number, ReconcileShow, string, string])[] = [
    [
      data.onlyHere,
      'only-here',
      `${data.onlyHere === 1 ? 'row stands' : 'rows stand'} only ${only(names[0])}`,
      'text-removed',
    ],
    [
      data.onlyThere,
      'only-there',
      `${data.onlyThere === 1 ? 'row stands' : 'rows stand'} only ${only(names[1])}`,
      'text-added',
    ],
    [data.changed, 'changed', `${data.changed === 1 ? 'row has' : 'rows have'} other values`, 'text-changed'],
    [data.same, 'all', `${data.same === 1 ? 'row is' : 'rows are'} the same`, ''],
  ]
  return (
    <div className="figures grid content-start gap-0.5 px-2.5 py-2.5" role="group" aria-label="The difference">
      {counts.map(([count, which, words, tone]) => (
        <button
          key={which}
          type="button"
          aria-pressed={show === which}
          className="flex items-baseline gap-2 rounded px-1.5 py-0.5 text-left hover:bg-sunk aria-pressed:bg-token-tint"
          onClick={() => setShow(show === which ? 'different' : which)}
        >
          <b className={`min-w-[54px] text-right text-[16px] ${count > 0 ? tone : 'text-ink-3'}`}>{figure(count)}</b>{' '}
          <span className="text-ink-2">{words}</span>
        </button>
      ))}
      <Pairing model={model} data={data} />
      {data.repeated > 0 && (
        <p className="px-1.5 text-[12px] text-changed">
          {counted(data.repeated, 'row')} repeat{data.repeated === 1 ? 's' : ''} such a key; they are paired in their
          order.
        </p>
      )}
    </div>
  )
}

type ColumnDifference = ReconcileReply['columns'][number]
const total = (value: number | undefined): string => (value === undefined ? '' : figure(Number(value.toPrecision(10))))

const Totals = ({ column: { totalHere, totalThere } }: { column: ColumnDifference }) => {
  const both = totalHere !== undefined && totalThere !== undefined
  return (
    <>
      <td>{total(totalHere)}</td>
      <td>{total(totalThere)}</td>
      <td className={both && !sameTotal(totalHere, totalThere) ? 'text-changed' : 'text-ink-3'}>
        {both ? totalDifference(totalHere, totalThere) : ''}
      </td>
    </>
  )
}

const marks = { both: '', here: '− ', there: '+ ' } as const
const tints = { both: '', here: 'bg-removed-tint', there: 'bg-added-tint' } as const

const ColumnRow = ({ column, data }: { column: ColumnDifference; data: ReconcileReply }) => {
  const { name, key, changed } = column
  const oneSide = column.here ? 'here' : 'there'
  const side = column.here && column.there ? 'both' : oneSide
  return (
    <tr className={`*:border-b *:border-line *:px-2.5 *:py-0.5 *:text-right ${tints[side]}`}>
      <th scope="row" className="max-w-[140px] truncate text-left! font-normal">
        {marks[side]}
        {name}
        {isShownKey(data, column) && <span className="ml-1 text-ink-3">key</span>}
      </th>
      <td className={changed > 0 ? 'text-changed' : 'text-ink-3'}>{side === 'both' && !key ? figure(changed) : ''}</td>
      <Totals column={column} />
    </tr>
  )
}

/** What differs column by column, those with a difference first. */
export const ColumnDifferences = ({ model: { names }, data }: { model: ReconcileModel; data: ReconcileReply }) => (
  <div className="max-h-[190px] overflow-auto border-l border-line" role="region" tabIndex={0} aria-label="By column">
    <table className="figures w-full text-[12.5px]">
      <thead className="sticky top-0 bg-sheet">
        <tr className="*:border-b *:border-line-strong *:px-2.5 *:py-1 *:text-right *:font-semibold">
          <th scope="col" className="text-left!">
            Column
          </th>
          <th scope="col">cells changed</th>
          <th scope="col">total {names[0]}</th>
          <th scope="col">total {names[1]}</th>
          <th scope="col">difference</th>
        </tr>
      </thead>
      <tbody>
        {[...data.columns]
          .sort((one, other) => columnWeight(other) - columnWeight(one))
          .map((column) => (
            <ColumnRow key={column.name} column={column} data={data} />
          ))}
      </tbody>
    </table>
  </div>
)
