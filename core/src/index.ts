/** What the core offers to formats, server, page and command line. Every name is listed, so that unused exports are found. */
export { type Aggregate, aggregates } from './table/aggregate.ts'
export { stableJson } from './table/stable-json.ts'
export { numberTotals } from './table/totals.ts'
export { formatDateTime, maybeIsoDate, maybeIsoDateTime } from './table/calendar.ts'
export { textOfCell } from './table/cell-text.ts'
export {
  type Cell,
  type Column,
  type ColumnType,
  columnOf,
  emptyColumn,
  isTextColumn,
  columnTypes,
  scalarTypes,
  typeTogether,
} from './table/column.ts'
export { concat, gather } from './table/gather.ts'
export { TooLarge, maxColumns } from './table/limits.ts'
export { float64s, int32s, uint32s, uint8s } from './kernels/memory.ts'
export { formatDecimal, type NumberLocale } from './table/number.ts'
export { ownValue, setOwnValue } from './table/own.ts'
export type { ByteSource } from './kernels/csv-kernel.ts'
export { LazyColumn } from './table/lazy-column.ts'
export { LazyStrings, pack, plainTextFromBytes, unpacked, type PackedStrings } from './table/stored-text.ts'
export type { HeldBuffer } from './table/held-buffers.ts'
export { type Schema, Table } from './table/table.ts'
export { wildcard } from './table/text.ts'
export {
  capital,
  counted,
  figure,
  fileStem,
  groupedNumber,
  listed,
  nearest,
  quoted,
  typeWords,
} from './messages/words.ts'
export { sentenceOf } from './steps/shared/problems.ts'
export { formulaSentence } from './formula/problems.ts'
export { CellTableBuilder, type RawCell } from './reading/cell-table-builder.ts'
export { convert } from './reading/convert.ts'
export { csvPieces, guarded, writeCsv } from './reading/csv-writer.ts'
export { type Format, type ReadOptions, fileColumns, formatInfo, formatOf } from './reading/read-options.ts'
export { type Rectangle, columnLetters, rectangleOf } from './reading/sheet-range.ts'
export { headerRows, rowLayout } from './reading/row-filter.ts'
export {
  type BuiltTable,
  keptTexts,
  type OpenedInput,
  TableBuilder,
  type UnreadableCells,
} from './reading/table-builder.ts'
export { languages, type DialectName, type Language } from './codegen/dialect.ts'
export { checkFormula } from './formula/check.ts'
export { monthNames } from './formula/functions/date.ts'
export { everyFunction } from './formula/functions/index.ts'
export { type Token, maybeTokens } from './formula/lex.ts'
export { writeColumn, writeParameter } from './formula/parse.ts'
export { type Cleaning, cleaningWords, cleanings } from './steps/clean-text/index.ts'
export { takeWords } from './steps/extract/index.ts'
export { type Take } from './steps/extract/takes.ts'
export type { DraftContext, Selection } from './steps/shared/draft.ts'
export { draftsFor, type StepKindName, stepKinds } from './steps/index.ts'
export { type JoinHow, joinHows } from './steps/join/words.ts'
export { type Replacement, replacementPairs } from './steps/replace/index.ts'
export { type Selector, freeName, selectedNames } from './steps/shared/columns.ts'
export { type Condition, type ConditionOp, type Test, conditionOps, isTest, opWords } from './steps/shared/condition.ts'
export { countAndTotals, type Measure } from './steps/shared/measures.ts'
export { type SimilarityMeasure, suggestGroups } from './steps/shared/similar-values.ts'
export type { Editor, Sentence, SentenceSlot } from './steps/shared/step-kind.ts'
export type { SplitBy } from './steps/split/index.ts'
export { type WindowHow, windowHows } from './steps/window/layout.ts'
export { type ColumnAliases, columnAliases, readWith, storyNames, withoutColumnAlias } from './recipe/column-aliases.ts'
export { type ChangeMark, type ComparedLine, type ComparedTable, compareRecipes } from './recipe/compare.ts'
export { recipeLimits } from './recipe/consistency.ts'
export {
  createStatement,
  databaseColumns,
  insertStatement,
  tableIn,
  typesThere,
  uniqueIndexStatement,
  whyNotInto,
} from './recipe/database-output.ts'
export { branchAt, nextStepId, parameterUsers, renameParameter } from './recipe/edit.ts'
export {
  type DatabaseOutput,
  type DatabaseType,
  type FileOutput,
  type Output,
  type OutputFormat,
  byFile,
  formatOfPath,
  isFile,
  outputFormatInfo,
  outputFormats,
  scriptOutputs,
  withoutEnding,
  writtenTables,
} from './recipe/outputs.ts'
export { parameterCells, parameterTexts } from './recipe/parameters.ts'
export type { NewStep, Parameter, ParamsOf, Recipe, RecipeTable, Step, StepOf } from './recipe/recipe.ts'
export { parseRecipe, readRecipe, recipeJsonSchema, writeRecipe } from './recipe/schema.ts'
export {
  inOrder,
  isKind,
  openedBy,
  openedInputs,
  parameterTypes,
  sentenceFor,
  sentenceText,
  tableNames,
  tablesNeeded,
  withRead,
} from './recipe/step-access.ts'
export { usedTables } from './recipe/used-tables.ts'
export { diffView, viewOfRows } from './engine/diff-view.ts'
export { rowsWithTexts } from './table/value-counts.ts'
export { type Plan, type PlannedStep, brokenSteps, needsData, planRecipe, refusals } from './engine/plan.ts'
export { planWithEntered } from './engine/plan-entered.ts'
export { type OpenSource, type OpenedSource, RunStopped, type StepRun, type TableRun, runRecipe } from './engine/run.ts'
export { figuresOf, unreadableCells } from './engine/statistics.ts'
export { BufferLedger, StepCache } from './engine/step-cache.ts'
export { type Dialect, dialects } from './dialects/index.ts'
export { inputFormat } from './dialects/inputs.ts'
export { pythonScript } from './dialects/python/script.ts'
export { sparkScript } from './dialects/spark/script.ts'
export { ScriptError } from './dialects/script.ts'
export { type ScriptCommand, sqlScript } from './dialects/sql/script.ts'
export { scriptVariables } from './dialects/sql/variables.ts'
export {
  type Answer,
  type AnsweredFile,
  answered,
  answerOf,
  answerTo,
  isOfFiles,
  openFindings,
  rememberedAnswers,
  withAnswer,
  withoutAnswer,
  withAnswers,
} from './replay/answers.ts'
export { assignFiles, inputsByColumns } from './replay/assignment.ts'
export {
  type Accounts,
  type FileAccount,
  type StepAccount,
  accountsOf,
  accountsSchema,
  isOutdated,
} from './replay/accounts.ts'
export { checkCompatibility } from './replay/compatibility.ts'
export { checkWords } from './replay/step-findings.ts'
export { type CheckedInput, stepPlace, withoutDigits } from './replay/fit-context.ts'
export {
  type CompatibilityFinding,
  type CompatibilityOffer,
  type CompatibilityReport,
  type FindingPlace,
  findingCodes,
  findingData,
} from './replay/finding.ts'
export { followPictures, followRenames, renamesBetween } from './replay/follow-renames.ts'
export { quickFixesFor } from './replay/quick-fixes.ts'
export { chartData, chartTable, emptyChart } from './profile/chart/chart.ts'
export { JoinMatching, type JoinShow, rowsUnmatched, typeWays } from './profile/compare/join-matching.ts'
export { type ReconcileShow, Reconciliation, lineageBetween, reconcileKeys } from './profile/compare/reconcile.ts'
export { alignedColumns, alignmentPartners } from './profile/compare/union-alignment.ts'
export { yearOf } from './reading/date-forms.ts'
export { numberLocales } from './reading/number-locales.ts'
export { type ColumnFacts, factsOf, valuesOf } from './profile/facts/facts.ts'
export { findText } from './profile/facts/find.ts'
export { unpivotFor } from './steps/unpivot/crosstab.ts'
export { suggestKeys } from './profile/suggest/keys.ts'
export { partnersOf } from './profile/suggest/partners.ts'
export { originRows, rowBack, traceBack, type BackTrace, type Origin } from './trace/back.ts'
export { conservation, type Conservation } from './trace/conservation.ts'
export { passedOver } from './trace/passed-over.ts'
export { fatesOf, type Fate, type Leaving } from './trace/forward.ts'
export { stepsOnTheWay, type StepOnTheWay } from './trace/steps-of.ts'
export { chainOf, inputOf, isOrigin, placeSteps, type PlacedStep, type TracedRun } from './trace/traced-run.ts'
export { leftWords, reasonsAt } from './trace/why.ts'
