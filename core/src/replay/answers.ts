import { openedBy, withRead } from '../recipe/step-access.ts'
import type { CompatibilityFinding, CompatibilityOffer, FindingCode, FindingPlace } from './finding.ts'
import { ownValue, setOwnValue } from '../table/own.ts'
import { withColumnAlias, type ColumnAliases } from '../recipe/column-aliases.ts'
import type { Input, Recipe, Step } from '../recipe/recipe.ts'

const withParams = (recipe: Recipe, step: string | undefined, params: Readonly<Record<string, unknown>>): Recipe => ({
  ...recipe,
  tables: recipe.tables.map((table) => ({
    ...table,
    steps: table.steps.map((one) => (one.id === step ? ({ ...one, ...params } as Step) : one)),
  })),
})

/** The recipe with an answer to a finding kept for good; unchanged by an answer that a recipe cannot say. */
export const answered = (recipe: Recipe, { input, step, column }: FindingPlace, offer: CompatibilityOffer): Recipe => {
  const inputs = (change: (one: Input) => Input): Recipe => ({
    ...recipe,
    inputs: recipe.inputs.map((one) => (one.id === input ? change(one) : one)),
  })
  switch (offer.do) {
    case 'rename':
      return inputs((one) => withColumnAlias(one, column ?? '', offer.column))
    case 'expect':
      return inputs(({ columns = [], ...one }) => ({
        ...one,
        columns: columns.some(({ name }) => name === offer.column)
          ? columns.map((field) => (field.name === offer.column ? { ...field, type: offer.type } : field))
          : [...columns, { name: offer.column, type: offer.type }],
      }))
    case 'read-as':
      return {
        ...recipe,
        tables: recipe.tables.map((table) => ({
          ...table,
          steps: table.steps.map((one) => {
            const opened = openedBy(one)
            if (!opened || opened.input !== input) return one
            const { types, ...read } = opened.read
            if (types === 'text') return one
            return withRead(one, {
              ...read,
              types: { ...(typeof types === 'object' ? types : {}), [offer.column]: { type: offer.type } },
            })
          }),
        })),
      }
    case 'do-without':
      return inputs((one) => ({ ...one, columns: (one.columns ?? []).filter(({ name }) => name !== offer.column) }))
    case 'change-step':
      return withParams(recipe, step, offer.params)
    case 'take-in':
      return offer.params ? withParams(recipe, offer.step, offer.params) : recipe
    case 'accept':
    case 'leave-empty':
    case 'leave-out':
      return recipe
  }
}

/** An answer to a finding: where the finding is, its value where it is of one, and the offer that was taken. */
export type Answer = FindingPlace & {
  readonly code: FindingCode
  readonly value?: string | undefined
  /** The sentence of the finding, as it was shown. */
  readonly sentence?: string | undefined
  readonly offer: CompatibilityOffer
}

/** The answer that takes an offer of a finding. */
export const answerTo = (finding: CompatibilityFinding, offer: CompatibilityOffer): Answer => {
  const { code, input, file, sheet, column, step, parameter } = finding
  const value = answeredByValue(finding)
  return {
    code,
    ...(input === undefined ? {} : { input }),
    ...(file === undefined ? {} : { file }),
    ...(sheet === undefined ? {} : { sheet }),
    ...(column === undefined ? {} : { column }),
    ...(step === undefined ? {} : { step }),
    ...(parameter === undefined ? {} : { parameter }),
    ...(value === undefined ? {} : { value }),
    sentence: finding.sentence,
    offer,
  }
}

/** New values are answered one by one, or as many as one finding has. */
const answeredByValue = ({ code, values }: CompatibilityFinding): string | undefined =>
  code === 'new-value' ? values?.join('\n') : undefined

const keyOf = ({ code, input, file, sheet, column, step, parameter, value }: Omit<Answer, 'offer'>): string =>
  JSON.stringify([code, input, file, sheet, column, step, parameter, value])

/** The answer that was given to a finding that is still there: it is right as it is. */
export const answerOf = (finding: CompatibilityFinding, answers: readonly Answer[]): Answer | undefined => {
  const key = keyOf(answerTo(finding, { do: 'accept', why: '' }))
  return answers.find((answer) => keyOf(answer) === key)
}

/** The answers with one more, which takes the place of another to the same finding. */
export const withAnswer = (answers: readonly Answer[], answer: Answer): readonly Answer[] => [
  ...answers.filter((one) => keyOf(one) !== keyOf(answer)),
  answer,
]

const changesStep = ({ offer, step }: Answer): string | undefined => {
  if (offer.do === 'change-step') return step
  return offer.do === 'take-in' ? offer.step : undefined
}

/** The answers without one, and without later ones that change the same step: they were given beside it. */
export const withoutAnswer = (answers: readonly Answer[], answer: Answer): readonly Answer[] => {
  const at = answers.findIndex((one) => keyOf(one) === keyOf(answer))
  const step = changesStep(answer)
  return answers.filter((one, i) => i !== at && (i < at || step === undefined || changesStep(one) !== step))
}

/** Findings that ask and have no answer. */
export const openFindings = (
  findings: readonly CompatibilityFinding[],
  answers: readonly Answer[],
): readonly CompatibilityFinding[] => findings.filter((finding) => finding.asks && !answerOf(finding, answers))

/** A file of a run, with what of it is read otherwise. */
export type AnsweredFile = {
  readonly name: string
  readonly hash: string
  /** Other names of columns in this file alone, to the names of the story. */
  readonly aliases?: ColumnAliases | undefined
  readonly withoutSheets?: readonly string[] | undefined
}
type FilesByInput<F> = Readonly<Record<string, readonly F[]>>

const leftOut = <F extends AnsweredFile>(
  files: readonly F[],
  { code, file, sheet }: Answer,
  kept: readonly string[],
): F[] => {
  if (code === 'kept-file') return files.filter(({ hash }) => !kept.includes(hash))
  if (file === undefined) return [...files]
  if (sheet !== undefined)
    return files.map((one) =>
      one.name === file ? { ...one, withoutSheets: [...(one.withoutSheets ?? []), sheet] } : one,
    )
  if (code === 'repeated-file') {
    const last = files.findLastIndex(({ name }) => name === file)
    return files.filter((_one, i) => i !== last)
  }
  return files.filter(({ name }) => name !== file)
}

/**
 * The recipe and the files as the answers of one run make them. `kept`: the SHA-256 of files that are kept from before, by
 * input. An answer that only says that something is right changes neither.
 */
export const withAnswers = <F extends AnsweredFile>(
  recipe: Recipe,
  files: FilesByInput<F>,
  answers: readonly Answer[],
  kept: FilesByInput<string> = {},
): { readonly recipe: Recipe; readonly files: FilesByInput<F> } => {
  let changed = recipe
  const given: Record<string, readonly F[]> = {}
  for (const [input, all] of Object.entries(files)) setOwnValue(given, input, all)
  for (const answer of answers) {
    const { offer, input = '', file, column = '' } = answer
    const own = ownValue(given, input) ?? []
    if (offer.do === 'rename' && answer.code === 'lacking-file')
      setOwnValue(
        given,
        input,
        own.map((one) => (one.name === file ? { ...one, aliases: { ...one.aliases, [offer.column]: column } } : one)),
      )
    else if (offer.do === 'leave-out') setOwnValue(given, input, leftOut(own, answer, ownValue(kept, input) ?? []))
    else if (offer.do === 'take-in' && offer.step === undefined) {
      setOwnValue(
        given,
        input,
        own.filter(({ name }) => name !== file),
      )
      const moved = own.filter(({ name }) => name === file)
      setOwnValue(given, offer.input, [...(ownValue(given, offer.input) ?? []), ...moved])
    } else changed = answered(changed, answer, offer)
  }
  return { recipe: changed, files: given }
}

/** Whether an answer says only which files and sheets are read, and by what names: it changes no step. */
export const isOfFiles = ({ offer }: Answer): boolean => ['rename', 'leave-out', 'take-in'].includes(offer.do)

/** Answers of an accepted run that hold for the next one too: kept files, and sheets that are left out. */
export const rememberedAnswers = (answers: readonly Answer[]): readonly Answer[] =>
  answers.filter(({ code, sheet, offer }) => code === 'kept-file' || (offer.do === 'leave-out' && sheet !== undefined))
