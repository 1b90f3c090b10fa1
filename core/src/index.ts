export * from './table/column.ts'
export * from './table/table.ts'
export * from './table/detect.ts'
export * from './table/gather.ts'
export * from './table/memory.ts'
export { Intake, type Intaken } from './recipe/intake.ts'
export { CellIntake, type RawCell } from './recipe/cell-intake.ts'
export { columnLetters, rectangleOf, type Rectangle } from './steps/open-range.ts'
export type { Bytes } from './recipe/builders.ts'
export { convert, textOfCell, textReader, type ReadAs } from './table/reading.ts'
export { plainLocale, formatDecimal, type NumberLocale } from './table/number.ts'
export { formatDate, formatDateTime, formatTime, maybeIsoDateTime, maybeIsoDate } from './table/calendar.ts'
export { wildcard, trim, lower } from './table/text.ts'
export * from './words.ts'
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
export * from './recipe/plan.ts'
export * from './recipe/engine.ts'
export * from './recipe/step-cache.ts'
export { recipeLimits } from './recipe/consistency.ts'
export * from './table/limits.ts'
export { ownValue, setOwnValue } from './table/own.ts'
export { storedPlainText, StoredStrings } from './table/stored-text.ts'
export * from './recipe/account.ts'
export * from './recipe/write-csv.ts'
export {
  sqlScript,
  ScriptError,
  type Script,
  type ScriptCommand,
  type ScriptPart,
  type SqlScript,
} from './recipe/script-sql.ts'
export { inputFormat } from './recipe/script-inputs.ts'
export { pythonScript } from './recipe/script-python.ts'
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
} from './steps/step-kind.ts'
export { fileColumns, encodings, formatOf, headerRows, type Read, type Sheets, type OpenType } from './steps/open.ts'
export { joinHows, joinWords, type JoinHow } from './steps/join.ts'
export { windowHows, type WindowHow } from './steps/window.ts'
export { cleanings, cleaningWords, type Cleaning } from './steps/clean-text.ts'
export { freeName } from './steps/check-columns.ts'
export { cellFor } from './steps/value.ts'
export { standingOut } from './recipe/standing-out.ts'
export { answered } from './recipe/answers.ts'
export { assignFiles, inputByColumns } from './recipe/assign.ts'
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
} from './recipe/fit.ts'
export { knownNames, readWith, storyNames, withoutKnownName, type Renames } from './recipe/known-names.ts'
export { parameterCells, type ParameterFault } from './recipe/parameters.ts'
export { crosstabSteps, unpivotFor } from './profile/crosstab.ts'
export { drawPicture, pictureTable } from './profile/picture.ts'
export { takesFor, type Taking } from './profile/parts.ts'
export { likelyForms, withYear } from './profile/date-forms.ts'
export { judges, suggestGroups, type Judge, type Suggested } from './table/lookalikes.ts'
export type { Take } from './steps/extract.ts'
export { takeWords } from './steps/extract.ts'
export type { SplitBy } from './steps/split.ts'
export { findText } from './profile/find.ts'
export { suggestKeys, type KeySuggestion } from './profile/keys.ts'
export {
  Match,
  joinShows,
  rowsUnmatched,
  typeWays,
  type JoinShow,
  type Matching,
  type Reason,
  type TypeWay,
} from './profile/matching.ts'
export { laidColumns, laidPartners, type LaidColumn, type LaidPartner } from './profile/laying.ts'
export {
  lineageBetween,
  Reconciliation,
  reconcileKeys,
  reconcileShows,
  type ColumnDifference,
  type ReconcileShow,
} from './profile/reconcile.ts'
export { partnersOf, type Partner } from './profile/partners.ts'
export { factsOf, valuesOf, type Facts, type Bar } from './profile/facts.ts'
export type { Finding } from './profile/findings.ts'
export { viewOf, type Lens, type Only, type View, type ViewRow, type ViewColumn } from './recipe/changes.ts'
export { parseFormula, renameInFormula, writeColumn, writeParameter } from './formula/parse.ts'
export { checkFormula } from './formula/check.ts'
export { maybeTokens, type Token } from './formula/lex.ts'
export { everyFunction } from './formula/functions/index.ts'
export { conditionOps, isTest, opWords, type Condition, type Test, type ConditionOp } from './steps/condition.ts'
export { hows, type How } from './table/aggregate.ts'
export type { Selector } from './steps/check-columns.ts'
export { selectedNames } from './steps/check-columns.ts'
export { mendsFor, type Mend } from './recipe/mend.ts'
