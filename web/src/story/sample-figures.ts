import type { FileRef } from '@fabula/core/api'

/** Whether one of the files is only some rows of a larger one, so that figures are of a sample. */
export const hasSample = (files: readonly Pick<FileRef, 'sample'>[]): boolean =>
  files.some(({ sample }) => sample !== undefined)
/** The same of the files of all inputs. */
export const isOfSample = (files: Readonly<Record<string, readonly FileRef[]>>): boolean =>
  hasSample(Object.values(files).flat())

/** A figure, with words that it is of a sample where it is. */
export const figureOf = (words: string, ofSample: boolean): string => (ofSample ? `${words} of a sample` : words)

/** A file by its name, and which rows of it there are where they are a sample. */
export const fileWords = ({ name, sample }: Pick<FileRef, 'name' | 'sample'>): string =>
  sample === undefined ? name : `${name}: ${sample}`
