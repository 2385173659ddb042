import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { cruise } from 'dependency-cruiser';
import extractDepcruiseOptions from 'dependency-cruiser/config-utl/extract-depcruise-options';

// Runs every check and test and counts them. Set-up was seen to by bin/test.

const PROJECTS = [
  'core',
  'contract',
  'server',
  'practice-bank',
  'web',
  'demo',
  'cli',
  'e2e',
  'bench',
  'bin',
];
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
/** Fewer modules than this and the dependency check did not really look. */
const LEAST_MODULES = 150;

const failures: string[] = [];
let passed = 0;

function settle(name: string, isRight: boolean): void {
  process.stdout.write(`${isRight ? 'ok  ' : 'FAIL'} ${name}\n`);
  if (isRight) passed += 1;
  else failures.push(name);
}

function check(name: string, command: string, ...args: readonly string[]): void {
  const began = Date.now();
  const { status } = spawnSync(join('node_modules', '.bin', command), args, {
    stdio: ['ignore', 'inherit', 'inherit'],
  });
  settle(`${name} (${((Date.now() - began) / 1000).toFixed(1)} s)`, status === 0);
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
  readonly numFailedTests: number;
  readonly success: boolean;
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
  for (let count = 0; count < report.numFailedTests; count += 1) failures.push('test');
  // A file that can't be loaded, or an error outside tests, fails no test but the run.
  if (status !== 0 && report.numFailedTests === 0) failures.push('test run');
}

check('format and lint', 'biome', 'check', '--error-on-warnings', '.');
await checkDependencies();
check('no unused code', 'knip', '--no-config-hints');
for (const project of PROJECTS) check(`types of ${project}`, 'tsc', '-p', project);
runTests();
check('every benchmark runs', 'tsx', 'bench/src/main.ts', '--tiny');
process.stdout.write(`\n${passed} passed, ${failures.length} failed\n`);
process.exit(failures.length === 0 ? 0 : 1);
