// How the parts that run in Node are bundled: our own sources into one file, packages left outside.
import { build } from 'esbuild'
import { fileURLToPath } from 'node:url'

const root = fileURLToPath(new URL('..', import.meta.url))
const ours = {
  name: 'ours-inside',
  setup: ({ onResolve }) =>
    onResolve({ filter: /^[^./]/ }, ({ path }) => (path.startsWith('@fabula/') ? undefined : { path, external: true })),
}
const bundle = (entryPoints, outdir) =>
  build({
    absWorkingDir: root,
    entryPoints,
    outdir,
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    sourcemap: true,
    logLevel: 'warning',
    plugins: [ours],
    outExtension: { '.js': '.js' },
  })

export const buildCli = () => bundle(['cli/src/main.ts'], 'cli/dist')
export const buildServer = () =>
  bundle(
    [
      'server/src/main.ts',
      'server/src/compute/child.ts',
      'server/src/compute/worker.ts',
      'server/src/store/database-worker.ts',
    ],
    'server/dist',
  )
