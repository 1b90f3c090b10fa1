export { FileProblem } from './problem.ts'
export { openInput, type InputFile, type OpenedFiles, type OpenedFile } from './open-input.ts'
export { lookAtCsv, type RawLook, type Progress } from './csv/open-csv.ts'
export { fileFromBytes, fileFromPath } from './input-file.ts'
