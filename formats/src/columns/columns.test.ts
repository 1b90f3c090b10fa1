import { mkdtempSync, readFileSync, rmSync, statSync, truncateSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, test } from 'vitest'
import { columnOf, concat, convert, gather, Table, writeCsv } from '@fabula/core'
import { fileFromBytes } from '../input-file.ts'
import { openInput, type OpenedFiles } from '../open-input.ts'
import { readColumnsFile } from './read.ts'
import { writeColumnsFile } from './write.ts'

const place = (): string => join(mkdtempSync(join(tmpdir(), 'fabula-columns-')), 'a.columns')
const again = async (opened: OpenedFiles): Promise<OpenedFiles> => {
  const path = place()
  expect(await writeColumnsFile(path, opened)).toBe(statSync(path).size)
  return readColumnsFile(path)
}
const csv = `N,D,T,Long,Paid,At,Clock,L\n${Array.from({ length: 30_000 }, (_, i) => `${i % 7 ? i : ''},${i / 8},${['Oxbow', 'Tarn Lane', '', 'Grünau 🐇'][i % 4]},"note ${i} ""é""",${i % 2 === 0},2031-05-0${1 + (i % 9)}T09:30:00,0${i % 10}:15:00,x`).join('\n')}\n`

describe('columns kept in a file', () => {
  test('are read again cell for cell, types, empties, notes and files with them', async () => {
    const opened = await openInput([fileFromBytes('a.csv', Buffer.from(csv))], {})
    const { table, ...rest } = opened
    const { table: back, ...restBack } = await again(opened)
    expect(back.schema).toEqual(table.schema)
    expect(writeCsv(back)).toBe(writeCsv(table))
    expect(restBack).toEqual(rest)
  })
  test('one cell of a text column is decoded alone, all of them when a step needs them, and copies hold them too', async () => {
    const back = (await again(await openInput([fileFromBytes('a.csv', Buffer.from(csv))], {}))).table
    const at = back.positionOf('Long')
    expect(back.cell(at, 29_999)).toBe('note 29999 "é"')
    const held = (): number => new Map(back.buffers).size
    expect(held()).toBe(0)
    back.column(at)
    const before = held()
    const picked = gather(back.column(at), Int32Array.from([5, -1]))
    expect(Table.of(['L'], [picked]).cell(0, 0)).toBe('note 5 "é"')
    expect(Table.of(['L'], [picked]).isNull(0, 1)).toBe(true)
    expect(held()).toBe(before)
    const longer = concat('text', [back.column(at), columnOf('text', ['x'])])
    expect(Table.of(['L'], [longer]).rowCount).toBe(back.rowCount + 1)
    expect(held()).toBeLessThan(before)
    const copy = { ...back.column(back.positionOf('T')) }
    expect(Table.of(['T'], [copy]).cell(0, 3)).toBe('Grünau 🐇')
    const list = convert(columnOf('list', ['[1]', null]), { type: 'text' }).column
    expect(Table.of(['L'], [list]).cell(0, 0)).toBe('[1]')
  })
  test('single cells are read where they lie, and a column when it is needed, even after the file is removed', async () => {
    const { table } = await openInput([fileFromBytes('a.csv', Buffer.from(csv))], {})
    const path = place()
    await writeColumnsFile(path, { ...(await openInput([fileFromBytes('a.csv', Buffer.from(csv))], {})), table })
    const { table: back } = readColumnsFile(path)
    rmSync(path)
    for (const row of [0, 1, 4095, 4096, 8191, 8193, 29_999, 3])
      for (const [at, name] of table.names.entries())
        expect([name, row, back.cell(at, row), back.isNull(at, row)]).toEqual([
          name,
          row,
          table.cell(at, row),
          table.isNull(at, row),
        ])
    expect(back.buffers).toEqual([])
    const last = Int32Array.from([29_999, -1, 5])
    const picked = back.rows(last)
    expect(writeCsv(picked)).toBe(writeCsv(table.rows(last)))
    expect(writeCsv(back)).toBe(writeCsv(table))
    expect(new Map(back.buffers).size).toBeGreaterThan(0)
  })
  test('cells far apart are read one part after the other until all of the column has cost no more', async () => {
    const opened = await openInput([fileFromBytes('a.csv', Buffer.from(csv))], {})
    const { table: back } = await again(opened)
    const far = Array.from({ length: 40 }, (_, i) => (i * 7919) % 30_000)
    const told = (): unknown[] => far.map((row) => back.names.map((_, at) => back.cell(at, row)))
    const want = far.map((row) => back.names.map((_, at) => opened.table.cell(at, row)))
    const held = (): number => new Map(back.buffers).size
    for (const row of [0, 9000, 1, 9001]) back.cell(0, row)
    expect(held()).toBe(0)
    expect(told()).toEqual(want)
    const all = held()
    expect(all).toBeGreaterThanOrEqual(back.names.length)
    back.release()
    expect(held()).toBe(0)
    expect(told()).toEqual(want)
    expect(held()).toBe(all)
  })
  test('a file that is cut short or is another is not taken', async () => {
    const path = place()
    await writeColumnsFile(path, await openInput([fileFromBytes('a.csv', Buffer.from('A\n1\n'))], {}))
    truncateSync(path, statSync(path).size - 1)
    expect(() => readColumnsFile(path)).toThrow('cut short')
    writeFileSync(path, 'FABCOLS1'.padEnd(64))
    expect(() => readColumnsFile(path)).toThrow('no columns file')
  })
  test('its header is as the format says', async () => {
    const path = place()
    await writeColumnsFile(path, await openInput([fileFromBytes('a.csv', Buffer.from('A,B\n1,x\n2,y\n'))], {}))
    const bytes = readFileSync(path)
    expect(bytes.toString('latin1', 0, 8)).toBe('FABCOLS3')
    const header = JSON.parse(bytes.toString('utf8', 16, 16 + Number(bytes.readBigUInt64LE(8)))) as {
      names: string[]
      columns: { values: { kind: string; offset: number; bytes: number } }[]
    }
    expect(header.names).toEqual(['A', 'B'])
    const start = Math.ceil((16 + Number(bytes.readBigUInt64LE(8))) / 8) * 8
    expect(header.columns[0]?.values).toEqual({ kind: 'float64', offset: 0, bytes: 16 })
    expect([bytes.readDoubleLE(start), bytes.readDoubleLE(start + 8)]).toEqual([1, 2])
  })
  test('a text that has no UTF-8 is not kept', async () => {
    const opened = await openInput([fileFromBytes('a.csv', Buffer.from('A\n1\n'))], {})
    expect(
      await writeColumnsFile(place(), { ...opened, table: Table.of(['A'], [columnOf('text', ['\ud800'])]) }),
    ).toBeUndefined()
  })
})
