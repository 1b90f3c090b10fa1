import type { FlowReply } from '@fabula/core/api'
import type { Running } from '../browser/server.ts'

/** Requests to a running server, as the page makes them. */
export const caller = (server: () => Running) => {
  const call = async <T>(method: string, path: string, body?: unknown): Promise<{ status: number; data: T }> => {
    const response = await fetch(`${server().base}${path}`, {
      method,
      ...(body === undefined ? {} : { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } }),
    })
    return { status: response.status, data: (await response.json()) as T }
  }
  const demoFlow = async (): Promise<FlowReply> => {
    const { data } = await call<{ flows: { id: string; name: string }[] }>('GET', '/api/flows')
    const id = data.flows.find(({ name }) => name === 'Monthly takings by clinic')?.id ?? ''
    return (await call<FlowReply>('GET', `/api/flows/${id}`)).data
  }
  return { call, demoFlow }
}
