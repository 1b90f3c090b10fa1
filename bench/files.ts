import { createWriteStream, existsSync, mkdirSync } from 'node:fs'
import { once } from 'node:events'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { finished } from 'node:stream/promises'
import { rolling, type Roll } from '@fabula/core/testing'

/** A number in two digits. */
export const two = (n: number): string => String(n).padStart(2, '0')
/** One of some texts. */
export const pick = (roll: Roll, of: readonly string[]): string => of[roll(of.length)] as string
const months = Array.from({ length: 12 }, (_, i) => `M${i + 1}`)
const words = ['limp', 'cough', 'vaccination', 'itching', 'fever', 'check', 'teeth', 'weight', 'stitches', 'x-ray']

type MadeFile = {
  readonly head: string
  readonly row: (i: number, roll: Roll, rows: number) => string
  readonly rows?: number
}
const visit = (i: number, roll: Roll): string =>
  `B${100_000_000 + i},${2030 + roll(3)}-${two(1 + roll(12))}-${two(1 + roll(28))},${pick(roll, ['Fernhollow', 'Marlpit', 'Oxbow', 'Long Acre', 'Tarn End'])},A${roll(50_000)},${pick(roll, ['dog', 'cat', 'rabbit'])},VAC-${roll(40)},${roll(12) === 0 ? 'Cancelled' : 'Done'},${roll(20) === 0 ? '' : (roll(24_000) / 100).toFixed(2)},${(roll(9000) / 100).toFixed(1)},${roll(90)}`
const dayText = (roll: Roll): string => {
  const [year, month, day] = [2030 + roll(3), two(1 + roll(12)), two(1 + roll(28))]
  return pick(roll, [`${day}/${month}/${year}`, `${year}-${month}-${day}`, `${day}.${month}.${year}`])
}

/** What each file holds; `rows` where it has not as many as are asked for. All names and figures are made up. */
const files = {
  /** Text, dates, numbers, a few empties: 11 columns, about 95 bytes a row. */
  visits: {
    head: 'Ref,Visit date,Clinic,Animal,Species,Service,Status,Charged,Weight,Minutes,Note',
    row: (i, roll) => `${visit(i, roll)},checked in at the front desk`,
  },
  /** The same with a note in quotes that has commas and quotes in it. */
  quoted: {
    head: 'Ref,Visit date,Clinic,Animal,Species,Service,Status,Charged,Weight,Minutes,Note',
    row: (i, roll) => `${visit(i, roll)},"${pick(roll, words)}, ""${pick(roll, words)}"", ${roll(900)}"`,
  },
  /** Two columns of some 100 letters, nearly all different. */
  texts: {
    head: 'Ref,History,Advice',
    row: (i, roll) =>
      `B${i},${Array.from({ length: 12 }, () => pick(roll, words)).join(' ')} ${i},${Array.from({ length: 14 }, () => pick(roll, words)).join(' ')} ${roll(9_000_000)}`,
  },
  /** Dates in three forms, money with its sign and commas, names of clinics with slips. */
  raw: {
    head: 'Day,Money,Clinic',
    row: (_, roll) =>
      `${dayText(roll)},"£ ${1 + roll(9)},${String(roll(1000)).padStart(3, '0')}.${two(roll(100))}",${pick(roll, ['Fernhollow', 'Marlpit', 'Oxbow'])}${pick(roll, ['', ' ', 's', ' clinic', '.'])} ${roll(60)}`,
  },
  /** An id and a figure for each month. */
  months: {
    head: ['Id', ...months].join(','),
    row: (i, roll) => [i, ...months.map(() => (roll(100_003) / 7).toFixed(2))].join(','),
  },
  /** Keys of the tables below. */
  bookings: {
    head: 'Number,Name,Few,Each,Fee',
    row: (i, roll, rows) =>
      `${roll(100_000)},animal ${roll(100_000)},${roll(10_000)},${(i * 7919) % rows},${(roll(90_000) / 100).toFixed(2)}`,
  },
  animals: { head: 'Number,Name,Beds', row: (i) => `${i},animal ${i},${i % 9}`, rows: 100_000 },
  few: { head: 'Few,Beds', row: (i) => `${i},${i % 9}`, rows: 10_000 },
  each: { head: 'Each,Beds', row: (i) => `${i},${i % 9}` },
  twice: { head: 'Number,Beds', row: (i) => `${i % 100_000},${i % 9}`, rows: 200_000 },
} satisfies Readonly<Record<string, MadeFile>>
/** The made-up files, by name. */
export type BenchFile = keyof typeof files

/** Writes a file of a line of names and so many rows, in blocks. */
export const writeRows = async (
  path: string,
  head: string,
  count: number,
  row: (i: number) => string,
): Promise<void> => {
  const out = createWriteStream(path)
  out.write(`${head}\n`)
  for (let from = 0; from < count; from += 10_000) {
    const lines = Array.from({ length: Math.min(10_000, count - from) }, (_, k) => row(from + k))
    if (!out.write(`${lines.join('\n')}\n`)) await once(out, 'drain')
  }
  await finished(out.end())
}

/** The path of a made-up file of so many rows, written where it is not there. */
export const benchFile = async (name: BenchFile, rows: number): Promise<string> => {
  const folder = join(tmpdir(), `fabula-bench-${rows}`)
  mkdirSync(folder, { recursive: true })
  const path = join(folder, `${name}.csv`)
  const file: MadeFile = files[name]
  const roll = rolling(7)
  if (!existsSync(path)) await writeRows(path, file.head, file.rows ?? rows, (i) => file.row(i, roll, rows))
  return path
}
