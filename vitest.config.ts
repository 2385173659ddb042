import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          name: 'core',
          include: ['core/src/**/*.test.ts', 'demo/src/**/*.test.ts', 'cli/src/**/*.test.ts'],
        },
      },
      {
        test: {
          name: 'server',
          include: ['server/src/**/*.test.ts'],
          globalSetup: ['server/src/testing/cluster.ts'],
          testTimeout: 30_000,
          hookTimeout: 60_000,
          maxWorkers: 2,
        },
      },
      {
        test: {
          name: 'setup',
          include: ['bin/**/*.test.ts'],
          testTimeout: 240_000,
          hookTimeout: 60_000,
        },
      },
      {
        test: {
          name: 'browser',
          include: ['e2e/src/**/*.test.ts'],
          globalSetup: ['server/src/testing/cluster.ts'],
          testTimeout: 60_000,
          hookTimeout: 60_000,
          bail: 1,
        },
      },
    ],
  },
});
