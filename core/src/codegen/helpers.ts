import type { Code } from './tag.ts'
import { type Helper } from './helper.ts'

/**
 * The helpers that a script refers to and those that they need, in the order of `all`, in which each stands after its needs.
 * @throws Error for a reference that no helper defines.
 */
export const neededHelpers = (script: Code, all: readonly Helper[]): Helper[] => {
  const byName = new Map(all.map((helper) => [helper.name, helper]))
  const byDefinition = new Map(all.flatMap((helper) => helper.defines.map((name) => [name, helper] as const)))
  const needed = new Set<Helper>()
  const add = (helper: Helper | undefined, name: string): void => {
    if (!helper) throw new Error(`no helper defines ${name}`)
    if (needed.has(helper)) return
    needed.add(helper)
    for (const other of helper.needs) add(byName.get(other), other)
  }
  for (const name of script.helpers) add(byDefinition.get(name), name)
  return all.filter((helper) => needed.has(helper))
}
