import { afterAll, beforeAll } from 'vitest'
import { openBrowser, type Browser } from './driver.ts'
import { startServer, type Running } from './server.ts'

/** A server on a folder of its own and a fresh browser for the tests of one file; both are there once its tests run. */
export const session = (environment: Readonly<Record<string, string>> = {}): { server: Running; browser: Browser } => {
  const here = {} as { server: Running; browser: Browser }
  beforeAll(async () => {
    here.server = await startServer(undefined, undefined, environment)
    here.browser = await openBrowser()
  })
  afterAll(async () => {
    await here.browser?.driver.quit()
    await here.server?.stop()
  })
  return here
}
