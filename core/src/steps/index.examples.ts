import { selectExamples } from './select/select.examples.ts'
import { dropExamples } from './drop/drop.examples.ts'
import { renameExamples } from './rename/rename.examples.ts'
import { moveExamples } from './move/move.examples.ts'
import { castExamples } from './cast/cast.examples.ts'
import { deriveExamples } from './derive/derive.examples.ts'
import { replaceExamples } from './replace/replace.examples.ts'
import { duplicateExamples } from './duplicate/duplicate.examples.ts'
import { combineExamples } from './combine/combine.examples.ts'
import { cleanTextExamples } from './clean-text/clean-text.examples.ts'
import { fillEmptyExamples } from './fill-empty/fill-empty.examples.ts'
import { blankExamples } from './blank/blank.examples.ts'
import { numberExamples } from './number/number.examples.ts'
import { filterExamples } from './filter/filter.examples.ts'
import { sortExamples } from './sort/sort.examples.ts'
import { fillExamples } from './fill/fill.examples.ts'
import { enterExamples } from './enter/enter.examples.ts'
import { sliceExamples } from './slice/slice.examples.ts'
import { distinctExamples } from './distinct/distinct.examples.ts'
import { unpivotExamples } from './unpivot/unpivot.examples.ts'
import { summariseExamples } from './summarise/summarise.examples.ts'
import { unpivotMoreExamples } from './unpivot/unpivot-more.examples.ts'
import { pivotExamples } from './pivot/pivot.examples.ts'
import { transposeExamples } from './transpose/transpose.examples.ts'
import { summariseMoreExamples } from './summarise/summarise-more.examples.ts'
import { windowExamples } from './window/window.examples.ts'
import { unrollExamples } from './unroll/unroll.examples.ts'
import { joinExamples } from './join/join.examples.ts'
import { unionExamples } from './union/union.examples.ts'
import { startFromExamples } from './start-from/start-from.examples.ts'
import { checkExamples } from './check/check.examples.ts'
import { headerExamples } from './header/header.examples.ts'
import { unifyExamples } from './unify/unify.examples.ts'
import { casesExamples } from './cases/cases.examples.ts'
import { splitExamples } from './split/split.examples.ts'
import { extractExamples } from './extract/extract.examples.ts'

/** The examples of every kind, in the order of the files. A test holds that no kind is missing. */
export const kindExamples = [
  selectExamples,
  dropExamples,
  renameExamples,
  moveExamples,
  castExamples,
  deriveExamples,
  replaceExamples,
  duplicateExamples,
  combineExamples,
  cleanTextExamples,
  fillEmptyExamples,
  blankExamples,
  numberExamples,
  filterExamples,
  sortExamples,
  fillExamples,
  enterExamples,
  sliceExamples,
  distinctExamples,
  unpivotExamples,
  summariseExamples,
  unpivotMoreExamples,
  pivotExamples,
  transposeExamples,
  summariseMoreExamples,
  windowExamples,
  unrollExamples,
  joinExamples,
  unionExamples,
  startFromExamples,
  checkExamples,
  headerExamples,
  unifyExamples,
  casesExamples,
  splitExamples,
  extractExamples,
]
