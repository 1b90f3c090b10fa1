import { capital, type Schema, type WindowHow } from '@fabula/core'

type SortByValue = { readonly column: string; readonly descending?: boolean }
export type MeasureValue = {
  readonly how: WindowHow | 'only'
  readonly column?: string
  readonly as?: string
  readonly separator?: string
  readonly offset?: number
  readonly order?: readonly SortByValue[]
}

/** What a measure does, as its list of choices says it. */
export const measureWords: Readonly<Record<WindowHow | 'only', string>> = {
  count: 'count of rows',
  filled: 'filled cells',
  distinct: 'different values',
  sum: 'sum',
  mean: 'mean',
  median: 'median',
  min: 'least',
  max: 'greatest',
  deviation: 'standard deviation',
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
  only: 'the value, where there is one',
}
/** Whether a measure counts rows and needs no column. */
export const needsNoColumn = (how: MeasureValue['how']): boolean =>
  how === 'count' || how === 'rank' || how === 'dense-rank' || how === 'row-number'
const numeric = (how: MeasureValue['how']): boolean =>
  ['sum', 'mean', 'median', 'deviation', 'share', 'running-sum'].includes(how)
/** The name a figure has by itself. */
export const measureName = (how: MeasureValue['how'], column: string | undefined): string => {
  if (how === 'count') return 'Rows'
  if (needsNoColumn(how)) return capital(measureWords[how])
  if (how === 'sum') return `Total ${column ?? ''}`
  return `${capital(measureWords[how])} ${column ?? ''}`.trim()
}

/** Whether a measure can be taken of a column of this type. */
export const fits = (how: MeasureValue['how'], type: Schema[number]['type'] | undefined): boolean => {
  if (numeric(how)) return type === 'integer' || type === 'decimal'
  if (how === 'any' || how === 'every') return type === 'boolean'
  return true
}

const takesOrder = (how: MeasureValue['how']): boolean => ['first', 'last', 'list', 'join'].includes(how)

/** The column of a measure that has become another: the wanted one where it fits, else the first that does. */
const columnFor = (how: MeasureValue['how'], wanted: string | undefined, schema: Schema): string | undefined => {
  if (needsNoColumn(how)) return undefined
  const type = schema.find(({ name }) => name === wanted)?.type
  if (wanted !== undefined && fits(how, type)) return wanted
  return schema.find((field) => fits(how, field.type))?.name ?? schema[0]?.name
}

/** The options that the measure still has: those of its own kind, as they were or as they are set now. */
const optionsFor = (
  how: MeasureValue['how'],
  before: MeasureValue,
  next: Partial<MeasureValue>,
): Pick<MeasureValue, 'separator' | 'offset' | 'order'> => {
  const separator = next.separator ?? (how === 'join' ? before.separator : undefined)
  const offset = next.offset ?? (how === 'previous' || how === 'next' ? before.offset : undefined)
  const kept = takesOrder(how) ? before.order : undefined
  const order = 'order' in next ? next.order : kept
  return {
    ...(separator === undefined ? {} : { separator }),
    ...(offset === undefined ? {} : { offset }),
    ...(order === undefined ? {} : { order }),
  }
}

/**
 * A measure changed: what does not fit any more is set right, and a name that was made goes with it.
 * @param named whether a measure always has a name
 */
export const changedMeasure = (
  measure: MeasureValue,
  next: Partial<MeasureValue>,
  schema: Schema,
  named: boolean,
): MeasureValue => {
  const how = next.how ?? measure.how
  const column = columnFor(how, next.column ?? measure.column, schema)
  const madeName = measure.as === undefined || measure.as === measureName(measure.how, measure.column)
  const as = next.as ?? (named && madeName ? measureName(how, column) : measure.as)
  return {
    how,
    ...(column === undefined ? {} : { column }),
    ...(as === undefined ? {} : { as }),
    ...optionsFor(how, measure, next),
  }
}

/** One more measure: the sum of the first number, else a count. */
export const addedMeasure = (schema: Schema, named: boolean, columnAlways: boolean): MeasureValue => {
  const first = schema.find(({ type }) => type === 'integer' || type === 'decimal') ?? schema[0]
  const how = first && fits('sum', first.type) ? 'sum' : 'count'
  return {
    how,
    ...(how === 'count' && !columnAlways ? {} : { column: first?.name ?? '' }),
    ...(named ? { as: measureName(how, first?.name) } : {}),
  }
}

/** Which options of a measure can be set. */
export const optionsOf = (
  { how }: MeasureValue,
  ordered: boolean,
): { readonly separator: boolean; readonly offset: boolean; readonly order: boolean } => ({
  separator: how === 'join',
  offset: how === 'previous' || how === 'next',
  order: ordered && takesOrder(how),
})

/** The order of a measure as a choice: a sign and a column; empty for the order of the table. */
export const orderChoice = ({ order }: MeasureValue): string => {
  const [first] = order ?? []
  return first ? `${first.descending ? '-' : '+'}${first.column}` : ''
}
/** The order that a choice stands for. */
export const orderOf = (choice: string): MeasureValue['order'] | undefined =>
  choice === '' ? undefined : [{ column: choice.slice(1), ...(choice.startsWith('-') ? { descending: true } : {}) }]
