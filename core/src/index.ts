/** What the core offers to formats, server, page and command line. Every name is listed, so that unused exports are found. */
export { type How, hows } from './table/aggregate.ts'
export { formatDateTime, maybeIsoDate, maybeIsoDateTime } from './table/calendar.ts'
export { textOfCell } from './table/cell-text.ts'
export {
  type Cell,
  type Column,
  type ColumnType,
  columnOf,
  emptyColumn,
  holdsWords,
  scalarTypes,
  typeTogether,
} from './table/column.ts'
export { concat, gather } from './table/gather.ts'
export { TooLarge, mostColumns } from './table/limits.ts'
export { bytes, floats, ints, words32 } from './table/memory.ts'
export { formatDecimal } from './table/number.ts'
export { ownValue, setOwnValue } from './table/own.ts'
export { StoredStrings, storedPlainText } from './table/stored-text.ts'
export { type HeldBuffer, type Schema, Table } from './table/table.ts'
export { wildcard } from './table/text.ts'
export { capital, counted, figure, fileStem, listed, nearest, quoted, sentenceOf, typeWords } from './messages/words.ts'
export { CellIntake, type RawCell } from './reading/cell-table-builder.ts'
export { convert } from './reading/convert.ts'
export { csvPieces, guarded, writeCsv } from './reading/csv-writer.ts'
export { type Format, type Read, fileColumns, formatOf, headerRows } from './reading/read-options.ts'
export { type Rectangle, columnLetters, rectangleOf } from './reading/sheet-range.ts'
export { Intake, type Intaken, type OpenedInput, type Unreadable } from './reading/table-builder.ts'
export { checkFormula } from './formula/check.ts'
export { everyFunction } from './formula/functions/index.ts'
export { type Token, maybeTokens } from './formula/lex.ts'
export { writeColumn, writeParameter } from './formula/parse.ts'
export { type Cleaning, cleaningWords, cleanings } from './steps/clean-text/index.ts'
export { type Take, takeWords } from './steps/extract/index.ts'
export { type StepKindName, stepKinds } from './steps/index.ts'
export { type JoinHow, joinHows } from './steps/join/index.ts'
export { type Selector, freeName, selectedNames } from './steps/shared/columns.ts'
export { type Condition, type ConditionOp, type Test, conditionOps, isTest, opWords } from './steps/shared/condition.ts'
export { type Judge, suggestGroups } from './steps/shared/similar-values.ts'
export type { Sentence, Slot } from './steps/shared/step-kind.ts'
export type { SplitBy } from './steps/split/index.ts'
export { type WindowHow, windowHows } from './steps/window/index.ts'
export { type Renames, knownNames, readWith, storyNames, withoutKnownName } from './recipe/column-aliases.ts'
export { type ComparedLine, type ComparedTable, type Mark, compareRecipes } from './recipe/compare.ts'
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
  outputFormats,
  scriptOutputs,
} from './recipe/outputs.ts'
export { parameterCells } from './recipe/parameters.ts'
export type { Parameter, Recipe, RecipeTable, Step } from './recipe/recipe.ts'
export { parseRecipe, readRecipe, recipeJsonSchema, writeRecipe } from './recipe/schema.ts'
export { inOrder, kindOf, sentenceFor, sentenceText, tableNames, tablesNeeded } from './recipe/step-access.ts'
export { usedTables } from './recipe/used-tables.ts'
export { viewOf } from './engine/diff-view.ts'
export { type Plan, brokenSteps, needsData, planRecipe, refusals } from './engine/plan.ts'
export { type RanTable, type Source, type Sources, Stopped, runRecipe } from './engine/run.ts'
export { BufferLedger, StepCache } from './engine/step-cache.ts'
export { inputFormat } from './dialects/inputs.ts'
export { pythonScript } from './dialects/python/script.ts'
export { type ScriptCommand, ScriptError, sqlScript } from './dialects/sql/script.ts'
export { standingOut } from './replay/anomalies.ts'
export { answered } from './replay/answers.ts'
export { assignFiles, inputByColumns } from './replay/assignment.ts'
export { type FitFinding, type FitOffer, type FitRun, fitRecipe } from './replay/compatibility.ts'
export { followPictures, followRenames, renamesBetween } from './replay/follow-renames.ts'
export { mendsFor } from './replay/quick-fixes.ts'
export { drawPicture, pictureTable } from './profile/chart/chart.ts'
export { type JoinShow, Match, rowsUnmatched, typeWays } from './profile/compare/join-matching.ts'
export { type ReconcileShow, Reconciliation, lineageBetween, reconcileKeys } from './profile/compare/reconcile.ts'
export { laidColumns, laidPartners } from './profile/compare/union-alignment.ts'
export { withYear } from './profile/facts/date-forms.ts'
export { type Facts, factsOf, valuesOf } from './profile/facts/facts.ts'
export { findText } from './profile/facts/find.ts'
export { crosstabSteps, unpivotFor } from './profile/suggest/crosstab.ts'
export { suggestKeys } from './profile/suggest/keys.ts'
export { partnersOf } from './profile/suggest/partners.ts'
export { takesFor } from './profile/suggest/parts.ts'
