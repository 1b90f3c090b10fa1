import { execFileSync } from 'node:child_process'
import { columnOf, runRecipe, Table, type Recipe, type Step, type NewStep } from '@fabula/core'

/**
 * Twelve columns to rows and back, and a join of a million rows with a hundred thousand, each beside pandas doing the same
 * (melt and pivot, merge), numbers made alike. `npm run bench:shape [rows]`; above 1 we are faster.
 */
const rows = Number(process.argv[2] ?? 1_000_000)
const months = Array.from({ length: 12 }, (_, i) => `M${i + 1}`)
const fill = (seed: number): Float64Array =>
  Float64Array.from({ length: rows }, (_, i) => ((i * 7919 + seed * 104_729) % 100_003) / 7)
const ids = Float64Array.from({ length: rows }, (_, i) => i)
const wide = Table.of(
  ['Id', ...months],
  [
    { type: 'integer', values: ids, nulls: undefined },
    ...months.map((_, m) => ({ type: 'decimal' as const, values: fill(m), nulls: undefined })),
  ],
)
const keys = Math.floor(rows / 10)
const left = Table.of(
  ['Key', 'Fee'],
  [
    { type: 'integer', values: Float64Array.from({ length: rows }, (_, i) => (i * 7919) % keys), nulls: undefined },
    { type: 'decimal', values: fill(1), nulls: undefined },
  ],
)
const named = Table.of(
  ['Name', 'Fee'],
  [
    columnOf(
      'text',
      Array.from({ length: rows }, (_, i) => `animal ${(i * 7919) % keys}`),
    ),
    { type: 'decimal', values: fill(1), nulls: undefined },
  ],
)
const right = Table.of(
  ['Key', 'Name', 'Beds'],
  [
    { type: 'integer', values: Float64Array.from({ length: keys }, (_, i) => i), nulls: undefined },
    columnOf(
      'text',
      Array.from({ length: keys }, (_, i) => `animal ${i}`),
    ),
    { type: 'integer', values: Float64Array.from({ length: keys }, (_, i) => i % 9), nulls: undefined },
  ],
)

const median = (times: readonly number[]): number => [...times].sort((a, b) => a - b)[times.length >> 1] ?? 0
const open = (input: string): Step => ({ id: `${input}1`, kind: 'open', input })
const run = (tables: Readonly<Record<string, Table>>, steps: readonly NewStep[]): number => {
  const inputs = Object.keys(tables)
  const recipe: Recipe = {
    fabula: 1,
    name: 'Bench',
    inputs: inputs.map((id) => ({ id, name: id })),
    tables: inputs.map((id, i) => ({
      id,
      name: id,
      steps: [open(id), ...(i === 0 ? steps.map((step, k) => ({ ...step, id: `s${k}` }) as Step) : [])],
    })),
  }
  const times = Array.from({ length: 5 }, () => {
    const began = performance.now()
    const done = runRecipe(recipe, {
      sources: (input) => ({ table: tables[input] as Table, notes: {}, unreadable: [], key: input }),
      parameters: {},
      now: 0,
    })
    const table = done.tables[0]?.table as Table
    table.names.forEach((_, c) => table.column(c))
    return performance.now() - began
  })
  return median(times)
}
const pandas = (setup: string, work: string): number =>
  Number(
    execFileSync(
      '/usr/bin/python3',
      [
        '-c',
        `import pandas as pd, numpy as np, time, statistics\nn=${rows}; k=${keys}\nfill=lambda s: ((np.arange(n)*7919+s*104729)%100003)/7\n${setup}\nts=[]\nfor _ in range(5):\n    t=time.perf_counter(); ${work}; ts.append((time.perf_counter()-t)*1000)\nprint(statistics.median(ts))`,
      ],
      { encoding: 'utf8' },
    ).trim(),
  )
const say = (name: string, ours: number, theirs: number): void =>
  void process.stdout.write(
    `${name.padEnd(40)} ${ours.toFixed(0).padStart(7)} ms ${theirs.toFixed(0).padStart(8)} ms   × ${(theirs / ours).toFixed(2)}\n`,
  )

const unpivot: NewStep = { kind: 'unpivot', name: 'Month', groups: [{ columns: { like: 'M*' }, value: 'Value' }] }
const pivot: NewStep = { kind: 'pivot', labels: 'Month', values: [{ column: 'Value', how: 'only' }] }
const melted = 'd=pd.DataFrame({"Id":np.arange(n), **{"M%d"%(i+1): fill(i) for i in range(12)}})'
say(
  '12 columns to rows',
  run({ wide }, [unpivot]),
  pandas(melted, 'd.melt(id_vars="Id", var_name="Month", value_name="Value")'),
)
say(
  '12 columns to rows and back',
  run({ wide }, [unpivot, pivot]),
  pandas(
    melted,
    'd.melt(id_vars="Id", var_name="Month", value_name="Value").pivot(index="Id", columns="Month", values="Value")',
  ),
)
const tables =
  'l=pd.DataFrame({"Key":(np.arange(n)*7919)%k,"Fee":fill(1)}); l["Name"]=["animal %d"%x for x in l.Key]; r=pd.DataFrame({"Key":np.arange(k),"Beds":np.arange(k)%9}); r["Name"]=["animal %d"%x for x in r.Key]'
say(
  'join on a number',
  run({ left, right }, [
    { kind: 'join', with: 'right', how: 'left', on: [{ left: 'Key', right: 'Key' }], bring: ['Beds'] },
  ]),
  pandas(tables, 'l[["Key","Fee"]].merge(r[["Key","Beds"]], on="Key", how="left")'),
)
say(
  'join on text',
  run({ named, right }, [
    { kind: 'join', with: 'right', how: 'left', on: [{ left: 'Name', right: 'Name' }], bring: ['Beds'] },
  ]),
  pandas(tables, 'l[["Name","Fee"]].merge(r[["Name","Beds"]], on="Name", how="left")'),
)
