// npm test: installs what it needs, Debian's packages too, then every check; one line of totals at the end.
// --quick leaves out what needs a browser, a server, a database or Python.
import { spawnSync } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { install, root } from './install.mjs'
import { writeHelpers } from './write-helpers.mjs'

const quick = process.argv.includes('--quick')
const began = Date.now()

const run = (title, command, args, options = {}) => {
  process.stdout.write(`\n— ${title}\n`)
  const { status } = spawnSync(command, args, { cwd: root, stdio: 'inherit', ...options })
  if (status !== 0) {
    process.stdout.write(`\n${title} failed.\n`)
    process.exit(status ?? 1)
  }
}

const debian = {
  '/usr/bin/chromium': 'chromium',
  '/usr/bin/chromedriver': 'chromium-driver',
  '/usr/lib/python3/dist-packages/pandas': 'python3-pandas',
  '/usr/lib/python3/dist-packages/openpyxl': 'python3-openpyxl',
  '/usr/lib/postgresql/15/bin/postgres': 'postgresql',
  '/usr/sbin/nginx': 'nginx',
  '/usr/bin/strace': 'strace',
}
const installDebian = () => {
  const missing = Object.entries(debian).flatMap(([path, name]) => (existsSync(path) ? [] : [name]))
  if (missing.length === 0) return
  run(`Installing ${missing.join(', ')}`, 'apt-get', ['update', '-qq'], {
    env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
  })
  run('Unpacking them', 'apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...missing], {
    env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
    stdio: ['ignore', 'ignore', 'inherit'],
  })
}

install()
writeHelpers()
if (!quick) installDebian()
const bin = (name) => join(root, 'node_modules/.bin', name)
run('Type check', bin('tsc'), ['--noEmit', '-p', 'tsconfig.json'])
run('Format', bin('prettier'), ['--check', '--log-level', 'warn', '.'])
run('Lint', bin('eslint'), ['.'])
run('House rules', bin('depcruise'), [
  '--config',
  '.dependency-cruiser.cjs',
  '--output-type',
  'err',
  'core/src',
  'formats/src',
  'server/src',
  'web/src',
  'cli/src',
])
if (!quick) run('Dead code', bin('knip'), [])
if (!quick) run('Build', process.execPath, ['scripts/build.mjs'])

const report = join(mkdtempSync(join(tmpdir(), 'fabula-test-')), 'report.json')
const projects = quick ? ['unit'] : ['unit', 'server', 'parity', 'browser']
run(
  `Tests: ${projects.join(', ')}`,
  bin('vitest'),
  [
    'run',
    ...projects.flatMap((name) => ['--project', name]),
    '--reporter=default',
    '--reporter=json',
    `--outputFile.json=${report}`,
  ],
  { env: { ...process.env, NO_COLOR: '1' } },
)
const { numPassedTests, numFailedTests, numPendingTests, numTotalTests } = JSON.parse(readFileSync(report, 'utf8'))
process.stdout.write(
  `\nAll checks passed in ${Math.round((Date.now() - began) / 1000)} s.\n${numPassedTests} passed, ${numFailedTests} failed, ${numPendingTests} skipped\n`,
)
process.exit(numTotalTests > 0 ? 0 : 1)
