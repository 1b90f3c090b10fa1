import { mkdirSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, afterEach, beforeAll } from 'vitest'
import { openBrowser, shoot, type Browser } from './driver.ts'
import { startServer, type Running } from './server.ts'

/** A server on a folder of its own and a fresh browser for the tests of one file; both are there once its tests run. */
export const session = (environment: Readonly<Record<string, string>> = {}): { server: Running; browser: Browser } => {
  const here = {} as { server: Running; browser: Browser }
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
    await here.browser?.driver.quit()
    await here.server?.stop()
  })
  return here
}
