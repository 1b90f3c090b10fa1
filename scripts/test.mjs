// npm test: installs what it needs, Debian's packages too, then every check; one line of totals at the end.
// --quick leaves out what needs a browser, a server, a database or Python, and format and ESLint, which take longer than the rest (npm run lint).
import { spawn, spawnSync } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { install, root } from './install.mjs'
import { writeHelpers } from './write-helpers.mjs'
import { writeKernels } from './write-kernels.mjs'

const quick = process.argv.includes('--quick')
const began = Date.now()

const fail = (title, status) => {
  process.stdout.write(`\n${title} failed.\n`)
  process.exit(status ?? 1)
}

const run = (title, command, args, options = {}) => {
  process.stdout.write(`\n— ${title}\n`)
  const { status } = spawnSync(command, args, { cwd: root, stdio: 'inherit', ...options })
  if (status !== 0) fail(title, status)
}

const debian = {
  // the same Chromium without the windows around a page, which cost half of the time
  '/usr/bin/chromium-headless-shell': 'chromium-headless-shell',
  '/usr/bin/chromedriver': 'chromium-driver',
  '/usr/lib/python3/dist-packages/pandas': 'python3-pandas',
  '/usr/lib/python3/dist-packages/openpyxl': 'python3-openpyxl',
  '/usr/lib/python3.11/ensurepip': 'python3-venv',
  '/usr/lib/postgresql/15/bin/postgres': 'postgresql',
  '/usr/sbin/nginx': 'nginx',
  '/usr/bin/java': 'default-jre-headless',
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
await writeKernels()
if (!quick) installDebian()
const bin = (name) => join(root, 'node_modules/.bin', name)
const rooms = ['core/src', 'formats/src', 'server/src', 'web/src', 'cli/src']
const rules = ['--config', '.dependency-cruiser.cjs', '--output-type', 'err', ...rooms]
// what did not change since the last check is not checked again
const buildInfo = join(root, 'node_modules/.cache/tsc.tsbuildinfo')
const typeCheck = [
  'Type check',
  bin('tsc'),
  ['--noEmit', '-p', 'tsconfig.json', '--incremental', '--tsBuildInfoFile', buildInfo],
]
const format = ['Format', bin('prettier'), ['--check', '--log-level', 'warn', '.']]
const houseRules = ['House rules', bin('depcruise'), rules]
const lint = ['Lint', bin('eslint'), ['.']]
const deadCode = ['Dead code', bin('knip'), []]

/** Runs the commands one after another while others run; their output comes at the end, in one piece. Ends the process when one fails. */
const runInBackground = async (checks) => {
  for (const [title, command, args] of checks) {
    const { status, output } = await new Promise((resolve) => {
      const child = spawn(command, args, { cwd: root })
      let output = ''
      child.stdout.on('data', (piece) => (output += piece))
      child.stderr.on('data', (piece) => (output += piece))
      child.on('close', (status) => resolve({ status, output }))
    })
    process.stdout.write(`\n— ${title}\n${output}`)
    if (status !== 0) fail(title, status)
  }
}

const report = join(mkdtempSync(join(tmpdir(), 'fabula-test-')), 'report.json')
const projects = quick ? ['unit'] : ['unit', 'server', 'parity', 'browser']
const testArgs = [
  'run',
  ...projects.flatMap((name) => ['--project', name]),
  '--reporter=default',
  '--reporter=json',
  `--outputFile.json=${report}`,
]
const runTests = () =>
  new Promise((resolve) => {
    const title = `Tests: ${projects.join(', ')}`
    process.stdout.write(`\n— ${title}\n`)
    const env = { ...process.env, NO_COLOR: '1' }
    const child = spawn(bin('vitest'), testArgs, { cwd: root, stdio: 'inherit', env })
    // where a check fails first, the tests end too
    process.once('exit', () => child.kill())
    child.on('close', (status) => (status === 0 ? resolve() : fail(title, status)))
  })

if (quick) {
  // side by side they take as long as the longer
  await Promise.all([runInBackground([typeCheck, houseRules]), runTests()])
} else {
  const environments = ['Python environments', process.execPath, ['scripts/python.mjs']]
  const build = ['Build', process.execPath, ['scripts/build.mjs']]
  // PyPI is waited for, and tests wait for browsers, databases and other processes: the checks of the sources use the time
  await Promise.all([
    runInBackground([typeCheck, format, lint, houseRules, deadCode]),
    runInBackground([environments, build]).then(runTests),
  ])
}
const { numPassedTests, numFailedTests, numPendingTests, numTotalTests, testResults } = JSON.parse(
  readFileSync(report, 'utf8'),
)
const ofSpark = testResults
  .filter(({ name }) => /\/(?:spark|cluster)\.test\.ts$/.test(name))
  .flatMap(({ assertionResults }) => assertionResults)
const withoutSpark = ofSpark.filter(({ status }) => status !== 'passed').length
const leftOut = withoutSpark > 0 ? `; skipped: Spark, ${withoutSpark} tests, as PyPI did not answer` : ''
process.stdout.write(
  `\nAll checks passed in ${Math.round((Date.now() - began) / 1000)} s.\n${numPassedTests} passed, ${numFailedTests} failed, ${numPendingTests} skipped${leftOut}\n`,
)
process.exit(numTotalTests > 0 ? 0 : 1)
