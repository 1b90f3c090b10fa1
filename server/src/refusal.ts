import { refusalSentences } from './refusal-sentences.ts'

/** What a request cannot have, by a code; the routes give each its HTTP status. */
export type RefusalCode = keyof typeof refusalSentences
/** What the sentence of a code names, as plain data; nothing where the code says it all. */
type FactsOf<C extends RefusalCode> = (typeof refusalSentences)[C] extends (facts: infer Facts) => string
  ? [facts: Facts]
  : []
/** A refusal as data, as it crosses processes. */
export type RefusalData = { readonly code: RefusalCode; readonly facts?: unknown }

const sentenceOf = ({ code, facts }: RefusalData): string => {
  const sentence = refusalSentences[code]
  // a code is always made with its own facts: see the constructor
  return typeof sentence === 'string' ? sentence : (sentence as (facts: unknown) => string)(facts)
}

/** A refusal: its code and facts, and as its message the sentence that says what, where and what to do. */
export class Refusal<C extends RefusalCode = RefusalCode> extends Error {
  readonly code: RefusalCode
  readonly facts: unknown
  constructor(code: C, ...facts: FactsOf<C>) {
    super(sentenceOf({ code, facts: facts[0] }))
    this.code = code
    this.facts = facts[0]
  }
  /** The refusal that another process sent. */
  static from({ code, facts }: RefusalData): Refusal {
    return new (Refusal as new (code: RefusalCode, facts: unknown) => Refusal)(code, facts)
  }
  get data(): RefusalData {
    return { code: this.code, facts: this.facts }
  }
}
