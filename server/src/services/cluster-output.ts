import { counted } from '@fabula/core'
import type { Progress } from '../compute/worker-context.ts'
import { progressMark } from './progress-script.ts'

/** What a step left, by the script's account. */
export type StepAccount = { readonly rows: number; readonly columns: number }

const account = /^ *([\d,]+) rows × (\d+) columns {2}(\S+)$/
/** The bar of a stage, such as `[Stage 3:=====>   (5 + 2) / 8]`; of several side by side the last is read. */
const stage = /\[Stage (\d+):[=> ]*\((\d+) \+ \d+\) \/ (\d+)\]/g
/** Lines of Spark's and Java's logs, which begin with a date, a level or a place in a stack; the rest are words to a person. */
const log =
  /^(?:\d\d\/\d\d\/\d\d \d\d:|(?:WARN|INFO|WARNING)\b|Setting default log level|To adjust logging level|Using Spark's default|Picked up |\s)/

/** Cuts what comes in pieces into lines. Calls `line` with each that is whole. */
const linesOf = (line: (text: string) => void) => {
  let rest = ''
  return {
    take: (text: string): void => {
      const lines = (rest + text).split(/[\r\n]+/)
      rest = lines.pop() ?? ''
      lines.forEach(line)
    },
    end: (): void => {
      line(rest)
      rest = ''
    },
  }
}

/** What spark-submit says while it runs a script: the script's accounts and sentences, and how far Spark is. */
export class ClusterOutput {
  readonly accounts = new Map<string, StepAccount>()
  /** What the script said beside its accounts. */
  readonly sentences: string[] = []
  private spark = ''
  private readonly progress: (progress: Progress) => void
  /** The sentences of the story by step, in their order. */
  private readonly story: ReadonlyMap<string, string>
  private furthest: { readonly at: number; readonly words: string } | undefined
  private stage: { readonly number: string; readonly done: number; readonly of: number } | undefined
  private readonly script = linesOf((line) => this.readScript(line.trimEnd()))
  private readonly rest = linesOf((line) => this.readSpark(line.trimEnd()))
  constructor(progress: (progress: Progress) => void, story: ReadonlyMap<string, string> = new Map()) {
    this.progress = progress
    this.story = story
    progress({ done: 0, of: 1, doing: 'Spark begins' })
  }
  /** More of what the script says, on its standard output and error, which spark-submit passes on as its standard output. */
  takeFromScript(text: string): void {
    this.script.take(text)
  }
  /** More of what Spark itself says, on standard error. */
  takeFromSpark(text: string): void {
    const [, number = '', done = '', of = ''] = [...text.matchAll(stage)].at(-1) ?? []
    if (of !== '') {
      this.stage = { number, done: Number(done), of: Number(of) }
      this.tell()
    }
    this.rest.take(text)
  }
  end(): void {
    this.script.end()
    this.rest.end()
  }
  /** Why the script ended, where it did not end well: its last sentence, else Spark's. */
  get reason(): string | undefined {
    return this.sentences.at(-1) ?? (this.spark || undefined)
  }
  /** Says which sentence rows have come to, and at which stage Spark is. */
  private tell(): void {
    const { furthest, stage } = this
    if (!furthest && stage)
      this.progress({ done: stage.done, of: stage.of, doing: `Spark is at its stage ${stage.number}` })
    if (!furthest) return
    const inStage = stage ? ` Spark is at its stage ${stage.number}, ${stage.done} of ${stage.of}.` : ''
    this.progress({ done: furthest.at + 1, of: this.story.size, doing: `${furthest.words}${inStage}` })
  }
  /** Reads how many rows have passed each step of which more have since the last time. */
  private readPassed(json: string): void {
    const steps = [...this.story.keys()]
    for (const [step, rows] of Object.entries(JSON.parse(json) as Record<string, number>)) {
      const at = steps.indexOf(step)
      if (at < (this.furthest?.at ?? 0)) continue
      this.furthest = { at, words: `${this.story.get(step) ?? step} ${counted(rows, 'row')} so far.` }
    }
    this.tell()
  }
  private readScript(line: string): void {
    if (line.startsWith(progressMark)) return this.readPassed(line.slice(progressMark.length))
    const [, rows, columns, step] = account.exec(line) ?? []
    if (rows !== undefined && step !== undefined)
      this.accounts.set(step, { rows: Number(rows.replaceAll(',', '')), columns: Number(columns) })
    else if (line !== '') this.sentences.push(line)
  }
  private readSpark(line: string): void {
    const said = line.replace(stage, '').trim()
    if (said !== '' && !log.test(line)) this.spark = said
  }
}
