// Builds the command line, the server and the page, where their sources changed.
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { stampOf } from './stamp.mjs'
import { writeHelpers } from './write-helpers.mjs'
import { writeKernels } from './write-kernels.mjs'

const root = fileURLToPath(new URL('..', import.meta.url))
const places = [
  'core/src',
  'formats/src',
  'cli/src',
  'server/src',
  'web/src',
  'web/index.html',
  'web/vite.config.ts',
  'package-lock.json',
  'scripts/bundle.mjs',
]
const mark = join(root, 'server/dist/stamp')

export const build = async () => {
  writeHelpers()
  await writeKernels()
  const stamp = stampOf(root, places)
  if (existsSync(mark) && existsSync(join(root, 'web/dist/index.html')) && readFileSync(mark, 'utf8') === stamp)
    return false
  const { buildCli, buildServer } = await import('./bundle.mjs')
  const { build: vite } = await import('vite')
  await Promise.all([buildCli(), buildServer(), vite({ root: join(root, 'web'), logLevel: 'warn' })])
  mkdirSync(join(root, 'server/dist'), { recursive: true })
  writeFileSync(mark, stamp)
  return true
}

if (process.argv[1] === fileURLToPath(import.meta.url)) await build()
