import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { rolling } from '../testing/rolling.ts'
import { csvOutputCompiled } from './csv-output-compiled.ts'
import { isSet, set } from './memory.ts'
import { csvOutputReference } from './csv-output-reference.ts'
import { rowsAnOutput, textsOf, type OutputColumn } from './csv-output.ts'
import { tableCompiled } from './table-compiled.ts'
import { operations, type ByteTexts, type DenseCodes, type TableKernels } from './table-kernels.ts'
import { tableReference } from './table-reference.ts'

const number = fc.oneof(
  fc.constantFrom(0, -0, 1, -1, 0.1, 0.2, 1e15, 1e16, Number.MAX_VALUE, -Number.MAX_VALUE, Number.MIN_VALUE, 123.4567),
  fc.double({ noNaN: true, noDefaultInfinity: true }),
  fc.integer().map((n) => n / 100),
)
const numbers = fc.array(number, { minLength: 1, maxLength: 60 })
const bitsOf = (length: number, seed: number): Uint8Array | undefined => {
  const roll = rolling(seed)
  return seed % 3 === 0 ? undefined : Uint8Array.from({ length: (length + 7) >> 3 }, () => roll(256))
}
/** The bits of what a kernel gives: buffers as bytes, so that 0 and -0 differ. */
const bits = (value: unknown): unknown => {
  if (ArrayBuffer.isView(value))
    return [value.constructor.name, [...new Uint8Array(value.buffer, value.byteOffset, value.byteLength)]]
  if (typeof value !== 'object' || value === null) return value
  return Object.fromEntries(Object.entries(value).map(([name, one]) => [name, bits(one)]))
}
const alike = (run: (kernels: TableKernels) => unknown): void =>
  expect(bits(run(tableCompiled))).toEqual(bits(run(tableReference)))

describe('the compiled kernels of tables give the bits of the reference', () => {
  test('arithmetic, with the rows that are out of range', () => {
    fc.assert(
      fc.property(
        numbers,
        number,
        fc.constantFrom(...operations),
        fc.constantFrom(9007199254740991, Number.MAX_VALUE),
        (values, constant, operation, limit) => {
          const a = Float64Array.from(values)
          const b = Float64Array.from(values, (_, i) => values[(i * 7 + 3) % values.length] as number)
          for (const [x, y] of [
            [a, b],
            [a, constant],
            [constant, b],
          ] as const)
            alike(({ arithmetic }) => {
              const to = new Float64Array(a.length)
              return { rows: arithmetic(operation, x, y, to, limit), to }
            })
        },
      ),
    )
  })
  test('arithmetic over several blocks, written over an argument', () => {
    const roll = rolling(3)
    const a = Float64Array.from({ length: 10_001 }, () => roll(90))
    const b = Float64Array.from({ length: 10_001 }, () => roll(90))
    alike(({ arithmetic }) => {
      const to = a.slice()
      return { rows: arithmetic('/', to, b, to, Number.MAX_VALUE), to }
    })
  })
  test('formulas over numbers, of several blocks', () => {
    const roll = rolling(9)
    const [a, b] = [0, 1].map(() => Float64Array.from({ length: 10_001 }, () => roll(90) - 45)) as [
      Float64Array,
      Float64Array,
    ]
    const nested = { operation: '/', left: { operation: '*', left: a, right: -1 }, right: b } as const
    for (const formula of [7, a, nested, { operation: '+', left: nested, right: a } as const])
      alike(({ calculate }) => {
        const to = new Float64Array(a.length)
        calculate(formula, to)
        return to
      })
    const to = new Float64Array(a.length)
    tableCompiled.calculate(nested, to)
    expect(to[4321]).toBe((a[4321]! * -1) / b[4321]! + 0)
  })
  test('totals over several copies, with empties', () => {
    const roll = rolling(5)
    const values = Float64Array.from({ length: 40_001 }, () => roll(1e6) / 7)
    const ids = Uint32Array.from(values, () => roll(6))
    for (const nulls of [undefined, Uint8Array.from({ length: 5001 }, () => roll(256))])
      alike(({ groupTotals }) => groupTotals([{ values, nulls }], ids, 6))
  })
  test('totals of chosen rows are those of the rows alone', () => {
    const roll = rolling(6)
    const values = Float64Array.from({ length: 60_000 }, () => roll(1e6) / 7)
    const nulls = Uint8Array.from({ length: 7500 }, () => roll(256))
    const rows = Int32Array.from({ length: 30_003 }, () => roll(60_000))
    const ids = Uint32Array.from(rows, () => roll(6))
    alike(({ groupTotals }) => groupTotals([{ values, nulls }], ids, 6, rows))
    const picked = Float64Array.from(rows, (row) => values[row] as number)
    const empty = new Uint8Array(3751)
    rows.forEach((row, i) => isSet(nulls, row) && set(empty, i))
    expect(tableCompiled.groupTotals([{ values, nulls }], ids, 6, rows)).toEqual(
      tableCompiled.groupTotals([{ values: picked, nulls: empty }], ids, 6),
    )
  })
  test('codes of texts: packed, in any order, over several copies, longer than one', () => {
    const roll = rolling(8)
    const text = (): string =>
      ['', 'Oxbow', 'Tarn End', `Grünau ${roll(40)}`, `note ${roll(9)} ${'x'.repeat(roll(70))}`][roll(5)] as string
    const packed = (all: readonly string[]): ByteTexts => {
      const { bytes, ends } = textsOf(all)
      return { bytes, ends, starts: Uint32Array.from(ends, (_, i) => (i === 0 ? 0 : ends[i - 1]!)) }
    }
    const texts = Array.from({ length: 40_000 }, text)
    const long = [...texts.slice(0, 9), 'y'.repeat(1_200_000), 'Oxbow', 'y'.repeat(1_200_000)]
    const given = packed(texts)
    const order = Int32Array.from(texts, () => roll(texts.length))
    const mixed = {
      ...given,
      starts: Uint32Array.from(order, (row) => given.starts[row]!),
      ends: Uint32Array.from(order, (row) => given.ends[row]!),
    }
    for (const one of [given, mixed, packed(long), packed([])]) alike(({ textCodes }) => textCodes(one))
    const { codes, bound } = tableCompiled.textCodes(given)
    expect(bound).toBe(new Set([...texts, '']).size)
    const words = new Map<string, number>([['', 0]])
    expect([...codes]).toEqual(texts.map((one) => words.get(one) ?? (words.set(one, words.size), words.size - 1)))
  })
  test('codes of numbers, totals, predicates', () => {
    fc.assert(
      fc.property(numbers, number, fc.integer({ min: 1, max: 1e6 }), (values, constant, seed) => {
        const a = Float64Array.from(values)
        const nulls = bitsOf(a.length, seed)
        const roll = rolling(seed)
        const ids = Uint32Array.from(a, () => roll(5))
        alike(({ numberCodes }) => numberCodes(a, nulls))
        alike(({ groupTotals }) => groupTotals([{ values: a, nulls }], ids, 5))
        alike(({ compareFloats, chosenRows }) => {
          const mask = compareFloats(a, constant, { below: seed % 2 === 0, at: seed % 5 === 0, above: seed % 3 === 0 })
          return { mask, rows: chosenRows(mask, 1), others: chosenRows(mask, 0) }
        })
      }),
    )
  })
  test('the rows that codes and bytes choose, of any share, where a block ends within a vector', () => {
    const roll = rolling(21)
    for (const rows of [0, 1, 3, 15, 16, 17, 16_383, 16_384, 16_385, 40_007])
      for (const share of [0, 1, 50, 99, 100]) {
        const mask = Uint8Array.from({ length: rows }, () => Number(roll(100) < share))
        const keep = Uint8Array.of(0, 1, 0, 1, 1)
        const codes = Uint32Array.from(mask, (byte) => [0, 2, 1, 3, 4][byte * 2 + roll(2 + byte)]!)
        alike(({ chosenRows, rowsOfCodes }) => [
          chosenRows(mask, 1),
          chosenRows(mask, 0),
          rowsOfCodes(codes, keep, 1),
          rowsOfCodes(codes, keep, 0),
        ])
        expect(tableCompiled.rowsOfCodes(codes, keep, 1)).toEqual(tableCompiled.chosenRows(mask, 1))
      }
  })
  test('predicates over numbers of several copies, of which no number is one', () => {
    const roll = rolling(22)
    const values = Float64Array.from({ length: 32_771 }, () => [NaN, Infinity, -Infinity, -0, roll(9), 4][roll(6)]!)
    for (const constant of [0, 4, Infinity])
      for (const outcomes of [
        { below: true, at: false, above: false },
        { below: false, at: true, above: true },
      ])
        alike(({ compareFloats }) => compareFloats(values, constant, outcomes))
  })
  test('codes of many numbers and groups of their pairs', () => {
    const roll = rolling(11)
    const a = Float64Array.from({ length: 50_000 }, () => roll(30_000) / 8)
    const [x, y] = [0, 1].map(() => Uint32Array.from({ length: 50_000 }, () => roll(400)))
    alike(({ numberCodes }) => numberCodes(a, undefined))
    alike(({ pairGroups }) => pairGroups(x as Uint32Array, y as Uint32Array))
    const [high, low] = [Uint32Array.of(0, 1, 0, 1), Uint32Array.of(80_000_000, 0, 80_000_000, 80_000_000)]
    alike(({ pairGroups }) => pairGroups(high, low))
    expect([...tableCompiled.pairGroups(high, low).ids]).toEqual([0, 1, 0, 2])
  })
  test('counts, first rows, groups, chosen rows and values of codes', () => {
    fc.assert(
      fc.property(
        // more rows than are copied at a time, and than there are codes
        fc.constantFrom(1, 7, 300, 16_384, 20_001),
        fc.constantFrom(1, 5, 900),
        fc.integer({ min: 1, max: 1e6 }),
        (rows, bound, seed) => {
          const roll = rolling(seed)
          const [a, b] = [bound, 3].map((below) => ({
            codes: Uint32Array.from({ length: rows }, () => roll(below)),
            bound: below,
          })) as [DenseCodes, DenseCodes]
          const keep = Uint8Array.from({ length: bound }, () => roll(2))
          const table = Int32Array.from({ length: bound }, () => roll(2e9) - 1e9)
          alike(({ countCodes, firstRows }) => ({ counts: countCodes(a.codes, bound), first: firstRows(a) }))
          alike(({ groupCodes, groupPairs }) => ({ one: groupCodes(a), two: groupPairs(a, b) }))
          alike(({ rowsOfCodes }) => ({ yes: rowsOfCodes(a.codes, keep, 1), no: rowsOfCodes(a.codes, keep, 0) }))
          alike(({ matchRows }) => {
            const [met, to] = [new Uint8Array(bound), new Int32Array(rows)]
            return {
              met,
              to,
              missing: matchRows(
                a.codes,
                Int32Array.from(table, (row) => row >> 4),
                met,
                to,
              ),
            }
          })
          const nulls = bitsOf(rows, seed)
          // what stands below an empty cell may lie anywhere
          const values = Float64Array.from(a.codes, (code, row) => (isSet(nulls, row) ? 1e300 : code - 7))
          alike(({ matchNumbers }) => {
            const [met, to] = [new Uint8Array(bound), new Int32Array(rows)]
            return { met, to, missing: matchNumbers({ values, nulls }, -7, table, met, to) }
          })
          const rowsOfKeys = Int32Array.from(keep, (kept, code) => (kept === 1 ? code * 70_001 : -1))
          alike(({ meetCodes, meetNumbers }) => ({
            byCodes: meetCodes(a.codes, rowsOfKeys),
            byNumbers: meetNumbers({ values, nulls }, -7, rowsOfKeys),
          }))
          alike(({ firstOfKeys }) => [firstOfKeys(a), firstOfKeys(b)])
          alike(({ floatCodes }) =>
            floatCodes(
              Float64Array.from(a.codes, (code) => code * 4_000_000 - 7),
              -7,
            ),
          )
          alike(({ lookUp }) => {
            const to = new Int32Array(rows)
            lookUp(a.codes, table, to)
            return to
          })
          // some of the rows, none of some blocks
          const chosen = Int32Array.from({ length: rows }, (_, row) => row).filter((row) => row > 40 && roll(3) > 0)
          alike(({ groupCodes, groupPairs }) => ({ one: groupCodes(a, chosen), two: groupPairs(a, b, chosen) }))
          const ofAll = tableCompiled.groupPairs(a, b, chosen)
          const [ofA, ofB] = [a, b].map(({ codes, bound: most }) => ({
            codes: Uint32Array.from(chosen, (row) => codes[row]!),
            bound: most,
          })) as [DenseCodes, DenseCodes]
          expect({ ...ofAll, ids: Uint32Array.from(chosen, (row) => ofAll.ids[row]!) }).toEqual(
            tableCompiled.groupPairs(ofA, ofB),
          )
          const figures = Float64Array.from({ length: rows }, () => roll(1e6) / 7)
          const empty = Uint8Array.from({ length: (rows + 7) >> 3 }, () => roll(256))
          const others = figures.map((figure) => figure / 3)
          const columns = [
            { values: figures, nulls: empty },
            { values: others, nulls: undefined },
            { values: others, nulls: empty },
          ]
          const { ids: idsOfChosen } = tableCompiled.groupPairs(ofA, ofB)
          for (const count of [1, 2, 3])
            alike(({ groupTotals }) => [
              groupTotals(columns.slice(0, count), ofAll.ids, ofAll.count),
              groupTotals(columns.slice(-count), idsOfChosen, ofAll.count, chosen),
            ])
          expect(tableCompiled.groupTotals(columns, ofAll.ids, ofAll.count)).toEqual(
            tableCompiled.groupTotals(columns, idsOfChosen, ofAll.count, chosen),
          )
          const rate = { operation: '/', left: figures, right: { operation: '*', left: others, right: 60 } } as const
          const summed = [
            { numbers: figures, nulls: empty },
            { numbers: rate, nulls: undefined },
            { numbers: figures, nulls: undefined },
            { numbers: rate, nulls: empty },
            { numbers: 7, nulls: undefined },
            { numbers: 7, nulls: empty },
          ]
          for (const keys of [{ a }, { a, b }, { a, rows: chosen }, { a, b, rows: chosen }])
            for (const count of [0, 1, 2, 5, 6]) alike(({ totalsByCode }) => totalsByCode(keys, summed.slice(0, count)))
          alike(({ firstRows }) => firstRows(a))
          const { ids, first } = tableCompiled.groupPairs(a, b)
          const keys = Array.from(a.codes, (code, row) => `${code} ${b.codes[row]!}`)
          expect([...first]).toEqual([...new Set(keys)].map((key) => keys.indexOf(key)))
          expect(keys.every((key, row) => keys[first[ids[row]!]!] === key)).toBe(true)
        },
      ),
      { numRuns: 15 },
    )
  })
  test('ranks of numbers that are whole when multiplied, of blocks that end within a byte of empties', () => {
    const roll = rolling(17)
    for (const rows of [1, 7, 8, 9, 16_383, 16_385, 40_001])
      for (const scale of [1, 100]) {
        const values = Float64Array.from({ length: rows }, () => (roll(2001) - 1000) / scale)
        for (const nulls of [undefined, bitsOf(rows, 2)])
          for (const descending of [false, true]) {
            const scaling = { scale, low: -1000, high: 1000, descending }
            const made = ({ scaledRanks }: TableKernels, numbers: Float64Array) => {
              const to = new Uint32Array(rows)
              return scaledRanks({ values: numbers, nulls }, scaling, to) && to
            }
            alike((kernels) => made(kernels, values))
            const at = rows - 1
            expect((made(tableCompiled, values) as Uint32Array)[at]).toBe(
              isSet(nulls, at) ? 2001 : Math.round((descending ? -1 : 1) * values[at]! * scale) + 1000,
            )
            // one that is not whole is found wherever it stands, but not in an empty cell
            const odd = values.with(roll(rows), 0.001)
            alike((kernels) => made(kernels, odd))
            expect(made(tableCompiled, values.with(at, 0.001)) === false).toBe(!isSet(nulls, at))
          }
      }
  })
  test('orders of rows, stable, by any number of bits', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 32 }),
        fc.integer({ min: 1, max: 300 }),
        fc.integer({ min: 1, max: 1e6 }),
        (width, length, seed) => {
          const roll = rolling(seed)
          const keys = Uint32Array.from({ length }, () => Math.floor((roll(2 ** 31) / 2 ** 31) * 2 ** width))
          const again = Uint32Array.from({ length }, () => roll(4))
          const byKeys = { ranks: keys, bits: width }
          const byAgain = { ranks: again, bits: 2 }
          alike(({ sortRows }) => ({
            once: sortRows(undefined, [byKeys]),
            byLowBits: sortRows(undefined, [{ ranks: keys, bits: Math.ceil(width / 2) }]),
            twice: sortRows(sortRows(undefined, [byKeys]), [byAgain]),
            together: width > 28 ? [] : sortRows(undefined, [byKeys, byAgain, byAgain]),
          }))
          if (width <= 30)
            expect(tableCompiled.sortRows(undefined, [byKeys, byAgain])).toEqual(
              tableCompiled.sortRows(tableCompiled.sortRows(undefined, [byKeys]), [byAgain]),
            )
          const order = [...tableCompiled.sortRows(undefined, [byKeys])]
          const wanted = Array.from(keys.keys()).sort((i, k) => keys[i]! - keys[k]! || i - k)
          expect(order).toEqual(wanted)
        },
      ),
    )
  })
})

describe('CSV written by kernels', () => {
  /** Texts that need care in different ways, some with a guard only. */
  const careful = [
    'a,b',
    '"',
    'x\ny',
    'x\r',
    ' blank before',
    'behind ',
    '=1',
    '-',
    'Übel',
    '',
    'sixteen letters, or more',
  ]
  const notes = (rows: number) => {
    const all = Array.from({ length: rows }, (_, row) => `note ${row} ${'x'.repeat(row % 90)}`)
    return { stored: (from: number, to: number) => textsOf(all.slice(from, to)) }
  }
  const columns = (rows: number, seed: number, values: readonly number[]): OutputColumn[] => {
    const roll = rolling(seed)
    return [
      {
        form: 'coded',
        codes: Uint32Array.from({ length: rows }, () => roll(4)),
        words: textsOf(['', 'Oxbow', '"a, ""b"""', 'Grünau 🐇']),
      },
      {
        form: 'numbers',
        values: Float64Array.from({ length: rows }, () => values[roll(values.length)] as number),
        nulls: bitsOf(rows, seed),
        write: (value) => `<${String(value)}>`,
      },
      {
        form: 'numbers',
        values: Float64Array.from({ length: rows }, () => (roll(2_000_000) - 1_000_000) / 10 ** roll(5)),
        nulls: undefined,
        write: () => 'never',
      },
      { form: 'texts', ...notes(rows), guard: false, written: (from, to) => notes(rows).stored(from, to) },
      // of every few hundred rows one needs care
      ...[false, true].map((guard): OutputColumn => {
        const all = Array.from({ length: rows }, () =>
          roll(300) === 0 ? careful[roll(careful.length)]! : `note${roll(9)}`,
        )
        return {
          form: 'texts',
          stored: (from, to) => (from % 3 === 0 ? textsOf(all.slice(from, to)) : undefined),
          guard,
          written: (from, to) => textsOf(all.slice(from, to).map((one) => `<${one}>`)),
        }
      }),
    ]
  }
  const text = (make: typeof csvOutputCompiled, all: OutputColumn[], rows: number): string => {
    const write = make(all)
    const decoder = new TextDecoder()
    let whole = ''
    for (let from = 0; from < rows; from += rowsAnOutput)
      whole += decoder.decode(write(from, Math.min(rows, from + rowsAnOutput)))
    return whole
  }
  test('short numbers are written as the language writes them', () => {
    const all = columns(6000, 5, [1])
    const [, , decimals] = all as [OutputColumn, OutputColumn, OutputColumn & { form: 'numbers' }]
    expect(text(csvOutputCompiled, [decimals], 6000)).toBe(
      Array.from(decimals.values, (value) => `${value}\n`).join(''),
    )
  })
  test('the compiled kernel writes what the reference writes, numbers of many places by their writer', () => {
    fc.assert(
      fc.property(numbers, fc.integer({ min: 1, max: 1e6 }), fc.integer({ min: 1, max: 200 }), (values, seed, rows) => {
        const short = values.map((value) => (Math.abs(value) < 1e10 ? Math.round(value * 1e4) / 1e4 : value))
        const plain = (all: OutputColumn[]): OutputColumn[] =>
          all.map((column) =>
            column.form === 'numbers'
              ? { ...column, write: (value: number) => (value === 0 ? '0' : String(value)) }
              : column,
          )
        for (const one of [values, short])
          expect(text(csvOutputCompiled, plain(columns(rows, seed, one)), rows)).toBe(
            text(csvOutputReference, plain(columns(rows, seed, one)), rows),
          )
      }),
    )
  })
})
