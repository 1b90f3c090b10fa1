/** A helper that a script may need, by the source that defines it. */
export type Block = { readonly source: string }

/** Identifiers in a text; strings and comments count too, which at worst brings a helper too many. */
const namesIn = (text: string): Set<string> => new Set(text.match(/[A-Za-z_][A-Za-z0-9_]*/g))

/** What a helper defines: functions, classes, constants, tables. */
const definedBy = ({ source }: Block): string[] =>
  [
    ...source.matchAll(
      /^(?:def |class |create (?:function|table|aggregate|procedure) |.*create collation )?([A-Za-z_]\w*)(?=[ (:]| =)/gm,
    ),
  ].map((match) => match[1] as string)

const defined = new WeakMap<Block, readonly string[]>()
const names = (block: Block): readonly string[] => {
  let known = defined.get(block)
  if (!known) defined.set(block, (known = definedBy(block)))
  return known
}

/** The helpers that a script uses, and those that they use, in the order of the list. */
export const neededBlocks = (script: string, blocks: readonly Block[]): Block[] => {
  const needed = new Set<Block>()
  const visit = (text: string): void => {
    const used = namesIn(text)
    for (const block of blocks)
      if (!needed.has(block) && names(block).some((name) => used.has(name))) {
        needed.add(block)
        visit(block.source)
      }
  }
  visit(script)
  return blocks.filter((block) => needed.has(block))
}
