#!/usr/bin/env node
// Builds the command line where it is missing or older than its sources, then runs it.
import { existsSync, readdirSync, statSync } from 'node:fs'
import { fileURLToPath } from 'node:url'

const root = new URL('../../', import.meta.url)
const built = new URL('cli/dist/main.js', root)
const newest = (folder) =>
  readdirSync(folder, { withFileTypes: true, recursive: true }).reduce(
    (time, entry) =>
      entry.isFile() ? Math.max(time, statSync(`${entry.parentPath ?? entry.path}/${entry.name}`).mtimeMs) : time,
    0,
  )
const sources = ['core/src', 'formats/src', 'cli/src'].map((folder) => fileURLToPath(new URL(folder, root)))

if (!existsSync(built) || sources.some((folder) => newest(folder) > statSync(built).mtimeMs)) {
  const { buildCli } = await import(new URL('scripts/bundle.mjs', root).href)
  await buildCli()
}
await import(built.href)
