import { createHash } from 'node:crypto'
import { closeSync, existsSync, mkdirSync, openSync, fsyncSync, renameSync, rmSync, writeSync } from 'node:fs'
import { dirname, join } from 'node:path'
import {
  ownValue,
  byFile,
  isFile,
  chartTable,
  textOfCell,
  type FileOutput,
  type Output,
  type Recipe,
  type Table,
  numberTotals,
} from '@fabula/core'
import type { RunReply } from '@fabula/core/api'
import { outputPieces, writeToDatabases } from '@fabula/formats'
import { withWriter, type Connection } from '../sources/postgresql.ts'

export const pathOf = (folder: string, hash: string): string => join(folder, 'files', hash.slice(0, 2), hash)

export const firstRows = (table: Table, most: number): (string | null)[][] =>
  Array.from({ length: Math.min(most, table.rowCount) }, (_, row) =>
    table.schema.map(({ type }, c) => {
      const cell = table.cell(c, row)
      return cell === null ? null : textOfCell(type, cell)
    }),
  )

/** Pieces into the file store, under their hash; the file is there whole or not at all. */
const store = (folder: string, pieces: Iterable<string | Uint8Array>): { hash: string; size: number } => {
  const part = join(folder, 'files', `${process.pid}-${Date.now()}-${Math.random().toString(36).slice(2)}.part`)
  mkdirSync(dirname(part), { recursive: true })
  const hash = createHash('sha256')
  let size = 0
  const file = openSync(part, 'w')
  try {
    for (const piece of pieces) {
      const bytes = typeof piece === 'string' ? Buffer.from(piece) : piece
      hash.update(bytes)
      size += bytes.length
      for (let at = 0; at < bytes.length;) at += writeSync(file, bytes, at)
    }
    fsyncSync(file)
  } catch (error) {
    rmSync(part, { force: true })
    throw error
  } finally {
    closeSync(file)
  }
  const name = hash.digest('hex')
  const path = pathOf(folder, name)
  mkdirSync(dirname(path), { recursive: true })
  if (existsSync(path)) rmSync(part)
  else renameSync(part, path)
  return { hash: name, size }
}

/** What a replay writes: the recipe's outputs, or its last table as CSV. */
export const outputsOf = ({ outputs = [], tables }: Recipe): Output[] =>
  outputs.length > 0
    ? [...outputs]
    : tables.slice(-1).map(({ id }) => ({ table: id, format: 'csv' as const, file: `${id}.csv` }))

/** The totals of so many number columns are kept with a run. */
const mostTotals = 12
type OutputSummary = Pick<RunReply['outputs'][number], 'rows' | 'columns' | 'first' | 'names' | 'types' | 'totals'>

/** Every output of a replay: files into the store (a workbook takes what the pictures of its tables show along), guarded for spreadsheets unless told otherwise, and then tables into databases. */
export const writeOutputs = async (
  recipe: Recipe,
  tableOf: (id: string) => Table,
  pictures: RunReply['pictures'],
  folder: string,
  connections: Readonly<Record<string, Connection>>,
): Promise<{ outputs: RunReply['outputs']; stored: { hash: string; size: number }[] }> => {
  const wanted = outputsOf(recipe)
  const nameOf = (id: string): string => recipe.tables.find((table) => table.id === id)?.name ?? id
  const reported = (table: string): OutputSummary => {
    const result = tableOf(table)
    return {
      rows: result.rowCount,
      columns: result.names.length,
      first: firstRows(result, 50),
      names: [...result.names],
      types: result.schema.map(({ type }) => type),
      totals: numberTotals(result, mostTotals),
    }
  }
  const stored: { hash: string; size: number }[] = []
  const files = writeFiles(wanted, pictures, folder, nameOf, tableOf, stored, reported)
  const into = wanted.flatMap((output) => (isFile(output) ? [] : [output]))
  await writeToDatabases(
    into.map((output) => ({ output, table: tableOf(output.table) })),
    async (name, work) => {
      const connection = ownValue(connections, name)
      if (!connection) throw new Error(`no connection ${name}`)
      await withWriter(connection, work)
    },
  )
  return {
    outputs: [
      ...files,
      ...into.map((output) => ({
        table: output.table,
        file: output.name,
        format: 'postgresql' as const,
        hash: '',
        into: output.connection,
        ...reported(output.table),
      })),
    ],
    stored,
  }
}

function writeFiles(
  wanted: readonly Output[],
  pictures: RunReply['pictures'],
  folder: string,
  nameOf: (id: string) => string,
  tableOf: (id: string) => Table,
  stored: { hash: string; size: number }[],
  reported: (table: string) => OutputSummary,
) {
  return byFile(
    wanted.filter(isFile).map((output): FileOutput & { path: string } => ({ ...output, path: output.file })),
  ).flatMap((made) => {
    const [first] = made
    if (!first) return []
    const charts =
      first.format === 'xlsx'
        ? pictures
            .filter(({ picture }) => made.some(({ table }) => table === picture.table))
            .map(({ picture, data }) => ({ name: picture.name || 'Picture', table: chartTable(picture, data) }))
        : []
    const kept = store(
      folder,
      outputPieces(
        first.format,
        [...made.map(({ table }) => ({ name: nameOf(table), table: tableOf(table) })), ...charts],
        first.options?.guard ?? true,
      ),
    )
    stored.push(kept)
    return made.map(({ table, file, format }) => ({
      table,
      file,
      format,
      hash: kept.hash,
      into: null,
      ...reported(table),
    }))
  })
}
