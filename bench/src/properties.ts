import { spawnSync } from 'node:child_process';
import { randomInt } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { sized } from './sized.ts';

const SEEDS = sized(5, 1);
const FOLDERS = sized(['core/src', 'server/src'], ['core/src/money']);

/**
 * Tries every property with seeds that nobody has seen: no figure of speed, but whether they hold. What fails
 * names its seed and its counterexample, which is to stay in the test as an example.
 */
export async function properties(): Promise<string> {
  const files = FOLDERS.flatMap(testFiles).filter((file) =>
    readFileSync(file, 'utf8').includes('fc.assert'),
  );
  const failed: string[] = [];
  for (let time = 0; time < SEEDS; time += 1) {
    const seed = String(randomInt(2 ** 31));
    const { status, stdout } = spawnSync(
      join('node_modules', '.bin', 'vitest'),
      ['run', '--project', 'core', '--project', 'server', ...files],
      { env: { ...process.env, PROPERTY_SEED: seed }, encoding: 'utf8' },
    );
    if (status !== 0) failed.push(`PROPERTY_SEED=${seed}\n${stdout}`);
  }
  return (
    `properties of ${files.length} test files with ${SEEDS} fresh seeds: ${failed.length} failed (aim: none)` +
    `  ${failed.length === 0 ? 'met' : 'NOT MET'}\n${failed.join('\n')}`
  );
}

function testFiles(folder: string): string[] {
  return readdirSync(folder, { recursive: true, encoding: 'utf8' })
    .filter((name) => name.endsWith('.test.ts'))
    .map((name) => join(folder, name));
}
