const sortedKeys = (_key: string, value: unknown): unknown =>
  typeof value === 'object' && value !== null && !Array.isArray(value)
    ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)))
    : value

/** JSON in which the keys of each object are sorted: equal values give equal texts, in whatever order their keys were written. */
export const stableJson = (value: unknown): string => JSON.stringify(value, sortedKeys)
