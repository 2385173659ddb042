import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { defineConfig } from 'vitest/config';
import { BaseSequencer, type TestSpecification } from 'vitest/node';

/** Test files that put something in a module's place: their modules can't be those of other files. */
const mocking = ['core/src', 'web/src', 'demo/src', 'cli/src', 'practice-bank/src']
  .flatMap((folder) => filesBelow(folder).map((file) => join(folder, file)))
  .filter((file) => /\.test\.tsx?$/.test(file))
  .filter((file) => readFileSync(file, 'utf8').includes('vi.mock('));

function filesBelow(folder: string): readonly string[] {
  return readdirSync(folder, { recursive: true, encoding: 'utf8' });
}

/** The projects whose files take longest come first, so that the last files to run are short ones. */
const LONGEST_FIRST = ['setup', 'browser', 'server', 'core', 'mocking', 'web'];

class LongestFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const sorted = await super.sort(files);
    return LONGEST_FIRST.flatMap((name) => sorted.filter(({ project }) => project.name === name));
  }
}

// The limits are for a machine that is busy with other things: what hangs is found, what is slow is not.
// Files share their modules, which are read once instead of a hundred times, where they put nothing in a module's place.
export default defineConfig({
  test: {
    globalSetup: ['server/src/testing/cluster.ts'],
    maxWorkers: 2,
    sequence: { sequencer: LongestFirst },
    projects: [
      {
        test: {
          name: 'core',
          include: ['{core,web,demo,cli,practice-bank}/src/**/*.test.ts', 'web/build/**/*.test.ts'],
          exclude: mocking,
          isolate: false,
          setupFiles: ['core/src/testing/propertySeed.ts'],
          testTimeout: 60_000,
        },
      },
      {
        test: {
          name: 'web',
          environment: 'jsdom',
          include: ['web/src/**/*.test.tsx'],
          exclude: mocking,
          isolate: false,
          setupFiles: ['web/src/testing/cleanUp.ts'],
          testTimeout: 60_000,
        },
      },
      {
        test: {
          name: 'mocking',
          environment: 'jsdom',
          include: mocking,
          testTimeout: 60_000,
        },
      },
      {
        test: {
          name: 'server',
          include: ['server/src/**/*.test.ts'],
          isolate: false,
          setupFiles: ['core/src/testing/propertySeed.ts'],
          testTimeout: 240_000,
          hookTimeout: 240_000,
        },
      },
      {
        test: {
          name: 'browser',
          include: ['e2e/src/**/*.test.ts'],
          testTimeout: 240_000,
          hookTimeout: 240_000,
          bail: 1,
        },
      },
      {
        test: {
          name: 'setup',
          include: ['bin/**/*.test.ts'],
          testTimeout: 900_000,
          hookTimeout: 240_000,
        },
      },
    ],
  },
});
