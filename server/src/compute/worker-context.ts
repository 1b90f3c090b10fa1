import { existsSync } from 'node:fs'
import { setImmediate as otherWork } from 'node:timers/promises'
import {
  stableJson,
  type AnsweredFile,
  setOwnValue,
  ownValue,
  fileColumns,
  columnAliases,
  StepCache,
  BufferLedger,
  type ReadOptions,
  type Recipe,
  type ColumnAliases,
  type OpenedSource,
  type OpenSource,
  openedInputs,
} from '@fabula/core'
import type { FileRef } from '@fabula/core/api'
import { contentAt, openedBuffers, openInput, type InputFile, type OpenedFiles } from '@fabula/formats'
import type { ColumnStore } from './column-store.ts'
import { pathOf } from './outputs.ts'
import { Refusal } from '../refusal.ts'

/** A file of an input, with what of it is read otherwise than the recipe says. */
export type RunFile = FileRef & Partial<Pick<AnsweredFile, 'aliases' | 'withoutSheets'>>
export type InputFiles = Readonly<Record<string, readonly RunFile[]>>
export type Progress = { readonly done: number; readonly of: number; readonly doing: string }
/** What a job of a worker works with. */
export type WorkerContext = {
  readonly folder: string
  readonly inputs: InputCache
  readonly columns: ColumnStore
  readonly progress: (progress: Progress) => void
  readonly shouldStop: () => boolean
}

type CachedInput = { readonly files: OpenedFiles; readonly held: readonly object[] }

/** What a worker keeps between jobs: inputs as they were opened and tables after each step, together within `maxBytes`. */
export class InputCache {
  readonly steps: StepCache
  private readonly ledger = new BufferLedger()
  private readonly opened = new Map<string, CachedInput>()
  private readonly maxBytes: number
  constructor(maxBytes: number) {
    this.maxBytes = maxBytes
    this.steps = new StepCache(maxBytes, this.ledger)
  }
  get(key: string): OpenedFiles | undefined {
    const known = this.opened.get(key)
    if (known) this.keep(key, known.files)
    return known?.files
  }
  /** The newest stays however large it is; steps leave before inputs, the oldest first. */
  keep(key: string, files: OpenedFiles): void {
    this.drop(key)
    this.opened.set(key, { files, held: this.ledger.hold(openedBuffers(files)) })
    if (this.ledger.bytes > this.maxBytes) this.steps.shrink()
    for (const [old, one] of this.opened)
      if (one.files.table !== files.table && this.ledger.bytes > this.maxBytes) this.drop(old)
    if (this.ledger.bytes > this.maxBytes) this.release(files)
  }
  /** Columns that lie in a file are read again, one at a time, when they are needed. */
  private release(files: OpenedFiles): void {
    files.table.release()
    for (const [key, one] of [...this.opened])
      if (one.files.table === files.table) {
        this.drop(key)
        this.opened.set(key, { files: one.files, held: this.ledger.hold(openedBuffers(one.files)) })
      }
  }
  /** Whether an input alone takes more than is kept. */
  isTooLarge(files: OpenedFiles): boolean {
    let sum = 0
    for (const bytes of new Map(openedBuffers(files)).values()) sum += bytes
    return sum > this.maxBytes
  }
  private drop(key: string): void {
    this.ledger.release(this.opened.get(key)?.held ?? [])
    this.opened.delete(key)
  }
  clear(): void {
    for (const key of [...this.opened.keys()]) this.drop(key)
    this.steps.clear()
  }
}
const readings = new Map<string, Promise<OpenedFiles>>()

/** A file with its bytes; one that was deleted from the shelf is asked for again. */
export const stored = ({ name, hash }: { name: string; hash: string }, context: WorkerContext): InputFile => ({
  name,
  hash,
  content: contentAt(storedAt({ name, hash }, context), name),
})

/** Where a file of the shelf lies. */
export const storedAt = ({ name, hash }: { name: string; hash: string }, { folder }: WorkerContext): string => {
  const path = pathOf(folder, hash)
  if (!existsSync(path)) throw new Refusal('not-kept', { name })
  return path
}

/** The same read in the same words, whatever the order of its keys. */
const keyOf = (files: readonly RunFile[], read: ReadOptions, known: ColumnAliases): string =>
  stableJson([files.map(({ hash, name, aliases, withoutSheets }) => [hash, name, aliases, withoutSheets]), read, known])

/** What was detected, written down as a recipe would: opened that way the table is the same. */
const settledRead = (read: ReadOptions, { table }: OpenedFiles): ReadOptions => ({
  ...read,
  types: Object.fromEntries(fileColumns(table.schema, read).map(({ name, type }) => [name, { type }])),
})

const readAnew = async (
  files: readonly RunFile[],
  read: ReadOptions,
  known: ColumnAliases,
  context: WorkerContext,
): Promise<OpenedFiles> => {
  const bytes = files.map(({ aliases, withoutSheets, ...file }) => ({
    ...stored(file, context),
    aliases,
    withoutSheets,
  }))
  let message = 0
  let yieldedAt = Date.now()
  return openInput(bytes, read, known, async (share, rows) => {
    const now = Date.now()
    if (now - yieldedAt < 40) return
    // other jobs of this thread have their turn while a large file is read
    await otherWork()
    yieldedAt = Date.now()
    if (context.shouldStop()) throw new Refusal('reading-stopped')
    if (now - message < 120) return
    message = now
    context.progress({
      done: Math.round(share * 100),
      of: 100,
      doing: `Reading ${files.length > 3 ? `${files.length} files` : files.map(({ name }) => name).join(', ')}: ${rows.toLocaleString('en-GB')} rows so far`,
    })
  })
}

/** An input that takes more memory than may be kept goes on from its columns on disk, which are read when they are needed. */
const leaveOnDisk = (keys: readonly string[], opened: OpenedFiles, { inputs, columns }: WorkerContext): void => {
  const [key = ''] = keys
  if (inputs.get(key) !== opened || !inputs.isTooLarge(opened)) return
  const kept = columns.read(key)
  if (kept) for (const one of keys) inputs.keep(one, kept)
}

/** The columns that were kept when these files were read before, by whichever process; else the files themselves. */
const fromColumnsOrAnew = async (
  key: string,
  files: readonly RunFile[],
  read: ReadOptions,
  known: ColumnAliases,
  context: WorkerContext,
): Promise<OpenedFiles> => {
  for (const file of files) storedAt(file, context)
  const kept = context.columns.read(key)
  if (kept) return kept
  const began = performance.now()
  const opened = await readAnew(files, read, known, context)
  const took = performance.now() - began
  const settled =
    read.types === undefined || read.types === 'detect' ? [keyOf(files, settledRead(read, opened), known)] : []
  // behind the answer, so that nobody waits for it
  setImmediate(
    () =>
      void context.columns
        .keep([key, ...settled], opened, took)
        .then(() => leaveOnDisk([key, ...settled], opened, context))
        .catch((error: unknown) => process.stderr.write(`${String(error)}\n`)),
  )
  return opened
}

/** Files as a table; read once, however many ask at the same time. `known`: other names by which columns may come. */
export const openFiles = async (
  files: readonly RunFile[],
  read: ReadOptions,
  known: ColumnAliases,
  context: WorkerContext,
): Promise<{ key: string; files: OpenedFiles }> => {
  const key = keyOf(files, read, known)
  const kept = context.inputs.get(key)
  if (kept) return { key, files: kept }
  const others = readings.get(key)
  // whoever began the reading may have stopped it; then it is begun anew for who still waits
  if (others)
    return others.then(
      (result) => ({ key, files: result }),
      () => openFiles(files, read, known, context),
    )
  const reading = fromColumnsOrAnew(key, files, read, known, context).finally(() => readings.delete(key))
  readings.set(key, reading)
  const result = await reading
  context.inputs.keep(key, result)
  if (read.types === undefined || read.types === 'detect')
    context.inputs.keep(keyOf(files, settledRead(read, result), known), result)
  return { key, files: result }
}

/** The start steps of a recipe with what they read. */
export const reads = (recipe: Recipe): Map<string, ReadOptions> =>
  new Map(openedInputs(recipe).map(({ input, read }) => [input, read]))

export const openAll = async (
  recipe: Recipe,
  files: InputFiles,
  context: WorkerContext,
): Promise<{ sources: OpenSource; inputs: Record<string, OpenedFiles> }> => {
  const inputs: Record<string, OpenedFiles> = {}
  const sources: Record<string, OpenedSource> = {}
  for (const [input, read] of reads(recipe)) {
    const refs = ownValue(files, input)
    if (!refs || refs.length === 0)
      throw new Refusal('no-input-file', { name: recipe.inputs.find(({ id }) => id === input)?.name ?? input })
    const one = await openFiles(refs, read, columnAliases(recipe.inputs.find(({ id }) => id === input)), context)
    setOwnValue(inputs, input, one.files)
    setOwnValue(sources, input, { ...one.files, key: one.key })
  }
  return { inputs, sources: (input) => ownValue(sources, input) as OpenedSource }
}
