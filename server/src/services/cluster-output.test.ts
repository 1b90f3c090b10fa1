import { expect, test } from 'vitest'
import type { Progress } from '../compute/worker-context.ts'
import { ClusterOutput } from './cluster-output.ts'

const output = () => {
  const progress: Progress[] = []
  return { progress, output: new ClusterOutput((at) => progress.push(at)) }
}

test('accounts and sentences of a script are told apart, also when a line comes in pieces', () => {
  const { output: said } = output()
  said.takeFromScript('3 cells of “Fee” cannot be read as decimal; they are empty.\n     1,204 rows × 9 colu')
  said.takeFromScript('mns  s1\n           0 rows × 12 columns  s2')
  said.end()
  expect([...said.accounts]).toEqual([
    ['s1', { rows: 1204, columns: 9 }],
    ['s2', { rows: 0, columns: 12 }],
  ])
  expect(said.sentences).toEqual(['3 cells of “Fee” cannot be read as decimal; they are empty.'])
})

test('the bars of stages are how far Spark is, and no sentences', () => {
  const { output: said, progress } = output()
  said.takeFromSpark('\r[Stage 21:===>      (1 + 2) / 8]\r[Stage 4:>  (0 + 1) / 1][Stage 5:==> (3 + 1) / 7]')
  said.end()
  expect(progress.map(({ done, of, doing }) => `${doing}: ${done} of ${of}`)).toEqual([
    'Spark begins: 0 of 1',
    'Spark is at its stage 5: 3 of 7',
  ])
  expect(said.reason).toBeUndefined()
})

test('how many rows have come to which sentence is said with the stage of Spark', () => {
  const progress: Progress[] = []
  const story = new Map([
    ['s1', 'Open Visits.'],
    ['s2', 'Keep the rows where Fee is filled.'],
    ['s3', 'Sort the rows by Fee.'],
  ])
  const said = new ClusterOutput((at) => progress.push(at), story)
  said.takeFromScript('\u001epassed {"s1": 900, "s2": 1204}\n')
  said.takeFromSpark('\r[Stage 5:==> (3 + 1) / 7]')
  // the first table is read again for another
  said.takeFromScript('\u001epassed {"s1": 1900}\n')
  said.end()
  expect(said.sentences).toEqual([])
  expect(progress.slice(1).map(({ done, of, doing }) => `${done} of ${of}: ${doing}`)).toEqual([
    '2 of 3: Keep the rows where Fee is filled. 1,204 rows so far.',
    ...Array.from(
      { length: 2 },
      () => '2 of 3: Keep the rows where Fee is filled. 1,204 rows so far. Spark is at its stage 5, 3 of 7.',
    ),
  ])
})

test('why it ended is the last sentence of the script, else the last words of Spark that are no log', () => {
  const { output: said } = output()
  said.takeFromSpark(
    '26/11/30 21:00:16 WARN NativeCodeLoader: Unable to load native-hadoop library\nException in thread "main" Could not parse Master URL: sparc\n\tat org.apache.spark.SparkContext\n',
  )
  expect(said.reason).toBe('Exception in thread "main" Could not parse Master URL: sparc')
  said.takeFromScript('The file for Visits has no column “Status”.\n')
  expect(said.reason).toBe('The file for Visits has no column “Status”.')
})
