/** Made-up exports to play with: what they are, what is to be done with them, and their files. */
export type Sample = {
  readonly id: string
  readonly name: string
  readonly hint: string
  /** The one-line task, which stands above the story. */
  readonly task: string
  readonly files: readonly [string, ...(readonly string[])]
}

export const samples: readonly Sample[] = [
  {
    id: 'targets',
    name: 'A crosstab of targets',
    hint: 'columns into rows',
    task: 'Make one row for each clinic and month, so that the targets can be charted.',
    files: ['targets-2031.csv'],
  },
  {
    id: 'intake',
    name: 'A messy intake form',
    hint: 'dates, spellings, lists',
    task: 'Give each clinic one spelling, read the dates and the weights, and put each symptom in a row of its own.',
    files: ['intake-2031-05.csv'],
  },
  {
    id: 'sheets',
    name: 'Ten monthly sheets',
    hint: 'laid under one another',
    task: 'Lay the ten sheets under one another; in one of them a column has another name. Then sum what was charged by month.',
    files: ['visits-2030.xlsx'],
  },
  {
    id: 'prices',
    name: 'Visits and a price list',
    hint: 'who meets nobody?',
    task: 'Bring the fee of the price list to each visit: which services have no price?',
    files: ['visits-2031-05.csv', 'price-list-2031.csv'],
  },
]
