import { Router, type Request } from 'express'
import { dialects, fileStem, writeRecipe } from '@fabula/core'
import * as api from '@fabula/core/api'
import { Refusal } from '../refusal.ts'
import { laneOf, need, type Access } from './access.ts'
import { send } from './check.ts'
import type { Services } from './flows.ts'

/** The scripts of a story, to read and to download, and its recipe as a file. */
export const scriptRoutes = (
  { flows, compute, links }: Services,
  accessOf: (request: Request) => Promise<Access>,
): Router => {
  const router = Router({ mergeParams: true })
  const scriptsOf = async (access: Access): Promise<api.ScriptReply> =>
    compute
      .do<api.ScriptReply>(
        {
          kind: 'scripts',
          recipe: (await flows.get(access.flow, access.edit)).recipe,
          files: await flows.files(access.flow),
        },
        { home: access.flow, lane: laneOf(access) },
      )
      .value()
  router.get('/scripts', async (request, response) => {
    const access = await accessOf(request)
    need(access, 'copy')
    send(response, api.scriptReply, await scriptsOf(access))
  })
  router.get('/download/:what', async (request, response) => {
    const access = await accessOf(request)
    need(access, 'copy')
    const { recipe } = await flows.get(access.flow, access.edit)
    const stem = fileStem(recipe.name, 'flow')
    const { what } = request.params
    if (what === 'recipe')
      response.attachment(`${stem}.fabula.json`).type('application/vnd.fabula.recipe+json').send(writeRecipe(recipe))
    else {
      const dialect = Object.values(dialects).find(({ name }) => name === what)
      if (!dialect) throw new Refusal('no-download')
      const script = (await scriptsOf(access)).scripts.find((one) => one.dialect === what)
      if (!script || script.parts.length === 0)
        throw new Refusal('no-script', { reason: script?.problem ?? 'There is no script.' })
      response
        .attachment(`${stem}${dialect.fileEnding}`)
        .type(dialect.mediaType)
        .send(script.parts.map(({ text }) => text).join('\n'))
    }
    if (access.link) await links.used(access.link, 'copied')
  })
  return router
}
