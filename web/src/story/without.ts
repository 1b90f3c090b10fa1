/** A copy of an object without some of its properties, which are optional ones. */
export const without = <T extends object>(value: T, ...keys: readonly string[]): T =>
  Object.fromEntries(Object.entries(value).filter(([key]) => !keys.includes(key))) as T
