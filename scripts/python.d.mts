/** A program of a virtual environment of Python; see python.mjs. */
export const inEnvironment: (name: 'pandas-2' | 'pandas-3', program?: string) => string
