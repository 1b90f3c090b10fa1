export type ValueGroup = { readonly into: string; readonly from: readonly string[] }

/** A value is in one group at most: the members of a new group leave those they were in; groups of one name are one. */
export const withGroup = (groups: readonly ValueGroup[], { into, from }: ValueGroup): ValueGroup[] => {
  const others = groups
    .map((group) => ({ ...group, from: group.from.filter((value) => !from.includes(value)) }))
    .filter((group) => group.from.length > 0)
  const same = others.findIndex((group) => group.into === into)
  return same < 0
    ? [...others, { into, from }]
    : others.map((group, i) => (i === same ? { into, from: [...group.from, ...from] } : group))
}
export const withName = (groups: readonly ValueGroup[], at: number, into: string): ValueGroup[] => {
  const group = groups[at]
  if (!group) return [...groups]
  return groups.some((one, i) => i !== at && one.into === into)
    ? withGroup(
        groups.filter((_, i) => i !== at),
        { into, from: group.from },
      )
    : groups.map((one, i) => (i === at ? { into, from: one.from } : one))
}
export const partedFrom = (groups: readonly ValueGroup[], at: number, value: string): ValueGroup[] =>
  groups
    .map((group, i) => (i === at ? { ...group, from: group.from.filter((one) => one !== value) } : group))
    .filter(({ from }) => from.length > 0)
export const moveTo = (groups: readonly ValueGroup[], value: string, to: number): ValueGroup[] => {
  const home = groups[to]
  return home ? withGroup(groups, { into: home.into, from: [value] }) : [...groups]
}
