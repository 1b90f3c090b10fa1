import { writeFileSync } from 'node:fs'

/** A visits export of so many rows, the same every time: text, dates, numbers, a few empties. About 95 bytes a row. */
export const writeVisits = (path: string, rows: number): void => {
  let seed = 7
  const random = (n: number): number => {
    seed = (seed * 1103515245 + 12345) % 2147483648
    return seed % n
  }
  const clinics = ['Fernhollow', 'Marlpit', 'Oxbow', 'Long Acre', 'Tarn End']
  const two = (n: number): string => String(n).padStart(2, '0')
  const pieces: string[] = ['Ref,Visit date,Clinic,Animal,Species,Service,Status,Charged,Weight,Minutes,Note\n']
  for (let i = 0; i < rows; i++)
    pieces.push(
      `B${100_000_000 + i},${2030 + random(3)}-${two(1 + random(12))}-${two(1 + random(28))},${clinics[random(5)]},A${random(50_000)},${['dog', 'cat', 'rabbit'][random(3)]},VAC-${random(40)},${random(12) === 0 ? 'Cancelled' : 'Done'},${random(20) === 0 ? '' : (random(24_000) / 100).toFixed(2)},${(random(9000) / 100).toFixed(1)},${random(90)},checked in at the front desk\n`,
    )
  writeFileSync(path, pieces.join(''))
}
