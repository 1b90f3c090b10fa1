import { counted } from '@fabula/core'
import type { OfferReply, OfferRequest, SourceAsked } from '@fabula/core/api'
import * as api from '@fabula/core/api'
import { useMutation, useQuery } from '@tanstack/react-query'
import { useState, type ReactNode } from 'react'
import { useNavigate, useSearchParams } from 'react-router'
import { ask } from '../api/client.ts'
import { connectionsQuery } from '../api/queries.ts'
import { Notice, Segments } from '../ui/parts.tsx'
import { SiteHeader } from '../ui/site-header.tsx'
import { useJob } from '../ui/use-job.ts'
import { odataForm, postgresqlForm, webForm, type SourceKind } from './source-forms.tsx'
import { samplePane } from './source-sample.tsx'

type OfferedTable = OfferReply['tables'][number]
const titleOf = ({ schema, name }: OfferedTable): string => (schema && schema !== 'public' ? `${schema}.${name}` : name)

// eslint-disable-next-line complexity -- markup with a condition for each optional part
export const SourcesPage = () => {
  const navigate = useNavigate()
  const [search] = useSearchParams()
  const flow = search.get('flow')
  const [kind, setKind] = useState<SourceKind>('web')
  const [address, setAddress] = useState('')
  const [service, setService] = useState('')
  const [connection, setConnection] = useState('')
  const [adding, setAdding] = useState(false)
  const [query, setQuery] = useState('')
  const [offer, setOffer] = useState<OfferRequest>()
  const [asked, setAsked] = useState<SourceAsked>()
  const [columns, setColumns] = useState<readonly string[]>()
  const connections = useQuery(connectionsQuery)
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
  const job = useJob(JSON.stringify(asked) ?? '')
  const take = useMutation({
    mutationFn: (wanted: SourceAsked) => ask(api.takeReply, 'POST', '/api/sources/take', { asked: wanted, job }),
    onSuccess: ({ file }) => void navigate(flow ? `/flows/${flow}/open` : '/open', { state: { files: [file] } }),
  })
  const progress = useQuery({
    queryKey: ['taking', job],
    queryFn: () => ask(api.progressReply, 'GET', `/api/sources/take/${job}`),
    enabled: take.isPending,
    refetchInterval: 300,
  })
  const choose = (next: SourceAsked | undefined): void => {
    setAsked(next)
    setColumns(undefined)
    take.reset()
  }
  const wanted = asked?.kind === 'odata' && columns ? { ...asked, columns: [...columns] } : asked
  const names = sample.data?.names ?? []
  const error = take.error ?? sample.error ?? tables.error ?? connections.error
  const chosenTable = (table: OfferedTable): boolean =>
    (asked?.kind === 'odata' && asked.table === table.name) ||
    (asked?.kind === 'postgresql' &&
      'table' in asked.wanted &&
      asked.wanted.table === table.name &&
      asked.wanted.schema === table.schema)
  const title = () => {
    if (asked?.kind === 'odata') return asked.table
    if (asked?.kind === 'postgresql' && 'table' in asked.wanted) return asked.wanted.table
    return 'What the query gives'
  }
  return (
    <div className="grid h-full grid-rows-[52px_1fr] overflow-hidden">
      <SiteHeader />
      <main className="grid min-h-0 grid-cols-[392px_minmax(0,1fr)]">
        <section
          aria-label="Where from"
          className="grid min-h-0 content-start gap-4 overflow-auto border-r border-line p-4"
        >
          <h1 className="font-serif text-[20px] font-semibold">Bring data in from elsewhere</h1>
          <Segments
            label="Kind of source"
            value={kind}
            of={[
              ['web', 'A web address'],
              ['odata', 'OData'],
              ['postgresql', 'PostgreSQL'],
            ]}
            onChange={(next) => {
              setKind(next)
              setOffer(undefined)
              choose(undefined)
            }}
          />
          {kind === 'web' && webForm(take, address, setAddress)}
          {kind === 'odata' && odataForm(choose, setOffer, service, setService)}
          {kind === 'postgresql' &&
            postgresqlForm(
              connections,
              connection,
              setConnection,
              choose,
              setOffer,
              adding,
              setAdding,
              query,
              setQuery,
            )}
          {tables.data && offeredTables(tables.data, chosenTable, choose, offer, connection)}
          {(tables.isFetching || sample.isFetching) && <p role="status">Asking…</p>}
          {error && <Notice kind="removed">{error.message}</Notice>}
        </section>
        {samplePane(sample, asked, title, take, columns, wanted, setColumns, names, kind, progress)}
      </main>
    </div>
  )
}

function offeredTables(
  tables: OfferReply,
  chosenTable: (table: OfferedTable) => boolean,
  choose: (next: SourceAsked | undefined) => void,
  offer: { kind: 'odata'; service: string } | { kind: 'postgresql'; connection: string } | undefined,
  connection: string,
): ReactNode {
  return (
    <ul aria-label="Tables on offer">
      {tables.tables.map((table) => (
        <li key={titleOf(table)} className="border-b border-line">
          <button
            type="button"
            aria-pressed={chosenTable(table)}
            className="flex w-full items-center gap-2 py-1 text-left hover:text-token aria-pressed:font-semibold"
            onClick={() =>
              choose(
                offer?.kind === 'odata'
                  ? { kind: 'odata', service: offer.service, table: table.name, columns: [] }
                  : {
                      kind: 'postgresql',
                      connection,
                      wanted: { schema: table.schema ?? 'public', table: table.name },
                    },
              )
            }
          >
            <span className="min-w-0 flex-1 truncate">{titleOf(table)}</span>
            {table.rows !== undefined && table.rows > 0 && (
              <span className="figures text-[12px] text-ink-3">about {counted(table.rows, 'row')}</span>
            )}
          </button>
        </li>
      ))}
      {tables.tables.length === 0 && <li className="py-2 font-serif text-ink-3 italic">Nothing is on offer here.</li>}
    </ul>
  )
}
