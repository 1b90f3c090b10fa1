import type { stepKinds, StepKindName } from '../steps/index.ts'
import type { StepKind } from '../steps/shared/step-kind.ts'
import { z } from 'zod'
import { name } from '../reading/name-schema.ts'
import { columnTypes, scalarTypes } from '../table/column.ts'
import { type Output } from './outputs.ts'

/** Schema of an id. */
export const id = z.string().regex(/^[a-z][a-z0-9-]*$/, 'an id is small letters, digits and hyphens, a letter first')

const cellValue = z.union([z.string(), z.number(), z.boolean(), z.null()])

/** What every step may carry. */
type StepBase = { readonly id: string; readonly note?: string; readonly off?: boolean }
/** The params of a kind. */
export type ParamsOf<K extends StepKindName> = (typeof stepKinds)[K] extends StepKind<infer P> ? P : never
/** A step of one kind, as the recipe's JSON has it. */
export type StepOf<K extends StepKindName> = StepBase & { readonly kind: K } & ParamsOf<K>
/** A step of any kind. */
export type Step = { [K in StepKindName]: StepOf<K> }[StepKindName]
/** A step that has no id yet. */
export type NewStep = { [K in StepKindName]: Omit<StepBase, 'id'> & { readonly kind: K } & ParamsOf<K> }[StepKindName]

/** Schema of a parameter. */
export const parameterSchema = z.strictObject({ name, type: z.enum(scalarTypes), value: cellValue.optional() })

const fieldSchema = z.strictObject({ name, type: z.enum(columnTypes) })

/** Schema of an input. */
export const inputSchema = z.strictObject({
  id,
  name,
  files: z.string().optional(),
  columns: z
    .array(
      fieldSchema.extend({ /** Other names by which this column may come. */ also: z.array(name).min(1).optional() }),
    )
    .optional(),
})

/** A value that is asked at replay; `value` unless another is given. */
export type Parameter = z.infer<typeof parameterSchema>

/** What goes in: its files’ name pattern and the columns that the story expects. */
export type Input = z.infer<typeof inputSchema>

/** A table: a start, then steps. */
export type RecipeTable = { readonly id: string; readonly name: string; readonly steps: readonly Step[] }

/** A whole recipe, version 1. */
export type Recipe = {
  readonly fabula: 1
  readonly name: string
  readonly about?: string
  readonly parameters?: readonly Parameter[]
  readonly inputs: readonly Input[]
  readonly tables: readonly RecipeTable[]
  readonly outputs?: readonly Output[]
}

/** What is wrong with a recipe, and where: a JSON path such as $.tables[0].steps[2].columns. */
export type RecipeFault = { readonly where: string; readonly sentence: string }

/** A recipe, or every fault that keeps data from being one. */
export type ReadRecipe = { readonly recipe: Recipe } | { readonly faults: readonly RecipeFault[] }
