import { defineConfig } from 'vitest/config'
import { writeHelpers } from './scripts/write-helpers.mjs'
import { writeKernels } from './scripts/write-kernels.mjs'

writeHelpers()
await writeKernels()

export default defineConfig({
  test: {
    // on two cores one worker would be the rule; server, database and browser are programs of their own, which a second one need not wait for
    maxWorkers: 2,
    // how long a test may hang: several times what it takes, since a machine that is busy with other work is no reason to fail
    projects: [
      {
        test: {
          name: 'unit',
          // no test here or of parity changes a module's state, so the files of a worker share the modules they import
          isolate: false,
          include: [
            'fuzz/**/*.test.ts',
            'core/src/**/*.test.ts',
            'formats/src/**/*.test.ts',
            'server/src/**/*.test.ts',
            'web/src/**/*.test.ts',
          ],
          exclude: ['**/*.database.test.ts'],
          testTimeout: 240_000,
        },
      },
      {
        test: {
          name: 'server',
          include: ['e2e/server/**/*.test.ts', 'server/src/**/*.database.test.ts', 'cli/src/**/*.test.ts'],
          testTimeout: 240_000,
          hookTimeout: 480_000,
        },
      },
      {
        test: {
          name: 'parity',
          isolate: false,
          include: ['e2e/parity/**/*.test.ts'],
          // the engine as the product runs it; unit tests run the reference, and hold the compiled kernels against it
          setupFiles: ['e2e/parity/compiled-kernels.ts'],
          testTimeout: 480_000,
          hookTimeout: 720_000,
        },
      },
      { test: { name: 'browser', include: ['e2e/browser/**/*.test.ts'], testTimeout: 720_000, hookTimeout: 720_000 } },
    ],
  },
})
