import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { By, Key } from 'selenium-webdriver'
import { expect, test } from 'vitest'
import { accessible, click, labelled, see } from './driver.ts'
import { session } from './session.ts'
import type { FlowReply, LinksReply } from '@fabula/core/api'

const here = session({ FABULA_HOSTS: 'localhost.example' })
const key = (): string => readFileSync(join(here.server.data, 'owner.key'), 'utf8')

/** What the page itself would ask, with its cookie. */
const ask = async <T>(method: string, path: string, body?: unknown): Promise<T> =>
  here.browser.driver.executeAsyncScript<T>(
    'const [method, path, body, done] = arguments; fetch(path, { method, headers: { "content-type": "application/json" }, ...(body ? { body: JSON.stringify(body) } : {}) }).then((r) => r.json()).then(done)',
    method,
    path,
    body ?? null,
  )

test('where others reach the server the key is asked for; a wrong one says where the right one is', async () => {
  const { driver } = here.browser
  await driver.get(`${here.server.base}/shelf`)
  await see(driver, 'Whose stories are these?')
  expect(await accessible(driver)).toEqual([])
  const field = await labelled(driver, 'The owner’s key')
  await field.sendKeys('not the key', Key.ENTER)
  await see(driver, 'This is not the owner’s key')
  await field.clear()
  await field.sendKeys(key(), Key.ENTER)
  await see(driver, 'The shelf')
  // the browser remembers, and no script of the page can read what it remembers
  await driver.get(here.server.base)
  await see(driver, 'Your stories')
  expect(await driver.executeScript('return document.cookie')).toBe('')
})

test('the address with the key makes a browser the owner’s and leaves no key behind', async () => {
  const { driver } = here.browser
  await driver.manage().deleteAllCookies()
  await driver.get(`${here.server.base}/help/formulas`)
  await see(driver, 'Whose stories are these?')
  await driver.get('about:blank')
  await driver.get(`${here.server.base}/#key=${key()}`)
  await see(driver, 'Your stories')
  expect(await driver.getCurrentUrl()).not.toContain('key')
})

test('a link says what it may cost, and a story changed by link waits for its owner to agree', async () => {
  const { driver } = here.browser
  const { flows } = await ask<{ flows: { id: string }[] }>('GET', '/api/flows')
  const own = `/api/flows/${flows[0]?.id}`
  await driver.get(`${here.server.base}/flows/${flows[0]?.id}/hand-over`)
  await click(driver, 'Make a link')
  await (await labelled(driver, 'For whom')).sendKeys('Ines at Marlpit')
  const megabytes = await labelled(driver, 'MB sent a day')
  await megabytes.sendKeys(Key.chord(Key.CONTROL, 'a'), '25')
  await (
    await driver.findElement(
      By.xpath("//select[.//option[contains(., 'copy and change')]]/option[contains(., 'copy and change')]"),
    )
  ).click()
  await click(driver, 'Make the link')
  await see(driver, 'At most 25 MB a day (0 today) and 3 replays at a time.')
  expect(await accessible(driver)).toEqual([])

  const begun = await ask<FlowReply>('GET', own)
  const recipe = {
    ...begun.recipe,
    outputs: [
      ...(begun.recipe.outputs ?? []),
      { table: 'takings', format: 'postgresql', connection: 'Till', name: 'takings', mode: 'replace' },
    ],
  }
  const kept = await ask<FlowReply>('POST', `${own}/edit`, { recipe, what: 'into the till', after: begun.edit })
  const token = (await ask<LinksReply>('GET', `${own}/links`)).links[0]?.token ?? ''
  await ask('POST', `/api/shared/${token}/edit`, {
    recipe: { ...recipe, parameters: [{ name: 'Which month', type: 'text', value: 'May' }] },
    what: 'by link',
    after: kept.edit,
  })
  await driver.navigate().refresh()
  await see(driver, 'Until you agree, it writes no table of a database.')
  expect(await accessible(driver)).toEqual([])
  await click(driver, 'See what changed')
  await see(driver, 'Which month')
  await click(driver, 'Agree to the story as it stands')
  await driver.wait(
    async () => (await driver.findElements(By.xpath("//*[contains(., 'Until you agree') and not(*)]"))).length === 0,
    10_000,
  )
  expect((await ask<FlowReply>('GET', own)).heldSince).toBeNull()
})
