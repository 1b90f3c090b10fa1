/** Environments of Python: those of the tests, and `bench`, which is made when it is asked for. */
type Environment = 'pandas-2' | 'pandas-3' | 'spark-3' | 'bench'
export const inEnvironment: (name: Environment, program?: string) => string
export const hasSpark: () => boolean
export const makeEnvironment: (name: Environment) => void
