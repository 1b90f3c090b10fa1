import { createContext, useContext, type ReactNode } from 'react'
import type { FlowReply } from '@fabula/core/api'
import type { Endpoint } from '../api/queries.ts'

/** What every page of a flow shares: the flow itself, where it is served, and the parts of the header a page may set. */
type FlowContextValue = {
  readonly flow: FlowReply
  readonly endpoint: Endpoint
  readonly setTools: (tools: ReactNode) => void
  readonly setMessage: (message: string) => void
}
export const FlowContext = createContext<FlowContextValue | undefined>(undefined)

/** The flow of the page. @throws Error outside a `FlowContext`. */
export const useFlow = (): FlowContextValue => {
  const context = useContext(FlowContext)
  if (!context) throw new Error('outside of a story')
  return context
}
