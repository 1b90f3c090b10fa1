export { allocate, mark, release } from './memory'
export { makeDictionary, dictionarySize, dictionaryBytes, dictionaryEnd, codeOf, codesOf } from './dictionary'
export { cut, next, odd, numbers, texts } from './csv'
