import '@fontsource-variable/literata'
import '@fontsource-variable/instrument-sans'
import '@fontsource-variable/inter'
import '@fontsource-variable/jetbrains-mono'
import './styles.css'
import { QueryClient, QueryClientProvider, useQuery } from '@tanstack/react-query'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import { createBrowserRouter, Outlet, RouterProvider } from 'react-router'
import { ownerReply } from '@fabula/core/api'
import { ask } from '../api/client.ts'
import { OwnerKeyPage, takeKeyFromAddress } from './owner-key.tsx'
import { z } from 'zod'
import { FlowLayout } from './flow-layout.tsx'
import { useFlow } from '../story/flow-context.ts'
import { Compose } from '../compose/compose.tsx'
import { HandOver } from '../sharing/hand-over.tsx'
import { Fault } from './fault.tsx'
import { HelpFormulas } from './help.tsx'
import { Home } from './home.tsx'
import { OpenInFlow, OpenNew } from '../opening/opening.tsx'
import { MailPage } from './mail.tsx'
import { Reader } from '../sharing/reader.tsx'
import { Replay } from '../replay/replay.tsx'
import { ShelfPage } from '../shelf/shelf.tsx'
import { SourcesPage } from '../shelf/sources.tsx'

// the content security policy allows no code made from text
z.config({ jitless: true })
document.documentElement.dataset.theme = localStorage.getItem('theme') ?? 'paper'

/** By a link one reads the story, or works on it where the link allows. */
const SharedStory = () => (useFlow().flow.rights === 'edit' ? <Compose /> : <Reader />)

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

const router = createBrowserRouter([
  {
    errorElement: <Fault />,
    children: [
      {
        element: <OwnerOnly />,
        children: [
          { path: '/', element: <Home /> },
          { path: '/open', element: <OpenNew /> },
          { path: '/shelf', element: <ShelfPage /> },
          { path: '/help/formulas', element: <HelpFormulas /> },
          { path: '/sources', element: <SourcesPage /> },
          { path: '/mail', element: <MailPage /> },
          {
            path: '/flows/:id',
            element: <FlowLayout shared={false} />,
            children: [
              { index: true, element: <Compose /> },
              { path: 'replay', element: <Replay /> },
              { path: 'hand-over', element: <HandOver /> },
              { path: 'open', element: <OpenInFlow /> },
              { path: 'open/:input', element: <OpenInFlow /> },
            ],
          },
        ],
      },
      {
        path: '/r/:token',
        element: <FlowLayout shared />,
        children: [
          { index: true, element: <SharedStory /> },
          { path: 'replay', element: <Replay /> },
          { path: 'hand-over', element: <HandOver /> },
          { path: 'open', element: <OpenInFlow /> },
          { path: 'open/:input', element: <OpenInFlow /> },
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
