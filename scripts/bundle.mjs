// How the parts that run in Node are bundled: our own sources into one file; the server's packages stay outside.
import { build } from 'esbuild'
import { fileURLToPath } from 'node:url'

const root = fileURLToPath(new URL('..', import.meta.url))
const ours = {
  name: 'ours-inside',
  setup: ({ onResolve }) =>
    onResolve({ filter: /^[^./]/ }, ({ path }) => (path.startsWith('@fabula/') ? undefined : { path, external: true })),
}
const bundle = (entryPoints, outdir, options) =>
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
    ...options,
  })

/** The command line with its packages inside: resolving and loading them one by one takes longer than most runs. */
const buildProgram = () =>
  bundle(['cli/src/main.ts'], 'cli/dist', {
    splitting: true,
    minifySyntax: true,
    minifyWhitespace: true,
    external: ['pg-native'],
    banner: {
      js: "import { createRequire as requireFor } from 'node:module'\nconst require = requireFor(import.meta.url)",
    },
  })
/** The thread that reads parts of large files, beside the program that starts it. */
export const buildReader = (folder) => bundle(['formats/src/csv/segment-worker.ts'], folder, { minify: true })
export const buildCli = () => Promise.all([buildProgram(), buildReader('cli/dist')])
const buildProcesses = () =>
  bundle(
    [
      'server/src/main.ts',
      'server/src/compute/child.ts',
      'server/src/compute/worker.ts',
      'server/src/store/database-worker.ts',
    ],
    'server/dist',
    { plugins: [ours] },
  )
export const buildServer = () => Promise.all([buildProcesses(), buildReader('server/dist/compute')])
