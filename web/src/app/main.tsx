import '@fontsource-variable/literata'
import '@fontsource-variable/instrument-sans'
import '@fontsource-variable/inter'
import '@fontsource-variable/jetbrains-mono'
import './styles.css'
import { QueryClient, QueryClientProvider, useQuery } from '@tanstack/react-query'
import { lazy, StrictMode, Suspense } from 'react'
import { createRoot } from 'react-dom/client'
import { createBrowserRouter, Outlet, RouterProvider } from 'react-router'
import { ownerReply } from '@fabula/core/api'
import { ask } from '../api/client.ts'
import { OwnerKeyPage, takeKeyFromAddress } from './owner-key.tsx'
import { z } from 'zod'
import { Fault } from './fault.tsx'
import { Home } from './home.tsx'
import { useGuide } from '../guide/guide-state.ts'
import { followTheme } from '../ui/theme.ts'

// the content security policy allows no code made from text
z.config({ jitless: true })
followTheme()

/** Pages that come when they are opened, so that the first is there at once. */
const pages = {
  compose: async () => ({ Component: (await import('../compose/compose.tsx')).Compose }),
  shared: async () => ({ Component: (await import('../sharing/shared-story.tsx')).SharedStory }),
  replay: async () => ({ Component: (await import('../replay/replay.tsx')).Replay }),
  handOver: async () => ({ Component: (await import('../sharing/hand-over.tsx')).HandOver }),
  openNew: async () => ({ Component: (await import('../opening/opening.tsx')).OpenNew }),
  openInFlow: async () => ({ Component: (await import('../opening/opening.tsx')).OpenInFlow }),
  shelf: async () => ({ Component: (await import('../shelf/shelf.tsx')).ShelfPage }),
  sources: async () => ({ Component: (await import('../shelf/sources.tsx')).SourcesPage }),
  help: async () => ({ Component: (await import('../help/help.tsx')).Help }),
  helpGuide: async () => ({ Component: (await import('../help/help.tsx')).HelpGuide }),
  helpVerb: async () => ({ Component: (await import('../help/help.tsx')).HelpVerb }),
  formulas: async () => ({ Component: (await import('../help/formulas.tsx')).HelpFormulas }),
  mail: async () => ({ Component: (await import('./mail.tsx')).MailPage }),
  flow: async () => ({ Component: (await import('./flow-layout.tsx')).OwnStory }),
  sharedFlow: async () => ({ Component: (await import('./flow-layout.tsx')).StoryByLink }),
}

/** Pages that only the owner has ask for the key where this browser does not have it; links need none. */
const OwnerOnly = () => {
  const { data, error } = useQuery({
    queryKey: ['owner'],
    queryFn: () => ask(ownerReply, 'GET', '/api/owner'),
    staleTime: Infinity,
  })
  if (data && !data.owner) return <OwnerKeyPage />
  return data || error ? <Outlet /> : null
}

const GuideBar = lazy(() => import('../guide/guide.tsx'))

/** The page, with the card of the guided story below it while one is at hand. */
const Frame = () => {
  const guide = useGuide()
  return (
    <div className="flex h-full flex-col">
      <div className="min-h-0 flex-1">
        <Outlet />
      </div>
      {guide && !guide.left && (
        <Suspense>
          <GuideBar state={guide} />
        </Suspense>
      )}
    </div>
  )
}

const router = createBrowserRouter([
  {
    element: <Frame />,
    errorElement: <Fault />,
    hydrateFallbackElement: <p className="sr-only">Loading…</p>,
    children: [
      {
        element: <OwnerOnly />,
        children: [
          { path: '/', element: <Home /> },
          { path: '/open', lazy: pages.openNew },
          { path: '/shelf', lazy: pages.shelf },
          {
            path: '/help',
            lazy: pages.help,
            children: [
              { index: true, lazy: pages.helpGuide },
              { path: 'formulas', lazy: pages.formulas },
              { path: 'verbs/:kind', lazy: pages.helpVerb },
              { path: ':page', lazy: pages.helpGuide },
            ],
          },
          { path: '/sources', lazy: pages.sources },
          { path: '/mail', lazy: pages.mail },
          {
            path: '/flows/:id',
            lazy: pages.flow,
            children: [
              { index: true, lazy: pages.compose },
              { path: 'replay', lazy: pages.replay },
              { path: 'hand-over', lazy: pages.handOver },
              { path: 'open', lazy: pages.openInFlow },
              { path: 'open/:input', lazy: pages.openInFlow },
            ],
          },
        ],
      },
      {
        path: '/r/:token',
        lazy: pages.sharedFlow,
        children: [
          { index: true, lazy: pages.shared },
          { path: 'replay', lazy: pages.replay },
          { path: 'hand-over', lazy: pages.handOver },
          { path: 'open', lazy: pages.openInFlow },
          { path: 'open/:input', lazy: pages.openInFlow },
        ],
      },
      { element: <OwnerOnly />, children: [{ path: '*', element: <Home /> }] },
    ],
  },
])
const client = new QueryClient({
  defaultOptions: { queries: { retry: false, refetchOnWindowFocus: false, staleTime: 30_000 } },
})

const root = document.getElementById('root')
await takeKeyFromAddress()
if (root)
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={client}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </StrictMode>,
  )

// the other pages come while the first one is read
setTimeout(() => void Promise.all(Object.values(pages).map((load) => load())), 1500)
