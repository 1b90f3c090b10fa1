import { keepPreviousData, queryOptions } from '@tanstack/react-query'
import { tablesNeeded, type Recipe, type Schema } from '@fabula/core'
import * as api from '@fabula/core/api'
import type { z } from 'zod'
import { ask } from './client.ts'

/** Where a flow is reached: by its own address, or by the link of whoever reads it. */
export type Endpoint = { readonly base: string; readonly home: string; readonly token?: string }

export const flowQuery = ({ base }: Endpoint) =>
  queryOptions({ queryKey: ['flow', base], queryFn: () => ask(api.flowReply, 'GET', base) })

/** `drafts`: steps of the recipe that are not kept yet, by id; the server forgets their results first. */
export type Cursor = {
  readonly recipe: Recipe
  readonly table: string
  readonly step: string
  readonly drafts?: readonly string[]
}
/** All that what one sees depends on: the table, and those that it uses. */
const fingerprint = ({ recipe, table, step }: Cursor): string => {
  const needed = tablesNeeded(recipe, table)
  return JSON.stringify([recipe.inputs, recipe.parameters, recipe.tables.filter(({ id }) => needed.includes(id)), step])
}

const tableReplies: { readonly [K in api.TableQueryName]: { readonly reply: z.ZodType<api.TableQueryReply<K>> } } =
  api.tableQueries

const postQuery = <K extends api.TableQueryName>(
  { base }: Endpoint,
  name: K,
  body: object,
  signal?: AbortSignal,
): Promise<api.TableQueryReply<K>> => ask(tableReplies[name].reply, 'POST', `${base}/${name}`, body, signal)

/** Asks one of the queries about the tables of a flow. */
export const askTable = <K extends api.TableQueryName>(
  endpoint: Endpoint,
  name: K,
  asked: api.TableQueryRequest<K> & object,
  signal?: AbortSignal,
): Promise<api.TableQueryReply<K>> => postQuery(endpoint, name, asked, signal)

/**
 * A query about the tables of a flow, kept until the flow, its files, the cursor or what is asked changes.
 * @param also further cursors that the reply depends on
 */
const tableQuery = <K extends api.TableQueryName>(
  endpoint: Endpoint,
  name: K,
  files: unknown,
  cursor: Cursor,
  asked: Omit<api.TableQueryRequest<K>, 'recipe' | 'table' | 'step'>,
  also: readonly Cursor[] = [],
) =>
  queryOptions({
    queryKey: [name, endpoint.base, files, fingerprint(cursor), also.map(fingerprint), asked],
    queryFn: ({ signal }) => postQuery(endpoint, name, { ...cursor, ...asked }, signal),
    staleTime: Infinity,
    retry: 2,
  })

export const pageSize = 100
export const previewQuery = (
  endpoint: Endpoint,
  files: unknown,
  cursor: Cursor,
  diffMode: api.PreviewRequest['diffMode'],
  only: api.PreviewRequest['only'],
  page: number,
) => ({
  ...tableQuery(endpoint, 'preview', files, cursor, { diffMode, only, from: page * pageSize, count: pageSize }),
  ...(page === 0 ? { placeholderData: keepPreviousData } : {}),
})
/** Rows of a sentence on the data of a replay, or of one that is tried; the server takes the recipe of that. */
export const rowsQuery = (
  endpoint: Endpoint,
  files: unknown,
  cursor: Cursor,
  asked: Pick<api.PreviewRequest, 'diffMode' | 'only' | 'texts' | 'from' | 'count' | 'data'>,
) => ({
  ...tableQuery(endpoint, 'preview', files, cursor, asked),
  placeholderData: keepPreviousData,
})
/** Where a row or a cell of a table after a step comes from. */
export const traceQuery = (
  endpoint: Endpoint,
  files: unknown,
  cursor: Cursor,
  asked: Omit<api.TableQueryRequest<'trace'>, 'recipe' | 'table' | 'step'>,
) => tableQuery(endpoint, 'trace', files, cursor, asked)
/** A query about the whole recipe: what it holds beside the tables that one uses can change the reply. */
const recipeQuery = <K extends api.TableQueryName>(
  endpoint: Endpoint,
  name: K,
  files: unknown,
  asked: api.TableQueryRequest<K> & { readonly recipe: Recipe },
) =>
  queryOptions({
    queryKey: [name, endpoint.base, files, asked],
    queryFn: ({ signal }) => askTable(endpoint, name, asked, signal),
    staleTime: Infinity,
    retry: 2,
  })
/** What became of a row of a source. */
export const followQuery = (
  endpoint: Endpoint,
  files: unknown,
  asked: api.TableQueryRequest<'follow'> & { readonly recipe: Recipe },
) => recipeQuery(endpoint, 'follow', files, asked)
/** Rows of a file as they stand in it. */
export const sheetQuery = (
  endpoint: Endpoint,
  files: unknown,
  asked: api.TableQueryRequest<'sheet'> & { readonly recipe: Recipe },
) => ({ ...recipeQuery(endpoint, 'sheet', files, asked), placeholderData: keepPreviousData })
/** Where the rows of a table's inputs went. */
export const lostQuery = (
  endpoint: Endpoint,
  files: unknown,
  asked: api.TableQueryRequest<'lost'> & { readonly recipe: Recipe },
) => recipeQuery(endpoint, 'lost', files, asked)
/** The statistics of every sentence of a table, without any rows. */
export const storyQuery = (endpoint: Endpoint, files: unknown, cursor: Cursor) => ({
  ...tableQuery(endpoint, 'preview', files, cursor, { diffMode: 'after', only: 'all', from: 0, count: 0 }),
  placeholderData: keepPreviousData,
})
export const factsQuery = (
  endpoint: Endpoint,
  files: unknown,
  cursor: Cursor,
  columns: readonly string[],
  deep = true,
) => ({
  ...tableQuery(endpoint, 'facts', files, cursor, { columns: [...columns], deep }),
  enabled: columns.length > 0,
  placeholderData: keepPreviousData,
})
/** What the heads of a table's first columns show. */
export const headFactsQuery = (endpoint: Endpoint, files: unknown, cursor: Cursor, schema: Schema) =>
  factsQuery(
    endpoint,
    files,
    cursor,
    schema.slice(0, 40).map(({ name }) => name),
    false,
  )
export const valuesQuery = (endpoint: Endpoint, files: unknown, cursor: Cursor, column: string) => ({
  ...tableQuery(endpoint, 'values', files, cursor, { column }),
  enabled: column !== '',
})
export const groupsQuery = (endpoint: Endpoint, files: unknown, cursor: Cursor, column: string) => ({
  ...tableQuery(endpoint, 'groups', files, cursor, { column }),
  enabled: column !== '',
})
export const pictureQuery = (endpoint: Endpoint, files: unknown, cursor: Cursor, picture: api.Picture | undefined) => ({
  ...tableQuery(endpoint, 'picture', files, cursor, { picture: picture as api.Picture }),
  enabled: picture !== undefined,
  placeholderData: keepPreviousData,
})

/** A table after its last step. */
const whole = (cursor: Cursor, table: string): Cursor => ({ ...cursor, table, step: '' })

export const matchQuery = (
  endpoint: Endpoint,
  files: unknown,
  cursor: Cursor,
  other: string,
  asked: Omit<api.MatchRequest, 'recipe' | 'table' | 'step' | 'with'>,
) => ({
  ...tableQuery(endpoint, 'match', files, cursor, { with: other, ...asked }, [whole(cursor, other)]),
  placeholderData: keepPreviousData,
})
export const alignQuery = (
  endpoint: Endpoint,
  files: unknown,
  cursor: Cursor,
  union: api.TableQueryRequest<'align'>['union'],
) => ({
  ...tableQuery(
    endpoint,
    'align',
    files,
    cursor,
    { union },
    union.with.map((id) => whole(cursor, id)),
  ),
  placeholderData: keepPreviousData,
})
export const reconcileQuery = (
  endpoint: Endpoint,
  files: unknown,
  asked: api.ReconcileRequest & { readonly recipe: Recipe },
) => ({ ...recipeQuery(endpoint, 'reconcile', files, asked), placeholderData: keepPreviousData })

export const linksQuery = ({ base }: Endpoint) =>
  queryOptions({ queryKey: ['links', base], queryFn: () => ask(api.linksReply, 'GET', `${base}/links`) })
export const editionsQuery = ({ base }: Endpoint) =>
  queryOptions({ queryKey: ['editions', base], queryFn: () => ask(api.editionsReply, 'GET', `${base}/editions`) })

/** The cluster that the server can replay stories on. */
export const clusterQuery = queryOptions({
  queryKey: ['cluster'],
  queryFn: () => ask(api.clusterReply, 'GET', '/api/cluster'),
  staleTime: Infinity,
})
export const watchesQuery = ({ base }: Endpoint) =>
  queryOptions({
    queryKey: ['watches', base],
    queryFn: () => ask(api.watchesReply, 'GET', `${base}/watches`),
    refetchInterval: ({ state }) => (state.data && state.data.watches.length > 0 ? 3000 : false),
  })
export const mailsQuery = () =>
  queryOptions({ queryKey: ['mails'], queryFn: () => ask(api.mailsReply, 'GET', '/api/mails'), refetchInterval: 5000 })

export const connectionsQuery = {
  queryKey: ['connections'],
  queryFn: () => ask(api.connectionsReply, 'GET', '/api/connections'),
}

export const runsQuery = ({ base }: Endpoint) =>
  queryOptions({
    queryKey: ['runs', base],
    queryFn: () => ask(api.runsReply, 'GET', `${base}/runs`),
    refetchInterval: ({ state }) => (state.data?.runs.some((run) => run.state === 'running') ? 2000 : false),
  })
export const runQuery = ({ base }: Endpoint, id: string) =>
  queryOptions({
    queryKey: ['run', base, id],
    queryFn: () => ask(api.runReply, 'GET', `${base}/runs/${id}`),
    enabled: id !== '',
    refetchInterval: ({ state }) => (state.data && state.data.state !== 'running' ? false : 250),
  })
export const scriptsQuery = ({ base }: Endpoint, edit: number) =>
  queryOptions({ queryKey: ['scripts', base, edit], queryFn: () => ask(api.scriptReply, 'GET', `${base}/scripts`) })
