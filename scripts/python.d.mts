/** A program of a virtual environment of Python; see python.mjs. */
export const inEnvironment: (name: 'pandas-2' | 'pandas-3' | 'spark-3', program?: string) => string
/** Whether the environment of Spark is there. */
export const hasSpark: () => boolean
