export * from './table/column.ts'
export * from './table/table.ts'
export * from './reading/type-detection.ts'
export * from './table/gather.ts'
export * from './table/memory.ts'
export { Intake, type Intaken } from './reading/table-builder.ts'
export { CellIntake, type RawCell } from './reading/cell-table-builder.ts'
export { columnLetters, rectangleOf, type Rectangle } from './reading/sheet-range.ts'
export type { Bytes } from './reading/column-builders.ts'
export { convert, textOfCell, textReader, type ReadAs } from './reading/convert.ts'
export { plainLocale, formatDecimal, type NumberLocale } from './table/number.ts'
export { formatDate, formatDateTime, formatTime, maybeIsoDateTime, maybeIsoDate } from './table/calendar.ts'
export { wildcard, trim, lower } from './table/text.ts'
export * from './messages/words.ts'
export * from './recipe/schema.ts'
export {
  createStatement,
  databaseColumns,
  insertStatement,
  tableIn,
  typesThere,
  uniqueIndexStatement,
  whyNotInto,
  type DatabaseColumn,
} from './recipe/database-output.ts'
export {
  byFile,
  formatOfPath,
  isFile,
  outputFormats,
  scriptOutputs,
  type DatabaseOutput,
  type DatabaseType,
  type FileOutput,
  type Output,
  type OutputFormat,
} from './recipe/outputs.ts'
export * from './recipe/edit.ts'
export * from './engine/plan.ts'
export * from './engine/run.ts'
export * from './engine/step-cache.ts'
export { recipeLimits } from './recipe/consistency.ts'
export * from './table/limits.ts'
export { ownValue, setOwnValue } from './table/own.ts'
export { storedPlainText, StoredStrings } from './table/stored-text.ts'
export * from './engine/statistics.ts'
export * from './reading/csv-writer.ts'
export {
  sqlScript,
  ScriptError,
  type Script,
  type ScriptCommand,
  type ScriptPart,
  type SqlScript,
} from './dialects/sql/script.ts'
export { inputFormat } from './dialects/inputs.ts'
export { pythonScript } from './dialects/python/script.ts'
export { stepKinds, type StepKindName } from './steps/index.ts'
export type {
  Format,
  Slot,
  Sentence,
  Editor,
  StepKind,
  StepResult,
  Origin,
  Unreadable,
  OpenedInput,
} from './steps/shared/step-kind.ts'
export {
  fileColumns,
  encodings,
  formatOf,
  headerRows,
  type Read,
  type Sheets,
  type OpenType,
} from './steps/open/index.ts'
export { joinHows, joinWords, type JoinHow } from './steps/join/index.ts'
export { windowHows, type WindowHow } from './steps/window/index.ts'
export { cleanings, cleaningWords, type Cleaning } from './steps/clean-text/index.ts'
export { freeName } from './steps/shared/columns.ts'
export { cellFor } from './steps/shared/value.ts'
export { standingOut } from './replay/anomalies.ts'
export { answered } from './replay/answers.ts'
export { assignFiles, inputByColumns } from './replay/assignment.ts'
export {
  compareRecipes,
  type ComparedLine,
  type ComparedStory,
  type ComparedTable,
  type Mark,
} from './recipe/compare.ts'
export {
  fitRecipe,
  type FitFinding,
  type FitOffer,
  type FitReport,
  type FitInput,
  type FitRun,
  type Verdict,
} from './replay/compatibility.ts'
export { knownNames, readWith, storyNames, withoutKnownName, type Renames } from './recipe/column-aliases.ts'
export { parameterCells, type ParameterFault } from './recipe/parameters.ts'
export { crosstabSteps, unpivotFor } from './profile/suggest/crosstab.ts'
export { drawPicture, pictureTable } from './profile/chart/chart.ts'
export { takesFor, type Taking } from './profile/suggest/parts.ts'
export { likelyForms, withYear } from './profile/facts/date-forms.ts'
export { judges, suggestGroups, type Judge, type Suggested } from './steps/shared/similar-values.ts'
export type { Take } from './steps/extract/index.ts'
export { takeWords } from './steps/extract/index.ts'
export type { SplitBy } from './steps/split/index.ts'
export { findText } from './profile/facts/find.ts'
export { suggestKeys, type KeySuggestion } from './profile/suggest/keys.ts'
export {
  Match,
  joinShows,
  rowsUnmatched,
  typeWays,
  type JoinShow,
  type Matching,
  type Reason,
  type TypeWay,
} from './profile/compare/join-matching.ts'
export { laidColumns, laidPartners, type LaidColumn, type LaidPartner } from './profile/compare/union-alignment.ts'
export {
  lineageBetween,
  Reconciliation,
  reconcileKeys,
  reconcileShows,
  type ColumnDifference,
  type ReconcileShow,
} from './profile/compare/reconcile.ts'
export { partnersOf, type Partner } from './profile/suggest/partners.ts'
export { factsOf, valuesOf, type Facts, type Bar } from './profile/facts/facts.ts'
export type { Finding } from './profile/facts/findings.ts'
export { viewOf, type Lens, type Only, type View, type ViewRow, type ViewColumn } from './engine/diff-view.ts'
export { parseFormula, renameInFormula, writeColumn, writeParameter } from './formula/parse.ts'
export { checkFormula } from './formula/check.ts'
export { maybeTokens, type Token } from './formula/lex.ts'
export { everyFunction } from './formula/functions/index.ts'
export { conditionOps, isTest, opWords, type Condition, type Test, type ConditionOp } from './steps/shared/condition.ts'
export { hows, type How } from './table/aggregate.ts'
export type { Selector } from './steps/shared/columns.ts'
export { selectedNames } from './steps/shared/columns.ts'
export { mendsFor, type Mend } from './replay/quick-fixes.ts'
