import { sentenceText, tableNames, type NewStep, type Recipe, type Step } from '@fabula/core'
import { builderNamed } from './builders.ts'
import { namedVerbs } from './named-verbs/index.ts'
import type { VerbContext } from './named-verbs/named-verb.ts'
import { verbsFor, type Verb } from './verbs.ts'

/** How well words fit, the best first: the whole name or synonym, its beginning, its words, a word of the sentence. */
const exact = 100
const begins = 80
const words = 60
const ofSentence = 20

const plain = (text: string): string =>
  text
    .toLowerCase()
    .replace(/[…“”.,]/g, '')
    .replace(/\s+/g, ' ')
    .trim()

/** Whether each word of what was typed begins a word of a text. */
const hasWords = (typed: readonly string[], text: string): boolean => {
  const all = text.split(' ')
  return typed.every((word) => all.some((one) => one.startsWith(word)))
}

/** How well what was typed fits one name of a verb; 0 where it does not. A shorter name of two that begin alike fits better. */
const fitOf = (typed: string, name: string): number => {
  if (name === typed) return exact
  if (name.startsWith(typed)) return begins - Math.min(19, name.length - typed.length) / 2
  return hasWords(typed.split(' '), name) ? words - Math.min(19, name.length - typed.length) / 2 : 0
}

/** A verb that was found, with what it does to the present selection. */
export type FoundVerb = Verb & { readonly about: string }

const sentencesOf = (steps: readonly NewStep[], recipe: Recipe): string =>
  steps.map((step) => sentenceText({ ...step, id: 'draft' } as Step, tableNames(recipe))).join(' ')

/** What a verb does to the present selection, as its sentence; why it cannot where it cannot. */
export const aboutVerb = (verb: Omit<Verb, 'name' | 'words'>, context: VerbContext, recipe: Recipe): string => {
  if (verb.needs !== undefined) return verb.needs
  if (verb.steps) return sentencesOf(verb.steps, recipe)
  if (verb.step) return sentencesOf([verb.step], recipe)
  const { builder } = verb
  const built = builderNamed(builder?.id)
  if (!built || !builder) return ''
  const answers = { ...built.start(builder.columns, context.schema, undefined), ...builder.answers }
  return sentencesOf(built.write(answers, builder.columns, context.schema, undefined), recipe)
}

/** Two verbs that do the same are one. */
const keyOf = ({ step, steps, builder, command, draw, name }: Verb): string =>
  step || steps || builder || command || draw ? JSON.stringify([steps ?? step, builder, command, draw]) : name

/**
 * The verbs that what was typed may mean, the best first: those of the selection before others that fit as well, each once.
 * All verbs of the selection, then all others, where nothing was typed.
 */
export const findVerbs = (text: string, context: VerbContext, recipe: Recipe): readonly FoundVerb[] => {
  // what a verb does is known once the table is
  if (context.schema.length === 0) return []
  const typed = plain(text)
  const own = context.selection.kind === 'table' ? [] : verbsFor(context.selection, context.schema, context.tables)
  const named = namedVerbs.map(({ name, words: synonyms, act }): Verb => ({ name, words: synonyms, ...act(context) }))
  const seen = new Set<string>()
  const found: { verb: FoundVerb; fit: number }[] = []
  for (const [i, verb] of [...named, ...own].entries()) {
    const about = aboutVerb(verb, context, recipe)
    // the words of a verb of the card are those of its kind: they find it, but say less than a name
    const isOwn = i >= named.length
    const names = isOwn ? [plain(verb.name)] : [verb.name, ...verb.words].map(plain)
    const best = Math.max(...names.map((name) => fitOf(typed, name)))
    const bySentence = hasWords(typed.split(' '), plain(about)) ? ofSentence : 0
    const fit = typed === '' ? 1 : Math.max(best, bySentence)
    if (fit === 0) continue
    found.push({ verb: { ...verb, about }, fit: fit - (verb.needs === undefined ? 0 : 10) })
  }
  return found
    .sort((a, b) => b.fit - a.fit)
    .map(({ verb }) => verb)
    .filter((verb) => {
      const key = keyOf(verb)
      return !seen.has(key) && seen.add(key)
    })
}
