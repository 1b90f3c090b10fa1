import { brokenSteps, planRecipe, type BrokenStep, type InputSchemas, type Plan } from '../engine/plan.ts'
import type { TableRun } from '../engine/run.ts'
import { counted, listed, nearest, quoted, typeWords } from '../messages/words.ts'
import { convert } from '../reading/convert.ts'
import type { Recipe, Step } from '../recipe/recipe.ts'
import { kindOf, openedBy, paramsOf, sentenceText, tableNames } from '../recipe/step-access.ts'
import { columnOfProblem } from '../steps/shared/problems.ts'
import type { TableNames } from '../steps/shared/step-kind.ts'
import { ownValue } from '../table/own.ts'
import type { Schema, Table } from '../table/table.ts'
import {
  type CompatibilityFinding,
  type CompatibilityOffer,
  type CompatibilityReport,
  type Verdict,
} from './finding.ts'
import { inputOf, labelFindings, valueFindings, words } from './value-findings.ts'

/** A new export as it was opened, and what is known of the last one. */
export type CheckedInput = {
  readonly table: Table
  readonly parts?: readonly { readonly file: string; readonly sheet?: string; readonly lacks: readonly string[] }[]
  readonly missingSheets?: readonly string[]
  /** Columns that came by another name, by that name. */
  readonly renamed?: Readonly<Record<string, string>>
  readonly before?: Table | undefined
  readonly partsBefore?: CheckedInput['parts'] | undefined
}

/** How many of the new column's values the old one had, 0 to 1. */
const shared = (before: Table | undefined, old: string, now: Table, next: string): number => {
  if (!before || before.positionOf(old) < 0) return 0
  const known = words(before, old)
  const found = [...words(now, next)]
  return found.length === 0 ? 0 : found.filter((word) => known.has(word)).length / found.length
}

/** Which unclaimed new columns may be the missing one, best first. */
const offersFor = (
  missing: string,
  added: readonly string[],
  { table, before }: CheckedInput,
): Extract<CompatibilityOffer, { do: 'rename' }>[] => {
  const near = nearest(missing, added)
  return added
    .map((column) => ({
      column,
      share: shared(before, missing, table, column),
      near: near.includes(column) ? near.length - near.indexOf(column) : 0,
    }))
    .filter(({ share, near: close }) => share >= 0.3 || close > 0)
    .sort((a, b) => b.share - a.share || b.near - a.near)
    .slice(0, 3)
    .map(({ column, share, near: close }) => ({
      do: 'rename' as const,
      column,
      why: [
        ...(share > 0 ? [`${Math.round(share * 100)} % of its values are those of ${quoted(missing)}`] : []),
        ...(close > 0 ? ['the names are alike'] : []),
      ].join(', and '),
    }))
}

const stepsOf = (recipe: Recipe, input: string): readonly Step[] =>
  recipe.tables.find(({ steps }) => steps.some((step) => openedBy(step)?.input === input))?.steps ?? []

/** The steps that take in a column nobody knew, and the first that leaves it out. */
const journey = (recipe: Recipe, input: string, column: string, schema: Schema): string => {
  const takers: Step[] = []
  for (const step of stepsOf(recipe, input)) {
    const kind = kindOf(step)
    if (kind.start || step.off) continue
    const takes = kind.absorbs?.(paramsOf(step), column, schema) ?? false
    if (takes) takers.push(step)
    if (takes && kind.consumes) break
    if (!takes && kind.dropsUnnamed)
      return takers.length > 0
        ? `is taken in by ${stepWords(takers, tableNames(recipe))}, and left out by ${stepWords([step], tableNames(recipe))}`
        : `is left out by ${stepWords([step], tableNames(recipe))}`
  }
  return takers.length > 0
    ? `is taken in by ${stepWords(takers, tableNames(recipe))}`
    : 'goes through the story as it is'
}
const stepWords = (steps: readonly Step[], names: TableNames): string =>
  listed(steps.map((step) => quoted(sentenceText(step, names).replace(/\.$/, ''))))

type SchemaField = Schema[number]
/** Read as it was, with what that costs; or taken as it is from now on. */
const typeOffers = (table: Table, { name, type }: SchemaField, before: SchemaField): CompatibilityOffer[] => {
  const lost = before.type === 'list' ? undefined : convert(table.named(name), { type: before.type }).unreadable.length
  return [
    ...(lost === undefined
      ? []
      : [
          {
            do: 'read-as' as const,
            column: name,
            type: before.type,
            why:
              lost === 0
                ? 'every cell can be read so'
                : `${counted(lost, 'cell')} cannot be read so and would be empty`,
          },
        ]),
    { do: 'expect', column: name, type, why: 'it is not told as changed any more' },
  ]
}

const columnFindings = (
  recipe: Recipe,
  id: string,
  name: string,
  written: Schema,
  input: CheckedInput,
): CompatibilityFinding[] => {
  const now = input.table.schema
  const added = now.filter((field) => !written.some((one) => one.name === field.name))
  const missing = written.filter((field) => !now.some((one) => one.name === field.name))
  const changed = now.flatMap((field) => {
    const before = written.find((one) => one.name === field.name)
    return before && before.type !== field.type ? [{ field, before }] : []
  })
  return [
    ...missing.map(({ name: column }): CompatibilityFinding => {
      const offers = offersFor(
        column,
        added.map((field) => field.name),
        input,
      )
      const [best] = offers
      return {
        code: 'missing-column',
        input: id,
        column,
        offers,
        sentence: `${name} has no column ${quoted(column)}.${best ? ` ${quoted(best.column)} may be it: ${best.why}.` : ''}`,
      }
    }),
    ...added.map(({ name: column, type }): CompatibilityFinding => ({
      code: 'new-column',
      input: id,
      column,
      offers: [{ do: 'expect', column, type, why: 'it is not told as new any more' }],
      sentence: `${name} has a new column ${quoted(column)}, which ${journey(recipe, id, column, now)}.`,
    })),
    ...changed.map(({ field, before }): CompatibilityFinding => ({
      code: 'changed-type',
      input: id,
      column: field.name,
      offers: typeOffers(input.table, field, before),
      sentence: `${quoted(field.name)} in ${name} was ${typeWords[before.type]} and is now ${typeWords[field.type]}.`,
    })),
  ]
}

const rowFinding = (id: string, name: string, { table, before }: CheckedInput): CompatibilityFinding[] =>
  before && before.rowCount > 0 && (table.rowCount > before.rowCount * 3 || table.rowCount * 3 < before.rowCount)
    ? [
        {
          code: 'row-count',
          input: id,
          offers: [],
          sentence: `${name} has ${table.rowCount} rows; last time there were ${before.rowCount}.`,
        },
      ]
    : []

type InputPart = NonNullable<CheckedInput['parts']>[number]
const partWords = ({ file, sheet }: InputPart): string => (sheet === undefined ? file : `the sheet ${quoted(sheet)}`)
/** The sheets that have a column, or those that lack it. */
const sheetsBy = (parts: readonly InputPart[], column: string, lack: boolean): string =>
  parts
    .flatMap(({ sheet, lacks }) => (sheet !== undefined && lacks.includes(column) === lack ? [sheet] : []))
    .join('\u0000')
/** The same sheets have it as last time, or the same lack it: nothing is new about that. */
const asBefore = (column: string, parts: readonly InputPart[], before: readonly InputPart[] | undefined): boolean =>
  before !== undefined &&
  parts.some(({ sheet }) => sheet !== undefined) &&
  [true, false].some((lack) => sheetsBy(parts, column, lack) === sheetsBy(before, column, lack))

/** What some files or sheets lack: a sentence for each that lacks, or one where few have it. What was so last time is not told again. */
const lackFindings = (id: string, name: string, { parts = [], partsBefore }: CheckedInput): CompatibilityFinding[] => {
  const columns = [...new Set(parts.flatMap(({ lacks }) => lacks))].filter(
    (column) => !asBefore(column, parts, partsBefore),
  )
  const rare = columns.filter((column) => parts.filter(({ lacks }) => lacks.includes(column)).length * 2 > parts.length)
  const only = rare.map((column): CompatibilityFinding => ({
    code: 'lacking-file',
    input: id,
    column,
    offers: [],
    sentence: `In ${name} only ${listed(parts.filter(({ lacks }) => !lacks.includes(column)).map(partWords))} ${parts.filter(({ lacks }) => !lacks.includes(column)).length === 1 ? 'has' : 'have'} ${quoted(column)}; elsewhere these cells are empty.`,
  }))
  const each = parts.flatMap((part): CompatibilityFinding[] => {
    const lost = part.lacks.filter((column) => columns.includes(column) && !rare.includes(column))
    if (lost.length === 0) return []
    return [
      {
        code: 'lacking-file',
        input: id,
        file: part.file,
        ...(part.sheet === undefined ? {} : { sheet: part.sheet }),
        offers: [],
        sentence: `${part.sheet === undefined ? part.file : `The sheet ${quoted(part.sheet)}`} lacks ${listed(lost.map(quoted))}; these cells are empty.`,
      },
    ]
  })
  return [...only, ...each]
}

/** What a run on the new data told: needed where only data can tell (see `needsData`). */
export type TrialRun = { readonly plan: Plan; readonly tables: readonly TableRun[] }

/** New exports held against what the story was built on and against every step. Nothing is guessed silently. */
export const checkCompatibility = (
  recipe: Recipe,
  inputs: Readonly<Record<string, CheckedInput>>,
  ran?: TrialRun,
): CompatibilityReport => {
  const schemas: InputSchemas = Object.fromEntries(Object.entries(inputs).map(([id, { table }]) => [id, table.schema]))
  const findings = recipe.inputs.flatMap(({ id, name, columns }): CompatibilityFinding[] => {
    const input = ownValue(inputs, id)
    if (!input) return []
    const lacking = lackFindings(id, name, input)
    const added = newSheetFindings(input, id, name)
    const sheets = missingSheetFindings(input, id, name)
    const known = aliasFindings(columns, input, id, name)
    const files = new Set((input.parts ?? []).map(({ file }) => file))
    const [file] = files
    const found = [
      ...known,
      ...(columns && columns.length > 0 ? columnFindings(recipe, id, name, columns, input) : []),
      ...added,
      ...lacking,
      ...sheets,
      ...rowFinding(id, name, input),
    ]
    return files.size === 1 && file !== undefined ? found.map((finding) => ({ ...finding, file })) : found
  })
  const broken = brokenSteps(ran?.plan ?? planRecipe(recipe, schemas))
  const reported = withCauses(findings, broken, recipe)
  const rest = broken
    .filter(({ step }) => !reported.some((finding) => finding.step === step.id))
    .map(({ table, step, sentence }): CompatibilityFinding => ({
      code: 'broken-step',
      input: inputOf(recipe, table),
      step: step.id,
      offers: [],
      sentence,
    }))
  const all = [
    ...reported,
    ...rest,
    ...valueFindings(recipe, ran?.tables ?? []),
    ...labelFindings(recipe, ran?.tables ?? []),
  ]
  const chooseVerdict = () => {
    if (broken.length > 0) return 'does-not-fit'
    if (all.some(({ code }) => code === 'missing-column' || code === 'changed-type' || code === 'missing-sheet'))
      return 'fits-with-changes'
    return 'fits'
  }
  const verdict: Verdict = chooseVerdict()
  return { verdict, findings: all }
}

function newSheetFindings(input: CheckedInput, id: string, name: string) {
  return (input.parts ?? []).flatMap(({ file, sheet }): CompatibilityFinding[] =>
    sheet !== undefined && input.partsBefore && !input.partsBefore.some((part) => part.sheet === sheet)
      ? [
          {
            code: 'new-sheet',
            input: id,
            file,
            sheet,
            offers: [],
            sentence: `${name} has a new sheet ${quoted(sheet)}, which is taken in.`,
          },
        ]
      : [],
  )
}

function missingSheetFindings(input: CheckedInput, id: string, name: string) {
  return (input.missingSheets ?? []).map((sheet): CompatibilityFinding => ({
    code: 'missing-sheet',
    input: id,
    sheet,
    offers: [],
    sentence: `${name} has no sheet ${quoted(sheet)}.`,
  }))
}

function aliasFindings(columns: Recipe['inputs'][number]['columns'], input: CheckedInput, id: string, name: string) {
  return (columns ?? []).flatMap(({ name: column, also = [] }) =>
    also.flatMap((other): CompatibilityFinding[] =>
      ownValue(input.renamed, other) === column
        ? [
            {
              code: 'known-name',
              input: id,
              column,
              offers: [],
              sentence: `${quoted(other)} in ${name} is read as ${quoted(column)}, as the recipe says.`,
            },
          ]
        : [],
    ),
  )
}

function withCauses(findings: CompatibilityFinding[], broken: BrokenStep[], recipe: Recipe) {
  return findings.map((finding) => {
    const cause = broken.find(
      ({ problem }) => finding.code === 'missing-column' && finding.column === columnOfProblem(problem),
    )
    if (!cause && finding.code === 'missing-column' && finding.column !== undefined)
      return {
        ...finding,
        offers: [...finding.offers, { do: 'do-without' as const, column: finding.column, why: 'no sentence needs it' }],
      }
    return cause
      ? {
          ...finding,
          step: cause.step.id,
          sentence: `${finding.sentence} Step ${cause.step.id} (${sentenceText(cause.step, tableNames(recipe)).replace(/\.$/, '')}) needs it.`,
        }
      : finding
  })
}
