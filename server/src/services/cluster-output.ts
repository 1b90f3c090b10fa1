import type { Progress } from '../compute/worker-context.ts'

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
  private readonly script = linesOf((line) => this.readScript(line.trimEnd()))
  private readonly rest = linesOf((line) => this.readSpark(line.trimEnd()))
  constructor(progress: (progress: Progress) => void) {
    this.progress = progress
    progress({ done: 0, of: 1, doing: 'Spark begins' })
  }
  /** More of what the script says, on its standard output and error, which spark-submit passes on as its standard output. */
  takeFromScript(text: string): void {
    this.script.take(text)
  }
  /** More of what Spark itself says, on standard error. */
  takeFromSpark(text: string): void {
    const [, number = '', done = '', of = ''] = [...text.matchAll(stage)].at(-1) ?? []
    if (of !== '') this.progress({ done: Number(done), of: Number(of), doing: `Spark is at its stage ${number}` })
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
  private readScript(line: string): void {
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
