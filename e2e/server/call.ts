import type { FileRef, FlowReply, RunReply } from '@fabula/core/api'
import { until } from './until.ts'
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
  const sendFile = async (name: string, content: string | Uint8Array<ArrayBuffer>): Promise<FileRef> => {
    const response = await fetch(`${server().base}/api/files?name=${encodeURIComponent(name)}`, {
      method: 'POST',
      body: content,
      headers: { 'content-type': 'application/octet-stream' },
    })
    return (await response.json()) as FileRef
  }
  /** The replay when it has ended. `base`: the address of its story. */
  const ended = async (base: string, id: string): Promise<RunReply> => {
    const now = async () => (await call<RunReply>('GET', `${base}/runs/${id}`)).data
    await until(async () => (await now()).state !== 'running', `replay ${id} does not end`)
    return now()
  }
  return { call, demoFlow, sendFile, ended }
}
