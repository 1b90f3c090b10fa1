import { createReadStream } from 'node:fs'
import { startServer, type Running } from '../e2e/browser/server.ts'

type Opened = { readonly columns: readonly { readonly name: string; readonly type: string }[]; readonly rows: number }
type FileRef = { readonly name: string; readonly hash: string; readonly size: number }

/** A server of a data folder, spoken to as the page does. */
export const serve = async (data: string) => {
  let server: Running = await startServer(data)
  const post = async <T>(at: string, body: unknown): Promise<T> => {
    const response = await fetch(`${server.base}${at}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    })
    if (!response.ok) throw new Error(await response.text())
    return (await response.json()) as T
  }
  const get = async <T>(at: string): Promise<T> => (await (await fetch(`${server.base}${at}`)).json()) as T
  return {
    get,
    post,
    /** Brings a file in. */
    upload: async (path: string): Promise<FileRef> => {
      const body = { method: 'POST', body: createReadStream(path) as never, duplex: 'half' } as RequestInit
      return (await (await fetch(`${server.base}/api/files?name=visits.csv`, body)).json()) as FileRef
    },
    open: (ref: FileRef): Promise<Opened> => post('/api/open', { files: [ref], read: {} }),
    stop: () => server.stop(),
    restart: async (): Promise<void> => {
      await server.stop()
      server = await startServer(data)
    },
  }
}

/** A story that opens a file as it was found, and then does `steps`. */
export const storyOf = ({ columns }: Opened, steps: readonly object[] = []) => ({
  fabula: 1,
  name: 'Large',
  inputs: [{ id: 'visits', name: 'Visits', columns }],
  tables: [
    {
      id: 'visits',
      name: 'Visits',
      steps: [
        {
          ...{ id: 's1', kind: 'open', input: 'visits' },
          read: { types: Object.fromEntries(columns.map(({ name, type }) => [name, { type }])) },
        },
        ...steps.map((step, i) => ({ id: `s${i + 2}`, ...step })),
      ],
    },
  ],
})

/** What a preview of a step asks for: so many rows from one on. */
export const previewOf = (recipe: unknown, step: string, from: number, count: number) => ({
  ...{ recipe, table: 'visits', step, from, count },
  ...{ diffMode: 'after', only: 'all' },
})
