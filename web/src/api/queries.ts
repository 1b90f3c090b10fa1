import { keepPreviousData, queryOptions } from '@tanstack/react-query'
import { tablesNeeded, type Recipe } from '@fabula/core'
import * as api from '@fabula/core/api'
import { ask } from './client.ts'

/** Where a flow is reached: by its own address, or by the link of whoever reads it. */
export type Endpoint = { readonly base: string; readonly home: string; readonly token?: string }

export const flowsQuery = () =>
  queryOptions({ queryKey: ['flows'], queryFn: () => ask(api.flowsReply, 'GET', '/api/flows') })
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

export const pageSize = 100
export const previewQuery = (
  { base }: Endpoint,
  files: unknown,
  cursor: Cursor,
  diffMode: api.PreviewRequest['diffMode'],
  only: api.PreviewRequest['only'],
  page: number,
) =>
  queryOptions({
    queryKey: ['preview', base, files, fingerprint(cursor), diffMode, only, page],
    queryFn: ({ signal }) =>
      ask(
        api.previewReply,
        'POST',
        `${base}/preview`,
        { ...cursor, diffMode, only, from: page * pageSize, count: pageSize },
        signal,
      ),
    ...(page === 0 ? { placeholderData: keepPreviousData } : {}),
    retry: 2,
    staleTime: Infinity,
  })
/** The accounts of every sentence of a table, without any rows. */
export const storyQuery = ({ base }: Endpoint, files: unknown, cursor: Cursor) =>
  queryOptions({
    queryKey: ['story', base, files, fingerprint(cursor)],
    queryFn: ({ signal }) =>
      ask(
        api.previewReply,
        'POST',
        `${base}/preview`,
        { ...cursor, diffMode: 'after', only: 'all', from: 0, count: 0 },
        signal,
      ),
    placeholderData: keepPreviousData,
    retry: 2,
    staleTime: Infinity,
  })
export const factsQuery = (
  { base }: Endpoint,
  files: unknown,
  cursor: Cursor,
  columns: readonly string[],
  deep = true,
) =>
  queryOptions({
    queryKey: ['facts', base, files, fingerprint(cursor), columns, deep],
    queryFn: ({ signal }) => ask(api.factsReply, 'POST', `${base}/facts`, { ...cursor, columns, deep }, signal),
    enabled: columns.length > 0,
    placeholderData: keepPreviousData,
    retry: 2,
    staleTime: Infinity,
  })
export const valuesQuery = ({ base }: Endpoint, files: unknown, cursor: Cursor, column: string) =>
  queryOptions({
    queryKey: ['values', base, files, fingerprint(cursor), column],
    queryFn: ({ signal }) => ask(api.valuesReply, 'POST', `${base}/values`, { ...cursor, column }, signal),
    enabled: column !== '',
    staleTime: Infinity,
  })

export const groupsQuery = ({ base }: Endpoint, files: unknown, cursor: Cursor, column: string) =>
  queryOptions({
    queryKey: ['groups', base, files, fingerprint(cursor), column],
    queryFn: ({ signal }) => ask(api.groupsReply, 'POST', `${base}/groups`, { ...cursor, column }, signal),
    enabled: column !== '',
    staleTime: Infinity,
  })

export const pictureQuery = ({ base }: Endpoint, files: unknown, cursor: Cursor, picture: api.Picture | undefined) =>
  queryOptions({
    queryKey: ['picture', base, files, fingerprint(cursor), picture],
    queryFn: ({ signal }) => ask(api.pictureData, 'POST', `${base}/picture`, { ...cursor, picture }, signal),
    enabled: picture !== undefined,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: 2,
  })

/** The benches for two and more tables; each is told anew when the tables or what is asked change. */
export const matchQuery = (
  { base }: Endpoint,
  files: unknown,
  cursor: Cursor,
  other: string,
  asked: Omit<api.MatchRequest, 'recipe' | 'table' | 'step' | 'with'>,
) =>
  queryOptions({
    queryKey: [
      'match',
      base,
      files,
      fingerprint(cursor),
      fingerprint({ ...cursor, table: other, step: '' }),
      other,
      asked,
    ],
    queryFn: ({ signal }) => ask(api.matchReply, 'POST', `${base}/match`, { ...cursor, with: other, ...asked }, signal),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: 1,
  })
export const alignQuery = (
  { base }: Endpoint,
  files: unknown,
  cursor: Cursor,
  union: { readonly with: readonly string[] },
) =>
  queryOptions({
    queryKey: [
      'align',
      base,
      files,
      fingerprint(cursor),
      union.with.map((id) => fingerprint({ ...cursor, table: id, step: '' })),
      union,
    ],
    queryFn: ({ signal }) => ask(api.alignReply, 'POST', `${base}/lay`, { ...cursor, union }, signal),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: 1,
  })
export const reconcileQuery = (
  { base }: Endpoint,
  files: unknown,
  asked: api.ReconcileRequest & { readonly recipe: Recipe },
) =>
  queryOptions({
    queryKey: ['reconcile', base, files, asked],
    queryFn: ({ signal }) => ask(api.reconcileReply, 'POST', `${base}/reconcile`, asked, signal),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: 1,
  })

export const linksQuery = ({ base }: Endpoint) =>
  queryOptions({ queryKey: ['links', base], queryFn: () => ask(api.linksReply, 'GET', `${base}/links`) })
export const editionsQuery = ({ base }: Endpoint) =>
  queryOptions({ queryKey: ['editions', base], queryFn: () => ask(api.editionsReply, 'GET', `${base}/editions`) })

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
