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

/** A verb with the names by which it is found. */
type NamedFound = FoundVerb & { readonly names: readonly string[]; readonly sentence: string }

/** Every verb with what it does to the present selection: those by everyday names, then those of the selection. None until the table is known. */
export const verbsAt = (context: VerbContext, recipe: Recipe): readonly NamedFound[] => {
  if (context.schema.length === 0) return []
  const found = (verb: Verb, names: readonly string[]): NamedFound => {
    const about = aboutVerb(verb, context, recipe)
    return { ...verb, about, names: names.map(plain), sentence: plain(about) }
  }
  const own = context.selection.kind === 'table' ? [] : verbsFor(context.selection, context)
  return [
    ...namedVerbs.map(({ name, words: synonyms, act }) =>
      found({ name, words: synonyms, ...act(context) }, [name, ...synonyms]),
    ),
    // the words of a verb of the card are those of its kind: they say less than a name
    ...own.map((verb) => found(verb, [verb.name])),
  ]
}

/** The verbs that what was typed may mean, the best first and each once; all of them where nothing was typed. */
export const findVerbs = (text: string, verbs: readonly NamedFound[]): readonly FoundVerb[] => {
  const typed = plain(text)
  const seen = new Set<string>()
  return verbs
    .map((verb) => {
      const best = Math.max(...verb.names.map((name) => fitOf(typed, name)))
      const bySentence = hasWords(typed.split(' '), verb.sentence) ? ofSentence : 0
      return { verb, fit: typed === '' ? 1 : Math.max(best, bySentence) }
    })
    .filter(({ fit }) => fit > 0)
    .map(({ verb, fit }) => ({ verb, fit: fit - (verb.needs === undefined ? 0 : 10) }))
    .sort((a, b) => b.fit - a.fit)
    .map(({ verb }) => verb)
    .filter((verb) => {
      const key = keyOf(verb)
      return !seen.has(key) && seen.add(key)
    })
}
