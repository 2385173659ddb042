import { spawn } from 'node:child_process';
import { openSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { freePort } from '@zubrell/server/db/cluster';
import { projectFolder } from '@zubrell/server/projectFolder';

const PATIENCE = 60_000;

/** A program that runs in the background. */
export interface Background {
  readonly pid: number;
  readonly url: string;
}

/** How a program is started in the background. */
export interface Program {
  /** Its entry, from the project's folder. */
  readonly entry: string;
  /** The port it gets if that is free; any other otherwise. */
  readonly port: number;
  readonly logFile: string;
  readonly env: NodeJS.ProcessEnv;
  /** An address of it that answers with this key in its JSON once it runs. */
  readonly sign: { readonly path: string; readonly key: string };
}

/** Starts a program and waits until it answers. @throws {Error} with its log where it does not */
export async function startInBackground({
  entry,
  port: wanted,
  logFile,
  env,
  sign,
}: Program): Promise<Background> {
  const log = openSync(logFile, 'w');
  const port = (await isFree(wanted)) ? wanted : await freePort();
  const program = spawn(process.execPath, ['--enable-source-maps', join(projectFolder, entry)], {
    cwd: projectFolder,
    detached: true,
    stdio: ['ignore', log, log],
    env: { ...env, PORT: String(port) },
  });
  const url = `http://127.0.0.1:${port}`;
  for (let waited = 0; !(await answers(url, sign)); waited += 200) {
    if (program.exitCode !== null || waited > PATIENCE) {
      throw new Error(`${entry} does not start:\n${readFileSync(logFile, 'utf8')}`);
    }
    await new Promise((done) => setTimeout(done, 200));
  }
  program.unref();
  return { pid: program.pid ?? 0, url };
}

/** Ends a program, if it is still the one that answers there. */
export async function endBackground(
  { pid, url }: Background,
  sign: Program['sign'],
): Promise<void> {
  if (!(await answers(url, sign))) return;
  process.kill(pid, 'SIGTERM');
  for (let waited = 0; waited < 10_000 && (await answers(url, sign)); waited += 100) {
    await new Promise((done) => setTimeout(done, 100));
  }
}

/** Whether a program of ours answers at an address. */
export async function answers(url: string, { path, key }: Program['sign']): Promise<boolean> {
  try {
    const answer = await fetch(`${url}${path}`, { signal: AbortSignal.timeout(2_000) });
    const body: unknown = await answer.json();
    return typeof body === 'object' && body !== null && key in body;
  } catch {
    return false;
  }
}

async function isFree(port: number): Promise<boolean> {
  try {
    await fetch(`http://127.0.0.1:${port}/`, { signal: AbortSignal.timeout(1_000) });
    return false;
  } catch (error) {
    const cause = error instanceof Error ? (error.cause as { code?: string } | undefined) : null;
    return cause?.code === 'ECONNREFUSED';
  }
}
