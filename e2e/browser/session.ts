import { execFileSync } from 'node:child_process'
import { mkdirSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, afterEach, beforeAll } from 'vitest'
import type { FileRef } from '@fabula/core/api'
import { type Browser, give, keepOpened, closeBrowser, openBrowser, see, shoot } from './driver.ts'
import { root, startServer, type Running } from './server.ts'

export type Here = { server: Running; browser: Browser }

/** A file in the folder where downloads arrive; its path. */
export const fileIn = ({ browser }: Here, name: string, content: string | Buffer): string => {
  const path = join(browser.downloads, name)
  writeFileSync(path, content)
  return path
}
/** A story of its own from a file with this content, kept as it opens. */
export const openAs = async (here: Here, name: string, content: string): Promise<void> => {
  const { driver } = here.browser
  await driver.get(here.server.base)
  await give(driver, fileIn(here, name, content))
  await keepOpened(driver)
  await see(driver, 'Another table')
}

export const storyId = async ({ browser }: Here): Promise<string> =>
  /flows\/([^/]+)/.exec(await browser.driver.getCurrentUrl())?.[1] ?? ''
/** What the story the page shows hands over: its recipe or a script. */
export const handed = async (here: Here, what: 'recipe' | 'python' | 'sql'): Promise<string> =>
  (await fetch(`${here.server.base}/api/flows/${await storyId(here)}/download/${what}`)).text()
/** The story the page shows as it is kept. */
export const kept = async (
  here: Here,
): Promise<{ readonly tables: readonly { readonly steps: readonly Record<string, unknown>[] }[] }> =>
  JSON.parse(await handed(here, 'recipe')) as Awaited<ReturnType<typeof kept>>
/** The same story, run by the command line on the files at these paths; `fails`: what it says when it refuses. */
export const replayed = async (
  here: Here,
  output: string,
  files: Readonly<Record<string, string>>,
  fails = false,
): Promise<string> => {
  const recipe = fileIn(here, 'story.fabula.json', await handed(here, 'recipe'))
  const args = [
    join(root, 'cli/bin/fabula.mjs'),
    'run',
    recipe,
    ...Object.entries(files).flatMap(([input, path]) => ['--input', `${input}=${path}`]),
    '--output',
    `${output}=-`,
    '--allow-changes',
  ]
  try {
    return execFileSync('node', args, { encoding: 'utf8', stdio: 'pipe', maxBuffer: 1e8 })
  } catch (error) {
    if (!fails) throw error
    return `exit ${String((error as { status: number }).status)}: ${String((error as { stderr: string }).stderr)}`
  }
}

/** The story the page shows, which has one table of one file, run by the command line on another. */
export const again = async (here: Here, path: string): Promise<string> => {
  const { inputs, tables } = JSON.parse(await handed(here, 'recipe')) as {
    inputs: { id: string }[]
    tables: { id: string }[]
  }
  return replayed(here, tables[0]?.id ?? '', { [inputs[0]?.id ?? '']: path })
}

/** A server on a folder of its own and a fresh browser for the tests of one file; both are there once its tests run. */
export const session = (environment: Readonly<Record<string, string>> = {}): Here => {
  const here = {} as Here
  beforeAll(async () => {
    here.server = await startServer(undefined, undefined, environment)
    here.browser = await openBrowser()
  })
  /** What the page looked like when a test failed. */
  afterEach(async ({ task }) => {
    if (task.result?.state !== 'fail') return
    const folder = join(tmpdir(), 'fabula-failures')
    mkdirSync(folder, { recursive: true })
    await shoot(here.browser.driver, join(folder, `${task.name.replace(/[^a-z0-9]+/gi, '-').slice(0, 60)}.png`))
  })
  afterAll(async () => {
    if (here.browser) await closeBrowser(here.browser)
    await here.server?.stop()
  })
  return here
}

type FilesOf = Readonly<Record<string, readonly (readonly [name: string, content: string | Uint8Array])[]>>
/** A story with the files it was built on, made by the server; its id. */
export const storyWith = async ({ server }: Here, recipe: object, files: FilesOf): Promise<string> => {
  const post = async <T>(path: string, type: string, body: string | Uint8Array): Promise<T> =>
    (await (
      await fetch(`${server.base}/api/${path}`, {
        method: 'POST',
        headers: { 'content-type': type },
        body: body as never,
      })
    ).json()) as T
  const sent: Record<string, FileRef[]> = {}
  for (const [input, all] of Object.entries(files))
    sent[input] = await Promise.all(
      all.map(([name, content]) =>
        post<FileRef>(`files?name=${encodeURIComponent(name)}`, 'application/octet-stream', content),
      ),
    )
  return (await post<{ id: string }>('flows', 'application/json', JSON.stringify({ recipe, files: sent }))).id
}
