import type { OfferReply, OfferRequest, SourceAsked } from '@fabula/core/api'
import * as api from '@fabula/core/api'
import { useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate, useSearchParams } from 'react-router'
import { ask } from '../api/client.ts'
import { clusterQuery, connectionsQuery } from '../api/queries.ts'
import { useJob } from '../ui/use-job.ts'

export type SourceKind = SourceAsked['kind']
export type OfferedTable = OfferReply['tables'][number]

/** Fetches what is asked for and opens it, in a flow where the page was called from one. */
const useTake = (asked: SourceAsked | undefined) => {
  const navigate = useNavigate()
  const [search] = useSearchParams()
  const flow = search.get('flow')
  const job = useJob(JSON.stringify(asked) ?? '')
  const take = useMutation({
    mutationFn: (wanted: SourceAsked) => ask(api.takeReply, 'POST', '/api/sources/take', { asked: wanted, job }),
    onSuccess: ({ files }) => void navigate(flow ? `/flows/${flow}/open` : '/open', { state: { files } }),
  })
  const progress = useQuery({
    queryKey: ['taking', job],
    queryFn: () => ask(api.progressReply, 'GET', `/api/sources/take/${job}`),
    enabled: take.isPending,
    refetchInterval: 300,
  }).data
  return { take, progress }
}

/** The state of the page of sources: what a source offers, what is asked of it, its first rows, and the columns wanted. */
export const useSources = () => {
  const [kind, setKind] = useState<SourceKind>('web')
  const [offer, setOffer] = useState<OfferRequest>()
  const [asked, setAsked] = useState<SourceAsked>()
  const [columns, setColumns] = useState<readonly string[]>()
  /** What is written in the fields, kept while another kind is looked at. */
  const [written, setWritten] = useState({ web: '', odata: '', query: '', cluster: '' })
  const connections = useQuery(connectionsQuery)
  const cluster = useQuery(clusterQuery).data?.master ?? null
  const tables = useQuery({
    queryKey: ['offer', offer],
    queryFn: () => ask(api.offerReply, 'POST', '/api/sources/offer', offer),
    enabled: offer !== undefined,
  })
  const sample = useQuery({
    queryKey: ['sample', asked],
    queryFn: () => ask(api.sampleReply, 'POST', '/api/sources/look', { asked }),
    enabled: asked !== undefined,
  })
  const { take, progress } = useTake(asked)
  const choose = (next: SourceAsked | undefined): void => {
    setAsked(next)
    setColumns(undefined)
    take.reset()
  }
  const see = (next: OfferRequest | undefined): void => {
    setOffer(next)
    choose(undefined)
  }
  return {
    kind,
    showKind: (next: SourceKind): void => {
      setKind(next)
      see(undefined)
    },
    written,
    write: (field: keyof typeof written, text: string): void => setWritten({ ...written, [field]: text }),
    offer,
    /** Asks a source for its tables. */
    see,
    asked,
    /** Asks for the first rows of a table or a query. */
    choose,
    columns,
    setColumns,
    /** The cluster that the server knows, if any. */
    cluster,
    connections: connections.data?.connections ?? [],
    tables: tables.data?.tables,
    sample: sample.data,
    take,
    progress,
    asking: tables.isFetching || sample.isFetching,
    error: take.error ?? sample.error ?? tables.error ?? connections.error,
  }
}
export type Sources = ReturnType<typeof useSources>
