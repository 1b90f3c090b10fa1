import type { FileRef } from '@fabula/core/api'

/** Whether one of the files is only some rows of a larger one, so that figures are of a sample. */
export const isOfSample = (files: Readonly<Record<string, readonly FileRef[]>>): boolean =>
  Object.values(files).some((those) => those.some(({ sample }) => sample !== undefined))

/** A figure, with words that it is of a sample where it is. */
export const figureOf = (words: string, ofSample: boolean): string => (ofSample ? `${words} of a sample` : words)

/** A file by its name, and which rows of it there are where they are a sample. */
export const fileWords = ({ name, sample }: Pick<FileRef, 'name' | 'sample'>): string =>
  sample === undefined ? name : `${name}: ${sample}`
