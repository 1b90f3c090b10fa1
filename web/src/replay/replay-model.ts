import {
  answerOf,
  capital,
  counted,
  figure,
  ownValue,
  quoted,
  typeWords,
  type Answer,
  type CompatibilityFinding,
  type CompatibilityOffer,
  type Recipe,
} from '@fabula/core'
import type { FileRef, FitReply, RunReply, RunsReply } from '@fabula/core/api'
import { figureOf, hasSample } from '../story/sample-figures.ts'

/** The files given for each input, by its id. */
export type ChosenFiles = Readonly<Record<string, readonly FileRef[]>>

/** The files that an input is read from where no new ones are given, and since when. */
export type KeptFiles = {
  readonly files: Readonly<Record<string, readonly Pick<FileRef, 'name' | 'sample'>[]>>
  /** When the last accepted run was; undefined where they are those the story was built on. */
  readonly at: string | undefined
}

/** Whether every input has files: new ones, or kept ones. */
export const isComplete = ({ inputs }: Pick<Recipe, 'inputs'>, given: ChosenFiles, kept: KeptFiles['files']): boolean =>
  inputs.every(({ id }) => (ownValue(given, id) ?? ownValue(kept, id) ?? []).length > 0)

const accepted = ({ state, open, repeats }: RunsReply['runs'][number]): boolean =>
  state === 'done' && open === 0 && repeats === null

/** The files of the last accepted run, over those the story was built on. */
export const keptFiles = (runs: RunsReply['runs'], builtOn: KeptFiles['files']): KeptFiles => {
  const last = runs.find((run) => accepted(run) && !run.alone && run.cluster === null)
  const ofRun = last?.files ?? []
  const files = ofRun.map(({ input }) => [input, ofRun.filter((file) => file.input === input)] as const)
  return { files: { ...builtOn, ...Object.fromEntries(files) }, at: last?.startedAt }
}

/** The run to show: the chosen one, else one that is still running. */
export const shownRun = (runs: RunsReply['runs'], chosen: string): string =>
  chosen === '' ? (runs.find(({ state }) => state === 'running')?.id ?? '') : chosen

/** The last accepted run before another began; `now` stands for one that is not listed yet. */
export const runBefore = (runs: RunsReply['runs'], id: string, now: string): string | undefined => {
  const began = runs.find((run) => run.id === id)?.startedAt ?? now
  return runs.find((run) => accepted(run) && run.id !== id && run.startedAt < began)?.id
}

/** What a run is compared with. */
export type RunTables = Pick<RunReply, 'tables'>

const leaveOutWords = ({ code, sheet }: CompatibilityFinding): string => {
  if (code === 'repeated-file') return 'Count it once'
  if (code === 'kept-file') return 'Leave the kept out'
  return sheet === undefined ? 'Leave the file out' : 'Leave the sheet out'
}

/** What the button of an offer says. */
export const offerWords = (finding: CompatibilityFinding, offer: CompatibilityOffer): string => {
  const { column = '', code, rows = 0 } = finding
  switch (offer.do) {
    case 'rename':
      return `Read ${offer.column} as ${column}`
    case 'leave-empty':
      return `Leave ${counted(rows, 'cell')} empty`
    case 'leave-out':
      return leaveOutWords(finding)
    case 'take-in':
      return 'Take it in like the others'
    case 'expect':
      return code === 'changed-type' ? `Take it as ${typeWords[offer.type]}` : 'Expect it'
    case 'read-as':
      return `Read it as ${typeWords[offer.type]}`
    case 'do-without':
      return 'Do without it'
    case 'change-step':
    case 'accept':
      return capital(offer.why)
  }
}

const aboutFile = ({ file, sheet }: Answer): string =>
  sheet === undefined ? (file ?? 'What is kept') : `The sheet ${quoted(sheet)}`

const acceptedWords = ({ offer, value, sentence = '' }: Answer): string =>
  value === undefined || value.includes('\n')
    ? `${capital(offer.why)}: ${sentence.replace(/\.$/, '')}`
    : `${quoted(value)}: ${offer.why}`

/** What was answered, as the list of answers says it. */
export const answerWords = (answer: Answer): string => {
  const { offer, column = '', file } = answer
  const inFile = file === undefined ? '' : ` in ${file}`
  switch (offer.do) {
    case 'rename':
      return `${offer.column} is read as ${column}${inFile}`
    case 'leave-empty':
      return `${column} stays empty${inFile}`
    case 'leave-out':
      return `${aboutFile(answer)} is left out`
    case 'take-in':
      return `${aboutFile(answer)} is taken in`
    case 'expect':
      return `${column} is as expected`
    case 'read-as':
      return `${column} is read as ${typeWords[offer.type]}`
    case 'do-without':
      return `${column} is done without`
    case 'change-step':
      return capital(offer.why)
    case 'accept':
      return acceptedWords(answer)
  }
}

/** Whether a recipe can say an answer, so that it holds for good. */
export const holdsForGood = ({ offer }: Answer): boolean =>
  ['rename', 'expect', 'read-as', 'do-without', 'change-step'].includes(offer.do) ||
  (offer.do === 'take-in' && offer.step !== undefined)

/** What of the findings needs an answer, and what only is said. */
export const sortedFindings = (
  report: { readonly findings: readonly CompatibilityFinding[]; readonly answers: readonly Answer[] } | undefined,
): { readonly open: readonly CompatibilityFinding[]; readonly noted: readonly CompatibilityFinding[] } => {
  const findings = report?.findings ?? []
  return {
    open: findings.filter((finding) => finding.asks && !answerOf(finding, report?.answers ?? [])),
    noted: findings.filter(({ asks }) => !asks),
  }
}

/** How an input fits, by the findings in it that are open: words and their tone. */
export const fitWords = (open: readonly CompatibilityFinding[]): readonly [words: string, tone: string] => {
  if (open.some(({ grade }) => grade === 'breaks' || grade === 'refused')) return ['! does not fit yet', 'text-removed']
  return open.length > 0 ? [counted(open.length, 'question'), 'text-changed'] : ['✓ fits', 'text-added']
}

/** Why the story cannot be replayed yet; undefined where it can. */
export const reasonToWait = (state: {
  readonly given: boolean
  readonly complete: boolean
  readonly trying: boolean
  readonly open: readonly CompatibilityFinding[]
}): string | undefined => {
  const { given, complete, trying, open } = state
  if (!given) return 'No new file is given yet.'
  if (!complete) return 'An input has no file yet.'
  if (trying) return 'Trying it on a copy…'
  if (open.some(({ offers, asks }) => asks && offers.length === 0)) return 'The data is refused as it is.'
  return open.length > 0 ? `${counted(open.length, 'answer')} to go` : undefined
}

/** The rows that come out of the tables that are written, or of all. */
export const rowsOut = (
  tables: FitReply['tables'],
  written: readonly string[],
): readonly { readonly table: string; readonly rows: number }[] =>
  tables
    .filter(({ id }) => written.length === 0 || written.includes(id))
    .flatMap(({ id, steps }) => {
      const last = steps.at(-1)
      return last ? [{ table: id, rows: last.rowsOut }] : []
    })

const rowWords = (rows: readonly { readonly rows: number }[]): string =>
  rows.length === 1 ? counted(rows[0]?.rows ?? 0, 'row') : `${rows.map((one) => figure(one.rows)).join(' + ')} rows`

/** The first sentence of a trial. */
export const trialWords = (
  rows: readonly { readonly rows: number }[],
  { verdict, inputs }: Pick<FitReply, 'verdict' | 'inputs'>,
): string => {
  if (verdict === 'does-not-fit') return 'Tried: it does not run through yet.'
  const ofSample = hasSample(inputs.flatMap(({ files }) => files))
  return `Tried: ${figureOf(rowWords(rows), ofSample)} would come out.`
}

/** The first sentence of a run that is done, and whether there is something to look at. */
export const doneWords = (run: Pick<RunReply, 'outputs' | 'open' | 'findings' | 'files'>): string => {
  if (run.open > 0) return `Done, ${counted(run.open, 'thing')} to look at.`
  const said = run.findings.filter(({ code }) => code === 'said-by-script').length
  const rest = said === 0 ? 'nothing to look at' : `and ${counted(said, 'sentence')} of the script to read`
  const rows = figureOf(rowWords(run.outputs), hasSample(run.files))
  return `Done: ${rows}, ${rest}.`
}
