export { allocate, mark, release } from './memory'
export { makeDictionary, dictionarySize, dictionaryBytes, dictionaryEnd, codeOf, codesOf } from './dictionary'
export { cut, next, odd, numbers, texts } from './csv'
export {
  beginCodes,
  clearEmpty,
  countCodes,
  firstOfKeys,
  firstRows,
  floatCodes,
  idsInOrder,
  idsOfRows,
  lookUp,
  marksOfRows,
  matchRows,
  meetCodes,
  metMarks,
  newCodes,
  newCodesOf,
  pairCodes,
} from './codes'
export { numberCodes, pairIds } from './hash'
export { compareFloats, chosenRows, rowsOfCodes } from './select'
export { putAbove, scaledRanks, sortRows } from './sort'
export { arithmetic, addTotals, addTwoTotals, leaveOut, outsideOf } from './arithmetic'
export { blockColumnBytes, needCare, weave, wovenBytes, writeNumbers } from './csv-output'
