import { existsSync, mkdtempSync, readdirSync, statSync, utimesSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, test } from 'vitest'
import { fileFromBytes, openInput } from '@fabula/formats'
import { ColumnStore } from './column-store.ts'

const opened = (rows: number) =>
  openInput([fileFromBytes('a.csv', Buffer.from(`N\n${Array.from({ length: rows }, (_, i) => i).join('\n')}\n`))], {})
const folder = (): string => mkdtempSync(join(tmpdir(), 'fabula-store-'))
const files = (data: string): string[] => (existsSync(join(data, 'columns')) ? readdirSync(join(data, 'columns')) : [])
const dayMs = 86_400_000

test('what took long is kept under each of its keys, once on disk', async () => {
  const data = folder()
  const store = new ColumnStore(data, 1e9)
  await store.keep(['detected', 'settled'], await opened(100), 500)
  expect(store.read('settled')?.table.rowCount).toBe(100)
  expect(store.read('other')).toBeUndefined()
  expect(new Set(files(data).map((name) => statSync(join(data, 'columns', name)).ino)).size).toBe(1)
})
test('what is quick to read is not kept', async () => {
  const data = folder()
  await new ColumnStore(data, 1e9).keep(['a'], await opened(100), 1)
  expect(files(data)).toEqual([])
})
test('a damaged file is thrown away and the input read anew', async () => {
  const data = folder()
  const store = new ColumnStore(data, 1e9)
  await store.keep(['a'], await opened(100), 500)
  writeFileSync(join(data, 'columns', files(data)[0] ?? ''), 'damaged')
  expect(store.read('a')).toBeUndefined()
  expect(files(data)).toEqual([])
})
test('beyond the bound the longest unused leave; what nobody used for a month leaves too', async () => {
  const data = folder()
  const store = new ColumnStore(data, 20_000)
  const age = (days: number): void => {
    for (const name of files(data))
      utimesSync(join(data, 'columns', name), new Date(Date.now() - days * dayMs), new Date(Date.now() - days * dayMs))
  }
  await store.keep(['old'], await opened(1500), 500)
  age(2)
  await store.keep(['new'], await opened(1500), 500)
  expect(store.read('old')).toBeUndefined()
  expect(store.read('new')).toBeDefined()
  age(31)
  store.sweep()
  expect(files(data)).toEqual([])
})
