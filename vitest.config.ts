import { defineConfig } from 'vitest/config';

// The limits are for a machine that is busy with other things: what hangs is found, what is slow is not.
export default defineConfig({
  test: {
    globalSetup: ['server/src/testing/cluster.ts'],
    maxWorkers: 2,
    projects: [
      {
        test: {
          name: 'core',
          include: ['{core,web,demo,cli,practice-bank}/src/**/*.test.ts', 'web/build/**/*.test.ts'],
          setupFiles: ['core/src/testing/propertySeed.ts'],
          testTimeout: 60_000,
        },
      },
      {
        test: {
          name: 'web',
          environment: 'jsdom',
          include: ['web/src/**/*.test.tsx'],
          testTimeout: 60_000,
        },
      },
      {
        test: {
          name: 'server',
          include: ['server/src/**/*.test.ts'],
          // Files mock nothing, and each has a database of its own: modules are read once, not a hundred times.
          isolate: false,
          setupFiles: ['core/src/testing/propertySeed.ts'],
          testTimeout: 240_000,
          hookTimeout: 240_000,
          sequence: { groupOrder: 1 },
        },
      },
      {
        test: {
          name: 'browser',
          include: ['e2e/src/**/*.test.ts'],
          testTimeout: 240_000,
          hookTimeout: 240_000,
          bail: 1,
          sequence: { groupOrder: 2 },
        },
      },
      {
        test: {
          name: 'setup',
          include: ['bin/**/*.test.ts'],
          testTimeout: 900_000,
          hookTimeout: 240_000,
          sequence: { groupOrder: 3 },
        },
      },
    ],
  },
});
