import { joined, py, pyHelper, type Code } from '../../codegen/tag.ts'
import { isPlain } from '../../reading/number-locales.ts'
import type { NumberLocale } from '../../table/number.ts'
import type { ColumnType } from '../../table/column.ts'

/** Dates of four-digit years in digits, which need no more than the places of day, month and year. */
const plainDay = /^(?:dd([-/.])MM\1yyyy|MM([-/.])dd\2yyyy|yyyy([-/.])MM\3dd)$/

/** What reads a text as a type, where a small function of Python does. */
export const textReader = ({
  type,
  formats = [],
  locale,
}: {
  readonly type: ColumnType
  readonly formats?: readonly string[] | undefined
  readonly locale?: NumberLocale | undefined
}): Code | undefined => {
  if (locale && !isPlain(locale)) return undefined
  if (type === 'decimal') return pyHelper('read_number')
  if (type === 'integer') return pyHelper('read_whole')
  if (type === 'boolean') return pyHelper('read_boolean')
  if (type !== 'date' || !formats.every((format) => plainDay.test(format))) return undefined
  const days = joined(
    (formats.length > 0 ? formats : ['yyyy-MM-dd']).map((format) => py`${format}`),
    ', ',
  )
  return py`lambda text: ${pyHelper('read_day')}(text, ${days})`
}
