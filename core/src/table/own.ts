/* eslint-disable fabula/own-lookup -- this is the one place that looks up an own value */
/** What a record holds under a word of the user's, and never what every object inherits: `constructor` and `__proto__` are names like any other. */
export const ownValue = <T>(record: Readonly<Record<string, T>> | undefined, word: string): T | undefined =>
  record !== undefined && Object.hasOwn(record, word) ? record[word] : undefined

/** Puts a value under a word of the user's; an assignment to `__proto__` would change what the record inherits instead. */
export const setOwnValue = <T>(record: Record<string, T>, word: string, value: T): T => {
  Object.defineProperty(record, word, { value, writable: true, enumerable: true, configurable: true })
  return value
}
