import { rmSync } from 'node:fs'
import { useCompiledKernels } from '@fabula/core/compiled'
import { runRecipe, StepCache, type NewStep, type Recipe } from '@fabula/core'
import { contentAt, openInput } from '@fabula/formats'
import { freshData } from '../e2e/browser/server.ts'
import { benchFile } from './files.ts'
import { previewOf, serve, storyOf } from './served.ts'
import { nineSentences } from './works.ts'

/** How often the last sentence is changed. */
const changes = 41
const rowsShown = 100
const lastStep = `s${nineSentences.length + 2}`

/** A story of ten sentences behind the one that opens the file; `least` is what its last asks for. */
const sentences = (least: number): readonly NewStep[] => [
  ...nineSentences,
  { kind: 'filter', where: { column: 'Minutes', op: 'greater', value: least } },
]
/** Milliseconds of the changes after a first that does not count, in ascending order. */
const timed = async (change: (least: number) => unknown): Promise<number[]> => {
  const times: number[] = []
  for (let i = 0; i <= changes; i++) {
    const began = performance.now()
    await change(11 + i)
    if (i > 0) times.push(performance.now() - began)
  }
  return times.sort((a, b) => a - b)
}
const said = (times: readonly number[]): string =>
  [0.5, 0.95].map((share) => (times[Math.floor(share * changes)] ?? 0).toFixed(1)).join(' and ')

/** The engine alone: from the changed recipe to the cells of the first rows. */
const byEngine = async (rows: number): Promise<string> => {
  useCompiledKernels()
  const content = contentAt(await benchFile('visits', rows), 'visits')
  const read = { encoding: 'utf-8', delimiter: ',' }
  const source = { ...(await openInput([{ name: 'visits', content, hash: 'visits' }], read)), key: 'visits' }
  const cache = new StepCache()
  const columns = [...source.table.schema]
  const change = (least: number): void => {
    const recipe = storyOf({ columns, rows }, sentences(least)) as unknown as Recipe
    const { tables } = runRecipe(recipe, { sources: () => source, parameters: {}, now: 0, cache })
    const table = tables[0]?.table
    if (!table) throw new Error('the story does not run')
    for (let row = 0; row < rowsShown; row++) table.names.forEach((_, at) => table.cell(at, row))
  }
  return said(await timed(change))
}
/** The same by the built server, as the page asks for it. */
const overHttp = async (rows: number): Promise<string> => {
  const data = await freshData()
  const server = await serve(data)
  const ref = await server.upload(await benchFile('visits', rows))
  const opened = await server.open(ref)
  const { id } = await server.post<{ id: string }>('/api/flows', {
    recipe: storyOf(opened, nineSentences),
    files: { visits: [ref] },
  })
  const change = (least: number): Promise<unknown> =>
    server.post(`/api/flows/${id}/preview`, previewOf(storyOf(opened, sentences(least)), lastStep, 0, rowsShown))
  const times = await timed(change)
  await server.stop()
  rmSync(data, { recursive: true, force: true })
  return said(times)
}

/** How long a changed last sentence of ten takes until its first rows are there. */
export const lastSentence = async (rows: number): Promise<string> =>
  `a changed last sentence of ten, ${rows.toLocaleString('en-GB')} rows: engine ${await byEngine(rows)} ms, over HTTP ${await overHttp(rows)} ms (median and 95th percentile)`
