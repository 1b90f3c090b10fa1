import type { StepResult } from '../steps/shared/step-kind.ts'
import { buffersOfGroups } from '../table/group.ts'
import type { HeldBuffer } from '../table/held-buffers.ts'
import type { StepStatistics } from '../steps/shared/statistics.ts'

/** Counts the bytes of buffers that several tables share: each buffer once, however many hold it. */
export class BufferLedger {
  private readonly uses = new Map<object, { readonly bytes: number; holders: number }>()
  private total = 0
  /** Bytes of all buffers that are held. */
  get bytes(): number {
    return this.total
  }
  /** Counts the distinct buffers of one holder and returns what `release` takes. */
  hold(buffers: Iterable<HeldBuffer>): readonly object[] {
    const held = new Map(buffers)
    for (const [buffer, bytes] of held) {
      const known = this.uses.get(buffer)
      if (known) known.holders++
      else {
        this.uses.set(buffer, { bytes, holders: 1 })
        this.total += bytes
      }
    }
    return [...held.keys()]
  }
  release(buffers: readonly object[]): void {
    for (const buffer of buffers) {
      const known = this.uses.get(buffer)
      if (!known || --known.holders > 0) continue
      this.uses.delete(buffer)
      this.total -= known.bytes
    }
  }
}

/** A step’s result with its statistics. */
export type CachedStep = { readonly result: StepResult; readonly statistics: StepStatistics }
type CacheEntry = CachedStep & {
  held: readonly object[]
  /** How long it took to make, in milliseconds. */ readonly cost: number
  /** What leaves first is what has the least of it. */ priority: number
}

const buffersOf = ({ table, lineage }: StepResult): HeldBuffer[] => {
  const { index, other } = lineage.kind === 'index' ? lineage : {}
  const rows: readonly HeldBuffer[] = index ? [[index.buffer, index.byteLength], ...(other?.buffers ?? [])] : []
  return [...table.buffers, ...rows, ...(lineage.kind === 'groups' ? buffersOfGroups(lineage.groups) : [])]
}

/** The entry of the least priority, of several the least recently used. */
const leastOf = (
  entries: ReadonlyMap<string, CacheEntry>,
  spared: string | undefined,
): { readonly key: string; readonly priority: number } | undefined => {
  let least: { readonly key: string; readonly priority: number } | undefined
  for (const [key, { priority }] of entries)
    if (key !== spared && (!least || priority < least.priority)) least = { key, priority }
  return least
}

/** Longest text of keys that is remembered, in characters; beyond it the oldest keys are forgotten. */
const mostKeyText = 32 << 20

/**
 * Results of steps by content: the same step on the same input is never computed twice. Beyond `maxBytes` the results of
 * drafts leave first, then those of kept steps; of each the cheapest to make, unless it was used since dearer ones were
 * (the algorithm GreedyDual: N. Young, Algorithmica 11 (1994), 525–541). The newest always stays.
 */
export class StepCache {
  private readonly kept = new Map<string, CacheEntry>()
  private readonly drafts = new Map<string, CacheEntry>()
  private readonly keys = new Map<string, string>()
  /** The priority of what left last: what is used now is worth its cost more than that. */
  private floor = 0
  private keyText = 0
  private nextKey = 0
  private readonly maxBytes: number
  readonly ledger: BufferLedger
  constructor(maxBytes = 1.5e9, ledger = new BufferLedger()) {
    this.maxBytes = maxBytes
    this.ledger = ledger
  }
  /** `draft`: whether the step, or one before it, is not part of the story yet. A draft that was kept counts as kept from then on. */
  get(key: string, draft = false): CachedStep | undefined {
    const entry = this.kept.get(key) ?? this.drafts.get(key)
    if (!entry) return undefined
    const stays = this.kept.delete(key) || !draft
    this.drafts.delete(key)
    entry.priority = this.floor + entry.cost
    this.place(key, entry, !stays)
    // cells may have been gathered, or strings made, since it was put in
    this.ledger.release(entry.held)
    entry.held = this.ledger.hold(buffersOf(entry.result))
    return entry
  }
  /** `cost`: how long the step took, in milliseconds. */
  set(key: string, { result, statistics }: CachedStep, draft = false, cost = 0): CachedStep {
    this.remove(key)
    const held = this.ledger.hold(buffersOf(result))
    const entry: CacheEntry = { result, statistics, held, cost, priority: this.floor + cost }
    this.place(key, entry, draft)
    this.shrink(key)
    return entry
  }
  /** Lets results go until the bound holds; `spared` stays. */
  shrink(spared?: string): void {
    for (const entries of [this.drafts, this.kept])
      while (this.ledger.bytes > this.maxBytes) {
        const least = leastOf(entries, spared)
        if (!least) break
        this.floor = Math.max(this.floor, least.priority)
        this.remove(least.key)
      }
  }
  /** A short name for a long key. A text that was forgotten gets another name, never one that was given before. */
  shortKey(text: string): string {
    const known = this.keys.get(text)
    const short = known ?? String(this.nextKey++)
    if (known !== undefined) this.keys.delete(text)
    else this.keyText += text.length
    this.keys.set(text, short)
    for (const old of this.keys.keys()) {
      if (this.keyText <= mostKeyText || old === text) break
      this.keys.delete(old)
      this.keyText -= old.length
    }
    return short
  }
  clear(): void {
    for (const key of [...this.drafts.keys(), ...this.kept.keys()]) this.remove(key)
  }
  get size(): number {
    return this.kept.size + this.drafts.size
  }
  private place(key: string, entry: CacheEntry, draft: boolean): void {
    ;(draft ? this.drafts : this.kept).set(key, entry)
  }
  private remove(key: string): void {
    const entry = this.kept.get(key) ?? this.drafts.get(key)
    if (!entry) return
    this.kept.delete(key)
    this.drafts.delete(key)
    this.ledger.release(entry.held)
  }
}
