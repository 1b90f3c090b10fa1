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
  stand: Cursor,
  lens: api.PreviewRequest['lens'],
  only: api.PreviewRequest['only'],
  page: number,
) =>
  queryOptions({
    queryKey: ['preview', base, files, fingerprint(stand), lens, only, page],
    queryFn: ({ signal }) =>
      ask(
        api.previewReply,
        'POST',
        `${base}/preview`,
        { ...stand, lens, only, from: page * pageSize, count: pageSize },
        signal,
      ),
    ...(page === 0 ? { placeholderData: keepPreviousData } : {}),
    retry: 2,
    staleTime: Infinity,
  })
/** The accounts of every sentence of a table, without any rows. */
export const storyQuery = ({ base }: Endpoint, files: unknown, stand: Cursor) =>
  queryOptions({
    queryKey: ['story', base, files, fingerprint(stand)],
    queryFn: ({ signal }) =>
      ask(
        api.previewReply,
        'POST',
        `${base}/preview`,
        { ...stand, lens: 'after', only: 'all', from: 0, count: 0 },
        signal,
      ),
    placeholderData: keepPreviousData,
    retry: 2,
    staleTime: Infinity,
  })
export const factsQuery = (
  { base }: Endpoint,
  files: unknown,
  stand: Cursor,
  columns: readonly string[],
  deep = true,
) =>
  queryOptions({
    queryKey: ['facts', base, files, fingerprint(stand), columns, deep],
    queryFn: ({ signal }) => ask(api.factsReply, 'POST', `${base}/facts`, { ...stand, columns, deep }, signal),
    enabled: columns.length > 0,
    placeholderData: keepPreviousData,
    retry: 2,
    staleTime: Infinity,
  })
export const valuesQuery = ({ base }: Endpoint, files: unknown, stand: Cursor, column: string) =>
  queryOptions({
    queryKey: ['values', base, files, fingerprint(stand), column],
    queryFn: ({ signal }) => ask(api.valuesReply, 'POST', `${base}/values`, { ...stand, column }, signal),
    enabled: column !== '',
    staleTime: Infinity,
  })

export const groupsQuery = ({ base }: Endpoint, files: unknown, stand: Cursor, column: string) =>
  queryOptions({
    queryKey: ['groups', base, files, fingerprint(stand), column],
    queryFn: ({ signal }) => ask(api.groupsReply, 'POST', `${base}/groups`, { ...stand, column }, signal),
    enabled: column !== '',
    staleTime: Infinity,
  })

export const pictureQuery = ({ base }: Endpoint, files: unknown, stand: Cursor, picture: api.Picture | undefined) =>
  queryOptions({
    queryKey: ['picture', base, files, fingerprint(stand), picture],
    queryFn: ({ signal }) => ask(api.pictureData, 'POST', `${base}/picture`, { ...stand, picture }, signal),
    enabled: picture !== undefined,
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: 2,
  })

/** The benches for two and more tables; each is told anew when the tables or what is asked change. */
export const matchQuery = (
  { base }: Endpoint,
  files: unknown,
  stand: Cursor,
  other: string,
  asked: Omit<api.MatchRequest, 'recipe' | 'table' | 'step' | 'with'>,
) =>
  queryOptions({
    queryKey: [
      'match',
      base,
      files,
      fingerprint(stand),
      fingerprint({ ...stand, table: other, step: '' }),
      other,
      asked,
    ],
    queryFn: ({ signal }) => ask(api.matchReply, 'POST', `${base}/match`, { ...stand, with: other, ...asked }, signal),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: 1,
  })
export const alignQuery = (
  { base }: Endpoint,
  files: unknown,
  stand: Cursor,
  union: { readonly with: readonly string[] },
) =>
  queryOptions({
    queryKey: [
      'lay',
      base,
      files,
      fingerprint(stand),
      union.with.map((id) => fingerprint({ ...stand, table: id, step: '' })),
      union,
    ],
    queryFn: ({ signal }) => ask(api.alignReply, 'POST', `${base}/lay`, { ...stand, union }, signal),
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
