import { readFileSync } from 'node:fs'
import {
  accountsSchema,
  capital,
  checkCompatibility,
  findingData,
  quoted,
  runRecipe,
  typeWords,
  type Accounts,
  type CompatibilityFinding,
  type CompatibilityOffer,
  type CompatibilityReport,
  type Recipe,
} from '@fabula/core'
import { fault } from './fault.ts'
import { checkRecipe, loadInputs, loadParameters, loadRecipe, momentOf, reasonOf, type Opened } from './load.ts'

const verdictWords = {
  fits: 'The files fit.',
  'fits-with-changes': 'The files fit, with changes.',
  'does-not-fit': 'The files do not fit.',
}

/** What would answer a finding, where something needs an answer. */
const answerWords = ({ column = '' }: CompatibilityFinding, offer: CompatibilityOffer): string => {
  switch (offer.do) {
    case 'rename':
      return `Read ${quoted(offer.column)} as ${quoted(column)}: ${offer.why}.`
    case 'read-as':
      return `Read it as ${typeWords[offer.type]}: ${offer.why}.`
    case 'do-without':
      return `Do without it: ${offer.why}.`
    case 'expect':
      return `Expect it: ${offer.why}.`
    case 'leave-out':
      return `Leave it out: ${offer.why}.`
    case 'leave-empty':
      return `Leave them empty: ${offer.why}.`
    case 'take-in':
      return `Take it in: ${offer.why}.`
    case 'accept':
      return `Accept it: ${offer.why}.`
    case 'change-step':
      return `${capital(offer.why)}.`
  }
}

/** The accounts that a run is compared with. @throws Fault (exit code 6) where they cannot be read */
export const loadLast = (path: string | undefined): Accounts | undefined => {
  if (path === undefined) return undefined
  const problem = (why: string) => fault(6, 'unreadable-file', `The accounts ${path} cannot be read: ${why}.`, path)
  let data: unknown
  try {
    data = JSON.parse(readFileSync(path, 'utf8'))
  } catch (error) {
    throw problem(error instanceof SyntaxError ? 'they are not JSON' : reasonOf(error))
  }
  const read = accountsSchema.safeParse(data)
  if (read.success) return read.data
  const [issue] = read.error.issues
  throw problem(`they are not accounts of a run (${issue?.path.join('.') ?? ''}: ${issue?.message ?? ''})`)
}

/** A recipe's run on files, of which nothing was written, held against the recipe and the last run. */
export const fitReport = (
  recipe: Recipe,
  opened: Opened,
  ran: ReturnType<typeof runRecipe>,
  parameters: ReturnType<typeof loadParameters>,
  last: Accounts | undefined,
  did?: Accounts,
): CompatibilityReport => checkCompatibility(recipe, opened.inputs, { ran, last, parameters, steps: did?.tables })

type FitWords = { input: string[]; param: string[]; now?: string; last?: string; json?: boolean }

const answersOf = (finding: CompatibilityFinding): string =>
  finding.asks ? finding.offers.map((offer) => `    ${answerWords(finding, offer)}\n`).join('') : ''

/** The findings, whatever they are: telling them is what was asked for, so they are no error. */
export const fit = async (path: string, words: FitWords): Promise<void> => {
  const recipe = loadRecipe(path)
  const parameters = loadParameters(recipe, words.param)
  checkRecipe(recipe)
  const last = loadLast(words.last)
  const opened = await loadInputs(recipe, words.input)
  const ran = runRecipe(recipe, { sources: opened.sources, parameters, now: momentOf(words.now) })
  const { verdict, findings } = fitReport(recipe, opened, ran, parameters, last)
  process.stdout.write(
    words.json
      ? `${JSON.stringify({ verdict, findings: findings.map(findingData) }, null, 2)}\n`
      : `${verdictWords[verdict]}\n${findings.map((finding) => `- ${finding.sentence}\n${answersOf(finding)}`).join('')}`,
  )
}
