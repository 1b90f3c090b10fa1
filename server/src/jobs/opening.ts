import { existsSync, readFileSync } from 'node:fs'
import { setImmediate as otherWork } from 'node:timers/promises'
import { fileColumns, kindOf, knownNames, StepCache, type Read, type Recipe, type Renames, type Source, type Sources } from '@fabula/core'
import type { FileRef } from '@fabula/core/api'
import { openInput, type OpenedFiles } from '@fabula/formats'
import { pathOf } from './outputs.ts'

export type Files = Readonly<Record<string, readonly FileRef[]>>
export type Progress = { readonly done: number; readonly of: number; readonly doing: string }
export class TaskProblem extends Error {}
export type Desk = { readonly folder: string; readonly memory: Memory; readonly progress: (progress: Progress) => void; readonly shouldStop: () => boolean }

/** What a worker keeps between jobs: tables as they were opened, and those after each step; together within bounds. */
export class Memory {
  readonly steps: StepCache
  private readonly opened = new Map<string, OpenedFiles>()
  private readonly maxBytes: number
  constructor(bytes: number) {
    this.maxBytes = bytes
    this.steps = new StepCache(bytes)
  }
  get(key: string): OpenedFiles | undefined {
    const known = this.opened.get(key)
    if (known) this.keep(key, known)
    return known
  }
  /** The newest stays however large it is; the oldest leave first. */
  keep(key: string, files: OpenedFiles): void {
    this.opened.delete(key)
    this.opened.set(key, files)
    const held = (): number => [...new Set([...this.opened.values()].map(({ table }) => table))].reduce((sum, { bytes }) => sum + bytes, 0)
    for (const [old, one] of this.opened) if (one.table !== files.table && (this.opened.size > mostOpened || held() > this.maxBytes)) this.opened.delete(old)
  }
}
const readings = new Map<string, Promise<OpenedFiles>>()
const mostOpened = 8

/** A file's bytes; one that was deleted from the shelf is asked for again. */
export const stored = ({ name, hash }: { name: string; hash: string }, desk: Desk): { name: string; hash: string; bytes: Buffer } => {
  const path = pathOf(desk.folder, hash)
  if (!existsSync(path)) throw new TaskProblem(`${name} is not kept here any more. Drop it again.`)
  return { name, hash, bytes: readFileSync(path) }
}

/** The same read in the same words, whatever the order of its keys. */
const keyOf = (files: readonly FileRef[], read: Read, known: Renames): string =>
  JSON.stringify([files.map(({ hash, name }) => [hash, name]), read, known], (_key, value: unknown) => (typeof value === 'object' && value !== null && !Array.isArray(value) ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1))) : value))

/** What was detected, written down as a recipe would: opened that way the table is the same. */
const settledRead = (read: Read, { table }: OpenedFiles): Read => ({ ...read, types: Object.fromEntries(fileColumns(table.schema, read).map(({ name, type }) => [name, { type }])) })

const readAnew = async (files: readonly FileRef[], read: Read, known: Renames, desk: Desk): Promise<OpenedFiles> => {
  const bytes = files.map((file) => stored(file, desk))
  let said = 0
  let breathed = Date.now()
  return openInput(bytes, read, known, async (share, rows) => {
    const now = Date.now()
    if (now - breathed < 40) return
    // other jobs of this thread have their turn while a large file is read
    await otherWork()
    breathed = Date.now()
    if (desk.shouldStop()) throw new TaskProblem('The reading was stopped. Nothing was changed.')
    if (now - said < 120) return
    said = now
    desk.progress({ done: Math.round(share * 100), of: 100, doing: `Reading ${files.length > 3 ? `${files.length} files` : files.map(({ name }) => name).join(', ')}: ${rows.toLocaleString('en-GB')} rows so far` })
  })
}

/** Files as a table; read once, however many ask at the same time. `known`: other names by which columns may come. */
export const openFiles = async (files: readonly FileRef[], read: Read, known: Renames, desk: Desk): Promise<{ key: string; files: OpenedFiles }> => {
  const key = keyOf(files, read, known)
  const kept = desk.memory.get(key)
  if (kept) return { key, files: kept }
  const others = readings.get(key)
  // whoever began the reading may have stopped it; then it is begun anew for who still waits
  if (others) return others.then((result) => ({ key, files: result }), () => openFiles(files, read, known, desk))
  const reading = readAnew(files, read, known, desk).finally(() => readings.delete(key))
  readings.set(key, reading)
  const result = await reading
  desk.memory.keep(key, result)
  if (read.types === undefined || read.types === 'detect') desk.memory.keep(keyOf(files, settledRead(read, result), known), result)
  return { key, files: result }
}

/** The start steps of a recipe with what they read. */
export const reads = (recipe: Recipe): Map<string, Read> =>
  new Map(recipe.tables.flatMap(({ steps }) => steps.flatMap((step): [string, Read][] => (kindOf(step).start && typeof step.input === 'string' ? [[step.input, (step.read ?? {}) as Read]] : []))))

export const openAll = async (recipe: Recipe, files: Files, renames: Readonly<Record<string, Renames>>, desk: Desk): Promise<{ sources: Sources; inputs: Record<string, OpenedFiles> }> => {
  const inputs: Record<string, OpenedFiles> = {}
  const sources: Record<string, Source> = {}
  for (const [input, read] of reads(recipe)) {
    const refs = files[input]
    if (!refs || refs.length === 0) throw new TaskProblem(`No file is given for ${recipe.inputs.find(({ id }) => id === input)?.name ?? input}. Drop one on the page.`)
    const one = await openFiles(refs, read, knownNames(recipe.inputs.find(({ id }) => id === input), renames[input]), desk)
    inputs[input] = one.files
    sources[input] = { ...one.files, key: one.key }
  }
  return { inputs, sources: (input) => sources[input] as Source }
}

