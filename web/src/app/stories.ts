import type { FlowSummary } from '@fabula/core/api'

/** The orders of the list of stories. */
export const storyOrders = [
  ['opened', 'last opened first'],
  ['changed', 'last changed first'],
  ['ran', 'last replayed first'],
  ['name', 'by name'],
] as const
/** One of the orders. */
export type StoryOrder = (typeof storyOrders)[number][0]

const newestFirst = (a: string | null, b: string | null): number => (b ?? '').localeCompare(a ?? '')
const compare: Readonly<Record<StoryOrder, (a: FlowSummary, b: FlowSummary) => number>> = {
  opened: (a, b) => newestFirst(a.openedAt ?? a.changedAt, b.openedAt ?? b.changedAt),
  changed: (a, b) => newestFirst(a.changedAt, b.changedAt),
  ran: (a, b) => newestFirst(a.ran?.at ?? null, b.ran?.at ?? null),
  name: (a, b) => a.name.localeCompare(b.name, undefined, { numeric: true }),
}

/** The stories whose name, or a table that they write, has every word of a text, in an order; and those that are deleted. */
export const storiesShown = (flows: readonly FlowSummary[], text: string, order: StoryOrder) => {
  const words = text.toLowerCase().split(/\s+/).filter(Boolean)
  const isMeant = ({ name, writes }: FlowSummary): boolean => {
    const all = [name, ...writes].join(' ').toLowerCase()
    return words.every((word) => all.includes(word))
  }
  return {
    shown: flows.filter((flow) => flow.deletedAt === null && isMeant(flow)).sort(compare[order]),
    deleted: flows.filter(({ deletedAt }) => deletedAt !== null),
  }
}
