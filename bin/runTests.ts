import { spawn, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, relative } from 'node:path';
import { cruise } from 'dependency-cruiser';
import extractDepcruiseOptions from 'dependency-cruiser/config-utl/extract-depcruise-options';

// Runs every check and test and counts them. Set-up was seen to by bin/test.

/** What types are checked of, by their configuration; the web's and the browser tests' know the browser. */
const PROGRAMS = {
  'the web': 'web',
  'what runs under Node': 'tsconfig.node.json',
  'browser tests': 'e2e',
  'the core': 'core',
};
const FOLDERS = [
  'core',
  'contract',
  'server',
  'practice-bank',
  'web/src',
  'demo',
  'cli',
  'e2e',
  'bench',
];
/** So many checks run side by side: most wait for one processor, benchmarks for browsers and servers as well. */
const CHECKS_AT_ONCE = 2;
const BENCHMARKS_AT_ONCE = 3;
/** Fewer modules than this and the dependency check did not really look. */
const LEAST_MODULES = 150;

const failures: string[] = [];
let passed = 0;

function settle(name: string, isRight: boolean): void {
  process.stdout.write(`${isRight ? 'ok  ' : 'FAIL'} ${name}\n`);
  if (isRight) passed += 1;
  else failures.push(name);
}

/** A command that has to end well. */
type Check = readonly [name: string, command: string, ...args: readonly string[]];

/** Runs a command, and shows what it says once it has ended. */
async function check([name, command, ...args]: Check): Promise<void> {
  const began = Date.now();
  const child = spawn(join('node_modules', '.bin', command), args, {
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  const said: Buffer[] = [];
  for (const stream of [child.stdout, child.stderr]) {
    stream.on('data', (bytes: Buffer) => said.push(bytes));
  }
  const [status] = (await once(child, 'close')) as [number | null];
  process.stdout.write(Buffer.concat(said));
  settle(`${name} (${((Date.now() - began) / 1000).toFixed(1)} s)`, status === 0);
}

/** Runs commands, so many at a time. */
async function checkAll(checks: readonly Check[], atOnce: number): Promise<void> {
  const waiting = [...checks];
  const one = async (): Promise<void> => {
    for (let next = waiting.shift(); next; next = waiting.shift()) await check(next);
  };
  await Promise.all(Array.from({ length: atOnce }, one));
}

async function checkDependencies(): Promise<void> {
  const options = await extractDepcruiseOptions('./.dependency-cruiser.cjs');
  const { output } = await cruise(FOLDERS, options);
  if (typeof output === 'string') throw new Error(output);
  const { totalCruised, violations } = output.summary;
  const wrong = violations.filter(({ rule }) => rule.severity === 'error');
  for (const { rule, from, to } of wrong) process.stdout.write(`${rule.name}: ${from} → ${to}\n`);
  const isRight = wrong.length === 0 && totalCruised >= LEAST_MODULES;
  settle(`dependencies point one way (${totalCruised} modules read)`, isRight);
}

interface VitestReport {
  readonly numPassedTests: number;
  readonly testResults: readonly {
    readonly name: string;
    readonly assertionResults: readonly { readonly status: string; readonly fullName: string }[];
  }[];
}

function runTests(): void {
  const folder = mkdtempSync(join(tmpdir(), 'zubrell-report-'));
  const file = join(folder, 'report.json');
  const { status } = spawnSync(
    join('node_modules', '.bin', 'vitest'),
    ['run', '--reporter=default', '--reporter=json', `--outputFile=${file}`],
    { stdio: ['ignore', 'inherit', 'inherit'] },
  );
  const report: VitestReport = JSON.parse(readFileSync(file, 'utf8'));
  rmSync(folder, { recursive: true });
  passed += report.numPassedTests;
  const failed = report.testResults.flatMap(({ name, assertionResults }) =>
    assertionResults
      .filter((test) => test.status === 'failed')
      .map((test) => `${relative('.', name)}: ${test.fullName}`),
  );
  failures.push(...failed);
  // A file that can't be loaded, or an error outside tests, fails no test but the run.
  if (status !== 0 && failed.length === 0) failures.push('test run');
}

await checkDependencies();
await checkAll(
  [
    ...Object.entries(PROGRAMS).map(([name, at]): Check => [`types of ${name}`, 'tsc', '-p', at]),
    ['no unused code', 'knip', '--no-config-hints'],
    ['format and lint', 'biome', 'check', '--error-on-warnings', '.'],
  ],
  CHECKS_AT_ONCE,
);
runTests();
await checkAll(
  Array.from({ length: BENCHMARKS_AT_ONCE }, (_, at): Check => {
    const part = `${at + 1}/${BENCHMARKS_AT_ONCE}`;
    const args = ['bench/src/main.ts', '--tiny', '--part', part];
    return [`every benchmark runs, ${part}`, 'tsx', ...args];
  }),
  BENCHMARKS_AT_ONCE,
);
for (const name of failures) process.stdout.write(`FAIL ${name}\n`);
process.stdout.write(`\n${passed} passed, ${failures.length} failed\n`);
process.exit(failures.length === 0 ? 0 : 1);
