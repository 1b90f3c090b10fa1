import type { Schema } from '@fabula/core'
import type { Picture } from '@fabula/core/api'

const measured: Readonly<Record<Picture['how'], string>> = {
  count: 'Rows',
  sum: 'Total',
  mean: 'Mean',
  median: 'Median',
  min: 'Least',
  max: 'Greatest',
  distinct: 'Different',
}
export const nameOf = ({
  kind,
  label,
  how,
  column,
  series,
}: Pick<Picture, 'kind' | 'label' | 'how' | 'column' | 'series'>): string => {
  if (kind === 'scatter') return `${column ?? ''} against ${label}`
  if (kind === 'histogram') return `Spread of ${label}`
  return `${how === 'count' ? 'Rows' : `${measured[how]} ${column ?? ''}`} by ${label}${series === undefined ? '' : ` and ${series}`}`
}

/** The picture that a selection suggests: dates make a line, one number its spread, two numbers points, else bars. */
export const chartFor = (columns: readonly string[], schema: Schema, table: string): Picture => {
  const typeOf = (name: string) => schema.find((field) => field.name === name)?.type
  const numbers = columns.filter((name) => typeOf(name) === 'integer' || typeOf(name) === 'decimal')
  const others = columns.filter((name) => !numbers.includes(name) && typeOf(name) !== 'list')
  const [label, series] = others
  const base = { id: `p${Date.now().toString(36)}`, table }
  const named = (picture: Omit<Picture, 'id' | 'name' | 'table'>): Picture => ({
    ...base,
    ...picture,
    name: nameOf(picture),
  })
  if (label === undefined)
    return numbers.length > 1
      ? named({ kind: 'scatter', label: numbers[0] ?? '', column: numbers[1] ?? '', how: 'count' })
      : named({ kind: 'histogram', label: numbers[0] ?? schema[0]?.name ?? '', how: 'count' })
  const [number] = numbers
  const dated = typeOf(label) === 'date' || typeOf(label) === 'datetime'
  const kindFor = () => {
    if (dated) return 'line'
    if (series !== undefined && columns.length <= 4) return 'stacked'
    return 'bar'
  }
  return named({
    kind: kindFor(),
    label,
    ...(series !== undefined && columns.length <= 4 ? { series } : {}),
    ...(number === undefined ? { how: 'count' as const } : { how: 'sum' as const, column: number }),
  })
}
