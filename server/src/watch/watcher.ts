import { createReadStream } from 'node:fs'
import {
  assignFiles,
  counted,
  openFindings,
  ownValue,
  parameterCells,
  rememberedAnswers,
  setOwnValue,
  type CompatibilityFinding,
} from '@fabula/core'
import type { FileRef, FitReply } from '@fabula/core/api'
import { wallClock } from '../services/clock.ts'
import { placeFiles } from '../services/inputs.ts'
import type { Supervisor } from '../compute/supervisor.ts'
import type { Replays } from '../services/replays.ts'
import { Refusal } from '../refusal.ts'
import type { FileStore } from '../store/files.ts'
import { heldSentence, type Flows } from '../store/flows.ts'
import type { InputFiles } from '../compute/worker-context.ts'
import type { Runs, RunStart } from '../store/runs.ts'
import type { Shelf } from '../store/shelf.ts'
import type { StoredWatch, Watches } from '../store/watches.ts'
import { filesIn, type Found } from './folder.ts'
import { nextAfter } from './schedule.ts'
import { parameterAt } from './watch-parameters.ts'

type WatcherParts = {
  readonly watches: Watches
  readonly flows: Flows
  readonly runs: Runs
  readonly files: FileStore
  readonly shelf: Shelf
  readonly replays: Replays
  readonly compute: Supervisor
  readonly fetchAnew: (source: number) => Promise<readonly FileRef[]>
  readonly fault: (error: unknown) => void
}

type WatchTrial = Pick<RunStart['asked'], 'answers' | 'parameters' | 'pictures'> & {
  readonly open: readonly CompatibilityFinding[]
  readonly edit: number
}

/** Files parted into those that are named and the rest. */
const parted = (
  given: Readonly<Record<string, readonly FileRef[]>>,
  names: ReadonlySet<string | undefined>,
): [Record<string, FileRef[]>, Record<string, FileRef[]>] => {
  const those: Record<string, FileRef[]> = {}
  const rest: Record<string, FileRef[]> = {}
  for (const [input, files] of Object.entries(given)) {
    const named = files.filter(({ name }) => names.has(name))
    const others = files.filter(({ name }) => !names.has(name))
    if (named.length > 0) setOwnValue(those, input, named)
    if (others.length > 0) setOwnValue(rest, input, others)
  }
  return [those, rest]
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
      // all that is new is waited for, so that two exports written together are one replay
      if (fresh.length === 0 || fresh.some(({ key }) => !settled.has(key))) return
      if (watch.settings.together && !(await this.areAllThere(watch, fresh))) return
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
  /** Whether every input that files find by their names has one of the new files. */
  private async areAllThere({ flow }: StoredWatch, fresh: readonly Found[]): Promise<boolean> {
    const { recipe } = await this.parts.flows.get(flow)
    const { given } = assignFiles(recipe, fresh)
    return recipe.inputs.every(({ id, files }) => files === undefined || ownValue(given, id) !== undefined)
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
    return (await Promise.all(sources.map((source) => this.parts.fetchAnew(source)))).flat()
  }
  /** Held against the story; what fits is replayed. `all`: every file is for the story, else the newest of each input. */
  private async report(watch: StoredWatch, refs: readonly FileRef[], all: boolean): Promise<void> {
    const { recipe } = await this.parts.flows.get(watch.flow)
    const { given, homeless } = await placeFiles(recipe, refs, this.parts.compute, 'batch')
    if (all)
      for (const file of homeless)
        await this.say(watch, {
          what: 'waits',
          sentence: `${file.name} fits no input of the story by its name or its columns.`,
          files: {},
        })
    if (Object.keys(given).length === 0 && refs.length > 0) return
    const named = all ? '' : homeless.map(({ name }) => name).join(', ')
    await this.tryFiles(watch, given, all, named)
  }
  /** Files that need an answer wait alone; the others are replayed without them. */
  private async tryFiles(
    watch: StoredWatch,
    given: Record<string, FileRef[]>,
    all: boolean,
    named: string,
  ): Promise<void> {
    const { flows, watches } = this.parts
    const before = await flows.files(watch.flow)
    const now = await filesOfReplay(before, watches, watch, all, given)
    const clock = wallClock()
    const tried = await this.trial(watch, now, before, clock)
    if ('sentence' in tried) {
      await this.say(watch, { what: 'waits', sentence: tried.sentence, files: now })
      return
    }
    const { open } = tried
    if (open.length === 0) {
      await this.begin(watch, now, named, clock, tried)
      return
    }
    const blamed = new Set(open.map(({ file }) => file))
    const [waiting, rest] = parted(given, blamed)
    const alone = open.every(({ file }) => file !== undefined) && Object.keys(rest).length > 0
    await this.say(watch, {
      what: 'waits',
      sentence: `It does not fit without an answer. ${open.map(({ sentence }) => sentence).join(' ')}`,
      files: alone ? { ...now, ...waiting } : now,
    })
    if (alone) await this.tryFiles(watch, rest, all, named)
  }
  /** The story tried on files as the watch would run it, or why it cannot be. */
  private async trial(
    watch: StoredWatch,
    files: InputFiles,
    before: InputFiles,
    clock: number,
  ): Promise<{ readonly sentence: string } | WatchTrial> {
    const { flows, runs, compute } = this.parts
    const story = await flows.get(watch.flow)
    const parameters = parameterAt(watch.settings.parameters, clock)
    const { faults } = parameterCells(story.recipe, parameters)
    if (faults.length > 0)
      return {
        sentence: `${faults.map(({ sentence }) => sentence).join(' ')} Take this out and begin it anew with what the story asks for now.`,
      }
    const held = heldSentence(story)
    if (held !== undefined) return { sentence: held }
    const last = await runs.lastAccepted(watch.flow, { watch: watch.id })
    const answers = rememberedAnswers(last?.answers ?? [])
    const { findings } = await compute
      .do<FitReply>(
        {
          kind: 'fit',
          recipe: story.recipe,
          files,
          before,
          kept: {},
          answers,
          parameters,
          last,
          lastAt: last?.at ?? null,
          now: clock,
        },
        { home: watch.flow, lane: 'batch' },
      )
      .value()
    return { open: openFindings(findings, answers), answers, parameters, edit: story.edit, pictures: story.pictures }
  }
  private async begin(
    watch: StoredWatch,
    files: InputFiles,
    named: string,
    clock: number,
    { answers, parameters, edit, pictures }: WatchTrial,
  ): Promise<void> {
    const { replays, watches } = this.parts
    const run = await replays.begin({
      flow: watch.flow,
      edit,
      asked: { files, answers, allowChanges: false, parameters, pictures, databases: true },
      watch: watch.id,
      clock,
      alone: true,
    })
    await noteReplay(watches, watch, files, named, run)
  }
  private async say(watch: StoredWatch, noted: Parameters<Watches['note']>[1]): Promise<void> {
    const { watches, flows } = this.parts
    const { recipe } = await flows.get(watch.flow)
    // whatever waits is seen in the notices, also where nobody gets a mail
    await watches.note(watch.id, noted, {
      to: watch.settings.mail ?? 'who keeps this server',
      subject: `${recipe.name} ${noted.what === 'waits' ? 'waits for you' : 'could not be replayed'}`,
      text: `${noted.sentence}\n\nNothing was written. Open the story’s page “Replay” to answer.`,
    })
  }
  private async ended(run: string, flow: string): Promise<void> {
    const { watches, flows, runs } = this.parts
    const watch = await watches.ofRun(run)
    const mail = watch?.settings.mail
    if (!watch || !mail) return
    const { recipe } = await flows.get(flow)
    const made = await runs.get(flow, run)
    const told =
      made.state === 'done'
        ? {
            subject: `${recipe.name} was replayed`,
            text: made.outputs
              .map(({ file, into, rows }) => `${file}${into === null ? '' : ` of ${into}`}: ${counted(rows, 'row')}`)
              .join('\n'),
          }
        : { subject: `${recipe.name} could not be replayed`, text: made.sentence ?? 'It was stopped.' }
    await watches.mail({ to: mail, ...told })
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
