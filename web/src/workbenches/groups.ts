export type Group = { readonly into: string; readonly from: readonly string[] }

/** A value is in one group at most: the members of a new group leave those they were in; groups of one name are one. */
export const withGroup = (groups: readonly Group[], { into, from }: Group): Group[] => {
  const others = groups
    .map((group) => ({ ...group, from: group.from.filter((value) => !from.includes(value)) }))
    .filter((group) => group.from.length > 0)
  const same = others.findIndex((group) => group.into === into)
  return same < 0
    ? [...others, { into, from }]
    : others.map((group, i) => (i === same ? { into, from: [...group.from, ...from] } : group))
}
export const withName = (groups: readonly Group[], at: number, into: string): Group[] => {
  const group = groups[at]
  if (!group) return [...groups]
  return groups.some((one, i) => i !== at && one.into === into)
    ? withGroup(
        groups.filter((_, i) => i !== at),
        { into, from: group.from },
      )
    : groups.map((one, i) => (i === at ? { into, from: one.from } : one))
}
export const partedFrom = (groups: readonly Group[], at: number, value: string): Group[] =>
  groups
    .map((group, i) => (i === at ? { ...group, from: group.from.filter((one) => one !== value) } : group))
    .filter(({ from }) => from.length > 0)
export const moveTo = (groups: readonly Group[], value: string, to: number): Group[] => {
  const home = groups[to]
  return home ? withGroup(groups, { into: home.into, from: [value] }) : [...groups]
}
