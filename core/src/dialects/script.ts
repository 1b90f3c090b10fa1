import type { StepCode } from '../codegen/dialect.ts'
import { Code } from '../codegen/tag.ts'

/** Why no script can be made of a recipe, as a sentence for its author. */
export class ScriptError extends Error {}

/** A step's own block and what stands after it. */
export const stepCode = (written: StepCode): { readonly body: Code; readonly after?: Code } =>
  written instanceof Code ? { body: written } : written
