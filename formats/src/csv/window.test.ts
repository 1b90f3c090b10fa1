import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { describe, expect, test } from 'vitest'
import { writeCsv } from '@fabula/core'
import { contentAt, isUtf8Content, type FileContent } from '../file-content.ts'
import { wholeCharacters, windowBytes } from '../file-parts.ts'
import { fileFromBytes, fileFromPath } from '../input-file.ts'
import { openInput } from '../open-input.ts'

const write = (bytes: Buffer): string => {
  const path = join(mkdtempSync(join(tmpdir(), 'fabula-window-')), 'visits.csv')
  writeFileSync(path, bytes)
  return path
}
const opened = async (path: string) => {
  const { table, notes, unreadable } = await openInput([fileFromPath(path)], {})
  return { csv: writeCsv(table), schema: table.schema, notes, unreadable }
}

/** A file of some windows: plain rows, and where a window may end odd ones, quotes and wide characters. */
const manyRows = (bytes: number): string => {
  const rows = ['Ref,Clinic,Note,Fee']
  let length = rows[0]!.length
  for (let i = 0; length < bytes; i++) {
    const near = length % windowBytes < 400 || length % windowBytes > windowBytes - 400
    const odd = [
      `B${i},Grünau 🐇,"a ""quoted"", note\nof two lines",${i / 4}`,
      '',
      `B${i},Oxbow,,`,
      `B${i},Oxbow,"é${'ü🐇'.repeat(40)}",7`,
      `B${i}`,
    ][i % 5] as string
    const row = near || i % 9000 === 0 ? odd : `B${i},${['Oxbow', 'Tarn End', 'Grünau'][i % 3]},checked in,${i / 8}`
    rows.push(row)
    length += Buffer.byteLength(row) + 1
  }
  return `${rows.join('\n')}\n`
}

describe('a file read a window at a time', () => {
  test('holds what the same file in memory holds, read by the way of small files', async () => {
    const text = manyRows(1.1 * windowBytes)
    const path = write(Buffer.from(text))
    const byWindows = await opened(path)
    // files with a footer are read from their text
    const { table, notes } = await openInput([fileFromBytes('visits.csv', Buffer.from(`${text}end\n`))], { footer: 1 })
    expect(byWindows.csv).toBe(writeCsv(table))
    expect(byWindows.notes).toEqual(notes)
    expect(byWindows.notes).toMatchObject({ blankRows: expect.any(Number), raggedRows: expect.any(Number) })
    const lines = text.split('\n')
    expect(byWindows.csv).toContain('Grünau 🐇,"a ""quoted"", note\nof two lines"')
    expect(byWindows.csv.split(/\r?\n/).at(-2)?.split(',')[0]).toBe(lines.at(-2)?.split(',')[0])
  })
  test('bytes behind the first window that are no UTF-8 make the file another encoding, as in a small one', async () => {
    const head = Buffer.from(manyRows(1.02 * windowBytes))
    const path = write(Buffer.concat([head, Buffer.from('B1,Gr\xfcnau,late,2\n', 'latin1')]))
    const { csv } = await opened(path)
    expect(csv.split(/\r?\n/).at(-2)).toBe('B1,Grünau,late,2')
    // the umlauts before it were UTF-8, which Windows-1252 reads as two signs
    expect(csv).toContain('GrÃ¼nau')
  })
  test('a NUL behind the first window is said', async () => {
    const path = write(Buffer.concat([Buffer.from(manyRows(1.02 * windowBytes)), Buffer.from('B1,Ox\0bow,late,2\n')]))
    await expect(opened(path)).rejects.toThrow('visits.csv holds zero bytes')
  })
  test('a file that is removed while it is open is read to its end', async () => {
    const path = write(Buffer.from(manyRows(windowBytes / 2)))
    const file = fileFromPath(path)
    rmSync(path)
    expect((await openInput([file], {})).table.rowCount).toBeGreaterThan(1000)
  })
  test('characters are never cut', () => {
    const bytes = Buffer.from('aé€🐇')
    expect(Array.from({ length: bytes.length + 1 }, (_, n) => wholeCharacters(bytes.subarray(0, n)))).toEqual([
      0, 1, 1, 3, 3, 3, 6, 6, 6, 6, 10,
    ])
    const content = (text: Buffer): FileContent => contentAt(write(text), 'a.csv')
    expect(isUtf8Content(content(Buffer.from('é'.repeat(windowBytes * 0.75))))).toBe(true)
    expect(isUtf8Content(content(Buffer.from(`${'x'.repeat(windowBytes)}\xe9`, 'latin1')))).toBe(false)
    expect(isUtf8Content(content(Buffer.alloc(0)))).toBe(true)
  })
})
