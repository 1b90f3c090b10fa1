import { inOrder, openedBy, paramsOf } from '../recipe/step-access.ts'
import { usedTables } from '../recipe/used-tables.ts'
import type { Recipe } from '../recipe/recipe.ts'
import { stableJson } from '../table/stable-json.ts'

/** FNV-1a, 32 bits, from a given start. Source: draft-eastlake-fnv-21. */
const fnv1a = (text: string, start: number): number => {
  let hash = start
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193)
  return hash >>> 0
}

const textHash = (text: string): string =>
  [0x811c9dc5, 0x9747b28c].map((start) => fnv1a(text, start).toString(16).padStart(8, '0')).join('')

/**
 * For each step that is not switched off a hash of it and of all it depends on in the recipe: the steps before it and the
 * tables it uses. Notes, names, values of parameters and the columns that an input had are not in it. By the steps' ids.
 */
export const stepKeys = (recipe: Recipe): ReadonlyMap<string, string> => {
  const keys = new Map<string, string>()
  const ofTable = new Map<string, string>()
  for (const table of inOrder(recipe)) {
    let above = ''
    for (const step of table.steps) {
      if (step.off) continue
      const others = usedTables(step).map((id) => ofTable.get(id) ?? id)
      above = textHash(stableJson([step.kind, paramsOf(step), openedBy(step)?.input ?? '', above, others]))
      keys.set(step.id, above)
    }
    ofTable.set(table.id, above)
  }
  return keys
}
