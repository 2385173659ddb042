import { spawnSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { sized } from './sized.ts';

const AIM = 700;

/** The memory of a process that keeps one file of a million lines, as the server's worker does. */
export async function largeFile(): Promise<string> {
  const script = fileURLToPath(new URL('./keepLargeFile.ts', import.meta.url));
  const args = ['--import', 'tsx', script, ...sized([], ['--tiny'])];
  const { stdout, stderr, status } = spawnSync(process.execPath, args, { encoding: 'utf8' });
  if (status !== 0) throw new Error(stderr);
  const { lines, megabytes, seconds, peak } = JSON.parse(stdout) as Record<string, number>;
  return (
    `keeping one file of ${lines} lines, ${megabytes} MB, in ${seconds} s\n` +
    `  peak memory ${peak} MB (aim: under ${AIM})  ${(peak ?? 0) < AIM ? 'met' : 'NOT MET'}\n`
  );
}
