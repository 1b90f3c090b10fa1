import { expect, test } from 'vitest'
import { pathsGiven, reasonToWait, wholeFiles } from './cluster-model.ts'

const inputs = [
  { id: 'visits', name: 'Visits' },
  { id: 'targets', name: 'Targets' },
]
const file = { name: 'targets.csv', hash: 'a'.repeat(64), size: 9 }

test('paths are one a line; an input without any is left out', () => {
  expect(pathsGiven(inputs, { visits: ' /shared/may.csv \n\n/shared/june*.csv', targets: ' \n' })).toEqual({
    visits: ['/shared/may.csv', '/shared/june*.csv'],
  })
})

test('files stand for an input without a path, but no sample does', () => {
  const files = { visits: [{ ...file, sample: 'the first 9 rows' }], targets: [file] }
  expect(wholeFiles(files, {})).toEqual({ targets: [file] })
  expect(wholeFiles(files, { targets: ['/shared/targets.csv'] })).toEqual({})
})

test('it waits for a path or a file of each input, then for the folder', () => {
  const paths = { visits: ['/shared/may.csv'] }
  expect(reasonToWait(inputs, { paths: {}, files: {}, folder: '' })).toBe('It waits for Visits, Targets.')
  expect(reasonToWait(inputs, { paths, files: {}, folder: '/shared' })).toBe('It waits for Targets.')
  expect(reasonToWait(inputs, { paths, files: { targets: [file] }, folder: ' ' })).toBe(
    'It waits for the folder to write to.',
  )
  expect(reasonToWait(inputs, { paths, files: { targets: [file] }, folder: '/shared' })).toBeUndefined()
})
