/** A part of a replacement: a group of the match, 0 for all of it, or a text. */
type ReplacementPart = { readonly group: number } | { readonly text: string }

/** The parts of a replacement: $1 stands for a group, $0 for the whole match, $$ for a dollar sign. */
export const replacementParts = (put: string): readonly ReplacementPart[] =>
  put
    .split(/(\$\$|\$[0-9])/)
    .filter((part) => part !== '')
    .map((part) => {
      if (part === '$$') return { text: '$' }
      return /^\$[0-9]$/.test(part) ? { group: Number(part.slice(1)) } : { text: part }
    })

/** A replacement in another language, which writes groups so and in which a backslash is doubled. */
export const writtenReplacement = (put: string, group: (n: number) => string): string =>
  replacementParts(put)
    .map((part) => ('text' in part ? part.text.replaceAll('\\', '\\\\') : group(part.group)))
    .join('')
