import { capital, counted, quoted } from '../messages/words.ts'
import type { Recipe } from '../recipe/recipe.ts'
import { tableNames, kindOf, paramsOf, openedBy } from '../recipe/step-access.ts'
import { ownValue } from '../table/own.ts'
import { sliceRows } from '../table/gather.ts'
import type { Schema, Table } from '../table/table.ts'
import { enoughLikeness, likeness } from './assignment.ts'
import type { CompatibilityFinding, CompatibilityOffer } from './finding.ts'
import { findingOf } from './finding-sentences.ts'
import {
  lastFiles,
  lastSheets,
  neededBy,
  stepPlace,
  type CheckedInput,
  type CheckedPart,
  type FitContext,
} from './fit-context.ts'
import { renameOffers } from './rename-candidates.ts'

type RecipeInput = Recipe['inputs'][number]

const partWords = ({ file, sheet }: { readonly file: string; readonly sheet?: string }): string =>
  sheet === undefined ? file : `the sheet ${quoted(sheet)} of ${file}`
const placeOf = ({ file, sheet }: CheckedPart) => ({ file, ...(sheet === undefined ? {} : { sheet }) })

/** The rows of each part, which stand one behind the other in the table of the input. */
const rowsOfParts = (table: Table, parts: readonly CheckedPart[]): readonly Table[] => {
  let from = 0
  return parts.map(({ rows }) => {
    const own = table.rows(sliceRows(rows, from))
    from += rows
    return own
  })
}

/** The columns that a part had last time, or all parts where it is new, or that the recipe expects of it. */
const expectedOf = (context: FitContext, { id, columns }: RecipeInput, part: CheckedPart): readonly string[] => {
  const taken = lastFiles(context, id).flatMap(({ sheets = [] }) => sheets.filter((sheet) => sheet.taken !== false))
  const alike = lastSheets(context, id, part.file).filter((sheet) => sheet.taken !== false && sheet.name === part.sheet)
  // a new file or sheet is held against all that there were
  const [first, ...others] = alike.length > 0 ? alike : taken
  // what one of them lacked then is nothing new
  if (first)
    return first.columns
      .map(({ name }) => name)
      .filter((name) => others.every(({ columns: all }) => all.some((field) => field.name === name)))
  return columns ? columns.map(({ name }) => name) : part.lacks
}

/** What one of several files or sheets lacks that it had not lacked before. */
const lackingFiles = (context: FitContext, recipeInput: RecipeInput, input: CheckedInput): CompatibilityFinding[] => {
  const { parts = [], table } = input
  if (parts.length < 2) return []
  const tables = parts.some(({ lacks }) => lacks.length > 0) ? rowsOfParts(table, parts) : []
  return parts.flatMap((part, p) => {
    const expected = expectedOf(context, recipeInput, part)
    const known = [...expected, ...(recipeInput.columns ?? []).map(({ name }) => name)]
    const added = part.schema.filter(({ name }) => !known.includes(name))
    return part.lacks
      .filter((column) => expected.includes(column))
      .map((column): CompatibilityFinding => {
        const step = neededBy(context, recipeInput.id, column)
        const elsewhere = parts.flatMap((other, o) =>
          o === p || other.lacks.includes(column) ? [] : [tables[o]?.named(column)],
        )
        const candidates = added.flatMap((field) => {
          const values = tables[p]?.named(field.name)
          return values ? [{ ...field, column: values }] : []
        })
        const { offers, likely } = renameOffers(
          { name: column, type: table.schema.find(({ name }) => name === column)?.type },
          candidates,
          elsewhere,
        )
        const asks = context.last !== undefined && (step !== undefined || likely)
        return findingOf(
          'lacking-file',
          asks ? 'changes' : 'fits',
          { input: recipeInput.id, ...placeOf(part), column, ...(step ? { step: step.id } : {}) },
          {
            part: partWords(part),
            column,
            rows: part.rows,
            step: step && stepPlace(context.recipe, step.id),
            best: offers[0],
          },
          {
            rows: part.rows,
            offers: [
              ...offers,
              { do: 'leave-empty', why: `${counted(part.rows, 'cell')} of ${quoted(column)} would be empty` },
              { do: 'leave-out', why: `its ${counted(part.rows, 'row')} are not read` },
            ],
          },
        )
      })
  })
}

const newSheets = (context: FitContext, { id }: RecipeInput, { parts = [] }: CheckedInput): CompatibilityFinding[] =>
  parts.flatMap((part) => {
    const { sheet, file, hidden = false } = part
    const before = lastSheets(context, id, file)
    if (sheet === undefined || before.length === 0) return []
    if (before.some(({ name, taken }) => name === sheet && taken !== false)) return []
    return [
      findingOf(
        'new-sheet',
        hidden ? 'changes' : 'fits',
        { input: id, file, sheet },
        { file, sheet, hidden },
        {
          rows: part.rows,
          offers: [
            ...(hidden ? [{ do: 'accept' as const, why: 'its rows belong here' }] : []),
            { do: 'leave-out', why: `its ${counted(part.rows, 'row')} are not read` },
          ],
        },
      ),
    ]
  })

const missingSheets = (
  context: FitContext,
  { id, name }: RecipeInput,
  { missingSheets: missing = [] }: CheckedInput,
): CompatibilityFinding[] => {
  const before = lastFiles(context, id).flatMap(({ sheets = [] }) => sheets)
  return missing.map((sheet) => {
    const lackedBefore = before.length > 0 && !before.some((one) => one.name === sheet)
    return findingOf(
      'missing-sheet',
      lackedBefore ? 'fits' : 'changes',
      { input: id, sheet },
      { input: name, sheet },
      {
        offers: [{ do: 'leave-out', why: 'it is not there, and nothing is read of it' }],
      },
    )
  })
}

const namesOf = (schema: Schema): readonly string[] => schema.map(({ name }) => name)

/** How an input takes one sheet more: by its name beside those it has. */
const takeInOffer = (context: FitContext, input: string, sheet: string): CompatibilityOffer[] => {
  for (const { steps } of context.recipe.tables)
    for (const step of steps) {
      const opened = openedBy(step)
      if (opened?.input !== input) continue
      const { sheets } = opened.read
      const taken = () => {
        if (Array.isArray(sheets)) return sheets as readonly string[]
        return (ownValue(context.inputs, input)?.parts ?? []).flatMap((part) => part.sheet ?? [])
      }
      const union = sheetUnion(context.recipe, step.id)
      // its rows would bear the name of the table of another sheet
      if (union?.namesTables && opened.read.origin?.sheet === undefined) return []
      return [
        {
          do: 'take-in',
          input,
          step: step.id,
          params: { read: { ...opened.read, sheets: [...new Set([...taken(), sheet])] } },
          why: union === undefined ? 'its rows are added to the others' : `it is read like the others of ${union.name}`,
        },
      ]
    }
  return []
}

/** The table that lays the table of a start beside others, where it reads one sheet only. */
const sheetUnion = (
  recipe: Recipe,
  start: string,
): { readonly name: string; readonly namesTables: boolean } | undefined => {
  const own = recipe.tables.find(({ steps }) => steps.some(({ id }) => id === start))
  for (const table of recipe.tables)
    for (const step of table.steps) {
      const params = paramsOf(step)
      if (own && kindOf(step).uses?.(params).includes(own.id))
        return {
          name: tableNames(recipe)(table.id),
          namesTables: (params as { readonly origin?: unknown }).origin !== undefined,
        }
    }
  return undefined
}

/** Sheets that no input takes though they have the columns of one that does. */
export const unclaimedSheets = (context: FitContext): CompatibilityFinding[] => {
  const opened = context.recipe.inputs.flatMap((one) => {
    const input = ownValue(context.inputs, one.id)
    return input ? [{ ...one, input }] : []
  })
  const hashOf = (input: CheckedInput, file: string): string =>
    input.files?.find(({ name }) => name === file)?.sha256 ?? file
  const taken = new Set(
    opened.flatMap(({ input }) =>
      (input.parts ?? []).map(({ file, sheet }) => `${hashOf(input, file)}\u0000${sheet ?? ''}`),
    ),
  )
  const found = new Set<string>()
  return opened.flatMap(({ id, input }) =>
    (input.otherSheets ?? []).flatMap((sheet): CompatibilityFinding[] => {
      const key = `${hashOf(input, sheet.file)}\u0000${sheet.sheet}`
      if (taken.has(key) || found.has(key)) return []
      const taker = (input.parts ?? []).find(
        (part) => part.file === sheet.file && likeness(namesOf(part.schema), [namesOf(sheet.schema)]) >= enoughLikeness,
      )
      if (!taker) return []
      found.add(key)
      const before = lastSheets(context, id, sheet.file)
      const knownBefore = before.some(({ name }) => name === sheet.sheet)
      return [
        findingOf(
          'unclaimed-sheet',
          context.last && before.length > 0 && !knownBefore ? 'changes' : 'fits',
          { input: id, file: sheet.file, sheet: sheet.sheet },
          { file: sheet.file, sheet: sheet.sheet, like: taker.sheet === undefined ? taker.file : quoted(taker.sheet) },
          {
            rows: sheet.rows,
            offers: [...takeInOffer(context, id, sheet.sheet), { do: 'leave-out', why: 'it is not read, as before' }],
          },
        ),
      ]
    }),
  )
}

/** Files that lack what their input needs and have the columns of another input. */
const misplacedFiles = (context: FitContext, recipeInput: RecipeInput, input: CheckedInput): CompatibilityFinding[] => {
  const expected = recipeInput.columns?.map(({ name }) => name) ?? []
  if (expected.length === 0) return []
  return (input.parts ?? []).flatMap((part) => {
    const names = namesOf(part.schema)
    const own = likeness(expected, [names])
    if (own >= enoughLikeness) return []
    const other = context.recipe.inputs.find(
      (one) =>
        one.id !== recipeInput.id && likeness(one.columns?.map(({ name }) => name) ?? [], [names]) >= enoughLikeness,
    )
    const needs = expected.some((column) => !names.includes(column) && neededBy(context, recipeInput.id, column))
    if (!other || !needs) return []
    return [
      findingOf(
        'unclaimed-file',
        'changes',
        { input: recipeInput.id, ...placeOf(part) },
        { file: capital(partWords(part)), input: recipeInput.name, other: other.name },
        {
          rows: part.rows,
          offers: [
            { do: 'take-in', input: other.id, why: `it is read as ${other.name}` },
            { do: 'leave-out', why: `its ${counted(part.rows, 'row')} are not read` },
          ],
        },
      ),
    ]
  })
}

const keptFiles = ({ id, name }: RecipeInput, input: CheckedInput): CompatibilityFinding[] => {
  const { files = [] } = input
  const isKept = ({ sha256 }: { readonly sha256: string }): boolean => input.kept?.includes(sha256) === true
  const kept = files.filter(isKept).map((file) => file.name)
  const given = files.filter((file) => !isKept(file)).map((file) => file.name)
  if (kept.length === 0 || given.length === 0) return []
  const rows = files.filter(isKept).reduce((sum, file) => sum + file.rows, 0)
  return [
    findingOf(
      'kept-file',
      'changes',
      { input: id },
      { input: name, kept, given },
      {
        rows,
        values: kept,
        offers: [
          { do: 'accept', why: 'both belong to this run' },
          { do: 'leave-out', why: `${counted(rows, 'row')} kept from before are not read` },
        ],
      },
    ),
  ]
}

/** What files and sheets of an input lack, add or repeat beside those of the last run. */
export const partFindings = (
  context: FitContext,
  recipeInput: RecipeInput,
  input: CheckedInput,
): CompatibilityFinding[] => [
  ...misplacedFiles(context, recipeInput, input),
  ...lackingFiles(context, recipeInput, input),
  ...newSheets(context, recipeInput, input),
  ...missingSheets(context, recipeInput, input),
  ...keptFiles(recipeInput, input),
]
