/** Generated text. Only the tags below make it, so that nothing unescaped gets into a script. */
export class Code {
  readonly text: string
  constructor(text: string) {
    this.text = text
  }
  toString(): string {
    return this.text
  }
}
export type Part = Code | string | number | boolean | null | readonly Part[]

const tag =
  (literal: (part: Exclude<Part, Code | readonly Part[]>) => string, list: (items: readonly string[], parts: readonly Part[]) => string) =>
  (strings: TemplateStringsArray, ...parts: readonly Part[]): Code => {
    const write = (part: Part): string => {
      if (part instanceof Code) return part.text
      if (Array.isArray(part)) return list((part as readonly Part[]).map(write), part as readonly Part[])
      return literal(part as Exclude<Part, Code | readonly Part[]>)
    }
    return new Code(strings.reduce((text, string, i) => text + string + (i < parts.length ? write(parts[i] as Part) : ''), ''))
  }

/** Generated code as it stands, for keywords chosen in our own source. */
export const code = (text: string): Code => new Code(text)
export const joined = (parts: readonly Code[], between: string): Code => new Code(parts.map((part) => part.text).join(between))
export const lines = (...parts: readonly (Code | undefined)[]): Code => joined(parts.filter((part) => part !== undefined), '\n')

const sqlText = (text: string): string => {
  const quoted = `'${text.replaceAll("'", "''")}'`
  // psql would read :name inside no quotes only; inside them it is safe, and a backslash is plain under standard_conforming_strings
  return quoted
}

/** SQL: names by `id`, values as literals, lists with commas. */
export const sql = tag(
  (part) => (part === null ? 'null' : typeof part === 'string' ? sqlText(part) : String(part)),
  (items) => items.join(', '),
)
/** A word of a psql command, where a backslash begins an escape (psql manual, meta-commands). */
export const psqlWord = (text: string): Code => new Code(`'${text.replaceAll('\\', '\\\\').replaceAll("'", "''").replace(/[\r\n\u2028\u2029]+/g, ' ')}'`)
export const id = (name: string): Code => new Code(`"${name.replaceAll('"', '""')}"`)

const pythonText = (text: string): string =>
  JSON.stringify(text).replace(/[\u007f-\u00a0\u00ad\u2000-\u200f\u2028-\u202f\u205f-\u206f\u3000\ufeff\ud800-\udfff]/g, (sign) => `\\u${sign.charCodeAt(0).toString(16).padStart(4, '0')}`)

/** Astral signs as \U escapes, so that no lone surrogate is written. */
const pythonString = (text: string): string =>
  Array.from(text, (sign) => {
    const point = sign.codePointAt(0) as number
    return point > 0xffff ? (/\p{L}|\p{S}/u.test(sign) ? sign : `\\U${point.toString(16).padStart(8, '0')}`) : pythonText(sign).slice(1, -1)
  }).join('')

/** Python: strings, numbers, True, None as literals, lists in brackets where all items are values, with commas where they are code. */
export const py = tag(
  (part) =>
    part === null ? 'None' : typeof part === 'boolean' ? (part ? 'True' : 'False') : typeof part === 'string' ? `"${pythonString(part)}"` : String(part),
  (items, parts) => (parts.some((part) => part instanceof Code) ? items.join(', ') : `[${items.join(', ')}]`),
)

/** A comment line of either language: no line break can end it early. */
export const comment = (mark: '#' | '--', text: string): Code =>
  new Code(text.split(/[\r\n\u2028\u2029\u0085\v\f]+/).map((line) => `${mark} ${line}`).join('\n'))
