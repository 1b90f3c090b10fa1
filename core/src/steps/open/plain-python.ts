import type { StepCode } from '../../codegen/dialect.ts'
import { code, lines, py, pyHelper, type Code } from '../../codegen/tag.ts'
import { isPlain } from '../../reading/number-locales.ts'
import type { ColumnReading, ReadOptions } from '../../reading/read-options.ts'
import { ownValue } from '../../table/own.ts'
import type { ColumnType } from '../../table/column.ts'
import { eachColumnPython } from '../shared/columns.ts'
import type { PythonContext } from '../shared/step-kind.ts'
import { textReader } from '../shared/text-reader.ts'

/** Whether a text file is read by no more than its encoding, its delimiter and the row of its names. */
const isPlainRead = ({ encoding, delimiter, header = 1, quote = '"', locale, ...read }: ReadOptions): boolean =>
  encoding !== undefined &&
  delimiter !== undefined &&
  typeof header === 'number' &&
  quote === '"' &&
  (!locale || isPlain(locale)) &&
  !read.range &&
  !read.skip &&
  !read.footer &&
  !read.origin

/** Cells read as the types that are named, a loop for each type of several columns; undefined where a type needs more than a small function. */
const typedColumns = (
  types: Readonly<Record<string, ColumnReading>>,
  columns: readonly string[],
  frame: Code,
): Code | undefined => {
  const byReader = new Map<string, { readonly reader: Code; readonly type: ColumnType; readonly names: string[] }>()
  // in the order of the file: a recipe that a database kept has its own
  for (const name of new Set([...columns, ...Object.keys(types)])) {
    const reading = ownValue(types, name)
    if (!reading || reading.type === 'text') continue
    const reader = textReader(reading)
    if (!reader) return undefined
    const group = byReader.get(reader.text) ?? { reader, type: reading.type, names: [] }
    byReader.set(reader.text, group)
    group.names.push(name)
  }
  return lines(
    ...[...byReader.values()].map(({ reader, type, names }) =>
      eachColumnPython(
        names,
        frame,
        (name) => py`${frame}[${name}] = ${pyHelper('read_cells')}(${frame}[${name}], ${reader}, ${type})`,
      ),
    ),
  )
}

/** Where no more is asked than small functions do: the files as text, then, when their columns are checked, the types. */
export const plainPython = (
  read: ReadOptions,
  input: string,
  { frame, source, follows }: PythonContext,
): StepCode | undefined => {
  const { types = 'detect' } = read
  if (follows || !isPlainRead(read)) return undefined
  const { files, columns, open } = source(input)
  const header = read.header === undefined || read.header === 1 ? code('') : py`, header=${read.header as number}`
  const delimiter = read.delimiter === ',' ? code('') : py`, delimiter=${read.delimiter as string}`
  const body = py`${frame} = ${pyHelper('read_csv')}(${files}, ${read.encoding as string}${delimiter}${header})`
  const each = (names: Code): Code =>
    lines(py`for name in ${names}:`, py`    ${frame}[name] = ${pyHelper('detected')}(${frame}[name])`)
  if (types === 'text') return body
  if (types === 'detect') return { body, after: each(py`${frame}.columns`) }
  const typed = typedColumns(
    types,
    columns.map(({ name }) => name),
    frame,
  )
  if (!typed || columns.length === 0) return undefined
  const fresh = open ? each(code('fresh')) : undefined
  const after = lines(...(typed.text === '' ? [] : [typed]), fresh)
  return after.text === '' ? body : { body, after }
}
