import { defineConfig } from 'vitest/config'
import { writeHelpers } from './scripts/write-helpers.mjs'

writeHelpers()

export default defineConfig({
  test: {
    // on two cores one worker would be the rule; server, database and browser are programs of their own, which a second one need not wait for
    maxWorkers: 2,
    projects: [
      {
        test: {
          name: 'unit',
          // no unit test changes a module's state, so the files share the modules they import
          isolate: false,
          include: [
            'fuzz/**/*.test.ts',
            'core/src/**/*.test.ts',
            'formats/src/**/*.test.ts',
            'cli/src/**/*.test.ts',
            'server/src/**/*.test.ts',
            'web/src/**/*.test.ts',
          ],
          testTimeout: 60_000,
        },
      },
      { test: { name: 'server', include: ['e2e/server/**/*.test.ts'], testTimeout: 60_000, hookTimeout: 120_000 } },
      { test: { name: 'parity', include: ['e2e/parity/**/*.test.ts'], testTimeout: 120_000, hookTimeout: 180_000 } },
      { test: { name: 'browser', include: ['e2e/browser/**/*.test.ts'], testTimeout: 180_000, hookTimeout: 180_000 } },
    ],
  },
})
