import { counted } from '@fabula/core'
import type { OfferRequest } from '@fabula/core/api'
import { Notice, Segments } from '../ui/parts.tsx'
import { SiteHeader } from '../ui/site-header.tsx'
import { ClusterForm, ODataForm, PostgresqlForm, WebForm } from './source-forms.tsx'
import { askedTable, isAsked, offeredTitle } from './source-model.ts'
import { SamplePane } from './source-sample.tsx'
import { useSources, type OfferedTable, type SourceKind, type Sources } from './use-sources.ts'

const forms: Readonly<Record<SourceKind, typeof WebForm>> = {
  web: WebForm,
  odata: ODataForm,
  postgresql: PostgresqlForm,
  cluster: ClusterForm,
}

/** The tables that a source offers. */
const OfferedTables = ({
  sources: { asked, choose },
  offer,
  tables,
}: {
  sources: Sources
  offer: OfferRequest
  tables: readonly OfferedTable[]
}) => (
  <ul aria-label="Tables on offer">
    {tables.map((table) => (
      <li key={offeredTitle(table)} className="border-b border-line">
        <button
          type="button"
          aria-pressed={isAsked(asked, table)}
          className="flex w-full items-center gap-2 py-1 text-left hover:text-token aria-pressed:font-semibold"
          onClick={() => choose(askedTable(offer, table))}
        >
          <span className="min-w-0 flex-1 truncate">{offeredTitle(table)}</span>
          {table.rows !== undefined && table.rows > 0 && (
            <span className="figures text-[12px] text-ink-3">about {counted(table.rows, 'row')}</span>
          )}
        </button>
      </li>
    ))}
    {tables.length === 0 && <li className="py-2 font-serif text-ink-3 italic">Nothing is on offer here.</li>}
  </ul>
)

/** Data from a web address, an OData service or a PostgreSQL server. */
export const SourcesPage = () => {
  const sources = useSources()
  const { kind, showKind, offer, tables, asking, error } = sources
  const Form = forms[kind]
  return (
    <div className="grid h-full grid-rows-[auto_1fr] overflow-hidden">
      <SiteHeader />
      <main className="grid min-h-0 grid-cols-[392px_minmax(0,1fr)] max-[900px]:block max-[900px]:overflow-auto">
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
              ...(sources.cluster === null ? [] : [['cluster', 'The cluster'] as const]),
            ]}
            onChange={showKind}
          />
          <Form sources={sources} />
          {tables && offer && <OfferedTables sources={sources} offer={offer} tables={tables} />}
          {asking && <p role="status">Asking…</p>}
          {error && <Notice kind="removed">{error.message}</Notice>}
        </section>
        <SamplePane sources={sources} />
      </main>
    </div>
  )
}
