import { aggregates, windowHows, type Aggregate, type Schema } from '@fabula/core'
import { Button } from '../ui/parts.tsx'
import {
  addedMeasure,
  changedMeasure,
  fits,
  measureWords,
  needsNoColumn,
  optionsOf,
  orderChoice,
  orderOf,
  type MeasureValue,
} from './measure-model.ts'

type RowsProps = {
  readonly value: readonly MeasureValue[]
  readonly schema: Schema
  readonly set: (value: readonly MeasureValue[]) => void
}
/** Which measures there are, and what each of them has. */
type RowsKind = {
  readonly of: readonly MeasureValue['how'][]
  /** Whether firsts, lasts and lists can have an order of their own. */
  readonly ordered: boolean
  /** Whether a measure always has a name, and may be the last one to go. */
  readonly named: boolean
  /** Whether a measure has a column even where it counts rows. */
  readonly columnAlways: boolean
}
type MeasureProps = {
  readonly measure: MeasureValue
  /** The position of the measure, from 1. */
  readonly number: number
  readonly schema: Schema
  readonly put: (next: Partial<MeasureValue>) => void
}

const OrderChoice = ({ measure, number, schema, put }: MeasureProps) => (
  <label className="flex items-center gap-1.5">
    in the order of
    <select
      className="field"
      aria-label={`Order of measure ${number}`}
      value={orderChoice(measure)}
      onChange={(event) => put({ order: orderOf(event.target.value) } as Partial<MeasureValue>)}
    >
      <option value="">the table</option>
      {schema.flatMap(({ name }) => [
        <option key={`+${name}`} value={`+${name}`}>
          {name}, low to high
        </option>,
        <option key={`-${name}`} value={`-${name}`}>
          {name}, high to low
        </option>,
      ])}
    </select>
  </label>
)

/** What else a measure has, on a line of its own. */
const MeasureOptions = ({ ordered, ...props }: MeasureProps & { ordered: boolean }) => {
  const { measure, number, put } = props
  const { separator, offset, order } = optionsOf(measure, ordered)
  if (!separator && !offset && !order) return null
  return (
    <div className="col-span-4 flex items-center gap-2 pl-[12px] text-ink-2">
      {separator && (
        <label className="flex items-center gap-1.5">
          with between{' '}
          <input
            className="field w-[64px]"
            aria-label={`Separator of measure ${number}`}
            defaultValue={measure.separator ?? ', '}
            onChange={(event) => put({ separator: event.target.value })}
          />
        </label>
      )}
      {offset && (
        <label className="flex items-center gap-1.5">
          how many rows away{' '}
          <input
            className="field figures w-[64px]"
            type="number"
            min={1}
            defaultValue={measure.offset ?? 1}
            onChange={(event) => event.target.valueAsNumber >= 1 && put({ offset: event.target.valueAsNumber })}
          />
        </label>
      )}
      {order && <OrderChoice {...props} />}
    </div>
  )
}

const ColumnChoice = ({ measure, number, schema, put }: MeasureProps) => (
  <select
    className="field"
    aria-label={`Column of measure ${number}`}
    value={measure.column}
    onChange={(event) => put({ column: event.target.value })}
  >
    {schema.map(({ name, type }) => (
      <option key={name} disabled={!fits(measure.how, type)}>
        {name}
      </option>
    ))}
  </select>
)

/** One measure: what it does, of which column, and its name. */
const MeasureRow = ({
  kind: { of, ordered, named },
  remove,
  ...props
}: MeasureProps & { kind: RowsKind; remove: (() => void) | undefined }) => {
  const { measure, number, put } = props
  return (
    <div className="grid grid-cols-[150px_1fr_1fr_auto] items-center gap-2">
      <select
        className="field"
        aria-label={`Measure ${number}`}
        value={measure.how}
        onChange={(event) => put({ how: event.target.value as MeasureValue['how'] })}
      >
        {of.map((how) => (
          <option key={how} value={how}>
            {measureWords[how]}
          </option>
        ))}
      </select>
      {needsNoColumn(measure.how) ? <span /> : <ColumnChoice {...props} />}
      <input
        className="field"
        aria-label={`Name of measure ${number}`}
        placeholder={measure.column}
        value={measure.as ?? ''}
        onChange={({ target: { value } }) => put({ as: value === '' && named ? (measure.as ?? '') : value })}
      />
      <Button look="quiet" aria-label={`Take measure ${number} out`} disabled={!remove} onClick={remove}>
        ×
      </Button>
      <MeasureOptions {...props} ordered={ordered} />
    </div>
  )
}

const Rows = ({ value, schema, set, kind }: RowsProps & { kind: RowsKind }) => {
  const { named, columnAlways } = kind
  const changed = (measure: MeasureValue, next: Partial<MeasureValue>): MeasureValue => {
    const made = changedMeasure(measure, next, schema, named)
    if (!columnAlways || made.column !== undefined) return made
    return { ...made, column: measure.column ?? schema[0]?.name ?? '' }
  }
  return (
    <div className="grid w-[600px] gap-2">
      {value.map((measure, i) => (
        <MeasureRow
          key={i}
          kind={kind}
          measure={measure}
          number={i + 1}
          schema={schema}
          put={(next) => set(value.map((one, k) => (k === i ? changed(one, next) : one)))}
          remove={value.length === 1 && !named ? undefined : () => set(value.filter((_, k) => k !== i))}
        />
      ))}
      <Button className="justify-self-start" onClick={() => set([...value, addedMeasure(schema, named, columnAlways)])}>
        Another measure
      </Button>
    </div>
  )
}

const summaries: RowsKind = { of: aggregates, ordered: true, named: true, columnAlways: false }
const windows: RowsKind = { of: windowHows, ordered: false, named: true, columnAlways: false }
const pivots: RowsKind = {
  of: ['only', ...(aggregates as readonly Aggregate[])],
  ordered: false,
  named: false,
  columnAlways: true,
}

export const MeasureRows = (props: RowsProps) => <Rows {...props} kind={summaries} />
export const WindowRows = (props: RowsProps) => <Rows {...props} kind={windows} />
export const PivotValueRows = (props: RowsProps) => <Rows {...props} kind={pivots} />
