import type { OfferReply, OfferRequest, SourceAsked } from '@fabula/core/api'

type OfferedTable = OfferReply['tables'][number]

/** A table by its name, with its schema where that is not the usual one. */
export const offeredTitle = ({ schema, name }: OfferedTable): string =>
  schema && schema !== 'public' ? `${schema}.${name}` : name

/** What is asked for when a table of an offer is chosen. */
export const askedTable = (offer: OfferRequest, { schema, name }: OfferedTable): SourceAsked =>
  offer.kind === 'odata'
    ? { kind: 'odata', service: offer.service, table: name, columns: [] }
    : { kind: 'postgresql', connection: offer.connection, wanted: { schema: schema ?? 'public', table: name } }

/** Whether a table is the one that is asked for. */
export const isAsked = (asked: SourceAsked | undefined, { schema, name }: OfferedTable): boolean => {
  if (asked?.kind === 'odata') return asked.table === name
  if (asked?.kind !== 'postgresql' || !('table' in asked.wanted)) return false
  return asked.wanted.table === name && asked.wanted.schema === (schema ?? 'public')
}

/** The title above the first rows of what is asked for. */
export const askedTitle = (asked: SourceAsked): string => {
  if (asked.kind === 'odata') return asked.table
  return asked.kind === 'postgresql' && 'table' in asked.wanted ? asked.wanted.table : 'What the query gives'
}

/** The wanted columns with one more or less, in the order of the table; all are wanted where none were chosen. */
export const toggledColumn = (
  names: readonly string[],
  wanted: readonly string[] | undefined,
  name: string,
): readonly string[] => {
  const before = wanted ?? names
  return before.includes(name)
    ? before.filter((one) => one !== name)
    : names.filter((one) => one === name || before.includes(one))
}

/** What is fetched: only the wanted columns, where the source can leave columns out. */
export const withColumns = (asked: SourceAsked, columns: readonly string[] | undefined): SourceAsked =>
  asked.kind === 'odata' && columns ? { ...asked, columns: [...columns] } : asked
