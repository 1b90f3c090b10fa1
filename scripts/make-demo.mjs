// Makes the demo's files, the same ones every time: the made-up Fernhollow group of veterinary clinics.
import { writeFileSync } from 'node:fs'
import { workbook } from './workbook.mjs'

let seed = 20310502
const random = () => {
  seed = (seed * 1103515245 + 12345) % 2147483648
  return seed / 2147483648
}
const pick = (list) => list[Math.floor(random() * list.length)]
const weighted = (pairs) => {
  let at = random() * pairs.reduce((sum, [, weight]) => sum + weight, 0)
  return (pairs.find(([, weight]) => (at -= weight) < 0) ?? pairs[0])[0]
}
const two = (n) => String(n).padStart(2, '0')

const clinics = [
  ['Fernhollow', 39],
  ['Marlpit', 26],
  ['Oxbow', 18],
  ['Long Acre', 12],
  ['Tarn End', 5],
]
const services = {
  'VAC-1': 41,
  'VAC-2': 46,
  'CON-1': 38.5,
  'CON-2': 52,
  'DEN-1': 180,
  'NEU-3': 95,
  'XRY-1': 72,
  'VIS-4': 240,
  'BLD-2': 67.25,
  'OPR-9': 1240,
}
const animals = [
  ['dog', 46],
  ['cat', 34],
  ['rabbit', 9],
  ['ferret', 4],
  ['horse', 5],
  ['tortoise', 2],
]
const names = [
  'Biscuit',
  'Marlow',
  'Pepper',
  'Juniper',
  'Otis',
  'Clover',
  'Bramble',
  'Fig',
  'Tansy',
  'Moss',
  'Sorrel',
  'Wick',
  'Hazel',
  'Rusk',
  'Nettle',
]

const money = (amount) =>
  weighted([
    [amount.toFixed(2), 70],
    [`£ ${amount.toFixed(2)}`, 18],
    [amount >= 1000 ? amount.toLocaleString('en-GB', { minimumFractionDigits: 2 }) : amount.toFixed(2), 12],
  ])
const day = (month, d, odd) => (random() < odd ? `2031-${two(month)}-${two(d)}` : `${two(d)}/${two(month)}/2031`)
const cell = (text) => (/[",\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text)

const visits = (month, days, rows, { status, payment }) => {
  const lines = [
    [
      'Booking ref',
      'Visit date',
      'Clinic',
      'Patient',
      'Species',
      'Service',
      status,
      'Charged',
      'Desk',
      ...(payment ? ['Payment'] : []),
    ],
  ]
  const dates = Array.from({ length: rows }, () => 1 + Math.floor(random() * days)).sort((a, b) => a - b)
  dates.forEach((d, i) => {
    const state = weighted([
      ['Done', 91],
      ['Cancelled', 7],
      ['Test', 1],
      ['', 1],
    ])
    const clinic = weighted(clinics)
    const service = pick(Object.keys(services))
    const amount = service === 'OPR-9' ? 900 + Math.round(random() * 800) : services[service]
    const charged =
      state === 'Cancelled' ? '' : state === 'Test' ? '0.00' : random() < 0.004 ? 'see invoice' : money(amount)
    const date = i % 401 === 400 ? `31/${two(month === 5 ? 6 : month)}/2031` : day(month, d, 0.15)
    lines.push([
      `B${month}${String(i + 1).padStart(4, '0')}`,
      date,
      weighted([
        [clinic, 88],
        [`${clinic} `, 8],
        [` ${clinic}`, 4],
      ]),
      pick(names),
      weighted(animals),
      service,
      state,
      charged,
      pick(['front', 'front', 'phone', 'web']),
      ...(payment ? [pick(['card', 'card', 'cash', 'account'])] : []),
    ])
  })
  return `${lines.map((line) => line.map(cell).join(',')).join('\n')}\n`
}

const months = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']
const targets = () => {
  const lines = ['Fernhollow group: takings targets for 2031', `${'Clinic'},${months.join(',')}`]
  for (const [clinic, weight] of clinics)
    lines.push(
      `${clinic},${months.map((_, m) => (clinic === 'Tarn End' && m < 4 ? '' : Math.round((weight * 900 * (1 + m / 40)) / 50) * 50)).join(',')}`,
    )
  return `${lines.join('\n')}\n`
}

/** A workbook as it is made for reading: a sheet a month with title rows, merged regions and totals, and a sheet that sums up. */
const regions = [
  ['North', ['Fernhollow', 'Marlpit']],
  ['South', ['Oxbow', 'Long Acre']],
  ['East', ['Tarn End']],
]
const monthSheet = (month) => {
  const name = `2031-${two(month)}`
  const rows = [
    ['Fernhollow group: visits by region'],
    [`${months[month - 1]} 2031`],
    ['printed by the front desk on the last day of the month'],
    ['Region', 'Clinic', month === 3 ? 'Patient kind' : 'Species', 'Visits', 'Takings', 'Latest visit'],
  ]
  const merges = []
  let visits_ = 0
  let takings = 0
  for (const [region, places] of regions) {
    const top = rows.length + 1
    for (const clinic of places)
      for (const species of ['dog', 'cat', 'rabbit']) {
        const weight = clinics.find(([one]) => one === clinic)[1]
        const count = Math.max(
          1,
          Math.round(weight * (species === 'dog' ? 3 : species === 'cat' ? 2 : 0.5) * (0.8 + random() * 0.4)),
        )
        const amount = Math.round(count * (45 + random() * 40) * 100) / 100
        visits_ += count
        takings += amount
        rows.push([
          rows.length + 1 === top ? region : null,
          clinic,
          species,
          count,
          clinic === 'Tarn End' && species === 'rabbit' && month === 4 ? { error: '#N/A' } : amount,
          { date: `${name}-${two(20 + Math.floor(random() * 8))}` },
        ])
      }
    merges.push(`A${top}:A${rows.length}`)
  }
  rows.push(['Total', null, null, visits_, Math.round(takings * 100) / 100])
  return { name, rows, merges: ['A1:F1', ...merges] }
}
const regionBook = (last) => {
  const sheets = Array.from({ length: last }, (_, i) => monthSheet(i + 1))
  const overview = {
    name: 'Overview',
    rows: [['Month', 'Visits'], ...sheets.map(({ name, rows }) => [name, rows.at(-1)[3]])],
  }
  return workbook([
    ...sheets,
    overview,
    { name: 'Lists', hidden: true, rows: [['Species'], ['dog'], ['cat'], ['rabbit']] },
  ])
}

/** The intake form as animals' owners and the front desks fill it in: every clinic in its own way. */
const spellings = {
  Fernhollow: ['Fernhollow', 'Fernhollow', 'Fernhollow', 'fernhollow', 'Fern Hollow', 'FERNHOLLOW ', 'Fernholow'],
  Marlpit: ['Marlpit', 'Marlpit', 'marlpit', 'Marl Pit', 'Marlpitt'],
  Oxbow: ['Oxbow', 'Oxbow', 'Ox-Bow', 'OXBOW', 'Oxbo'],
  'Long Acre': ['Long Acre', 'Long Acre', 'Longacre', 'Acre, Long', 'Long  Acre'],
  'Tarn End': ['Tarn End', 'Tarn End', 'TARN END', 'Tarnend'],
}
const breeds = [
  ['Labrador', 'labrador', 'Labrador ', 'Labradore'],
  ['Border collie', 'border collie', 'Border Colly', 'Border-collie'],
  ['Tabby', 'tabby', 'Tabbie'],
  ['Siamese', 'siamese', 'Siamise'],
  ['Lop rabbit', 'Lop Rabbit', 'lop rabbit'],
]
const monthWords = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
]
const born = (y, m, d) =>
  weighted([
    [`${two(d)}/${two(m)}/${y}`, 40],
    [`${y}-${two(m)}-${two(d)}`, 15],
    [`${d} ${monthWords[m - 1].slice(0, 3)} ${y}`, 15],
    [`${d}.${m}.${two(y % 100)}`, 12],
    [`${monthWords[m - 1]} ${d}, ${y}`, 8],
    [`${y}${two(m)}${two(d)}`, 6],
    ['not known', 2],
    ['', 2],
  ])
const received = (d, h, min) =>
  weighted([
    [`${two(d)}/05/2031 ${two(h)}:${two(min)}`, 45],
    [`2031-05-${two(d)} ${two(h)}:${two(min)}`, 15],
    [`${d} May 2031 ${h}.${two(min)}`, 15],
    [`${two(d)}/05/2031 ${two(h)}${two(min)}`, 10],
    [`${d}/5/2031 ${((h + 11) % 12) + 1}:${two(min)} ${h < 12 ? 'am' : 'pm'}`, 15],
  ])
const intake = () => {
  const lines = [['Form', 'Received', 'Clinic', 'Animal', 'Breed', 'Born', 'Weight', 'Symptoms', 'Seen before']]
  for (let i = 0; i < 260; i++) {
    const clinic = weighted(clinics)
    const signs_ = ['cough', 'limp', 'fever', 'off food', 'itching', 'sneezing']
    const count = weighted([
      [0, 6],
      [1, 46],
      [2, 30],
      [3, 14],
      [4, 4],
    ])
    const symptoms = []
    while (symptoms.length < count) {
      const one = pick(signs_)
      if (!symptoms.includes(one)) symptoms.push(one)
    }
    const weight = (2 + random() * 34).toFixed(1)
    lines.push([
      `F-${String(i + 1).padStart(4, '0')}`,
      received(1 + Math.floor(random() * 31), 8 + Math.floor(random() * 10), Math.floor(random() * 60)),
      pick(spellings[clinic]),
      pick(names),
      pick(pick(breeds)),
      born(2019 + Math.floor(random() * 12), 1 + Math.floor(random() * 12), 1 + Math.floor(random() * 28)),
      weighted([
        [`${weight} kg`, 55],
        [`${weight}kg`, 25],
        [weight, 15],
        ['', 5],
      ]),
      symptoms.join(
        weighted([
          ['; ', 3],
          [';', 1],
        ]),
      ),
      weighted([
        ['yes', 40],
        ['no', 30],
        ['Y', 10],
        ['N', 10],
        ['', 10],
      ]),
    ])
  }
  return `${lines.map((line) => line.map(cell).join(',')).join('\n')}\n`
}

/** The price list as head office keeps it: codes written by hand, one twice, one not there. */
const prices = () => `Code,Category,Fee,Valid from
VAC-1,Vaccination,41.00,2031-01-01
VAC-2,Vaccination,46.00,2031-01-01
CON-1,Consultation,38.50,2031-01-01
con-2,Consultation,52.00,2031-01-01
DEN-1,Dental,180.00,2031-01-01
NEU-3,Surgery,95.00,2031-01-01
XRY-1,Imaging,72.00,2031-01-01
XRY-1,Imaging,78.00,2031-06-01
VIS-4,Home visit,240.00,2031-01-01
BLD-2 ,Laboratory,67.25,2031-01-01
PHY-7,Physiotherapy,64.00,2031-01-01
GRM-1,Grooming,29.00,2031-01-01
`

/** A sheet a month, ten of them; in August somebody called the animal a patient. */
const visitBook = () =>
  workbook(
    months.slice(0, 10).map((name, m) => ({
      name: `${name} 2030`,
      rows: [
        ['Visit date', 'Clinic', m === 7 ? 'Patient' : 'Animal', 'Species', 'Charged'],
        ...Array.from({ length: 18 + Math.floor(random() * 9) }, () => 1 + Math.floor(random() * 28))
          .sort((a, b) => a - b)
          .map((d) => [
            { date: `2030-${two(m + 1)}-${two(d)}` },
            weighted(clinics),
            pick(names),
            weighted(animals),
            pick([38.5, 41, 46, 52, 72, 95, 180]),
          ]),
      ],
    })),
  )

const folder = new URL('../demo/', import.meta.url)
writeFileSync(new URL('visits-2031-05.csv', folder), visits(5, 31, 1204, { status: 'Status', payment: false }))
writeFileSync(new URL('visits-2031-06.csv', folder), visits(6, 30, 1391, { status: 'Booking status', payment: true }))
writeFileSync(new URL('targets-2031.csv', folder), targets())
for (const last of [5, 7]) {
  seed = 20310101
  writeFileSync(new URL(`regions-2031-${two(last)}.xlsx`, folder), regionBook(last))
}
seed = 20310707
writeFileSync(new URL('intake-2031-05.csv', folder), intake())
writeFileSync(new URL('price-list-2031.csv', folder), prices())
seed = 20300101
writeFileSync(new URL('visits-2030.xlsx', folder), visitBook())
