import {
  ownValue,
  CellTableBuilder,
  figure,
  maxColumns,
  type BuiltTable,
  type RawCell,
  type ReadOptions,
} from '@fabula/core'
import { textPieces } from '../csv/decode.ts'
import type { YieldControl } from '../yield-control.ts'
import { FileProblem } from '../problem.ts'

type Json = string | number | boolean | null | readonly Json[] | { readonly [key: string]: Json }
type JsonObject = { readonly [key: string]: Json }
const isObject = (value: Json | undefined): value is JsonObject =>
  typeof value === 'object' && value !== null && !Array.isArray(value)

/** Where lists stand in a document, as paths: what an analyst may have meant. */
export const listsIn = (value: Json, path = '', depth = 0): string[] => {
  if (Array.isArray(value)) return [path]
  return isObject(value) && depth < 5
    ? Object.entries(value).flatMap(([key, inner]) => listsIn(inner, path === '' ? key : `${path}.${key}`, depth + 1))
    : []
}
const offer = (value: Json): string => {
  const lists = listsIn(value).filter((path) => path !== '')
  return lists.length === 0
    ? 'It holds no list anywhere.'
    : `Lists stand at ${lists.slice(0, 4).join(', ')}: give one of these as the path.`
}

/** Deeper than this nothing is meant as a table, and what walks the document would run out of stack. */
const mostDepth = 500

/** Counts brackets outside of strings, before anything is made of them. */
const checkDepth = (text: string, name: string): void => {
  let depth = 0
  let quoted = false
  for (let i = 0; i < text.length; i++) {
    const sign = text.charCodeAt(i)
    if (quoted) {
      if (sign === 92) i++
      else if (sign === 34) quoted = false
    } else if (sign === 34) quoted = true
    else if (sign === 91 || sign === 123) {
      if (++depth > mostDepth)
        throw new FileProblem(
          `${name} nests lists and records more than ${mostDepth} deep. Ask for an export in which the table stands nearer to the top.`,
        )
    } else if (sign === 93 || sign === 125) depth--
  }
}

const longWhole = /"(?:[^"\\]|\\.)*"|-?\d{16,}(?![\d.eE])/g
/** Whole numbers of which a number would lose digits (2^53 and beyond) become text; what stands in quotes stays. */
const exactWholes = (text: string): string =>
  /\d{16}/.test(text)
    ? text.replace(longWhole, (found) =>
        found.startsWith('"') || Number.isSafeInteger(Number(found)) ? found : `"${found}"`,
      )
    : text

/** JSON of bounded depth. @throws FileProblem naming the place. */
export const parseJson = (bytes: Buffer, name: string, encoding: string | undefined): Json => {
  const text = [...textPieces(bytes, name, encoding)].map((piece) => piece.text).join('')
  checkDepth(text, name)
  try {
    return JSON.parse(exactWholes(text)) as Json
  } catch (error) {
    const at = Number(/position (\d+)/.exec(String(error))?.[1] ?? text.length)
    throw new FileProblem(
      `${name} is not JSON: line ${text.slice(0, at).split('\n').length} is where it stops making sense. Take it again from where it came.`,
    )
  }
}

/** The list of records at a path; keys that hold dots are found too. */
const recordsAt = (document: Json, path: string | undefined, name: string): readonly Json[] => {
  let value: Json | undefined = document
  let rest = path ?? ''
  while (rest !== '') {
    if (!isObject(value)) break
    const keys: string[] = Object.keys(value).filter((key) => rest === key || rest.startsWith(`${key}.`))
    const key: string | undefined = keys.sort((a, b) => b.length - a.length)[0]
    if (key === undefined) throw new FileProblem(`${name} has nothing at ${quotedPath(path)}. ${offer(document)}`)
    value = ownValue(value, key)
    rest = rest.slice(key.length + 1)
  }
  if (rest === '' && Array.isArray(value)) return value as readonly Json[]
  throw new FileProblem(
    `${name} has no list of records ${path === undefined ? 'at its top' : `at ${quotedPath(path)}`}. ${offer(document)}`,
  )
}
const quotedPath = (path: string | undefined): string => `“${path ?? ''}”`

/** A list of single values is a list; one with records or lists in it is its JSON text. */
const listOf = (items: readonly Json[]): RawCell =>
  items.every((item) => item === null || typeof item !== 'object')
    ? { list: JSON.stringify(items) }
    : JSON.stringify(items)

/** Objects inside are columns a.b. */
const flatten = (record: JsonObject, into: Map<string, RawCell>, prefix = ''): void => {
  for (const [key, value] of Object.entries(record)) {
    const name = prefix + key
    if (isObject(value)) flatten(value, into, `${name}.`)
    else into.set(name, Array.isArray(value) ? listOf(value) : (value as RawCell))
  }
}

const checkRecord = (value: Json, at: number, name: string): JsonObject => {
  if (!isObject(value))
    throw new FileProblem(
      `${name}: entry ${at + 1} of the list is ${Array.isArray(value) ? 'a list' : 'a single value'}, not a record with named values. Only lists of records can be opened.`,
    )
  return value
}

/** A JSON file as a table: one row a record; columns in order of first appearance. RFC 8259. */
export const openJson = async (
  bytes: Buffer,
  name: string,
  read: ReadOptions,
  yieldControl: YieldControl,
): Promise<BuiltTable> => {
  const records = recordsAt(parseJson(bytes, name, read.encoding), read.path, name)
  const names: string[] = []
  const known = new Map<string, number>()
  const flat: Map<string, RawCell>[] = []
  for (const [i, value] of records.entries()) {
    const row = new Map<string, RawCell>()
    flatten(checkRecord(value, i, name), row)
    for (const key of row.keys()) if (!known.has(key)) known.set(key, names.push(key) - 1)
    if (names.length > maxColumns)
      throw new FileProblem(
        `${name}: by record ${figure(i + 1)} there are more than ${figure(maxColumns)} different names, each of which would be a column. The names may be values: ask for an export in which they stand in a field of their own.`,
      )
    flat.push(row)
    if ((i & 1023) === 0) await yieldControl((i / records.length) * 0.5, i)
  }
  const { header: _header, skip: _skip, footer: _footer, range: _range, ...rest } = read
  const builder = new CellTableBuilder(rest, true)
  builder.add(names)
  for (const [i, row] of flat.entries()) {
    builder.add(names.map((key) => row.get(key) ?? null))
    if ((i & 1023) === 0) await yieldControl(0.5 + (i / flat.length) * 0.5, i)
  }
  return builder.done(true)
}
