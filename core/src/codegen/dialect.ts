import type { Format } from '../reading/read-options.ts'
import type { Code } from './tag.ts'

/** The languages that steps and functions are written in. */
export const languages = ['python', 'sql'] as const
/** One of the languages. */
export type Language = (typeof languages)[number]

/** What a story can be written for. Each has a folder under `dialects/` and one in `codegen/` for its helpers; Spark runs the Python of steps over parts of a table. */
export const dialectNames = [...languages, 'spark'] as const
/** One of the dialects. */
export type DialectName = (typeof dialectNames)[number]

/** The code of one step: alone, or with code that must stand after the step's own block (a check that stops the script). */
export type StepCode = Code | { readonly body: Code; readonly after: Code }

/** A piece of a script; `step` names the step it carries out, for showing story and script side by side. */
export type ScriptPart = { readonly step?: string; readonly text: string }
/** What else a script is to do. */
export type ScriptOptions = {
  /** It can write which rows of the inputs each row of the result was made of. */
  readonly trace?: boolean
}
/** A script whole and in its parts. */
export type Script = { readonly parts: readonly ScriptPart[]; readonly text: string }

/** What is known of a dialect without making a script: for the page, the routes and the command line. */
export type DialectInfo = {
  readonly name: DialectName
  /** As a reader calls it. */
  readonly label: string
  /** With the dot. */
  readonly fileEnding: string
  /** RFC 6838. */
  readonly mediaType: string
  /** Formats that scripts cannot read themselves: such inputs are given as CSV made by `fabula csv`. */
  readonly cannotRead: readonly Format[]
}
