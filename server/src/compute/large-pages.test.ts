import { expect, test } from 'vitest'
import { withLargePages } from './large-pages.ts'

test('compute processes ask for large pages, beside what was set for the server', () => {
  expect(withLargePages({ HOME: '/root' })).toEqual({ HOME: '/root', GLIBC_TUNABLES: 'glibc.malloc.hugetlb=1' })
  expect(withLargePages({ GLIBC_TUNABLES: 'glibc.malloc.arena_max=2' })).toEqual({
    GLIBC_TUNABLES: 'glibc.malloc.arena_max=2:glibc.malloc.hugetlb=1',
  })
  expect(withLargePages({ GLIBC_TUNABLES: 'glibc.malloc.hugetlb=0' })).toEqual({
    GLIBC_TUNABLES: 'glibc.malloc.hugetlb=0',
  })
})
