import { cannotRun, counted, figure, listed, quoted, typeWords } from '../messages/words.ts'
import type { ColumnType } from '../table/column.ts'
import type {
  CompatibilityOffer,
  FindingCode,
  FindingPlace,
  FindingRows,
  Grade,
  CompatibilityFinding,
} from './finding.ts'
import { mostValuesShown } from './finding.ts'

const isOrAre = (n: number): string => (n === 1 ? 'is' : 'are')
const some = (values: readonly string[]): string =>
  `${listed(values.slice(0, 3).map(quoted))}${values.length > 3 ? ' …' : ''}`
const lastTime = (now: number, before: number): string => `${figure(before)} → ${figure(now)}`
const percent = (share: number): string => `${(share * 100).toFixed(share < 0.1 ? 1 : 0)} %`

/** What stands out beside last time. */
export type StandingOut =
  | { readonly what: 'rows'; readonly step: string; readonly before: number; readonly now: number }
  | { readonly what: 'no-rows'; readonly step: string; readonly before: number }
  | {
      readonly what: 'median'
      readonly step: string
      readonly column: string
      readonly before: number
      readonly now: number
    }
  | {
      readonly what: 'unmatched'
      readonly step: string
      readonly side: 'here' | 'there'
      readonly before: number
      readonly now: number
      readonly share: number
    }
  | { readonly what: 'multiplied'; readonly step: string; readonly now: number }
  | { readonly what: 'check'; readonly step: string; readonly say: string }
  | { readonly what: 'check-stops'; readonly step: string; readonly say: string }
  | { readonly what: 'refused'; readonly step: string; readonly why: string }

const standingOut = (one: StandingOut): string => {
  switch (one.what) {
    case 'rows':
      return `${one.step} lets ${lastTime(one.now, one.before)} rows through (last time → now).`
    case 'no-rows':
      return `No row is left after ${one.step}; last time there were ${figure(one.before)}.`
    case 'median':
      return `The middle value of ${quoted(one.column)} after ${one.step} went from ${one.before} to ${one.now}. A decimal sign may be taken for one that groups digits.`
    case 'unmatched': {
      const rows = `${counted(one.now, 'row')} (${percent(one.share)})`
      const where = one.side === 'here' ? 'find no match' : 'of the other table are matched by none'
      return `${rows} ${where} in ${one.step}; last time ${one.before === 0 ? 'none' : figure(one.before)}.`
    }
    case 'multiplied':
      return `${one.step} makes ${counted(one.now, 'row')} more by repeated keys; last time none.`
    case 'check':
      return `The check ${one.step} does not hold: ${one.say}. Last time it held.`
    case 'check-stops':
      return `The check ${one.step} stops the run: ${one.say}.`
    case 'refused':
      return `${one.step} refuses the data: ${one.why}`
  }
}

type ColumnOf = { readonly input: string; readonly column: string }
const neededBy = (step: string | undefined): string => (step === undefined ? '' : ` ${step} needs it.`)

/** The sentence of each finding, from its data. Steps come as the page names them: table and number. */
const sentences = {
  'missing-column': ({
    input,
    column,
    step,
    best,
  }: ColumnOf & { step?: string | undefined; best?: Best | undefined }) =>
    `${input} has no column ${quoted(column)}.${best ? ` ${quoted(best.column)} may be it: ${best.why}.` : ''}${neededBy(step)}`,
  'lacking-file': ({
    part,
    column,
    rows,
    step,
    best,
  }: {
    part: string
    column: string
    rows: number
    step?: string | undefined
    best?: Best | undefined
  }) =>
    `In ${part} alone there is no ${quoted(column)}.${best ? ` ${quoted(best.column)} may be it: ${best.why}.` : ''} As it is, ${counted(rows, 'cell')} would be empty.${neededBy(step)}`,
  'new-column': ({ input, column, journey }: ColumnOf & { journey: string }) =>
    `${input} has a new column ${quoted(column)}, which ${journey}.`,
  'new-sheet': ({ file, sheet, hidden }: { file: string; sheet: string; hidden: boolean }) =>
    `${file} has a new sheet ${quoted(sheet)}, which is taken in.${hidden ? ' It is hidden in the workbook.' : ''}`,
  'missing-sheet': ({ input, sheet }: { input: string; sheet: string }) => `${input} has no sheet ${quoted(sheet)}.`,
  'unclaimed-sheet': ({ file, sheet, like }: { file: string; sheet: string; like: string }) =>
    `The sheet ${quoted(sheet)} of ${file} has the columns of ${like} and is taken in by nothing.`,
  'unclaimed-file': ({
    file,
    input,
    other,
  }: {
    file: string
    input?: string | undefined
    other?: string | undefined
  }) => {
    if (other !== undefined)
      return `${file} lacks columns that ${input ?? 'its input'} needs and has those of ${other}.`
    return `${file} belongs to no input by its name, its columns or its sheets.`
  },
  'kept-file': ({ input, kept, given }: { input: string; kept: readonly string[]; given: readonly string[] }) =>
    `${input} has ${listed(kept.map(quoted))} kept from before and ${listed(given.map(quoted))} given now; both are read.`,
  'repeated-file': ({ input, files }: { input: string; files: readonly string[] }) =>
    files[0] === files[1]
      ? `${input} is given ${quoted(files[0] ?? '')} ${counted(files.length, 'time')}; its rows count as often.`
      : `${listed(files.map(quoted))} of ${input} have the same content; its rows count ${counted(files.length, 'time')}.`,
  'changed-type': ({ input, column, before, now, step }: ColumnOf & TypeChange & { step?: string | undefined }) =>
    `${quoted(column)} in ${input} was ${typeWords[before]} and is now ${typeWords[now]}.${step === undefined ? '' : ` ${step} cannot run so.`}`,
  'broken-step': ({ step, why }: { step: string; why: string }) => cannotRun(step, why),
  unreadable: ({ step, column, rows, values, before }: Unreadable) =>
    `${step} cannot read ${counted(rows, 'cell')} of ${quoted(column)}${values.length > 0 ? `, such as ${some(values)}` : ''}; ${rows === 1 ? 'it' : 'they'} would be empty.${before === undefined ? '' : ` Last time ${before === 0 ? 'all could be read' : `${figure(before)} could not`}.`}`,
  'new-value': (one: NewValue) => newValue(one),
  'missing-value': ({ column, values, step }: { column: string; values: readonly string[]; step: string }) =>
    `No row has ${some(values)} in ${quoted(column)}, which ${step} names; last time there were such rows.`,
  'standing-out': (one: StandingOut) => standingOut(one),
  'row-count': ({ input, now, before }: { input: string; now: number; before: number }) =>
    `${input} has ${counted(now, 'row')}; last time there were ${figure(before)}.`,
  'known-name': ({ input, column, other }: ColumnOf & { other: string }) =>
    `${quoted(other)} in ${input} is read as ${quoted(column)}, as the recipe says.`,
  parameter: ({ name, value, column, step }: ParameterDetail) =>
    value === undefined || column === undefined
      ? `${quoted(name)} is asked and has no answer.`
      : `${quoted(name)} is ${quoted(value)}, which no row has in ${quoted(column)}${step === undefined ? '' : ` where ${step} looks for it`}.`,
  'said-by-script': ({ sentence }: { sentence: string }) => sentence,
} satisfies { readonly [C in FindingCode]: (detail: never) => string }

type Best = { readonly column: string; readonly why: string }
type TypeChange = { readonly before: ColumnType; readonly now: ColumnType }
type Unreadable = {
  readonly step: string
  readonly column: string
  readonly rows: number
  readonly values: readonly string[]
  readonly before: number | undefined
}
type ParameterDetail = {
  readonly name: string
  readonly value?: string | undefined
  readonly column?: string | undefined
  readonly step?: string | undefined
}
type NewValue = {
  readonly step: string
  readonly column: string
  readonly values: readonly string[]
  readonly count: number
  readonly rows: number
  readonly unnamed: 'own-spelling' | 'leaves' | 'stays' | 'no-column'
  /** The group that it may belong to, and whether it is near by a measure of likeness. */
  readonly group?: string | undefined
  readonly near?: boolean
}

const newValueWords = ({ column, values, count, rows }: NewValue): string => {
  const inRows = `in ${counted(rows, 'row')}`
  return count === 1
    ? `${quoted(values[0] ?? '')} is new in ${quoted(column)}, ${inRows}`
    : `${figure(count)} values are new in ${quoted(column)}, ${inRows}: ${some(values)}`
}

const nearestWords = ({ group, near }: NewValue): string => {
  if (group === undefined) return ''
  return near ? ` and looks like ${quoted(group)}` : `; nearest is ${quoted(group)}`
}

const newValue = (one: NewValue): string => {
  const { step, count, rows, unnamed } = one
  const what = newValueWords(one)
  const [they, them, are] = count === 1 ? ['It', 'it', 'it is'] : ['They', 'them', 'they are']
  switch (unnamed) {
    case 'own-spelling':
      return `${what}${nearestWords(one)}. ${step} leaves ${them} as ${are}.`
    case 'leaves':
      return `${what}. ${step} does not name ${them}, so ${rows === 1 ? 'this row leaves' : 'these rows leave'}.`
    case 'stays':
      return `${what}. ${they} ${isOrAre(count)} not named by ${step}, which lets such rows be.`
    case 'no-column':
      return `${what}. ${step} makes no column of ${them}, so ${rows === 1 ? 'this row is' : 'these rows are'} in no figure.`
  }
}

type Details = { readonly [C in FindingCode]: Parameters<(typeof sentences)[C]>[0] }

/** A finding with its sentence. `rows`: the rows or cells it touches; of the values the first five are kept. */
export const findingOf = <C extends FindingCode>(
  code: C,
  grade: Grade,
  place: FindingPlace,
  detail: Details[C],
  more: {
    readonly offers?: readonly CompatibilityOffer[]
    readonly rows?: number | undefined
    readonly values?: readonly string[] | undefined
    readonly shows?: FindingRows | undefined
  } = {},
): CompatibilityFinding => {
  const { offers = [], rows, values, shows } = more
  const sentence = sentences[code] as (detail: Details[C]) => string
  return {
    code,
    grade,
    ...place,
    ...(rows === undefined ? {} : { rows }),
    ...(values === undefined || values.length === 0 ? {} : { values: values.slice(0, mostValuesShown) }),
    asks: grade !== 'fits',
    offers,
    sentence: sentence(detail),
    ...(shows ? { shows } : {}),
  }
}
