import type { Request, Response } from 'express'
import type { z } from 'zod'
import type { Computation } from '../compute/supervisor.ts'
import { Refusal } from '../refusal.ts'

/** The body as its schema has it, or a refusal that says where it is not. */
export const body = <T>(schema: z.ZodType<T>, request: Request): T => {
  const read = schema.safeParse(request.body)
  if (read.success) return read.data
  const [issue] = read.error.issues
  throw new Refusal('bad-request', {
    what: issue?.message ?? 'it has another form',
    at: issue?.path.map(String).join('.') || 'the top',
  })
}
/** A reply that is what its schema says, always. */
export const send = <T>(response: Response, schema: z.ZodType<T>, reply: T): void => {
  response.json(schema.parse(reply))
}
/** A reply that a compute process made, passed on as it is; whoever goes away before it is ready ends the work. */
export const pass = async (response: Response, { text, stop }: Computation<unknown>): Promise<void> => {
  response.on('close', () => {
    if (!response.writableEnded) stop()
  })
  response.type('application/json').send(await text)
}
