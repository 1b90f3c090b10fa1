// npm run example: the demo flow without a browser. Prints the story, the accounts and where the result is.
import { spawnSync } from 'node:child_process'
import { mkdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { install, root } from './install.mjs'

install()
const out = join(root, 'data/example')
mkdirSync(out, { recursive: true })
const recipe = join(root, 'demo/monthly-takings.fabula.json')
const accounts = join(out, 'accounts.json')
const fabula = (...words) => {
  const { status, stdout, stderr } = spawnSync(process.execPath, [join(root, 'cli/bin/fabula.mjs'), ...words], {
    encoding: 'utf8',
  })
  if (status !== 0) {
    process.stderr.write(stderr)
    process.exit(status ?? 1)
  }
  return stdout
}
process.stdout.write(`The story\n${fabula('tell', recipe)}\n`)
fabula(
  'run',
  recipe,
  '--input',
  `visits=${join(root, 'demo/visits-2031-05.csv')}`,
  '--input',
  `targets=${join(root, 'demo/targets-2031.csv')}`,
  '--to',
  out,
  '--accounts',
  accounts,
)
const { tables, outputs } = JSON.parse(readFileSync(accounts, 'utf8'))
process.stdout.write('What each sentence did\n')
for (const { id, steps } of tables)
  for (const { id: step, rowsIn, rowsOut, rowsLeft, cellsChanged, unreadable } of steps)
    process.stdout.write(
      `${id.padEnd(9)} ${step.padEnd(4)} ${String(rowsIn).padStart(6)} rows in ${String(rowsOut).padStart(6)} out ${String(rowsLeft).padStart(6)} left ${String(cellsChanged).padStart(6)} cells changed  ${Object.entries(
        unreadable,
      )
        .map(([column, n]) => `${n} unreadable in ${column}`)
        .join(', ')}\n`,
    )
process.stdout.write(
  `\nThe result\n${outputs.map(({ file, rows, columns }) => `${file}: ${rows} rows, ${columns} columns`).join('\n')}\n${accounts}: the accounts\n`,
)
