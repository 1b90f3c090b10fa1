import { createWriteStream } from 'node:fs'
import { once } from 'node:events'
import { rolling } from '@fabula/core/testing'

const money = new Intl.NumberFormat('en-GB', { minimumFractionDigits: 2 })

/** A visits export of 20 columns as clinics send it: clinics spelled several ways, money with its sign, two forms of dates. About 190 bytes a row, the same every time. */
export const writeWideVisits = async (path: string, rows: number): Promise<void> => {
  const random = rolling(11)
  const pick = (of: readonly string[]): string => of[random(of.length)] ?? ''
  const two = (n: number): string => String(n).padStart(2, '0')
  const clinics = [
    'Fernhollow',
    'Marlpit',
    'Oxbow',
    'Long Acre',
    'Tarn End',
    ' Oxbow ',
    'oxbow',
    'MARLPIT',
    'Tarn  End',
  ]
  const out = createWriteStream(path)
  out.write(
    'Ref,Visit date,Clinic,Animal,Species,Breed,Service,Status,Charged,Weight,Minutes,Vet,Desk,Phone,Town,Insured,Discount,Units,Batch,Note\n',
  )
  for (let from = 0; from < rows; from += 10_000) {
    const lines: string[] = []
    for (let i = from; i < Math.min(rows, from + 10_000); i++) {
      const [year, month, day] = [2030 + random(3), two(1 + random(12)), two(1 + random(28))]
      lines.push(
        [
          `B${100_000_000 + i}`,
          random(10) === 0 ? `${year}-${month}-${day}` : `${day}/${month}/${year}`,
          pick(clinics),
          `A${random(50_000)}`,
          pick(['dog', 'cat', 'rabbit', 'ferret']),
          `breed ${random(200)}`,
          `${pick(['VAC', 'SUR', 'DEN', 'CON'])}-${random(40)}`,
          random(12) === 0 ? 'Cancelled' : pick(['Done', 'Done', 'Paid', 'Test']),
          random(20) === 0 ? '' : `£ ${money.format(random(240_000) / 100)}`.replace(/.*,.*/, '"$&"'),
          (random(9000) / 100).toFixed(1),
          random(90),
          `Vet ${random(60)}`,
          `desk ${random(9)}`,
          `01632 ${100_000 + random(899_999)}`,
          pick(['Marl', 'Oxley', 'Fern', 'Tarn']),
          pick(['yes', 'no', '']),
          random(4) === 0 ? (random(50) / 100).toFixed(2) : '',
          1 + random(6),
          `L${random(5000)}`,
          'checked in at the front desk',
        ].join(','),
      )
    }
    if (!out.write(`${lines.join('\n')}\n`)) await once(out, 'drain')
  }
  out.end()
  await once(out, 'finish')
}
