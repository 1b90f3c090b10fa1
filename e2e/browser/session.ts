import { mkdirSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, afterEach, beforeAll } from 'vitest'
import { click, give, openBrowser, see, shoot, type Browser } from './driver.ts'
import { startServer, type Running } from './server.ts'

/** A file in the folder where downloads arrive; its path. */
export const fileIn = ({ browser }: { readonly browser: Browser }, name: string, content: string): string => {
  const path = join(browser.downloads, name)
  writeFileSync(path, content)
  return path
}
/** A story of its own from a file with this content, kept as it opens. */
export const openAs = async (here: { readonly server: Running; readonly browser: Browser }, name: string, content: string): Promise<void> => {
  const { driver } = here.browser
  await driver.get(here.server.base)
  await give(driver, fileIn(here, name, content))
  await see(driver, 'Keep')
  await click(driver, 'Keep')
  await see(driver, 'Another table')
}

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
