import { spawnSync } from 'node:child_process'
import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, test } from 'vitest'
import { rowSampleScript } from '@fabula/server/row-sample'
import { hasSpark, inEnvironment } from '../../scripts/python.mjs'

const folder = mkdtempSync(join(tmpdir(), 'fabula-row-sample-'))
/** What an expression gives where the functions of the program are known. */
const evaluated = (expression: string): unknown => {
  const path = join(folder, 'look.py')
  writeFileSync(path, `${rowSampleScript.replace(/main\(\)\n$/, '')}\nprint(json.dumps(${expression}))\n`)
  const { stdout, stderr } = spawnSync(inEnvironment('spark-3'), [path], { encoding: 'utf8' })
  if (stdout === '') throw new Error(stderr)
  return JSON.parse(stdout)
}

test.skipIf(!hasSpark())(
  'first rows end with a line, none of which is cut: quotes, stray quotes, UTF-16, the last row',
  () => {
    const texts = [
      'A,B\n1,2\n3,4\n',
      'A,B\n1,"two\nlines, and ""q"""\n3,4\n',
      'A;B\n5" pipe;2\n3;4\n',
      'A,B\n1,2',
      'A,B\n1,"open\n3,4\n',
    ]
    const ends = texts.map((text) => `end_of_rows(${JSON.stringify(text)}.encode(), 2)`)
    const wide = 'end_of_rows("\\ufeffA,B\\n1,2\\n3,4\\n".encode("utf-16-le"), 2)'
    expect(evaluated(`[${[...ends, wide].join(', ')}]`)).toEqual([8, 29, 14, null, null, 18])
  },
)

test.skipIf(!hasSpark())('the program keeps the rules of Python’s own style checker', () => {
  const path = join(folder, 'row_sample.py')
  writeFileSync(path, rowSampleScript)
  const { stdout } = spawnSync(inEnvironment('pandas-3', 'ruff'), ['check', '--no-cache', path], { encoding: 'utf8' })
  expect(stdout).toBe('All checks passed!\n')
})
