import { createReadStream } from 'node:fs'
import { readdir } from 'node:fs/promises'
import { join } from 'node:path'
import { Router, type RequestHandler } from 'express'
import * as api from '@fabula/core/api'
import { Refusal } from '../refusal.ts'
import type { FileStore } from '../store/files.ts'
import { send } from './check.ts'

/** The made-up exports that ship with the product, by the names of their files. */
export const sampleRoutes = (
  { files }: { readonly files: FileStore },
  folder: string,
  guardOwner: RequestHandler,
): Router => {
  const router = Router()
  router.post('/samples/:name', guardOwner, async (request, response) => {
    const name = String(request.params.name)
    const known = await readdir(folder).catch((): string[] => [])
    if (!known.includes(name) || !/\.(?:csv|xlsx)$/.test(name)) throw new Refusal('no-sample', { name })
    send(response, api.fileRef, { name, ...(await files.add(createReadStream(join(folder, name)))) })
  })
  return router
}
