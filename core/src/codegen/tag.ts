import type { HelperName as PythonHelperName } from './python/helpers.generated.ts'
import type { HelperName as SparkHelperName } from './spark/helpers.generated.ts'
import type { HelperName as SqlHelperName } from './sql/helpers.generated.ts'

export type { PythonHelperName, SqlHelperName }

/** A command of psql: `\\o :out`. Its words are literals or variables, never text that is read again. */
export type PsqlCommand = { readonly command: string; readonly words: readonly Code[] }
/** A variable of psql, as a quoted literal `:'name'` or as it stands `:name`. */
export type PsqlVariable = { readonly variable: string; readonly quoted: boolean }
/** A name that a helper file defines; the script that holds this must carry the file. */
export type HelperReference = { readonly helper: string }
/** A piece of generated code: text that is done, a reference to a helper, or what a script's client takes in when it runs. */
export type CodePart = string | HelperReference | PsqlCommand | PsqlVariable

const partText = (part: CodePart): string => {
  if (typeof part === 'string') return part
  if ('helper' in part) return part.helper
  if ('variable' in part) return part.quoted ? `:'${part.variable}'` : `:${part.variable}`
  return `\\${part.command}${part.words.map((word) => ` ${word.text}`).join('')}`
}

const helpersOf = (part: CodePart): readonly string[] => {
  if (typeof part === 'string' || 'variable' in part) return []
  return 'helper' in part ? [part.helper] : part.words.flatMap((word) => word.helpers)
}

/**
 * Generated code. Only the tags below make it, so that nothing unescaped gets into a script. Commands and helper references
 * are parts of their own, so that neither is looked for in text.
 */
export class Code {
  readonly parts: readonly CodePart[]
  constructor(...parts: readonly CodePart[]) {
    this.parts = parts
  }
  get text(): string {
    return this.parts.map(partText).join('')
  }
  /** Names of helpers that the code refers to, repeats included. */
  get helpers(): readonly string[] {
    return this.parts.flatMap(helpersOf)
  }
  toString(): string {
    return this.text
  }
}
/** What a tag takes between its texts: code as it is, values as literals, lists item by item. */
export type TemplatePart = Code | string | number | boolean | null | readonly TemplatePart[]

const tag =
  (
    literal: (part: Exclude<TemplatePart, Code | readonly TemplatePart[]>) => string,
    list: (items: readonly Code[], parts: readonly TemplatePart[]) => Code,
  ) =>
  (strings: TemplateStringsArray, ...parts: readonly TemplatePart[]): Code => {
    const write = (part: TemplatePart): Code => {
      if (part instanceof Code) return part
      if (Array.isArray(part))
        return list((part as readonly TemplatePart[]).map(write), part as readonly TemplatePart[])
      return new Code(literal(part as Exclude<TemplatePart, Code | readonly TemplatePart[]>))
    }
    return new Code(
      ...strings.flatMap((string, i) => [string, ...(i < parts.length ? write(parts[i] as TemplatePart).parts : [])]),
    )
  }

/** A reference to a Python helper by a name it defines. */
export const pyHelper = (helper: PythonHelperName): Code => new Code({ helper })
/** A reference to a Spark helper by a name it defines. */
export const sparkHelper = (helper: SparkHelperName): Code => new Code({ helper })
/** Helpers that are tables, which PostgreSQL finds among temporary objects by their bare name; functions it does not. */
const sqlTables: ReadonlySet<SqlHelperName> = new Set<SqlHelperName>(['sheet_files', 'sheet_lines', 'sheet_text'])
/** A reference to an SQL helper by a name it defines. */
export const sqlHelper = (helper: SqlHelperName): Code =>
  sqlTables.has(helper) ? new Code({ helper }) : new Code('pg_temp.', { helper })

/** Generated code as it stands, for keywords chosen in our own source. */
export const code = (text: string): Code => new Code(text)
/** Code with `between` between its items. */
export const joined = (items: readonly Code[], between: string): Code =>
  new Code(...items.flatMap(({ parts }, i) => (i === 0 ? parts : [between, ...parts])))
/** Code on lines of its own; absent items are left out. */
export const lines = (...parts: readonly (Code | undefined)[]): Code =>
  joined(
    parts.filter((part) => part !== undefined),
    '\n',
  )

/** psql reads no :name inside quotes, and a backslash is plain under standard_conforming_strings. */
const sqlText = (text: string): string => `'${text.replaceAll("'", "''")}'`

/** SQL: names by `id`, values as literals, lists with commas. */
export const sql = tag(
  (part) => {
    if (part === null) return 'null'
    if (typeof part === 'string') return sqlText(part)
    return String(part)
  },
  (items) => joined(items, ', '),
)
/** A quoted word of a psql command, where a backslash begins an escape (psql manual, meta-commands). A line break is written as one, so that none ends the command. */
const psqlWord = (text: string): Code =>
  new Code(`'${text.replaceAll('\\', '\\\\').replaceAll("'", "''").replaceAll('\n', '\\n').replaceAll('\r', '\\r')}'`)
/** A command of psql; words given as text are quoted. */
export const psql = (command: string, ...words: readonly (Code | string)[]): Code =>
  new Code({ command, words: words.map((word) => (typeof word === 'string' ? psqlWord(word) : word)) })
/** A variable of psql by a name of letters, digits and _. */
export const psqlVariable = (variable: string, quoted = true): Code => {
  if (!/^\w+$/.test(variable)) throw new Error(`${variable} is no name of a psql variable`)
  return new Code({ variable, quoted })
}
/** A quoted SQL identifier. */
export const id = (name: string): Code => new Code(`"${name.replaceAll('"', '""')}"`)

const pythonText = (text: string): string =>
  JSON.stringify(text).replace(
    /[\u007f-\u00a0\u00ad\u2000-\u200f\u2028-\u202f\u205f-\u206f\u3000\ufeff\ud800-\udfff]/g,
    (sign) => `\\u${sign.charCodeAt(0).toString(16).padStart(4, '0')}`,
  )

/** Astral signs as \U escapes, so that no lone surrogate is written. */
const pythonString = (text: string): string =>
  Array.from(text, (sign) => {
    const point = sign.codePointAt(0) as number
    if (point > 0xffff) {
      if (/\p{L}|\p{S}/u.test(sign)) return sign
      return `\\U${point.toString(16).padStart(8, '0')}`
    }
    return pythonText(sign).slice(1, -1)
  }).join('')

/** Python: strings, numbers, True, None as literals, lists in brackets where all items are values, with commas where they are code. */
export const py = tag(
  (part) => {
    if (part === null) return 'None'
    if (typeof part === 'boolean') return part ? 'True' : 'False'
    if (typeof part === 'string') return `"${pythonString(part)}"`
    return String(part)
  },
  (items, parts) =>
    parts.some((part) => part instanceof Code) ? joined(items, ', ') : new Code('[', ...joined(items, ', ').parts, ']'),
)

/** A comment line of either language: no line break can end it early, and no control character makes the script unreadable. */
export const comment = (mark: '#' | '--', text: string): Code =>
  new Code(
    text
      .split(/[\r\n\u2028\u2029\u0085\v\f]+/)
      .map((line) => `${mark} ${line.replace(/\p{Cc}/gu, ' ')}`)
      .join('\n'),
  )
