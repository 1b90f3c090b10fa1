import type { OpenReply } from '@fabula/core/api'
import * as api from '@fabula/core/api'
import { Router, type Request } from 'express'
import type { Lane, Supervisor } from '../compute/supervisor.ts'
import type { Progress } from '../compute/worker-context.ts'
import { fileName, tooLarge } from '../store/file-name.ts'
import type { FileStore } from '../store/files.ts'
import type { Links } from '../store/links.ts'
import type { Shelf } from '../store/shelf.ts'
import { body, pass, send } from './check.ts'
import type { Ownership } from './owner.ts'

type OpeningServices = {
  readonly files: FileStore
  readonly shelf: Shelf
  readonly links: Links
  readonly compute: Supervisor
}

const useUpload = (
  router: Router,
  { files, shelf, links }: OpeningServices,
  ownership: Ownership,
  maxUpload: number,
): void => {
  /** A file's bytes as they are; by a link within what it may send a day. */
  router.post('/files', async (request, response) => {
    const link = ownership.isOwner(request) ? undefined : await links.open(request.get('x-fabula-link') ?? '')
    const name = fileName(String(request.query.name ?? ''))
    const sample = api.fileRef.shape.sample.safeParse(request.query.sample).data
    const announced = Number(request.headers['content-length'] ?? 0)
    if (announced > maxUpload) throw tooLarge(name, maxUpload)
    if (link) await links.countUpload(link.token, announced)
    const { hash, size } = await files.add(request, { most: link ? announced : maxUpload, name })
    const file = { name, hash, size, ...(sample === undefined ? {} : { sample }) }
    await shelf.add(file)
    send(response, api.fileRef, file)
  })
}

/** Uploaded files, looks at them, and opening them as a table; by a link within what it may send a day. */
export const openingRoutes = (services: OpeningServices, ownership: Ownership, maxUpload: number): Router => {
  const router = Router()
  const { shelf, compute } = services
  const opener = ownership.guardOpening
  const laneFor = (request: Request): Lane => (ownership.isOwner(request) ? 'interactive' : 'guest')
  useUpload(router, services, ownership, maxUpload)
  router.post('/look', opener, async (request, response) => {
    const { hash, name, read, sheet } = body(api.lookRequest, request)
    await pass(response, compute.do({ kind: 'look', hash, name, read, sheet }, { home: hash, lane: laneFor(request) }))
  })
  const opening = new Map<string, { progress: Progress; stop: () => void }>()
  router.post('/open', opener, async (request, response) => {
    const { files: refs, read, job } = body(api.openRequest, request)
    const { value, stop } = compute.do<OpenReply>(
      { kind: 'open', files: refs, read },
      {
        home: refs[0]?.hash ?? '',
        lane: laneFor(request),
        progress: (progress) => job !== undefined && opening.set(job, { progress, stop }),
      },
    )
    if (job !== undefined) opening.set(job, { progress: { done: 0, of: 100, doing: '' }, stop })
    try {
      const reply = await value()
      await shelf.note(
        refs,
        reply.columns.map(({ name }) => name),
      )
      send(response, api.openReply, reply)
    } finally {
      if (job !== undefined) opening.delete(job)
    }
  })
  router.get('/open/:job', opener, (request, response) =>
    send(
      response,
      api.progressReply,
      opening.get(String(request.params.job))?.progress ?? { done: 0, of: 100, doing: '' },
    ),
  )
  router.delete('/open/:job', opener, (request, response) => {
    const job = opening.get(String(request.params.job))
    job?.stop()
    send(response, api.progressReply, job?.progress ?? { done: 0, of: 100, doing: '' })
  })
  return router
}
