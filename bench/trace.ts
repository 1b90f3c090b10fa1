// npm run bench:trace [rows]: how long it takes to answer where a row, a cell and a total come from and what became of a row, in a
// story of 20 sentences whose steps are cached, beside the run itself; and the bytes of lineage that are kept a row and step.
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { runRecipe, type Recipe, type Step } from '@fabula/core'
import { fileFromPath, openInput, openSourceRows, Tracer } from '@fabula/formats'

const rows = Number(process.argv[2] ?? 1_000_000)
const folder = mkdtempSync(join(tmpdir(), 'fabula-trace-'))
const path = join(folder, 'visits.csv')
const clinics = ['Oxbow', 'Marlpit', 'Tarn End', 'Quarry Lane', 'Long Acre']
const lines = ['Ref,Clinic,Status,Fee,Weight']
for (let i = 0; i < rows; i++)
  lines.push(`A-${i},${clinics[i % 5]},${i % 10 === 3 ? 'Test' : 'Done'},${(i % 97) + 0.5},${i % 31}`)
writeFileSync(path, `${lines.join('\n')}\n`)

const changes: Step[] = Array.from({ length: 16 }, (_, i): Step => {
  const id = `c${i}`
  if (i % 4 === 0) return { id, kind: 'derive', as: `Sum ${i}`, formula: 'Fee + Weight' }
  if (i % 4 === 1) return { id, kind: 'filter', where: { column: 'Fee', op: 'greater', value: i / 2 } }
  if (i % 4 === 2) return { id, kind: 'sort', by: [{ column: i % 8 === 2 ? 'Weight' : 'Fee' }] }
  return { id, kind: 'clean-text', columns: ['Clinic'], do: ['trim'] }
})
const recipe: Recipe = {
  fabula: 1,
  name: 'Trace',
  inputs: [{ id: 'visits', name: 'Visits' }],
  tables: [
    {
      id: 'visits',
      name: 'Visits',
      steps: [
        { id: 's1', kind: 'open', input: 'visits' },
        { id: 's2', kind: 'filter', where: { column: 'Status', op: 'is', value: 'Done' } },
        ...changes,
        { id: 's19', kind: 'derive', as: 'Net', formula: 'Fee * 0.8' },
        {
          id: 's20',
          kind: 'summarise',
          by: ['Clinic'],
          measures: [{ how: 'sum', column: 'Net', as: 'Net' }],
        },
      ],
    },
  ],
}
const ms = async (work: () => unknown): Promise<number> => {
  const began = performance.now()
  await work()
  return performance.now() - began
}
const file = fileFromPath(path)
const opened = await openInput([file], {})
let ran: ReturnType<typeof runRecipe> | undefined
const run = await ms(() => {
  ran = runRecipe(recipe, { sources: () => ({ ...opened, key: 'visits' }), parameters: {}, now: 0 })
})
const { tables } = ran as NonNullable<typeof ran>
const steps = tables[0]?.steps ?? []
const held = steps.reduce((sum, { result }) => {
  const lineage = result?.lineage
  if (lineage?.kind === 'index') return sum + lineage.index.byteLength + (lineage.other?.rows.byteLength ?? 0)
  return lineage?.kind === 'groups' ? sum + lineage.groups.ids.byteLength : sum
}, 0)
const kept = new Map<string, ReturnType<typeof openSourceRows>>()
const tracer = new Tracer(
  { recipe, tables, parameters: {}, now: 0 },
  { visits: { files: [{ name: 'visits.csv', load: () => file }], parts: opened.parts, read: {}, known: {} } },
  (one, sheet, read, known) => {
    const rowsOf = kept.get(one.name) ?? openSourceRows(one.load(), sheet, read, known)
    kept.set(one.name, rowsOf)
    return rowsOf
  },
)
const say = (what: string, time: number): boolean => process.stdout.write(`${what.padEnd(48)}${time.toFixed(0)} ms\n`)
say(`${rows.toLocaleString('en-GB')} rows, 20 sentences: the run itself`, run)
say('first question: the file is read as text once', await ms(() => tracer.back('visits', 1, { after: 's19' })))
say('where a row comes from', await ms(() => tracer.back('visits', 77, { after: 's19' })))
say('where a cell comes from', await ms(() => tracer.back('visits', 77, { after: 's19', column: 'Net' })))
say('where a total of a fifth of the rows comes from', await ms(() => tracer.back('visits', 1, { column: 'Net' })))
say('what became of a row that stays', await ms(() => tracer.forward('visits', 'visits.csv', undefined, 90)))
say('what became of a row that left', await ms(() => tracer.forward('visits', 'visits.csv', undefined, 5)))
say('where every row went', await ms(() => tracer.lost('visits', 10)))
process.stdout.write(`lineage kept: ${(held / rows / steps.length).toFixed(2)} bytes a row and step\n`)
rmSync(folder, { recursive: true, force: true })
