import { describe, expect, test } from 'vitest'
import { Refusal, type RefusalCode } from './refusal.ts'
import { refusalSentences } from './refusal-sentences.ts'
import { statusOf } from './routes/status.ts'

const codes = Object.keys(refusalSentences) as RefusalCode[]

describe('every refusal', () => {
  test.each(codes)('%s has a status that a client can act on', (code) => {
    expect(statusOf[code]).toBeGreaterThanOrEqual(400)
    expect(statusOf[code]).toBeLessThan(600)
  })
  test.each(codes.filter((code) => typeof refusalSentences[code] === 'string'))('%s is a whole sentence', (code) => {
    const sentence = refusalSentences[code] as string
    expect(sentence).toMatch(/^[A-Z].*\.$/)
  })
  test('no status is kept for a code that is none', () => {
    expect(Object.keys(statusOf).sort()).toEqual([...codes].sort())
  })
})

describe('a refusal', () => {
  test('names its facts in its sentence', () => {
    expect(new Refusal('too-large', { name: 'visits.csv', most: 2_000_000 }).message).toBe(
      'visits.csv is larger than 2 MB, the most this server takes.',
    )
    expect(new Refusal('link-limit', { replays: 3 }).message).toContain('3 replays may wait')
    expect(
      new Refusal('link-limit', { bytesADay: 10_000_000, bytesSent: 9_000_001, bytes: 2_000_000 }).message,
    ).toContain('10 MB may be sent a day; 10 MB were sent today, and this file has 2 MB')
  })
  test('says less where less is known', () => {
    expect(new Refusal('disk-full', {}).message).toContain('so this was not kept')
    expect(new Refusal('disk-full', { name: 'a.csv' }).message).toContain('a.csv was not kept')
    expect(new Refusal('bad-request', {}).message).toContain('its address or its form')
    expect(new Refusal('bad-request', { what: 'expected text', at: 'name' }).message).toContain('expected text at name')
  })
  test('crosses processes as data and is the same there', () => {
    const made = new Refusal('no-folder', { folder: '/srv/exports', fault: 'absent' })
    const come = Refusal.from(JSON.parse(JSON.stringify(made.data)) as typeof made.data)
    expect(come).toBeInstanceOf(Refusal)
    expect([come.code, come.message]).toEqual([made.code, made.message])
    expect(Refusal.from({ code: 'no-flow' }).message).toBe('This story does not exist, or its link has ended.')
  })
  test.each([
    [401, 'it asks for a login'],
    [404, 'nothing stands at this address'],
    [500, 'answered 500.'],
  ])('of another server that answers %i says what that means', (status, words) => {
    expect(new Refusal('refused-there', { host: 'clinics.example', status }).message).toContain(words)
  })
  test.each([
    ['relative', 'Write the folder from its root on'],
    ['absent', 'there is no such folder'],
    ['file', 'it is a file'],
    ['unreadable', 'it may not read it'],
  ] as const)('of a folder that is %s says what to do', (fault, words) => {
    expect(new Refusal('no-folder', { folder: 'x', fault }).message).toContain(words)
  })
})
