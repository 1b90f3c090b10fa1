import fc from 'fast-check'

/** One change of a byte sequence; positions are shares of its length, so that a change means the same at any size. */
export type Mutation =
  | { readonly kind: 'flip'; readonly at: number; readonly bit: number }
  | { readonly kind: 'set'; readonly at: number; readonly byte: number }
  | { readonly kind: 'cut'; readonly at: number; readonly length: number }
  | { readonly kind: 'repeat'; readonly at: number; readonly length: number; readonly times: number }
  | { readonly kind: 'insert'; readonly at: number; readonly token: string }
  | { readonly kind: 'number'; readonly at: number; readonly value: string }

const share = fc.double({ min: 0, max: 1, noNaN: true, maxExcluded: true })
/** Numbers at the edges of what formats and machines count with. */
const edges = [
  '0',
  '-1',
  '1',
  '255',
  '256',
  '65535',
  '65536',
  '1048576',
  '1048577',
  '16384',
  '16385',
  '2147483647',
  '2147483648',
  '4294967296',
  '9007199254740993',
  '99999999999999999999',
  '1e308',
  '-1e308',
  '1e999',
  'NaN',
  '',
]

export const mutations = (tokens: readonly string[]): fc.Arbitrary<readonly Mutation[]> =>
  fc.array(
    fc.oneof(
      fc.record({ kind: fc.constant('flip' as const), at: share, bit: fc.nat(7) }),
      fc.record({ kind: fc.constant('set' as const), at: share, byte: fc.nat(255) }),
      fc.record({ kind: fc.constant('cut' as const), at: share, length: fc.integer({ min: 1, max: 200 }) }),
      fc.record({
        kind: fc.constant('repeat' as const),
        at: share,
        length: fc.integer({ min: 1, max: 300 }),
        times: fc.constantFrom(2, 5, 50, 1000),
      }),
      fc.record({ kind: fc.constant('insert' as const), at: share, token: fc.constantFrom(...tokens) }),
      fc.record({ kind: fc.constant('number' as const), at: share, value: fc.constantFrom(...edges) }),
    ),
    { minLength: 1, maxLength: 6 },
  )

const most = 2_000_000

const mutateOnce = (bytes: Buffer, mutation: Mutation): Buffer => {
  const at = Math.floor(mutation.at * Math.max(1, bytes.length))
  switch (mutation.kind) {
    case 'flip': {
      const copy = Buffer.from(bytes)
      if (copy.length > 0) copy[at] = (copy[at] ?? 0) ^ (1 << mutation.bit)
      return copy
    }
    case 'set': {
      const copy = Buffer.from(bytes)
      if (copy.length > 0) copy[at] = mutation.byte
      return copy
    }
    case 'cut':
      return Buffer.concat([bytes.subarray(0, at), bytes.subarray(at + mutation.length)])
    case 'repeat':
      return Buffer.concat([
        bytes.subarray(0, at),
        ...Array.from({ length: mutation.times }, () => bytes.subarray(at, at + mutation.length)),
        bytes.subarray(at),
      ])
    case 'insert':
      return Buffer.concat([bytes.subarray(0, at), Buffer.from(mutation.token), bytes.subarray(at)])
    case 'number': {
      // the next run of digits becomes another number
      const text = bytes.toString('latin1', at, at + 400)
      const found = /\d+/.exec(text)
      if (!found) return bytes
      return Buffer.concat([
        bytes.subarray(0, at + found.index),
        Buffer.from(mutation.value),
        bytes.subarray(at + found.index + found[0].length),
      ])
    }
  }
}

/** The bytes after all changes, cut where they grew beyond what a fuzzed file is for. */
export const mutate = (bytes: Buffer, list: readonly Mutation[]): Buffer =>
  list.reduce((now, one) => mutateOnce(now, one).subarray(0, most), bytes)
