import { ownValue } from '../table/own.ts'
import type { ReadOptions } from '../reading/read-options.ts'
import type { Input } from './recipe.ts'

/** A column's name in a file to the name the story knows. */
export type ColumnAliases = Readonly<Record<string, string>>

/** The names by which an input's columns may come: those the recipe keeps (`also`), and the answers given for one replay. */
export const columnAliases = (input: Input | undefined, answers: ColumnAliases = {}): ColumnAliases => ({
  ...Object.fromEntries((input?.columns ?? []).flatMap(({ name, also = [] }) => also.map((other) => [other, name]))),
  ...answers,
})

/** The names of one file or sheet as the story knows them; one that is there under its own name is not taken twice. */
export const storyNames = (names: readonly string[], known: ColumnAliases): string[] => {
  const taken = new Set(names)
  return names.map((name) => {
    const to = Object.hasOwn(known, name) ? (ownValue(known, name) as string) : name
    if (to === name || taken.has(to)) return name
    taken.add(to)
    return to
  })
}

/** How a file is read whose columns may come by other names: their types go along. */
export const readWith = (read: ReadOptions, known: ColumnAliases): ReadOptions => {
  const { types } = read
  if (typeof types !== 'object' || Object.keys(known).length === 0) return read
  const typesOfKnown = Object.entries(known).flatMap(([from, to]) => {
    const type = ownValue(types, to)
    return type ? [[from, type] as const] : []
  })
  return { ...read, types: { ...Object.fromEntries(typesOfKnown), ...types } }
}

/** An input that keeps an answer for good: the column may come by this name from now on; without one, by no other name. */
export const withColumnAlias = (input: Input, column: string, name: string): Input => ({
  ...input,
  columns: (input.columns ?? []).map((field) =>
    field.name === column ? { ...field, also: [...new Set([...(field.also ?? []), name])] } : field,
  ),
})
/** An input without another name of one of its columns. */
export const withoutColumnAlias = (input: Input, name: string): Input => ({
  ...input,
  columns: (input.columns ?? []).map(({ also = [], ...field }) => {
    const left = also.filter((other) => other !== name)
    return left.length > 0 ? { ...field, also: left } : field
  }),
})
