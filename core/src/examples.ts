/** The tested examples of every kind of step, for the help and for tests; large, so that only who needs them loads them. */
export { kindExamples } from './steps/index.examples.ts'
export type { StepExample } from './steps/shared/example.ts'
