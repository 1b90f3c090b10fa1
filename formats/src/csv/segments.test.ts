import { mkdtempSync, writeFileSync } from 'node:fs'
import { availableParallelism, tmpdir } from 'node:os'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { afterEach, beforeAll, describe, expect, test } from 'vitest'
import { writeCsv, type ReadOptions } from '@fabula/core'
import { useCompiledKernels } from '@fabula/core/compiled'
import { rolling } from '@fabula/core/testing'
import { referenceKernels, useKernels } from '../../../core/src/kernels/kernels.ts'
import { buildReader } from '../../../scripts/bundle.mjs'
import { fileFromPath, openInput, useReadingThreads } from '../index.ts'
import { freeThreads } from './segment-threads.ts'

const folder = mkdtempSync(join(tmpdir(), 'fabula-segments-'))
const worker = pathToFileURL(join(folder, 'segment-worker.js'))
beforeAll(async () => {
  await buildReader(folder)
  // the reference takes long for files that are large enough
  useCompiledKernels()
  return () => useKernels(referenceKernels)
})
afterEach(() => useReadingThreads(undefined))

/** Files are made so large. */
const large = 3 << 20
const clinics = ['Oxbow', 'Tarn End', 'Grünau', 'Marlpit', '']
/** Rows of an export up to so many bytes; `odd` says what stands instead of some, by the part of the file. */
const fileOf = (head: string, row: (i: number, part: number) => string): string => {
  const rows = [head]
  for (let i = 0, length = head.length; length < large; i++) {
    const text = row(i, length / large)
    rows.push(text)
    length += text.length + 1
  }
  return `${rows.join('\n')}\n`
}
const written = (content: string | Buffer): string => {
  const path = join(folder, 'visits.csv')
  writeFileSync(path, content)
  return path
}
/** All that is told of a file, and whether other threads had a part in it. */
const read = async (path: string, options: ReadOptions) => {
  let alone = true
  const before = freeThreads(large)
  const { table, notes, unreadable } = await openInput([fileFromPath(path)], options, {}, () => {
    alone &&= freeThreads(large) === before
  })
  return { alone, told: { schema: table.schema, csv: writeCsv(table), notes, unreadable } }
}
/** Read by several threads the file is what it is to one. */
const sameByThreads = async (content: string | Buffer, options: ReadOptions = {}) => {
  const path = written(content)
  const { told } = await read(path, options)
  useReadingThreads(worker, 2 << 20)
  const several = await read(path, options)
  expect(several.alone).toBe(availableParallelism() === 1)
  // texts of this size are not shown side by side
  expect(several.told.csv === told.csv).toBe(true)
  expect({ ...several.told, csv: '' }).toEqual({ ...told, csv: '' })
  return told
}

describe('a large file that several threads read', () => {
  // before any other test: threads that wait would be taken
  test('is read by one thread where the others cannot be had', async () => {
    const path = written(fileOf('No,Clinic', (i) => `${i},${clinics[i % 5]}`))
    const { told } = await read(path, {})
    useReadingThreads(pathToFileURL(join(folder, 'missing.js')), 2 << 20)
    // more often than there may be threads: none that ended is waited for
    for (let i = 0; i < 5; i++) expect(await read(path, {})).toEqual({ alone: availableParallelism() === 1, told })
  })
  test('has rows of all kinds in their order, and counts what is odd in all its parts', async () => {
    const next = rolling(31)
    const odd = [
      '"a ""quoted"", note\nof two lines",1,"x"',
      '',
      'short',
      ',,,',
      'wide,1,2031-02-03,more,and more',
      '"late, ""quoted""",0.5,2030-01-01\r',
    ]
    const { notes, schema } = await sameByThreads(
      fileOf('Ref,Fee,Day', (_, part) => {
        // a row that is wider comes first in the part of another thread
        if (next(40) === 0) return odd[next(part > 0.7 ? odd.length : 4)] as string
        return `B${next(1e9)} ${clinics[next(5)]},${next(1e6) / 100},2031-0${1 + next(9)}-1${next(9)}`
      }),
      { delimiter: ',' },
    )
    expect(notes).toMatchObject({ blankRows: expect.any(Number), raggedRows: expect.any(Number) })
    expect(schema.map(({ type }) => type)).toEqual(['text', 'decimal', 'text', 'text', 'text'])
  })
  test('has the type of all cells of a column, wherever they stand', async () => {
    const { schema, csv } = await sameByThreads(
      fileOf('Late text,Late number,Late decimal,Late word,Never,First text,Day,Whole', (i, part) =>
        [
          part > 0.9 && i % 900 === 0 ? '007' : i % 50,
          part > 0.8 ? i : '',
          part > 0.95 && i % 70 === 0 ? '1.5' : i % 9,
          part > 0.6 ? clinics[i % 5] : '',
          '',
          part > 0.2 && part < 0.4 ? 'n/a' : part > 0.7 ? i : '',
          `2030-12-${10 + (i % 20)}`,
          i,
        ].join(','),
      ),
    )
    expect(schema.map(({ type }) => type)).toEqual([
      'text',
      'integer',
      'decimal',
      'text',
      'text',
      'text',
      'date',
      'integer',
    ])
    expect(csv.split('\n').at(-2)?.split(',').at(-1)).toBe(String(csv.split('\n').length - 3))
  })
  test('keeps texts of which many differ in one part of it and few in another', async () => {
    await sameByThreads(
      fileOf('Few below,Few above,Words', (i, part) =>
        [
          part < 0.5 ? `ref ${i} of a visit` : 'Oxbow',
          part > 0.5 ? `ref ${i}` : 'Oxbow',
          `w${(i * 7919) % 20_000}`,
        ].join(),
      ),
    )
  })
  test('may have line ends within quotes at any place', async () => {
    const note = '"first line\nsecond line, and\n""third"""'
    await sameByThreads(fileOf('No,Note', (i) => `${i},${note}`))
    // a single cell that goes on where another thread begins
    const half = 'x,y,1\n'.repeat(large / 12)
    await sameByThreads(`A,B,C\n${half}"${'long\n'.repeat(100_000)}",z,2\n${half}`, { delimiter: ',' })
  })
  test('has cells that do not read as the type that was asked for, by their rows', async () => {
    const { unreadable } = await sameByThreads(
      fileOf('No,Fee', (i, part) => `${i},${part > 0.9 && i % 1000 === 0 ? 'free' : i / 4}`),
      { types: { Fee: { type: 'decimal' } } },
    )
    expect(unreadable[0]?.texts?.[0]).toBe('free')
  })
  test('is of another encoding where bytes of any part are no UTF-8', async () => {
    const text = fileOf('No,Clinic', (i) => `${i},Oxbow`)
    const { csv } = await sameByThreads(Buffer.concat([Buffer.from(text), Buffer.from('1,Gr\xfcnau\n', 'latin1')]))
    expect(csv.endsWith('1,Grünau\n')).toBe(true)
  })
  test('stops when it is told to, and is read anew', async () => {
    const path = written(fileOf('No,Clinic', (i) => `${i},${clinics[i % 5]}`))
    const { told } = await read(path, {})
    useReadingThreads(worker, 2 << 20)
    const stopped = openInput([fileFromPath(path)], {}, {}, (share) => {
      if (share > 0.3) throw new Error('stopped')
    })
    await expect(stopped).rejects.toThrow('stopped')
    expect(await read(path, {})).toEqual({ alone: availableParallelism() === 1, told })
  })
})
