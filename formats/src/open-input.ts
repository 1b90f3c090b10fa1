import { columnOf, concat, convert, emptyColumn, Table, type Column, type ColumnType, type Intaken, type OpenedInput, type Read, type Unreadable } from '@fabula/core'
import { openCsvFile, type Progress } from './csv/open-csv.ts'

export type InputFile = { readonly name: string; readonly bytes: Buffer; /** SHA-256 of the bytes, in hex. */ readonly hash: string }
export type OpenedFile = { readonly name: string; readonly sha256: string; readonly rows: number }
export type OpenedFiles = OpenedInput & { readonly files: readonly OpenedFile[]; /** Columns that a file lacks while another has them. */ readonly lacks: readonly { readonly file: string; readonly columns: readonly string[] }[] }

/** One type for a column that several files have: numbers widen, all else that differs is text. */
const together = (types: readonly ColumnType[]): ColumnType => {
  const all = [...new Set(types)]
  if (all.length <= 1) return all[0] ?? 'text'
  return all.every((type) => type === 'integer' || type === 'decimal') ? 'decimal' : 'text'
}

/** A column without values says nothing of its type while another file has some. */
const typesOf = (opened: readonly Intaken[], name: string): ColumnType[] => {
  const having = opened.filter(({ table }) => table.indexOf(name) >= 0)
  const filled = having.filter(({ blank }) => !blank.includes(name))
  return (filled.length > 0 ? filled : having).map(({ table }) => table.named(name).type)
}

const sumNotes = (all: readonly Intaken[]): Record<string, number> => {
  const notes: Record<string, number> = {}
  for (const { notes: one } of all) for (const [key, n] of Object.entries(one)) notes[key] = (notes[key] ?? 0) + n
  return notes
}

/** Files stacked by column name, in order; what each lacks is empty. Types are told from all of them together. */
export const openInput = (files: readonly InputFile[], read: Read, progress?: Progress): OpenedFiles => {
  const step = (i: number): Progress => (share, rows) => progress?.((i + share) / files.length, rows)
  let opened = files.map((file, i) => openCsvFile(file.bytes, file.name, read, step(i)))
  const names = [...new Set(opened.flatMap(({ table }) => table.names))]
  const mixed = new Set(names.filter((name) => together(typesOf(opened, name)) === 'text'))
  opened = opened.map((one, i) => {
    const again = one.table.schema.some(({ name, type }) => mixed.has(name) && type !== 'text' && !one.blank.includes(name))
    const file = files[i] as InputFile
    const asText = { ...(typeof read.types === 'object' ? read.types : {}), ...Object.fromEntries([...mixed].map((name) => [name, { type: 'text' as const }])) }
    return again ? openCsvFile(file.bytes, file.name, { ...read, types: asText }, undefined, mixed) : one
  })
  const columns = names.map((name): Column => {
    const type = together(typesOf(opened, name))
    return concat(type, opened.map(({ table, blank }) => (table.indexOf(name) < 0 || blank.includes(name) ? emptyColumn(type, table.rowCount) : convert(table.named(name), { type }).column)))
  })
  const rowCount = opened.reduce((sum, { table }) => sum + table.rowCount, 0)
  let table = Table.of(names, columns, rowCount)
  const origin = read.origin?.file
  if (origin) table = table.with(names.length, origin, columnOf('text', opened.flatMap((one, i) => Array.from({ length: one.table.rowCount }, () => (files[i] as InputFile).name))))
  const unreadable: Unreadable[] = []
  let before = 0
  for (const one of opened) {
    for (const { column, rows } of one.unreadable) unreadable.push({ column, rows: rows.map((row) => row + before) })
    before += one.table.rowCount
  }
  return {
    table,
    notes: sumNotes(opened),
    unreadable: mergeUnreadable(unreadable),
    files: files.map(({ name, hash }, i) => ({ name, sha256: hash, rows: opened[i]?.table.rowCount ?? 0 })),
    lacks: opened.flatMap(({ table: one }, i) => {
      const missing = names.filter((name) => one.indexOf(name) < 0)
      return missing.length > 0 ? [{ file: (files[i] as InputFile).name, columns: missing }] : []
    }),
  }
}

const mergeUnreadable = (all: readonly Unreadable[]): Unreadable[] => {
  const columns = [...new Set(all.map(({ column }) => column))]
  return columns.map((column) => ({ column, rows: Int32Array.from(all.filter((one) => one.column === column).flatMap(({ rows }) => [...rows])) }))
}
