import { ownValue } from '@fabula/core'
import { Router, type RequestHandler } from 'express'
import * as api from '@fabula/core/api'
import { odataLook, odataTables } from '../sources/odata.ts'
import { postgresLook, postgresTables } from '../sources/postgresql.ts'
import { taker, type TakeServices } from '../services/fetch-source.ts'
import { body, send } from './check.ts'

export type SourceServices = TakeServices

/** Bringing data in from elsewhere, and the shelf of all that was brought in. */
// eslint-disable-next-line max-lines-per-function -- a list of routes
export const sourceRoutes = (services: SourceServices, owner: RequestHandler): Router => {
  const { shelf, sources, reach } = services
  const router = Router()
  router.use(owner)

  const take = taker(services)
  const going = new Map<string, number>()
  router.post('/sources/offer', async (request, response) => {
    const asked = body(api.offerRequest, request)
    if (asked.kind === 'odata')
      send(response, api.offerReply, { tables: (await odataTables(asked.service, reach)).map((name) => ({ name })) })
    else
      send(response, api.offerReply, {
        tables: (await postgresTables(await sources.connection(asked.connection))).map(({ schema, table, rows }) => ({
          name: table,
          schema,
          rows,
        })),
      })
  })
  router.post('/sources/look', async (request, response) => {
    const { asked } = body(api.takeRequest, request)
    if (asked.kind === 'postgresql')
      return send(
        response,
        api.sampleReply,
        await postgresLook(await sources.connection(asked.connection), asked.wanted),
      )
    if (asked.kind === 'web' || asked.kind === 'cluster')
      return send(response, api.sampleReply, { names: [], rows: [] })
    const records = await odataLook(asked.service, asked.table, reach)
    const names = [...new Set(records.flatMap(Object.keys))]
    const shown = (value: unknown): string => {
      if (value === null || value === undefined) return ''
      if (typeof value === 'object') return JSON.stringify(value)
      return String(value as string | number | boolean)
    }
    send(response, api.sampleReply, {
      names,
      rows: records.map((record) => names.map((name) => shown(ownValue(record, name)))),
    })
  })
  router.post('/sources/take', async (request, response) => {
    const { asked, job } = body(api.takeRequest, request)
    try {
      send(response, api.takeReply, await take(asked, undefined, (rows) => job !== undefined && going.set(job, rows)))
    } finally {
      if (job !== undefined) going.delete(job)
    }
  })
  router.get('/sources/take/:job', (request, response) =>
    send(response, api.progressReply, {
      done: going.get(request.params.job) ?? 0,
      of: 0,
      doing: going.has(request.params.job)
        ? `${(going.get(request.params.job) ?? 0).toLocaleString('en-GB')} rows so far`
        : '',
    }),
  )
  router.post('/sources/:id/again', async (request, response) => {
    const id = Number(request.params.id)
    send(response, api.takeReply, await take(await sources.asked(id), id))
  })

  router.get('/cluster', (_request, response) =>
    send(response, api.clusterReply, { master: services.cluster?.master ?? null }),
  )
  router.get('/connections', async (_request, response) =>
    send(response, api.connectionsReply, { connections: await sources.connections() }),
  )
  router.post('/connections', async (request, response) => {
    const { name, ...connection } = body(api.connectRequest, request)
    await postgresTables(connection)
    await sources.connect(name, connection)
    send(response, api.connectionsReply, { connections: await sources.connections() })
  })
  router.delete('/connections/:name', async (request, response) => {
    await sources.disconnect(request.params.name)
    send(response, api.connectionsReply, { connections: await sources.connections() })
  })

  router.get('/shelf', async (_request, response) => send(response, api.shelfReply, { entries: await shelf.list() }))
  router.put('/shelf/:id', async (request, response) => {
    await shelf.replace(Number(request.params.id), body(api.replaceRequest, request).file)
    send(response, api.shelfReply, { entries: await shelf.list() })
  })
  router.delete('/shelf/:id', async (request, response) => {
    await shelf.remove(Number(request.params.id))
    send(response, api.shelfReply, { entries: await shelf.list() })
  })
  return router
}
