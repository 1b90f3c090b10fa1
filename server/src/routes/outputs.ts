import { pipeline } from 'node:stream/promises'
import { outputFormatInfo } from '@fabula/core'
import { Router, type Request, type Response } from 'express'
import type { FileStore } from '../store/files.ts'
import { Refusal } from '../refusal.ts'
import type { Access } from './access.ts'
import { pass } from './check.ts'
import { runReader, type ReplayServices } from './replays.ts'
import { zipInto } from './zip.ts'

const mostCopied = 1_000_000

const bare = (file: string): string => file.replace(/^.*[/\\]/, '')

/** A stored file with its length, so that whoever gets less knows that it was cut. */
const sendStored = async (response: Response, files: FileStore, hash: string): Promise<void> => {
  response.setHeader('content-length', await files.size(hash))
  await pipeline(files.read(hash), response).catch(() => response.destroy())
}

/** The files that a replay wrote: one by one, for the clipboard, or all in a zip. */
export const outputRoutes = (
  { compute, runs, replays, files }: ReplayServices,
  accessOf: (request: Request) => Promise<Access>,
): Router => {
  const router = Router({ mergeParams: true })
  const runOf = runReader(runs, replays, accessOf)
  router.get('/runs/:run/outputs/:at', async (request, response) => {
    const output = (await runOf(request)).outputs[Number(request.params.at)]
    if (!output || output.hash === '') throw new Refusal('no-output')
    response
      .attachment(bare(output.file))
      .type(output.format === 'postgresql' ? 'application/octet-stream' : outputFormatInfo[output.format].mediaType)
    await sendStored(response, files, output.hash)
  })
  /** The whole of a table for the clipboard, as the file holds it. */
  router.get('/runs/:run/outputs/:at/cells', async (request, response) => {
    const { outputs } = await runOf(request)
    const output = outputs[Number(request.params.at)]
    if (!output || output.hash === '') throw new Refusal('no-output')
    if (output.rows * output.columns > mostCopied)
      throw new Refusal('large-clipboard', { cells: output.rows * output.columns })
    await pass(
      response,
      compute.do(
        {
          kind: 'cells',
          hash: output.hash,
          name: bare(output.file),
          sheet: outputs.filter(({ hash }) => hash === output.hash).indexOf(output),
        },
        { home: output.hash },
      ),
    )
  })
  router.get('/runs/:run/outputs.zip', async (request, response) => {
    const run = await runOf(request)
    const made = run.outputs.filter(
      ({ hash, file }, i) => hash !== '' && run.outputs.findIndex((other) => other.file === file) === i,
    )
    if (made.length === 0) throw new Refusal('no-outputs')
    response.attachment('outputs.zip').type('application/zip')
    await zipInto(
      response,
      made.map(({ file, hash }) => ({ name: file, read: () => files.read(hash) })),
    )
  })
  return router
}
