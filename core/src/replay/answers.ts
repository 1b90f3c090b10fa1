import { openedBy, withRead } from '../recipe/step-access.ts'
import type { CompatibilityOffer } from './finding.ts'
import { withColumnAlias } from '../recipe/column-aliases.ts'
import type { Input, Recipe } from '../recipe/recipe.ts'

/** The recipe with an answer to a finding kept for good. */
export const answered = (
  recipe: Recipe,
  {
    input,
    step,
    column,
  }: { readonly input: string; readonly step?: string | undefined; readonly column?: string | undefined },
  offer: CompatibilityOffer,
): Recipe => {
  const inputs = (change: (one: Input) => Input): Recipe => ({
    ...recipe,
    inputs: recipe.inputs.map((one) => (one.id === input ? change(one) : one)),
  })
  switch (offer.do) {
    case 'rename':
      return inputs((one) => withColumnAlias(one, column ?? '', offer.column))
    case 'expect':
      return inputs(({ columns = [], ...one }) => ({
        ...one,
        columns: columns.some(({ name }) => name === offer.column)
          ? columns.map((field) => (field.name === offer.column ? { ...field, type: offer.type } : field))
          : [...columns, { name: offer.column, type: offer.type }],
      }))
    case 'read-as':
      return {
        ...recipe,
        tables: recipe.tables.map((table) => ({
          ...table,
          steps: table.steps.map((one) => {
            const opened = openedBy(one)
            if (opened?.input !== input) return one
            const { types, ...read } = opened.read
            if (types === 'text') return one
            return withRead(one, {
              ...read,
              types: { ...(typeof types === 'object' ? types : {}), [offer.column]: { type: offer.type } },
            })
          }),
        })),
      }
    case 'do-without':
      return inputs((one) => ({ ...one, columns: (one.columns ?? []).filter(({ name }) => name !== offer.column) }))
    case 'change-step':
      return {
        ...recipe,
        tables: recipe.tables.map((table) => ({
          ...table,
          steps: table.steps.map((one) => (one.id === step ? { ...one, ...offer.params } : one)),
        })),
      }
  }
}
