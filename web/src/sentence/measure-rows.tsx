import { capital, aggregates, windowHows, type Aggregate, type Schema, type WindowHow } from '@fabula/core'
import { Button } from '../ui/parts.tsx'

type SortByValue = { readonly column: string; readonly descending?: boolean }
export type MeasureValue = {
  readonly how: WindowHow | 'only'
  readonly column?: string
  readonly as?: string
  readonly separator?: string
  readonly offset?: number
  readonly order?: readonly SortByValue[]
}

const words: Readonly<Record<WindowHow | 'only', string>> = {
  count: 'count of rows',
  filled: 'filled cells',
  distinct: 'different values',
  sum: 'sum',
  mean: 'mean',
  median: 'median',
  min: 'least',
  max: 'greatest',
  deviation: 'deviation',
  first: 'first',
  last: 'last',
  list: 'list',
  join: 'joined text',
  any: 'any is true',
  every: 'every is true',
  share: 'share',
  'running-sum': 'running sum',
  rank: 'rank',
  'dense-rank': 'rank without gaps',
  'row-number': 'number of the row',
  previous: 'previous',
  next: 'next',
  only: 'the single value',
}
const bare = (how: MeasureValue['how']): boolean =>
  how === 'count' || how === 'rank' || how === 'dense-rank' || how === 'row-number'
const numeric = (how: MeasureValue['how']): boolean =>
  ['sum', 'mean', 'median', 'deviation', 'share', 'running-sum'].includes(how)
/** The name a figure has by itself. */
export const measureName = (how: MeasureValue['how'], column: string | undefined): string => {
  if (how === 'count') return 'Rows'
  if (bare(how)) return capital(words[how])
  if (how === 'sum') return `Total ${column ?? ''}`
  return `${capital(words[how])} ${column ?? ''}`.trim()
}

const fits = (how: MeasureValue['how'], type: Schema[number]['type'] | undefined): boolean => {
  if (numeric(how)) return type === 'integer' || type === 'decimal'
  if (how === 'any' || how === 'every') return type === 'boolean'
  return true
}

/** Another way or column: what does not fit any more is set right, and a name that was made goes with it. */
// eslint-disable-next-line complexity -- markup with a condition for each optional part
const changed = (measure: MeasureValue, next: Partial<MeasureValue>, schema: Schema, named: boolean): MeasureValue => {
  const how = next.how ?? measure.how
  const wanted = next.column ?? measure.column
  const chooseColumn = () => {
    if (bare(how)) return undefined
    if (fits(how, schema.find(({ name }) => name === wanted)?.type) && wanted !== undefined) return wanted
    return schema.find(({ type }) => fits(how, type))?.name ?? schema[0]?.name
  }
  const column = chooseColumn()
  const as =
    next.as ??
    (named && (measure.as === undefined || measure.as === measureName(measure.how, measure.column))
      ? measureName(how, column)
      : measure.as)
  const separator = next.separator ?? (how === 'join' ? measure.separator : undefined)
  const offset = next.offset ?? (how === 'previous' || how === 'next' ? measure.offset : undefined)
  const chooseOrder = () => {
    if ('order' in next) return next.order
    if (['first', 'last', 'list', 'join'].includes(how)) return measure.order
    return undefined
  }
  const order = chooseOrder()
  return {
    how,
    ...(column === undefined ? {} : { column }),
    ...(as === undefined ? {} : { as }),
    ...(separator === undefined ? {} : { separator }),
    ...(offset === undefined ? {} : { offset }),
    ...(order === undefined ? {} : { order }),
  }
}

type RowsProps = {
  readonly value: readonly MeasureValue[]
  readonly schema: Schema
  readonly set: (value: readonly MeasureValue[]) => void
}

const Rows = ({
  value,
  schema,
  set,
  of,
  ordered,
  named,
  columnAlways,
}: RowsProps & { of: readonly MeasureValue['how'][]; ordered: boolean; named: boolean; columnAlways: boolean }) => {
  const put = (i: number, next: Partial<MeasureValue>): void =>
    set(
      value.map((one, k) => {
        if (k !== i) return one
        const made = changed(one, next, schema, named)
        return columnAlways && made.column === undefined
          ? { ...made, column: one.column ?? schema[0]?.name ?? '' }
          : made
      }),
    )
  return (
    <div className="grid w-[600px] gap-2">
      {value.map((measure, i) => (
        <div key={i} className="grid grid-cols-[150px_1fr_1fr_auto] items-center gap-2">
          <select
            className="field"
            aria-label={`Measure ${i + 1}`}
            value={measure.how}
            onChange={(event) => put(i, { how: event.target.value as MeasureValue['how'] })}
          >
            {of.map((how) => (
              <option key={how} value={how}>
                {words[how]}
              </option>
            ))}
          </select>
          {bare(measure.how) ? (
            <span />
          ) : (
            <select
              className="field"
              aria-label={`Column of measure ${i + 1}`}
              value={measure.column}
              onChange={(event) => put(i, { column: event.target.value })}
            >
              {schema.map(({ name, type }) => (
                <option key={name} disabled={!fits(measure.how, type)}>
                  {name}
                </option>
              ))}
            </select>
          )}
          <input
            className="field"
            aria-label={`Name of measure ${i + 1}`}
            placeholder={measure.column}
            value={measure.as ?? ''}
            onChange={(event) =>
              put(i, { as: event.target.value === '' && named ? (measure.as ?? '') : event.target.value })
            }
          />
          <Button
            look="quiet"
            aria-label={`Take measure ${i + 1} out`}
            disabled={value.length === 1 && !named}
            onClick={() => set(value.filter((_, k) => k !== i))}
          >
            ×
          </Button>
          {(measure.how === 'join' ||
            measure.how === 'previous' ||
            measure.how === 'next' ||
            (ordered && ['first', 'last', 'list', 'join'].includes(measure.how))) &&
            measureOptions(measure, i, put, ordered, schema)}
        </div>
      ))}
      <Button
        className="justify-self-start"
        onClick={() => {
          const first = schema.find(({ type }) => type === 'integer' || type === 'decimal') ?? schema[0]
          const how = first && fits('sum', first.type) ? 'sum' : 'count'
          set([
            ...value,
            {
              how,
              ...(how === 'count' && !columnAlways ? {} : { column: first?.name ?? '' }),
              ...(named ? { as: measureName(how, first?.name) } : {}),
            },
          ])
        }}
      >
        Another measure
      </Button>
    </div>
  )
}

export const MeasureRows = (props: RowsProps) => <Rows {...props} of={aggregates} ordered named columnAlways={false} />
export const WindowRows = (props: RowsProps) => (
  <Rows {...props} of={windowHows} ordered={false} named columnAlways={false} />
)
export const PivotValueRows = (props: RowsProps) => (
  <Rows {...props} of={['only', ...(aggregates as readonly Aggregate[])]} ordered={false} named={false} columnAlways />
)

function measureOptions(
  measure: MeasureValue,
  i: number,
  put: (i: number, next: Partial<MeasureValue>) => void,
  ordered: boolean,
  schema: Schema,
) {
  return (
    <div className="col-span-4 flex items-center gap-2 pl-[12px] text-ink-2">
      {measure.how === 'join' && (
        <label className="flex items-center gap-1.5">
          with between{' '}
          <input
            className="field w-[64px]"
            aria-label={`Separator of measure ${i + 1}`}
            defaultValue={measure.separator ?? ', '}
            onChange={(event) => put(i, { separator: event.target.value })}
          />
        </label>
      )}
      {(measure.how === 'previous' || measure.how === 'next') && (
        <label className="flex items-center gap-1.5">
          how many rows away{' '}
          <input
            className="field figures w-[64px]"
            type="number"
            min={1}
            defaultValue={measure.offset ?? 1}
            onChange={(event) => event.target.valueAsNumber >= 1 && put(i, { offset: event.target.valueAsNumber })}
          />
        </label>
      )}
      {ordered && ['first', 'last', 'list', 'join'].includes(measure.how) && (
        <label className="flex items-center gap-1.5">
          in the order of
          <select
            className="field"
            aria-label={`Order of measure ${i + 1}`}
            value={measure.order?.[0] ? `${measure.order[0].descending ? '-' : '+'}${measure.order[0].column}` : ''}
            onChange={(event) =>
              put(i, {
                order:
                  event.target.value === ''
                    ? undefined
                    : [
                        {
                          column: event.target.value.slice(1),
                          ...(event.target.value.startsWith('-') ? { descending: true } : {}),
                        },
                      ],
              } as Partial<MeasureValue>)
            }
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
      )}
    </div>
  )
}
