import type { scalarTypes } from '../../table/column.ts'

/**
 * One example of a step: what goes in, what the step is told, what comes out. Tables are CSV; a header
 * `Fee:decimal` gives the type of an input column (text where none is said). It is run by the engine, by the
 * SQL script and by the Python script, and each must give `gives` to the letter.
 */
export type StepExample = {
  readonly name: string
  readonly input: string
  readonly step: Readonly<Record<string, unknown>>
  readonly gives: string
  /** Figures that the statistics must show. */
  readonly statistics?: Readonly<Record<string, unknown>>
  readonly parameters?: readonly {
    readonly name: string
    readonly type: (typeof scalarTypes)[number]
    readonly value?: string | number | boolean | null
  }[]
  /** Other tables by id, typed as the input is. */
  readonly others?: Readonly<Record<string, string>>
}

/** A step that planning must refuse. */
export type BrokenExample = {
  readonly name: string
  readonly input: string
  readonly others?: Readonly<Record<string, string>>
  readonly step: Readonly<Record<string, unknown>>
  /** A part of the sentence. */ readonly says: string
}

/** The examples of a kind. */
export type KindExamples = {
  readonly kind: string
  readonly examples: readonly StepExample[]
  readonly broken?: readonly BrokenExample[]
}

/** A table as lines of text, cut of their common indentation. */
export const table = (strings: TemplateStringsArray): string => {
  const lines = (strings.raw[0] ?? '')
    .replaceAll('\\n', '\n')
    .split('\n')
    .map((line) => line.replace(/^ +/, ''))
  return `${lines.slice(lines[0] === '' ? 1 : 0, lines.at(-1) === '' ? -1 : undefined).join('\n')}\n`
}
