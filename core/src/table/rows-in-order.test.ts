import { expect, test } from 'vitest'
import { isAscending, repeatEach, rowOrder, rowsAndOthers, rowsInOrder } from './rows-in-order.ts'

test('rows with others behind them: what is known of their order is what looking finds', () => {
  for (const [count, others] of [
    [3, 2],
    [3, 0],
    [0, 2],
  ] as const) {
    const index = rowsAndOthers(count, others)
    expect([...index]).toEqual([...Array.from({ length: count }, (_, i) => i), ...Array<number>(others).fill(-1)])
    // a copy is looked through, as nothing is known of it
    expect(rowOrder(index)).toEqual(rowOrder(index.slice()))
    expect(isAscending(index)).toBe(others === 0)
  }
})

test('rows in order are the same however many were asked for before', () => {
  expect([...rowsInOrder(5)]).toEqual([0, 1, 2, 3, 4])
  expect([...rowsInOrder(2)]).toEqual([0, 1])
  expect(rowOrder(Int32Array.from([0, 0, 2]))).toEqual({ ordered: true, different: 2 })
  expect(rowOrder(Int32Array.from([2, 0]))).toEqual({ ordered: false, different: 0 })
})

test('rows that repeat are the same however many were asked for before, and what is known of their order is what looking finds', () => {
  for (const [count, times] of [
    [4, 2],
    [2, 2],
    [3, 3],
    [6, 2],
    [5, 1],
    [3, 0],
  ] as const) {
    const index = repeatEach(count, times)
    expect([...index]).toEqual(Array.from({ length: count * times }, (_, i) => Math.floor(i / times)))
    expect(rowOrder(index)).toEqual(rowOrder(index.slice()))
    expect(isAscending(index)).toBe(times < 2)
  }
})
