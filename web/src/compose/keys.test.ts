import { describe, expect, test } from 'vitest'
import type { Draft } from '../story/story-state.ts'
import { keyCommand, keyList, type KeyPress } from './keys.ts'

const press = (key: string, more: Partial<KeyPress> = {}): KeyPress => ({
  key,
  mod: false,
  alt: false,
  shift: false,
  target: 'other',
  taken: false,
  ...more,
})
const draft: Draft = {
  table: 'visits',
  step: { id: 's2', kind: 'drop', columns: ['Fee'] },
  after: 's1',
  isNew: true,
}
const idle = { draft: undefined, diffMode: 'changes', selection: { kind: 'table' } } as const
const selected = { ...idle, selection: { kind: 'columns', columns: ['Fee'] } } as const
const drafting = { ...idle, draft } as const

describe('keys of Compose', () => {
  test.each([
    ['/', {}, { do: 'find' }],
    ['?', {}, { do: 'list keys' }],
    ['k', { mod: true }, { do: 'find' }],
    ['K', { mod: true }, { do: 'find' }],
    ['z', { mod: true }, { do: 'undo' }],
    ['Z', { mod: true, shift: true }, { do: 'redo' }],
    ['y', { mod: true }, { do: 'redo' }],
    ['c', { mod: true }, undefined],
    ['/', { alt: true }, undefined],
    ['q', {}, undefined],
  ] as const)('%s %o', (key, more, command) => {
    expect(keyCommand(press(key, more), idle)).toEqual(command)
  })
  test('nothing acts while text is typed but Ctrl+K: undo there is the undo of the text', () => {
    const typed = (key: string, mod = false) => keyCommand(press(key, { target: 'field', mod }), drafting)
    expect(['/', '[', 'Enter', 'Escape', 'Delete'].map((key) => typed(key))).toEqual(Array(5).fill(undefined))
    expect(typed('z', true)).toBeUndefined()
    expect(typed('k', true)).toEqual({ do: 'find' })
  })
  test('[ and ] show before and after, and a second time what changes', () => {
    expect(keyCommand(press('['), idle)).toEqual({ do: 'show', diffMode: 'before' })
    expect(keyCommand(press('['), { ...idle, diffMode: 'before' })).toEqual({ do: 'show', diffMode: 'changes' })
    expect(keyCommand(press(']'), idle)).toEqual({ do: 'show', diffMode: 'after' })
    expect(keyCommand(press(']'), { ...idle, diffMode: 'after' })).toEqual({ do: 'show', diffMode: 'changes' })
  })
  test('Enter keeps and Escape discards the draft, and only a draft', () => {
    expect(keyCommand(press('Enter'), drafting)).toEqual({ do: 'keep' })
    expect(keyCommand(press('Escape'), drafting)).toEqual({ do: 'discard' })
    expect(keyCommand(press('Enter'), idle)).toBeUndefined()
    expect(keyCommand(press('Escape'), idle)).toBeUndefined()
  })
  test('in a field of one line beside the draft Enter keeps and Escape discards, and no other key acts', () => {
    const there = (key: string, state: typeof drafting | typeof idle = drafting) =>
      keyCommand(press(key, { target: 'line' }), state)
    expect(there('Enter')).toEqual({ do: 'keep' })
    expect(there('Escape')).toEqual({ do: 'discard' })
    expect(there('Enter', idle)).toBeUndefined()
    expect(['/', 'w', '[', 'Delete'].map((key) => there(key))).toEqual(Array(4).fill(undefined))
  })
  test('the head of a column has no Enter of its own while a draft stands', () =>
    expect(keyCommand(press('Enter', { target: 'head' }), drafting)).toEqual({ do: 'keep' }))
  test('undo discards the draft and nothing else while one stands', () => {
    expect(keyCommand(press('z', { mod: true }), drafting)).toEqual({ do: 'discard' })
    expect(keyCommand(press('z', { mod: true }), idle)).toEqual({ do: 'undo' })
  })
  test('a button keeps its own Enter, and an editor that closes its own Escape', () => {
    expect(keyCommand(press('Enter', { target: 'button' }), drafting)).toBeUndefined()
    expect(keyCommand(press('Escape', { taken: true }), drafting)).toBeUndefined()
  })
  test('verbs have keys where something is selected', () => {
    expect(keyCommand(press('Delete'), selected)).toEqual({ do: 'verb', key: 'Del' })
    expect(keyCommand(press('f'), selected)).toEqual({ do: 'verb', key: 'F' })
    expect(keyCommand(press('Delete'), idle)).toBeUndefined()
  })
  test('the help names each command that has a key of its own', () => {
    const named = keyList.map(([keys]) => keys).join(' ')
    for (const key of ['/', 'Enter', 'Esc', '[', ']', 'Ctrl+Z', 'F2', 'Delete']) expect(named).toContain(key)
  })
})
