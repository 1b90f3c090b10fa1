// Installs what the lock file names, where that has not been done for this lock file.
import { spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'

export const root = fileURLToPath(new URL('..', import.meta.url))

export const install = () => {
  const stamp = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex')
  const mark = join(root, 'node_modules/.fabula-installed')
  if (existsSync(mark) && readFileSync(mark, 'utf8') === stamp) return
  process.stdout.write('Installing packages…\n')
  const { status } = spawnSync('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
    cwd: root,
    stdio: 'inherit',
  })
  if (status !== 0) process.exit(status ?? 1)
  writeFileSync(mark, stamp)
}
