import { brokenSteps, planRecipe } from '../engine/plan.ts'
import { counted, listed } from '../messages/words.ts'
import { convert } from '../reading/convert.ts'
import type { Recipe, Step } from '../recipe/recipe.ts'
import { kindOf, openedBy, paramsOf } from '../recipe/step-access.ts'
import type { Column, ColumnType } from '../table/column.ts'
import { hasValue, textsAt } from '../table/value-counts.ts'
import { ownValue } from '../table/own.ts'
import type { Schema } from '../table/table.ts'
import { mostValuesShown, type CompatibilityFinding, type CompatibilityOffer } from './finding.ts'
import { findingOf } from './finding-sentences.ts'
import { lastFiles, neededBy, stepPlace, type CheckedInput, type FitContext } from './fit-context.ts'
import { renameOffers } from './rename-candidates.ts'

type RecipeInput = Recipe['inputs'][number]
type SchemaField = Schema[number]

/** The columns that the sheets taken in last time had, all together; undefined where nothing is known of them. */
const lastColumns = (context: FitContext, input: string): Schema | undefined => {
  const sheets = lastFiles(context, input).flatMap(({ sheets: all = [] }) => all)
  return sheets.length === 0
    ? undefined
    : sheets.filter(({ taken }) => taken !== false).flatMap(({ columns }) => columns)
}

const missingColumns = (
  context: FitContext,
  { id, name, columns = [] }: RecipeInput,
  input: CheckedInput,
): CompatibilityFinding[] => {
  const now = input.table.schema
  const before = lastColumns(context, id)
  const candidates = now
    .filter((field) => !columns.some((one) => one.name === field.name))
    .map((field) => ({ ...field, column: input.table.named(field.name) }))
  return columns
    .filter((field) => !now.some((one) => one.name === field.name))
    .map((field): CompatibilityFinding => {
      const step = neededBy(context, id, field.name)
      const known =
        input.before && input.before.positionOf(field.name) >= 0 ? input.before.named(field.name) : undefined
      const { offers } = renameOffers(field, candidates, [known])
      const [best] = offers
      const lackedBefore = before !== undefined && !before.some(({ name: other }) => other === field.name)
      const grade = () => {
        if (step) return 'breaks'
        return lackedBefore ? 'fits' : 'changes'
      }
      return findingOf(
        'missing-column',
        grade(),
        { input: id, ...onlyFile(input), column: field.name, ...(step ? { step: step.id } : {}) },
        { input: name, column: field.name, step: step && stepPlace(context.recipe, step.id), best },
        {
          rows: input.table.rowCount,
          offers: step ? offers : [...offers, { do: 'do-without', column: field.name, why: 'no sentence needs it' }],
        },
      )
    })
}

/** The name of the file where there is one. */
const onlyFile = ({ files = [], parts = [] }: CheckedInput): { file?: string } => {
  const names = new Set([...files.map(({ name }) => name), ...parts.map(({ file }) => file)])
  const [file] = names
  return names.size === 1 && file !== undefined ? { file } : {}
}

/** The steps that take in a column nobody knew, and the first that leaves it out. */
const journey = (recipe: Recipe, input: string, column: string, schema: Schema): string => {
  const table = recipe.tables.find(({ steps }) => steps.some((step) => openedBy(step)?.input === input))
  const places = (steps: readonly Step[]): string => listed(steps.map(({ id }) => stepPlace(recipe, id)))
  const takers: Step[] = []
  for (const step of table?.steps ?? []) {
    const kind = kindOf(step)
    if (kind.start || step.off) continue
    const takes = kind.absorbs?.(paramsOf(step), column, schema) ?? false
    if (takes) takers.push(step)
    if (takes && kind.consumes) break
    if (!takes && kind.dropsUnnamed)
      return `${takers.length > 0 ? `is taken in by ${places(takers)}, and ` : 'is '}left out by ${places([step])}`
  }
  return takers.length > 0 ? `is taken in by ${places(takers)}` : 'goes through the story as it is'
}

const newColumns = (
  context: FitContext,
  { id, name, columns = [] }: RecipeInput,
  input: CheckedInput,
): CompatibilityFinding[] => {
  const before = lastColumns(context, id)
  const { schema } = input.table
  return schema
    .filter((field) => ![...columns, ...(before ?? [])].some((one) => one.name === field.name))
    .map(({ name: column, type }) =>
      findingOf(
        'new-column',
        'fits',
        { input: id, ...onlyFile(input), column },
        { input: name, column, journey: journey(context.recipe, id, column, schema) },
        { offers: [{ do: 'expect', column, type, why: 'it is not told as new any more' }] },
      ),
    )
}

/** Read as it was, with what that costs; or taken as it is from now on. */
const typeOffers = (
  lost: number | undefined,
  { name, type }: SchemaField,
  before: ColumnType,
): CompatibilityOffer[] => [
  ...(lost === undefined
    ? []
    : [
        {
          do: 'read-as' as const,
          column: name,
          type: before,
          why:
            lost === 0 ? 'every cell can be read so' : `${counted(lost, 'cell')} cannot be read so and would be empty`,
        },
      ]),
  { do: 'expect', column: name, type, why: 'it is not told as changed any more' },
]

/** The step that only runs where the column has the type it had. */
const brokenByType = (context: FitContext, input: string, column: string, before: ColumnType): Step | undefined => {
  if (context.broken.length === 0) return undefined
  const { recipe, schemas, broken } = context
  const schema = (ownValue(schemas, input) ?? []).map((field) =>
    field.name === column ? { ...field, type: before } : field,
  )
  const still = new Set(brokenSteps(planRecipe(recipe, { ...schemas, [input]: schema })).map(({ step }) => step.id))
  return broken.find(({ step, problem }) => problem.code !== 'refused-data' && !still.has(step.id))?.step
}

/** A type that the column had last time already is not asked about again. */
const gradeOfType = (before: Schema | undefined, { name, type }: SchemaField): 'fits' | 'changes' => {
  const same = before?.filter((field) => field.name === name) ?? []
  return same.length > 0 && same.every((field) => field.type === type) ? 'fits' : 'changes'
}

/** Whether a column is of the type, or of one that is as good: whole numbers where numbers were, or no values at all. */
const readsAs = (column: Column, was: ColumnType): boolean =>
  column.type === was || (was === 'decimal' && column.type === 'integer') || !hasValue(column)

const changedTypes = (
  context: FitContext,
  { id, name, columns = [] }: RecipeInput,
  input: CheckedInput,
): CompatibilityFinding[] => {
  const before = lastColumns(context, id)
  return input.table.schema.flatMap((field): CompatibilityFinding[] => {
    const was = columns.find((one) => one.name === field.name)?.type
    const column = input.table.named(field.name)
    if (was === undefined || readsAs(column, was)) return []
    const step = brokenByType(context, id, field.name, was)
    const bad = was === 'list' ? undefined : convert(column, { type: was }).unreadable
    return [
      findingOf(
        'changed-type',
        step ? 'breaks' : gradeOfType(before, field),
        { input: id, ...onlyFile(input), column: field.name, ...(step ? { step: step.id } : {}) },
        {
          input: name,
          column: field.name,
          before: was,
          now: field.type,
          step: step && stepPlace(context.recipe, step.id),
        },
        {
          rows: bad?.length ?? input.table.rowCount,
          values: bad ? textsAt(column, bad, mostValuesShown) : [],
          offers: typeOffers(bad?.length, field, was),
        },
      ),
    ]
  })
}

const aliases = ({ id, name, columns = [] }: RecipeInput, { renamed }: CheckedInput): CompatibilityFinding[] =>
  columns.flatMap(({ name: column, also = [] }) =>
    also.flatMap((other) =>
      ownValue(renamed, other) === column
        ? [findingOf('known-name', 'fits', { input: id, column }, { input: name, column, other })]
        : [],
    ),
  )

const rowCount = (context: FitContext, { id, name }: RecipeInput, { table }: CheckedInput): CompatibilityFinding[] => {
  const files = lastFiles(context, id)
  const before = files.reduce((sum, { rows }) => sum + rows, 0)
  const now = table.rowCount
  return before > 0 && (now >= before * 3 || now * 3 <= before)
    ? [findingOf('row-count', 'fits', { input: id }, { input: name, now, before }, { rows: now })]
    : []
}

const repeatedFiles = (
  context: FitContext,
  { id, name }: RecipeInput,
  { files = [] }: CheckedInput,
): CompatibilityFinding[] => {
  const hashes = [...new Set(files.map(({ sha256 }) => sha256))]
  const before = lastFiles(context, id).map(({ sha256 }) => sha256)
  return hashes.flatMap((hash) => {
    const same = files.filter(({ sha256 }) => sha256 === hash)
    const [, second] = same
    if (!second) return []
    const known = before.filter((one) => one === hash).length >= same.length
    return [
      findingOf(
        'repeated-file',
        known ? 'fits' : 'changes',
        { input: id, file: second.name },
        { input: name, files: same.map((one) => one.name) },
        {
          rows: second.rows,
          offers: [
            { do: 'leave-out', why: `its ${counted(second.rows, 'row')} count once` },
            { do: 'accept', why: 'it is right that they count again' },
          ],
        },
      ),
    ]
  })
}

/** What an input's columns and files are otherwise than the recipe and the last run have them. */
export const columnFindings = (
  context: FitContext,
  recipeInput: RecipeInput,
  input: CheckedInput,
): CompatibilityFinding[] => [
  ...aliases(recipeInput, input),
  ...(recipeInput.columns && recipeInput.columns.length > 0
    ? [
        ...missingColumns(context, recipeInput, input),
        ...newColumns(context, recipeInput, input),
        ...changedTypes(context, recipeInput, input),
      ]
    : []),
  ...repeatedFiles(context, recipeInput, input),
  ...rowCount(context, recipeInput, input),
]
