/** Something that the help can show: where it is, what it is called, and all of its words. */
export type HelpEntry = {
  readonly to: string
  readonly title: string
  readonly sort: 'guide' | 'verb' | 'function'
  readonly words: string
}

const wordsOf = (text: string): string[] => text.toLowerCase().split(/\s+/).filter(Boolean)

/** The entries that hold every word of a text: those with it in their title first, then in their order. */
export const foundEntries = (entries: readonly HelpEntry[], text: string): readonly HelpEntry[] => {
  const sought = wordsOf(text)
  if (sought.length === 0) return []
  const holds = (where: string): boolean => sought.every((word) => where.toLowerCase().includes(word))
  const [named, others] = [[], []] as [HelpEntry[], HelpEntry[]]
  for (const entry of entries) {
    if (holds(entry.title)) named.push(entry)
    else if (holds(`${entry.title} ${entry.words}`)) others.push(entry)
  }
  return [...named, ...others]
}
