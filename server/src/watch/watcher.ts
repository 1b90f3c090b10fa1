import { createReadStream } from 'node:fs'
import { ownValue, counted, parameterCells } from '@fabula/core'
import type { FileRef, FitReply } from '@fabula/core/api'
import { wallClock } from '../services/clock.ts'
import { placeFiles } from '../services/inputs.ts'
import type { Supervisor } from '../compute/supervisor.ts'
import type { Replays } from '../services/replays.ts'
import { Refusal } from '../refusal.ts'
import type { FileStore } from '../store/files.ts'
import { heldSentence, type Flows } from '../store/flows.ts'
import type { Runs } from '../store/runs.ts'
import type { Shelf } from '../store/shelf.ts'
import type { StoredWatch, Watches } from '../store/watches.ts'
import { filesIn, type Found } from './folder.ts'
import { nextAfter } from './schedule.ts'
import { parameterAt } from './told.ts'

type WatcherParts = {
  readonly watches: Watches
  readonly flows: Flows
  readonly runs: Runs
  readonly files: FileStore
  readonly shelf: Shelf
  readonly replays: Replays
  readonly compute: Supervisor
  readonly fetchAnew: (source: number) => Promise<FileRef>
  readonly fault: (error: unknown) => void
}

/** Looks at every watch now and then: new files in its folder, or its time. What fits is replayed; what does not waits and says why. */
export class Watcher {
  private readonly parts: WatcherParts
  private timer: NodeJS.Timeout | undefined
  /** What a folder held at the last look: a file counts once it has stayed the same from one look to the next. */
  private readonly before = new Map<string, ReadonlySet<string>>()
  private looking = false
  constructor(parts: WatcherParts) {
    this.parts = parts
    parts.replays.onEnd((run, flow) => void this.ended(run, flow).catch(parts.fault))
  }
  start(everyMs: number): void {
    this.timer = setInterval(() => void this.look(), everyMs)
  }
  stop(): void {
    clearInterval(this.timer)
  }
  private async look(): Promise<void> {
    if (this.looking) return
    this.looking = true
    try {
      for (const watch of await this.parts.watches.going())
        await this.lookAt(watch).catch((error: unknown) => this.reported(watch, error))
    } catch (error) {
      this.parts.fault(error)
    } finally {
      this.looking = false
    }
  }
  /** What cannot be looked into is said once, not at every look. */
  private async reported(watch: StoredWatch, error: unknown): Promise<void> {
    if (!(error instanceof Refusal)) this.parts.fault(error)
    const sentence =
      error instanceof Refusal
        ? error.message
        : `The folder ${watch.settings.folder ?? ''} cannot be looked into (${(error as NodeJS.ErrnoException).code ?? 'a fault'}).`
    const [last] = (await this.parts.watches.list(watch.flow)).watches.find(({ id }) => id === watch.id)?.log ?? []
    if (last?.sentence !== sentence) await this.say(watch, { what: 'failed', sentence, files: {} })
  }
  private async lookAt(watch: StoredWatch): Promise<void> {
    const { when, folder } = watch.settings
    if (when.kind === 'arrival') {
      const found = await filesIn(folder ?? '')
      const settled = this.before.get(watch.id) ?? new Set<string>()
      this.before.set(watch.id, new Set(found.map(({ key }) => key)))
      const fresh = found.filter(({ key }) => !watch.seen.includes(key))
      // all that is new is waited for, so that two exports written together are told together
      if (fresh.length === 0 || fresh.some(({ key }) => !settled.has(key))) return
      await this.parts.watches.sawAll(
        watch.id,
        fresh.map(({ key }) => key),
      )
      await this.report(watch, await this.take(fresh), true)
    } else if (watch.nextAt !== undefined && watch.nextAt <= new Date()) {
      await this.parts.watches.next(watch.id, nextAfter(when, new Date()))
      await this.report(watch, folder ? await this.take(await filesIn(folder)) : await this.anew(watch), false)
    }
  }
  private async take(found: readonly Found[]): Promise<FileRef[]> {
    const refs: FileRef[] = []
    for (const { name, path } of found) {
      const ref = { name, ...(await this.parts.files.add(createReadStream(path))) }
      await this.parts.shelf.add(ref)
      refs.push(ref)
    }
    return refs
  }
  /** What came from elsewhere is fetched anew. */
  private async anew({ flow }: StoredWatch): Promise<FileRef[]> {
    const sources = [
      ...new Set(
        Object.values(await this.parts.flows.files(flow)).flatMap((refs) =>
          refs.flatMap(({ source }) => (source === undefined ? [] : [source])),
        ),
      ),
    ]
    return Promise.all(sources.map((source) => this.parts.fetchAnew(source)))
  }
  /** Held against the story; what fits is replayed. `all`: every file is for the story, else the newest of each input. */
  private async report(watch: StoredWatch, refs: readonly FileRef[], all: boolean): Promise<void> {
    const { flows, replays, watches, compute } = this.parts
    const story = await flows.get(watch.flow)
    const before = await flows.files(watch.flow)
    const { given, homeless } = await placeFiles(story.recipe, refs, compute, 'batch')
    const named = homeless.map(({ name }) => name).join(', ')
    if (Object.keys(given).length === 0 && refs.length > 0) {
      if (all)
        await this.say(watch, {
          what: 'waits',
          sentence: `${named} fits no input of the story by its name or its columns.`,
          files: {},
        })
      return
    }
    const now: Record<string, readonly FileRef[]> = await filesOfReplay(before, watches, watch, all, given)
    const fit = await compute
      .do<FitReply>(
        { kind: 'fit', recipe: story.recipe, files: now, before, renames: {} },
        { home: watch.flow, lane: 'batch' },
      )
      .value()
    if (fit.verdict !== 'fits') {
      await this.say(watch, {
        what: 'waits',
        sentence: `It does not fit without an answer. ${fit.findings
          .filter(({ code }) => !['new-column', 'new-sheet', 'known-name'].includes(code))
          .map(({ sentence }) => sentence)
          .join(' ')}`,
        files: now,
      })
      return
    }
    const held = heldSentence(story)
    if (held !== undefined) {
      await this.say(watch, { what: 'waits', sentence: held, files: now })
      return
    }
    const clock = wallClock()
    const parameters = parameterAt(watch.settings.parameters, clock)
    const { faults } = parameterCells(story.recipe, parameters)
    if (faults.length > 0) {
      await this.say(watch, {
        what: 'waits',
        sentence: `${faults.map(({ sentence }) => sentence).join(' ')} Take this out and begin it anew with what the story asks for now.`,
        files: now,
      })
      return
    }
    const run = await replays.begin({
      flow: watch.flow,
      edit: story.edit,
      asked: { files: now, renames: {}, allowChanges: false, parameters, pictures: story.pictures, databases: true },
      clock,
      alone: true,
    })
    await noteReplay(watches, watch, now, named, run)
  }
  private async say(watch: StoredWatch, noted: Parameters<Watches['note']>[1]): Promise<void> {
    const { watches, flows } = this.parts
    await watches.note(watch.id, noted)
    const { mail } = watch.settings
    const { recipe } = await flows.get(watch.flow)
    if (mail)
      await watches.mail(
        mail,
        `${recipe.name} ${noted.what === 'waits' ? 'waits for you' : 'could not be replayed'}`,
        `${noted.sentence}\n\nNothing was written. Open the story’s page “Replay” to answer.`,
      )
  }
  private async ended(run: string, flow: string): Promise<void> {
    const { watches, flows, runs } = this.parts
    const watch = await watches.ofRun(run)
    const mail = watch?.settings.mail
    if (!watch || !mail) return
    const { recipe } = await flows.get(flow)
    const made = await runs.get(flow, run)
    if (made.state === 'done')
      await watches.mail(
        mail,
        `${recipe.name} was replayed`,
        made.outputs
          .map(({ file, into, rows }) => `${file}${into === null ? '' : ` of ${into}`}: ${counted(rows, 'row')}`)
          .join('\n'),
      )
    else await watches.mail(mail, `${recipe.name} could not be replayed`, made.sentence ?? 'It was stopped.')
  }
}

async function filesOfReplay(
  before: Record<string, FileRef[]>,
  watches: Watches,
  watch: StoredWatch,
  all: boolean,
  given: Record<string, FileRef[]>,
): Promise<Record<string, readonly FileRef[]>> {
  return {
    ...before,
    ...(await watches.lastFiles(watch.id)),
    ...(all
      ? given
      : Object.fromEntries(
          Object.entries(given).map(([input, files]) => [
            input,
            files.slice(-Math.max(1, ownValue(before, input)?.length ?? 1)),
          ]),
        )),
  }
}

async function noteReplay(
  watches: Watches,
  watch: StoredWatch,
  now: Record<string, readonly FileRef[]>,
  named: string,
  run: string,
) {
  await watches.note(watch.id, {
    what: 'replays',
    sentence: `${[
      ...new Set(
        Object.values(now)
          .flat()
          .map(({ name }) => name),
      ),
    ].join(', ')}${named ? `; not used: ${named}` : ''}`,
    run,
    files: now,
  })
}
